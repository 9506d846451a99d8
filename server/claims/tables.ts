import { table, type Row } from '../db';

export const supportTable = table('support', {
  int: 'companyId id= version= vendorId customerId? priceGroupId? promotionId?',
  choice: 'state=:running|stopped',
  text: 'number name reason=',
  day: 'firstDay lastDay',
  time: 'createdAt=',
});
export type Support = Row<typeof supportTable>;

export const supportLineTable = table('support_line', {
  int: 'companyId id= supportId lineNo itemId? itemGroupId?',
  decimal: 'perUnit',
});

export const supportAccrualTable = table('support_accrual', {
  int: 'companyId id= supportLineId invoiceLineId claimId?',
  day: 'accruedOn',
  decimal: 'perUnit quantity amount',
});

export const claimTable = table('claim', {
  int: 'companyId id= version= vendorId',
  text: 'number reason=',
  day: 'untilDay madeOn',
  time: 'createdAt=',
  decimal: 'amount settled=',
  boolean: 'withdrawn=',
});
export type Claim = Row<typeof claimTable>;

export const claimMoveTable = table('claim_move', {
  int: 'companyId id= claimId openItemId?',
  choice: 'kind:invoice|paid|lost',
  text: 'reason=',
  day: 'movedOn',
  decimal: 'amount',
});

export const supportDueTable = table('support_due', { int: 'companyId invoiceId' });
