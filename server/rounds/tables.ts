import { table, type Row } from '../db';

export const deliveryRoundTable = table('delivery_round', {
  int: 'companyId id= version=',
  text: 'name week vehicle=',
  decimal: 'mostWeight? mostVolume?',
  boolean: 'outOfUse=',
});
export type DeliveryRound = Row<typeof deliveryRoundTable>;

export const roundStopTable = table('round_stop', { int: 'companyId roundId stopNo shipToId' });

export const runLoadTable = table('run_load', {
  int: 'companyId orderLineId roundId',
  day: 'day',
  decimal: 'quantity',
});
