import * as z from 'zod';
import type { Database } from '../db';
import { tableFiles } from '../formats';
import { checked, type FileAnswer } from '../room';
import { keptNamed, openList } from './lists';

const KeptQuery = z.object({ list: z.string().max(40) });

/** Rows read at once. */
const PAGE = 2000;

/** A kept list as a table with its own headings: brought in again as it is, it changes nothing. // U2 U5 */
export async function keptTable(database: Database, companyId: number, name: string): Promise<string[][]> {
  const list = keptNamed(name);
  const rows: string[][] = [list.fields.map(({ head }) => head)];
  let cursor: string | undefined;
  do {
    const at = cursor;
    const page = await database.snapshot((sql) =>
      openList(sql, companyId, name, { rows: PAGE, ...(at === undefined ? {} : { cursor: at }) }),
    );
    rows.push(...page.rows.map(({ cells }) => list.fields.map((field) => cells[field.name] ?? '')));
    cursor = page.next ?? undefined;
  } while (cursor !== undefined);
  return rows;
}

/** Kept lists as CSV and XLSX, by their name: `/kept.csv?list=items`. */
export const listFiles: readonly FileAnswer[] = tableFiles('kept', 'lists', ({ parts, who, query }) =>
  keptTable(parts.database, who.companyId, checked(KeptQuery, query, 'The address').list),
);
