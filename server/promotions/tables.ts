import { table, type Row } from '../db';

export const promotionTable = table('promotion', {
  int: 'companyId id= version= customerId? priceGroupId?',
  choice: 'state=:running|stopped',
  text: 'number name reason=',
  day: 'firstDay lastDay',
  time: 'createdAt=',
  decimal: 'budget? used=',
});
export type Promotion = Row<typeof promotionTable>;

export const promotionLineTable = table('promotion_line', {
  int: 'companyId id= promotionId lineNo itemId? itemGroupId? freeItemId?',
  choice: 'kind:percent|amount|price|free',
  decimal: 'value= fromQuantity= buy= free=',
});
export type PromotionLine = Row<typeof promotionLineTable>;
