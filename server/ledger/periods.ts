import type * as z from 'zod';
import { decideCloseMonth, decideReopenMonth, firstDayOf, lastDayOf, monthOf, type PeriodMoved } from '@core/ledger';
import { addDays, type Day } from '@core/kernel';
import * as contract from '@api/ledger';
import { closedThrough, defineAct, type Doer } from '../acts';
import type { Sql, Tx } from '../db';
import { periodMoveTable } from './tables';

type Shown = z.infer<typeof contract.openPeriods.out>;

/** Up to where months are closed. Locked where one is closed or opened: what is just being posted is waited for. */
async function groundOf(sql: Sql, { companyId, workDate }: Doer) {
  const [period] = await sql.rows<{ closedThrough: Day | null }>(
    `SELECT closed_through FROM period WHERE company_id = ? ${sql.forUpdate}`,
    [companyId],
  );
  return { closedThrough: period!.closedThrough, workDate };
}

/** What is not settled of what happened up to a day: worth a look before the month is closed. */
async function openBy(sql: Sql, companyId: number, day: Day) {
  const [row] = await sql.rows<{ journals: number; shipped: number; received: number }>(
    `SELECT
       (SELECT COUNT(*) FROM journal WHERE company_id = ? AND posted_on <= ?) AS journals,
       (SELECT COUNT(DISTINCT l.order_id) FROM sales_order_line l
          WHERE l.company_id = ? AND l.shipped > l.invoiced AND EXISTS (SELECT 1 FROM shipment_line sl
            JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id AND s.posted_on <= ?
            WHERE sl.company_id = l.company_id AND sl.order_line_id = l.id)) AS shipped,
       (SELECT COUNT(DISTINCT l.purchase_order_id) FROM purchase_order_line l
          WHERE l.company_id = ? AND l.received > l.invoiced AND EXISTS (SELECT 1 FROM receipt r
            WHERE r.company_id = l.company_id AND r.purchase_order_id = l.purchase_order_id AND r.posted_on <= ?)) AS received`,
    [companyId, day, companyId, day, companyId, day],
  );
  return row!;
}

async function write(tx: Tx, { month, closed, closedThrough, reason }: PeriodMoved, { companyId, personId }: Doer) {
  await tx.run('UPDATE period SET closed_through = ?, closed_at = UTC_TIMESTAMP(3) WHERE company_id = ?', [
    closedThrough,
    companyId,
  ]);
  await tx.insert(periodMoveTable, [{ companyId, month: firstDayOf(month), closed, reason, personId }]);
  return { made: [], touched: [] };
}

const closeMonth = defineAct(contract.closeMonth, {
  right: 'periods',
  says: 'close a month',
  done: 'month closed',
  load: async (sql, { month }, doer) => ({
    ...(await groundOf(sql, doer)),
    open: await openBy(sql, doer.companyId, lastDayOf(month)),
  }),
  decide: (ground, { month }) => decideCloseMonth(ground, month),
  preview: ({ closedThrough }, { open }) => ({ closedThrough: closedThrough!, ...open }),
  write: (tx, effects, _ground, doer) => write(tx, effects, doer),
});

const reopenMonth = defineAct(contract.reopenMonth, {
  right: 'periods',
  says: 'open a month again',
  done: 'month opened again',
  load: (sql, _input, doer) => groundOf(sql, doer),
  decide: (ground, { month, reason }) => decideReopenMonth(ground, month, reason),
  preview: ({ closedThrough }) => ({ closedThrough }),
  write: (tx, effects, _ground, doer) => write(tx, effects, doer),
});

export const periodActs = [closeMonth, reopenMonth];

/** Months shown at most, the newest of them. */
const MOST_MONTHS = 36;

/** The months from the first posting to now, newest first, with what was posted in each and who closed it. */
export async function openPeriods(sql: Sql, companyId: number, workDate: Day): Promise<Shown> {
  const closed = await closedThrough(sql, companyId);
  const counts = await sql.rows<{ month: string; journals: number; late: string }>(
    `SELECT DATE_FORMAT(posted_on, '%Y-%m') AS month, COUNT(*) AS journals, SUM(document_day IS NOT NULL) AS late
       FROM journal WHERE company_id = ? GROUP BY month ORDER BY month`,
    [companyId],
  );
  const moves = await sql.rows<{ month: Day; closed: boolean; reason: string; person: string; at: string }>(
    `SELECT m.month, m.closed, m.reason, p.name AS person, m.at
       FROM period_move m JOIN person p ON p.id = m.person_id WHERE m.company_id = ? ORDER BY m.id`,
    [companyId],
  );
  const months: Shown['months'] = [];
  for (let month = monthOf(workDate); ; month = monthOf(addDays(firstDayOf(month), -1))) {
    const found = counts.find((each) => each.month === month);
    months.push({
      month,
      closed: closed !== null && lastDayOf(month) <= closed,
      over: lastDayOf(month) < workDate,
      journals: found?.journals ?? 0,
      late: Number(found?.late ?? 0),
      moves: moves.filter((move) => monthOf(move.month) === month).map(({ month: _, ...move }) => move),
    });
    if (month <= (counts[0]?.month ?? month) || months.length === MOST_MONTHS) break;
  }
  return { closedThrough: closed, months };
}
