import { table, type Row } from '../db';

export const commissionRateTable = table('commission_rate', {
  int: 'companyId id= personId? priceGroupId? itemGroupId?',
  choice: 'base=:net|margin earnedAt=:invoice|payment',
  day: 'firstDay? lastDay?',
  decimal: 'perCent',
});

export const commissionStatementTable = table('commission_statement', {
  int: 'companyId id= version= personId',
  choice: 'state=:made|paid|withdrawn',
  text: 'number reason=',
  day: 'untilDay madeOn paidOn?',
  time: 'createdAt=',
  decimal: 'amount',
});
export type CommissionStatement = Row<typeof commissionStatementTable>;

export const commissionEarningTable = table('commission_earning', {
  int: 'companyId id= personId invoiceLineId statementId?',
  choice: 'base:net|margin earnedAt:invoice|payment',
  day: 'earnedOn',
  decimal: 'perCent share ofAmount amount',
});

export const commissionDueTable = table('commission_due', { int: 'companyId invoiceId' });
