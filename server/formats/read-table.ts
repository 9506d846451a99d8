import { parse } from 'csv-parse/sync';
import { unzipSync, zipSync, type Unzipped } from 'fflate';
import { readSheet } from 'read-excel-file/node';
import { READ_BOUNDS } from './read-bounds';

/** A file that is no table, or one above the bounds. */
export type Unread = 'unreadable' | 'too-long' | 'too-heavy';

/** Thrown where a file is above a bound. */
class Above extends Error {
  constructor(readonly unread: Unread) {
    super(unread);
  }
}

/**
 * The first sheet of a CSV or XLSX file as rows of text, within `READ_BOUNDS`. Days come as `YYYY-MM-DD`. It runs on a
 * thread of its own (`read-file.ts`): what no bound foresees costs that thread alone.
 */
export async function readTable(
  name: string,
  content: Uint8Array,
  most: number = READ_BOUNDS.rows,
): Promise<string[][] | Unread> {
  try {
    return name.toLowerCase().endsWith('.xlsx') ? await readXlsx(content, most) : readCsv(content, most);
  } catch (error) {
    return error instanceof Above ? error.unread : 'unreadable';
  }
}

function readCsv(content: Uint8Array, most: number): string[][] | Unread {
  const text = new TextDecoder('utf-8', { fatal: true }).decode(content);
  if (text.includes('\u0000')) return 'unreadable';
  const [heading = ''] = text.slice(0, READ_BOUNDS.record).split(/\r?\n/, 1);
  // Spreadsheets of some countries write semicolons.
  const delimiter = heading.split(';').length > heading.split(',').length ? ';' : ',';
  const { record } = READ_BOUNDS;
  const rows = parse(text, {
    bom: true,
    delimiter,
    relax_column_count: true,
    to: most + 1,
    max_record_size: record,
  }) as string[][];
  if (rows.length > most || rows.some((row) => row.length > READ_BOUNDS.columns)) return 'too-long';
  // A cell guarded against being read as a formula loses its guard.
  return rows.map((row) => row.map((cell) => cell.replace(/^'(?=[=+\-@])/, '')));
}

/** What of a workbook is read: its sheets and the texts in them; pictures, programs and all else stay packed. */
const NEEDED =
  /^(\[Content_Types\]\.xml|_rels\/\.rels|xl\/(workbook|sharedStrings|styles)\.xml|xl\/_rels\/workbook\.xml\.rels|xl\/worksheets\/[^/]+\.xml)$/;

async function readXlsx(content: Uint8Array, most: number): Promise<string[][] | Unread> {
  const parts = unpacked(content);
  for (const [name, part] of Object.entries(parts)) {
    if (name.startsWith('xl/worksheets/')) withinSheet(new TextDecoder().decode(part), most);
  }
  const rows = await readSheet(Buffer.from(zipSync(parts, { level: 0 })));
  if (rows.length > most) return 'too-long';
  return rows.map((row) => row.map((cell) => cellText(cell)));
}

/** The parts that are needed: each takes the room it says it takes, and no more. */
function unpacked(content: Uint8Array): Unzipped {
  let bytes = 0;
  let parts = 0;
  return unzipSync(content, {
    filter: ({ name, originalSize }) => {
      parts += 1;
      if (parts > READ_BOUNDS.parts) throw new Above('too-heavy');
      if (!NEEDED.test(name)) return false;
      bytes += originalSize;
      if (bytes > READ_BOUNDS.unpacked) throw new Above('too-heavy');
      return true;
    },
  });
}

const LONG_TEXT = new RegExp(`[^<>]{${READ_BOUNDS.cell + 1}}`);

/** Refuses cells far away, since a reader makes every row and column up to them, and texts no spreadsheet can hold. */
function withinSheet(sheet: string, most: number): void {
  if (LONG_TEXT.test(sheet)) throw new Above('too-heavy');
  for (const [, letters, row] of sheet.matchAll(/\sr="([A-Za-z]*)(\d+)"/g)) {
    if (Number(row) > most || columnOf(letters!) > READ_BOUNDS.columns) throw new Above('too-long');
  }
}

/** A column's number by its letters: `A` is 1, `AA` 27. */
const columnOf = (letters: string) =>
  [...letters.toUpperCase()].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);

function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  return cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell as string | number | boolean);
}
