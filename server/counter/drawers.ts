import type * as z from 'zod';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/counter';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import { likeOf, pageById, type Sql } from '../db';

type Out<E extends { out: z.ZodType }> = z.infer<E['out']>;

interface DrawerHead {
  id: number;
  number: string;
  version: number;
  tillId: number;
  till: string;
  currency: string;
  openedOn: Day;
  openedBy: string;
  putIn: string;
  cash: string;
  closedOn: Day | null;
  closedBy: string | null;
  counted: string | null;
  reason: string;
}

const DRAWER = `SELECT d.id, d.number, d.version, t.id AS till_id, t.name AS till, ${ownCurrency('d.company_id')} AS currency, d.opened_on,
       o.name AS opened_by, d.put_in, d.cash, d.closed_on, k.name AS closed_by, d.counted, d.reason
  FROM drawer d
  JOIN till t ON t.company_id = d.company_id AND t.id = d.till_id
  JOIN person o ON o.id = d.opened_by
  LEFT JOIN person k ON k.id = d.closed_by`;

/** One drawer with its takings by kind of payment. // C4 */
export async function openDrawerSheet(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<Out<typeof contract.openDrawerSheet>> {
  const [head] = await sql.rows<DrawerHead>(`${DRAWER} WHERE d.company_id = ? AND d.id = ?`, [companyId, id]);
  const drawer = orNotFound(head, 'This drawer');
  const [counts, takings, moves, [slips]] = await Promise.all([
    sql.rows<{ piece: string; count: number }>(
      'SELECT piece, count FROM drawer_count WHERE company_id = ? AND drawer_id = ? ORDER BY piece DESC',
      [companyId, id],
    ),
    sql.rows<{ kind: 'cash' | 'card' | 'voucher' | 'account'; count: number; amount: string }>(
      `SELECT p.kind, COUNT(DISTINCT s.id) AS count, SUM(p.invoiced + p.deposited + p.rounding) AS amount
         FROM slip s JOIN slip_payment p ON p.company_id = s.company_id AND p.slip_id = s.id
        WHERE s.company_id = ? AND s.drawer_id = ? GROUP BY p.kind ORDER BY p.kind`,
      [companyId, id],
    ),
    sql.rows<{ amount: string; reason: string; by: string; at: string }>(
      `SELECT m.amount, m.reason, p.name AS \`by\`, m.moved_at AS at FROM drawer_move m JOIN person p ON p.id = m.moved_by
        WHERE m.company_id = ? AND m.drawer_id = ? ORDER BY m.id`,
      [companyId, id],
    ),
    sql.rows<{ first: string | null; last: string | null; count: number }>(
      `SELECT (SELECT number FROM slip f WHERE f.company_id = s.company_id AND f.id = MIN(s.id)) AS first,
              (SELECT number FROM slip f WHERE f.company_id = s.company_id AND f.id = MAX(s.id)) AS last, COUNT(*) AS count
         FROM slip s WHERE s.company_id = ? AND s.drawer_id = ?`,
      [companyId, id],
    ),
  ]);
  return {
    document: { kind: 'DR', id, number: drawer.number },
    version: drawer.version,
    till: { id: drawer.tillId, name: drawer.till },
    currency: drawer.currency,
    openedOn: drawer.openedOn,
    openedBy: drawer.openedBy,
    float: drawer.putIn,
    cash: drawer.cash,
    closedOn: drawer.closedOn,
    closedBy: drawer.closedBy ?? '',
    counted: drawer.counted,
    reason: drawer.reason,
    counts,
    takings,
    moves,
    slips: { first: slips?.first ?? '', last: slips?.last ?? '', count: slips?.count ?? 0 },
  };
}

/** Drawers, newest first. */
export async function listDrawers(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listDrawers.query>,
): Promise<Out<typeof contract.listDrawers>> {
  const like = query.q?.trim() ? likeOf(query.q) : null;
  return pageById(
    (before, most) =>
      sql.rows<DrawerHead>(
        `${DRAWER} WHERE d.company_id = ? AND d.id < ? ${like === null ? '' : 'AND (d.number LIKE ? OR t.name LIKE ? OR o.name LIKE ?)'}
          ORDER BY d.id DESC LIMIT ?`,
        [companyId, before, ...(like === null ? [] : [like, like, like]), most],
      ),
    query,
    (row) => ({
      document: { kind: 'DR' as const, id: row.id, number: row.number },
      till: row.till,
      openedOn: row.openedOn,
      openedBy: row.openedBy,
      closedOn: row.closedOn,
      cash: row.cash,
      difference: row.counted === null ? null : dec(row.counted).minus(row.cash).toFixed(),
      reason: row.reason,
      currency: row.currency,
    }),
  );
}
