import { table, type Row } from '../db';

export const tieTable = table('tie', {
  int: 'companyId id= orderLineId purchaseLineId',
  decimal: 'quantity received=',
  boolean: 'open? late= differs=',
});
export type Tie = Row<typeof tieTable>;
