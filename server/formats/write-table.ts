import { stringify } from 'csv-stringify/sync';
import writeXlsx from 'write-excel-file/node';

/** A table as rows of text, the heading first. */
export type Table = readonly (readonly string[])[];

/** A table as CSV (RFC 4180), with the mark that tells spreadsheets it is UTF-8. */
export function csvOf(table: Table): Buffer {
  return Buffer.from(`\uFEFF${stringify(table as string[][], { record_delimiter: 'windows', escape_formulas: true })}`);
}

/** A number that reads back as it was written: an item 00123 or 1.10 stays text. */
const isNumber = (cell: string) => /^-?\d{1,13}(\.\d{1,5})?$/.test(cell) && String(Number(cell)) === cell;

/** A table as one sheet of an XLSX workbook; what is a number stands as a number. */
export async function xlsxOf(name: string, table: Table): Promise<Buffer> {
  const [heading = [], ...rows] = table;
  const columns = heading.map((_, index) => {
    const widest = Math.max(...table.slice(0, 200).map((row) => (row[index] ?? '').length));
    return { width: Math.min(40, Math.max(9, widest + 2)) };
  });
  const cells = [
    heading.map((value) => ({ value, fontWeight: 'bold' as const })),
    ...rows.map((row) => row.map((cell) => ({ value: isNumber(cell) ? Number(cell) : cell }))),
  ];
  return writeXlsx(cells, { sheet: name, columns, stickyRowsCount: 1 }).toBuffer();
}
