import type * as z from 'zod';
import type * as contract from '@api/lists';
import { orNotFound } from '../../acts';
import type { Columns, Sql } from '../../db';
import type { BringIn } from '../tables';
import type { Problem } from './store';

type Brought = z.infer<typeof contract.listBroughtIn.out>['rows'][number];

const SHOWN = 30;
/** Problems that are told of one file; who mends so many brings it in again. */
const MOST_TOLD = 300;

async function files(sql: Sql, where: string, values: readonly number[]): Promise<Brought[]> {
  const rows = await sql.rows<
    Columns<BringIn, 'id list fileName state goodOnly rowCount done fresh changed alike bad leftOut'> & {
      person: string;
      at: string;
    }
  >(
    `SELECT b.id, b.list, b.file_name, p.name AS person, b.state, b.good_only, b.row_count, b.done, b.fresh, b.changed, b.alike,
            b.bad, b.left_out, b.created_at AS at
       FROM bring_in b JOIN person p ON p.id = b.person_id WHERE ${where}`,
    values,
  );
  return rows.map(({ leftOut, ...row }) => ({ ...row, leftOut: JSON.parse(leftOut) as string[] }));
}

export async function listBroughtIn(sql: Sql, companyId: number): Promise<{ rows: Brought[] }> {
  return { rows: await files(sql, `b.company_id = ? ORDER BY b.id DESC LIMIT ${SHOWN}`, [companyId]) };
}

export async function openBroughtIn(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.openBroughtIn.out>> {
  const [file] = await files(sql, 'b.company_id = ? AND b.id = ?', [companyId, id]);
  const found = orNotFound(file, 'This file');
  const parts = await sql.rows<{ problems: string }>(
    "SELECT problems FROM bring_in_part WHERE company_id = ? AND bring_in_id = ? AND problems <> '[]' ORDER BY no LIMIT 300",
    [companyId, id],
  );
  const problems = parts.flatMap((part) => JSON.parse(part.problems) as Problem[]);
  return { ...found, problems: problems.slice(0, MOST_TOLD) };
}
