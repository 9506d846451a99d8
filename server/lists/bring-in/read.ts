import { columnsIn, keptList, linesIn, listIn, type BroughtIn, type KeptList } from '@core/lists';
import { refuse, type Refusal } from '@core/refusals';
import { tableIn } from '../../formats';

/** What a file holds for a list. */
export interface FileRead {
  list: KeptList;
  /** Headings nothing is known of. */
  leftOut: string[];
  lines: BroughtIn[];
}

/** Rows of one file at most, its heading too; and what reading it may take. */
const MOST_ROWS = 200_001;
const COSTS = { megabytes: 1024, seconds: 60 };

/**
 * A CSV or XLSX file as lines of a list, its own or the one its headings are of; refusals where it is none. Blank lines
 * are left out. // U2 G4
 */
export async function readForList(name: string, content: Buffer, listName: string): Promise<FileRead | Refusal[]> {
  const table = await tableIn(name, content, COSTS, MOST_ROWS);
  if (!Array.isArray(table)) return [table];
  const [headings = [], ...rows] = table;
  const list = listName === '' ? listIn(name, headings) : keptList(listName);
  if (!list) return [refuse('no-list-for', 'list', {})];
  const { fields, unknown, missing } = columnsIn(list, headings);
  if (missing.length > 0) {
    return [refuse('column-missing', 'file', { list: list.label, columns: missing.join(', ') })];
  }
  const lines = linesIn(list, fields, rows);
  if (lines.length === 0) return [refuse('no-lines', 'file', { document: name })];
  return { list, leftOut: unknown, lines };
}
