import type * as z from 'zod';
import type * as contract from '@api/find';
import { likeOf, type Sql } from '../db';
import type { Findable } from '../room';

type Found = z.infer<typeof contract.Found>;

const EACH = 5;

/** Documents, parties and items whose number or name holds the words; 5 of a kind, newest first. */
export async function findIn(
  sql: Sql,
  companyId: number,
  words: string,
  kinds: readonly Findable[],
): Promise<{ rows: Found[] }> {
  if (words.trim().length < 2) return { rows: [] };
  const like = likeOf(words);
  const found = await Promise.all(
    kinds.map(async ({ kind, from, name, also }) => {
      const columns = ['d.number', name, ...(also ? [also] : [])];
      const rows = await sql.rows<{ id: number; number: string; name: string }>(
        `SELECT d.id, d.number, ${name} AS name FROM ${from}
          WHERE d.company_id = ? AND (${columns.map((column) => `${column} LIKE ?`).join(' OR ')})
          ORDER BY d.id DESC LIMIT ${EACH}`,
        [companyId, ...columns.map(() => like)],
      );
      return rows.map((row) => ({ kind, ...row }));
    }),
  );
  return { rows: found.flat() };
}
