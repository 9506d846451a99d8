import { table, type Row } from '../db';

export const serialSeriesTable = table('serial_series', {
  int: 'companyId itemId nextCount=',
  text: 'pattern=',
});
export type SerialSeries = Row<typeof serialSeriesTable>;

export const serialTable = table('serial', {
  int: 'companyId id= itemId locationId= orderLineId? plannedOrderId? bornId',
  choice: 'place:ours|customer|used|out',
  text: 'number bornKind',
  day: 'bornOn',
});
export type SerialRow = Row<typeof serialTable>;

export const serialPartTable = table('serial_part', { int: 'companyId partId productId' });

export const serialEntryTable = table('serial_entry', {
  int: 'companyId id= serialId documentId locationId= quantity orderLineId?',
  text: 'documentKind',
  day: 'postedOn',
});
export type SerialEntry = Row<typeof serialEntryTable>;
