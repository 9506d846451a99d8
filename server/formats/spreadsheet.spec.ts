import { readTable } from './read-table';
import { csvOf, xlsxOf } from './write-table';

const TABLE = [
  ['item', 'quantity', 'note'],
  ['00123', '12.5', '=SUM(A1)'],
  ['1.10', '-4', 'say "so"; two\nlines'],
  ['12345678901234', '0', ''],
];

describe('tables in files', () => {
  it.each([
    ['csv', () => Promise.resolve(csvOf(TABLE))],
    ['xlsx', () => xlsxOf('Items', TABLE)],
  ])('come back from %s as they went: 00123 and 1.10 are texts, and nothing is a formula', async (format, made) => {
    expect(await readTable(`items.${format}`, await made())).toEqual(TABLE);
  });

  it('stand as numbers in a workbook where they read back as they were written', async () => {
    const { readSheet } = await import('read-excel-file/node');
    const [, first, second, third] = await readSheet(await xlsxOf('Items', TABLE));
    expect(first).toEqual(['00123', 12.5, '=SUM(A1)']);
    expect(second!.slice(0, 2)).toEqual(['1.10', -4]);
    expect(third!.slice(0, 2)).toEqual(['12345678901234', 0]);
  });

  it.each([
    ['notes.xlsx', Buffer.from('PK nonsense')],
    ['notes.csv', Buffer.from([0xff, 0xfe, 0x41])],
    ['notes.csv', Buffer.from('a,b\n\u0000,c')],
    ['notes.csv', Buffer.from('a,b\n"never closed')],
  ])('that are none are said to be none: %s', async (name, content) => {
    expect(await readTable(name, content)).toBe('unreadable');
  });

  it('of countries with decimal commas are read between semicolons', async () => {
    expect(await readTable('a.CSV', Buffer.from('\uFEFFitem;price\nFC-10;1,5\n'))).toEqual([
      ['item', 'price'],
      ['FC-10', '1,5'],
    ]);
  });
});
