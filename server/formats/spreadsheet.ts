import type { FileAnswer, Parts, SignedIn } from '../room';
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

const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

/** A table as CSV and as XLSX, at `/name.csv` and `/name.xlsx`. */
export function tableFiles(
  name: string,
  read: (asked: { parts: Parts; who: SignedIn; query: unknown }) => Promise<Table>,
): FileAnswer[] {
  return (['csv', 'xlsx'] as const).map((format) => ({
    path: `/${name}.${format}`,
    what: 'This list',
    async read({ ctx, parts, who }) {
      const table = await read({ parts, who: who!, query: { ...ctx.query } });
      const content = format === 'csv' ? csvOf(table) : await xlsxOf(name, table);
      return { name: `${name} ${who!.workDate}.${format}`, type: TYPES[format], content, how: 'attachment' };
    },
  }));
}
