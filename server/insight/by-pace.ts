import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type * as contract from '@api/agreements';
import { agreementRows, agreementsNaming, cursorOf } from '../agreements';
import { PAGE_ROWS, type Sql } from '../db';
import type { AgreementSums } from './agreement-columns';

type Query = Partial<z.infer<typeof contract.listAgreements.query>>;

/**
 * The list of agreements, those furthest behind first. A pace changes with every day, so no index holds it: it is
 * computed of what is in memory, and only the page is read. // A8
 */
export async function agreementsByPace(sql: Sql, sums: AgreementSums, companyId: number, query: Query, workDate: Day) {
  const words = query.q?.trim();
  const [columns, named] = await Promise.all([
    sums.of(companyId),
    words ? agreementsNaming(sql, companyId, words, workDate) : null,
  ]);
  const most = query.rows ?? PAGE_ROWS;
  const cursor = cursorOf(query.cursor);
  const after = cursor && { pace: Number(cursor.key), id: cursor.id };
  const found = columns.byPace(query, workDate, most + 1, after, named && new Set(named));
  const shown = found.slice(0, most);
  const last = shown.at(-1);
  return {
    rows: await agreementRows(
      sql,
      companyId,
      shown.map((each) => each.id),
    ),
    next: found.length > most ? `${last!.pace}~${last!.id}` : null,
  };
}
