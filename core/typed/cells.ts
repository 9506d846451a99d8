import { parse } from 'csv-parse/browser/esm/sync';

/** A pasted row: its cells, trimmed, and the line it begins on, counted from 1. */
export interface PastedRow {
  row: number;
  cells: string[];
}

/**
 * Rows as a spreadsheet copies them: cells between tabs, one that holds a tab, a line break or a quote between quotes
 * (RFC 4180 with tabs). Blank rows are among them, so that rows fall where they are pasted.
 */
export function spreadsheetCells(text: string): PastedRow[] {
  const records = parse(text, {
    delimiter: '\t',
    record_delimiter: ['\r\n', '\n', '\r'],
    relax_column_count: true,
    relax_quotes: true,
    // A quote that is never closed is a quote.
    ...(quotesClose(text) ? {} : { quote: null }),
    info: true,
  }) as unknown as { record: string[]; info: { lines: number } }[];
  let row = 1;
  return records.map(({ record, info }) => {
    const at = row;
    row = info.lines + 1;
    return { row: at, cells: record.map((cell) => cell.trim()) };
  });
}

const quotesClose = (text: string) => (text.match(/"/g)?.length ?? 0) % 2 === 0;

/**
 * Rows that were pasted or typed: as a spreadsheet copies them; a row without a tab has its cells between semicolons,
 * wide gaps, or commas with a space after them. Blank rows are left out.
 */
export function pastedCells(text: string): PastedRow[] {
  return spreadsheetCells(text)
    .map(({ row, cells }) => ({
      row,
      cells: cells.length === 1 ? cells[0]!.split(/\s*;\s*|[^\S\n]{2,}|\s*,\s+/) : cells,
    }))
    .filter(({ cells }) => cells.some((cell) => cell !== ''));
}
