import type * as z from 'zod';
import type { Day, DocumentRef } from '@core/kernel';
import { fieldsOfKeep, type KeptField } from '@core/lists';
import type * as contract from '@api/ledger';
import { actsSaying, saysOf, type Touched } from '../acts';
import { likeOf, PAGE_ROWS, type Bound, type Sql } from '../db';
import { addDays } from '../room';

type Asked = z.output<typeof contract.listChanges.query>;
type Answered = z.infer<typeof contract.listChanges.out>;

/** Letters of what was typed that are shown; the audit itself has all of it. */
const SHOWN = 600;

/** The trail, newest first: by person, act, document and day. // U6 */
export async function listChanges(sql: Sql, companyId: number, asked: Asked, workDate: Day): Promise<Answered> {
  const conditions = ['a.company_id = ?'];
  const values: (Bound | readonly Bound[])[] = [companyId];
  const add = (condition: string, ...bound: (Bound | readonly Bound[])[]) => {
    conditions.push(condition);
    values.push(...bound);
  };
  if (asked.cursor && /^\d{1,15}$/.test(asked.cursor)) add('a.id < ?', Number(asked.cursor));
  if (asked.person?.trim()) add('p.name LIKE ?', likeOf(asked.person));
  if (asked.act?.trim()) add('a.act IN (?)', actsSaying(asked.act));
  if (asked.q?.trim()) add('a.documents LIKE ?', `%"number":"${asked.q.trim().replace(/[\\%_"]/g, '')}%`);
  addDays(add, 'DATE(a.at)', 'days', asked.days, workDate);
  const most = asked.rows ?? PAGE_ROWS;
  const rows = await sql.rows<{
    id: number;
    at: string;
    person: string;
    act: string;
    origin: string;
    documents: string;
    input: string;
  }>(
    `SELECT a.id, a.at, p.name AS person, a.act, a.origin, a.documents, LEFT(a.input, ${SHOWN}) AS input
       FROM audit a JOIN person p ON p.id = a.person_id
      WHERE ${conditions.join(' AND ')} ORDER BY a.id DESC LIMIT ?`,
    [...values, most + 1],
  );
  const shown = rows.slice(0, most);
  const kept = await keptBy(
    sql,
    companyId,
    shown.filter(({ act }) => act === 'keepList').map(({ id }) => id),
  );
  return {
    rows: shown.map(({ documents, act, at, ...row }) => {
      const touched = JSON.parse(documents) as (Touched & DocumentRef)[];
      return {
        ...row,
        at: `${at.slice(0, 19).replace(' ', 'T')}Z`,
        act: saysOf(act),
        documents: touched.map(({ kind, id, number }) => ({ kind, id, number })),
        fields: [...(kept.get(row.id) ?? []), ...touched.flatMap(({ fields = [] }) => [...fields])],
        reason: touched.find(({ reason }) => reason)?.reason ?? '',
      };
    }),
    next: rows.length > most ? String(rows[most - 1]!.id) : null,
  };
}

/** Letters of an act of keeping that are read to tell its cells: a longer one is a file, and told as what was typed. */
const READ = 400_000;

/** What acts of keeping lists made another, cell by cell. */
async function keptBy(sql: Sql, companyId: number, ids: readonly number[]): Promise<Map<number, KeptField[]>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<{ id: number; input: string }>(
    'SELECT id, input FROM audit WHERE company_id = ? AND id IN (?) AND CHAR_LENGTH(input) <= ?',
    [companyId, ids, READ],
  );
  return new Map(
    rows.map(({ id, input }) => [id, fieldsOfKeep(JSON.parse(input) as Parameters<typeof fieldsOfKeep>[0])]),
  );
}
