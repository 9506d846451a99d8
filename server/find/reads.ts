import type * as z from 'zod';
import type * as contract from '@api/find';
import { likeOf, type Sql } from '../db';
import type { Findable } from '../room';

type Found = z.infer<typeof contract.Found>;

const EACH = 5;

/** Words that are looked for at most. */
const MOST_WORDS = 6;

/** Documents, parties and items whose number or name holds each of the words, in any order; 5 of a kind, newest first. */
export async function findIn(
  sql: Sql,
  companyId: number,
  words: string,
  kinds: readonly Findable[],
): Promise<{ rows: Found[] }> {
  if (words.trim().length < 2) return { rows: [] };
  const likes = words.trim().split(/\s+/).slice(0, MOST_WORDS).map(likeOf);
  const found = await Promise.all(
    kinds.map(async ({ kind, from, name, also }) => {
      const columns = ['d.number', name, ...(also ? [also] : [])];
      const rows = await sql.rows<{ id: number; number: string; name: string }>(
        `SELECT d.id, d.number, ${name} AS name FROM ${from}
          WHERE d.company_id = ? AND ${likes.map(() => `(${columns.map((column) => `${column} LIKE ?`).join(' OR ')})`).join(' AND ')}
          ORDER BY d.id DESC LIMIT ${EACH}`,
        [companyId, ...likes.flatMap((like) => columns.map(() => like))],
      );
      return rows.map((row) => ({ kind, ...row }));
    }),
  );
  return { rows: found.flat() };
}
