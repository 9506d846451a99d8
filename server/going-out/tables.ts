import { table, type Row } from '../db';

/** What is short as it was last looked. */
export const shortLineTable = table('short_line', {
  int: 'companyId orderLineId itemId',
  day: 'shipDate endsOn?',
  decimal: 'quantity missing',
  text: 'endsBy=',
});

export type ShortLine = Row<typeof shortLineTable>;

export const shortLookTable = table('short_look', {
  int: 'companyId auditId',
  day: 'lookedOn?',
});
