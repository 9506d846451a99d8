import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type { MovedPromise } from '@core/mail';
import { decideMoved, decideRepromise, isPlanned, repromise, type MovedLine, type PromisedLine } from '@core/promise';
import * as contract from '@api/promise';
import { defineAct, orNotFound } from '../../acts';
import { takeTurn, type Sql, type Columns } from '../../db';
import { draftMoved } from '../../mail';
import { inStepStatements } from '../../supply';
import { cancelPlanned, headStatement, writePlanned } from '../asking/acts';
import { groundRows } from '../ground/ground';
import { openLines } from '../ground/open-lines';
import { standingPlans } from './standing-plans';
import { plannedFor } from '../asking/planned-for';
import { freshnessOf } from '../runs/freshness';
import type { PromiseRun } from '../tables';
import { promiseRunTable } from '../tables';

/** A run that was not heard of for so long lost its server: another takes it up. */
export const LOST_SECONDS = 30;

/** What a run stands on: everything but the lines' own demand and what is planned for them. */
export function groundOfRun(sql: Sql, companyId: number, workDate: Day, lines: readonly PromisedLine[]) {
  return groundRows(sql, companyId, workDate, [...new Set(lines.map((line) => line.itemId))], {
    without: lines.map((line) => line.lineId),
  });
}

export const startRepromise = defineAct(contract.startRepromise, {
  right: 'plan',
  says: 'promise all open lines again',
  done: 'open lines asked again',
  async load(tx, _input, doer) {
    // Two who begin at once go one after the other: the second sees the run of the first.
    await takeTurn(tx, 'promise_turn', [doer.companyId]);
    const [running] = await tx.rows<{ id: number }>(
      `SELECT id FROM promise_run WHERE company_id = ? AND kind = 'again' AND state IN ('waiting', 'running')
          AND beat_at > NOW(3) - INTERVAL ? SECOND LIMIT 1`,
      [doer.companyId, LOST_SECONDS],
    );
    // How many there are is known to the run; those whose item is asked by no way are few.
    const [open] = await tx.rows<{ lines: number }>(
      `SELECT COUNT(*) AS \`lines\` FROM sales_order o FORCE INDEX (sales_order_state)
         JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id AND l.owed
        WHERE o.company_id = ? AND o.state = 'confirmed'`,
      [doer.companyId],
    );
    return { running: running !== undefined, lines: open!.lines };
  },
  decide: (ground) => decideRepromise(ground),
  preview: (effects) => effects,
  async write(tx, { lines }, _ground, doer) {
    await tx.insert(promiseRunTable, [
      { companyId: doer.companyId, personId: doer.personId, workDate: doer.workDate, total: lines },
    ]);
    return { made: [], touched: [] };
  },
});

export const stopRepromise = defineAct(contract.stopRepromise, {
  right: 'plan',
  says: 'stop promising again, or planning',
  done: 'run stopped',
  load: async (tx, input, doer) => {
    const [run] = await tx.rows<{ id: number }>(
      `SELECT id FROM promise_run WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
      [doer.companyId, input.id],
    );
    return orNotFound(run, 'This run');
  },
  decide: () => ({ ok: true, warnings: [], effects: {} }),
  preview: () => ({}),
  async write(tx, _effects, run, doer) {
    await tx.run(
      "UPDATE promise_run SET state = 'stopped' WHERE company_id = ? AND id = ? AND state IN ('waiting', 'running')",
      [doer.companyId, run.id],
    );
    return { made: [], touched: [] };
  },
});

export const applyRepromise = defineAct(contract.applyRepromise, {
  right: 'plan',
  says: 'take the new days of promises',
  done: 'promise moved',
  async load(tx, input, doer) {
    const { companyId } = doer;
    const [run] = await tx.rows<{ moved: string }>(
      "SELECT found AS moved FROM promise_run WHERE company_id = ? AND id = ? AND kind = 'again'",
      [companyId, input.id],
    );
    const moved = (JSON.parse(orNotFound(run, 'This run').moved) as MovedLine[]).filter((line) =>
      input.lineIds.includes(line.lineId),
    );
    const orders = await tx.rows<{ id: number; number: string; version: number }>(
      `SELECT id, number, version FROM sales_order WHERE company_id = ? AND id IN (
         SELECT order_id FROM sales_order_line WHERE company_id = ? AND id IN (?)) ORDER BY id ${tx.forUpdate}`,
      [companyId, companyId, input.lineIds],
    );
    await takeTurn(tx, 'promise_turn', [companyId]);
    const open = await openLines(tx, companyId, input.lineIds);
    const planned = open.filter(isPlanned);
    const ids = planned.map((line) => line.lineId);
    return {
      moved,
      orders,
      open,
      before: await plannedFor(tx, companyId, ids),
      rows: await groundOfRun(tx, companyId, doer.workDate, planned),
    };
  },
  decide: (ground, input) => decideMoved(ground, input.lineIds),
  preview: ({ lines, orders }) => ({ lines: lines.length, orders: orders.length }),
  async write(tx, effects, { orders, open, before }, doer, input) {
    const { companyId } = doer;
    await cancelPlanned(tx, doer, before);
    const made = await writePlanned(tx, doer, effects.orders);
    // Under the turn: nobody else takes of this run meanwhile.
    await tx.run('UPDATE promise_run SET taken = JSON_MERGE_PATCH(taken, ?) WHERE company_id = ? AND id = ?', [
      JSON.stringify(Object.fromEntries(input.lineIds.map((lineId) => [lineId, true]))),
      companyId,
      input.id,
    ]);
    const ids = orders.map((order) => order.id);
    await draftMoved(tx, doer, await movedByCustomer(tx, companyId, effects.lines));
    await tx.batch([
      ...effects.lines.map((line) => ({
        sql: `UPDATE sales_order_line SET asked_date = ?, promised_date = ?, promised_by = ?, ship_date = ?
               WHERE company_id = ? AND id = ?`,
        values: [
          open.find((each) => each.lineId === line.lineId)!.asked,
          line.day,
          line.way,
          line.day,
          companyId,
          line.lineId,
        ],
      })),
      ...ids.map((id) => headStatement(doer, id)),
      ...inStepStatements(companyId, 'order', ids),
    ]);
    return {
      made,
      touched: orders.map(({ id, number, version }) => ({ kind: 'SO' as const, id, number, version: version + 1 })),
    };
  },
});

/** Lines whose day another is now, by their customers, as those are told; read before it is written. */
async function movedByCustomer(
  sql: Sql,
  companyId: number,
  lines: readonly { lineId: number; day: Day }[],
): Promise<Map<number, MovedPromise[]>> {
  const rows = await sql.rows<{
    id: number;
    lineNo: number;
    orderId: number;
    number: string;
    customerReference: string;
    customerId: number;
    item: string;
    unit: string;
    quantity: string;
    shipDate: Day;
  }>(
    `SELECT l.id, l.line_no, o.id AS order_id, o.number, o.customer_reference, o.customer_id, i.number AS item, i.unit,
            l.quantity - l.cancelled - l.shipped AS quantity, l.ship_date
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.id IN (?) ORDER BY o.id, l.line_no`,
    [companyId, lines.map((line) => line.lineId)],
  );
  const byCustomer = new Map<number, MovedPromise[]>();
  for (const row of rows) {
    const is = lines.find((line) => line.lineId === row.id)!.day;
    if (is === row.shipDate) continue;
    const moved = byCustomer.get(row.customerId) ?? [];
    byCustomer.set(row.customerId, moved);
    moved.push({
      order: { id: row.orderId, number: row.number, reference: row.customerReference },
      lineNo: row.lineNo,
      item: row.item,
      unit: row.unit,
      quantity: row.quantity,
      was: row.shipDate,
      is,
    });
  }
  return byCustomer;
}

/**
 * Promised lines of an order that cannot keep their day as things stand, as a run over them alone would find: what is
 * planned for them stands where it can, and all others have what they have. // T9
 */
export async function brokenPromises(
  sql: Sql,
  companyId: number,
  workDate: Day,
  orderId: number,
): Promise<z.infer<typeof contract.brokenPromises.out>> {
  const rows = await sql.rows<{ id: number; lineNo: number }>(
    'SELECT id, line_no FROM sales_order_line WHERE company_id = ? AND order_id = ? AND owed AND promised_date IS NOT NULL',
    [companyId, orderId],
  );
  const lines = await openLines(
    sql,
    companyId,
    rows.map((row) => row.id),
  );
  if (lines.length === 0) return { lines: [] };
  const planned = await plannedFor(
    sql,
    companyId,
    lines.map((line) => line.lineId),
  );
  const moved = repromise(
    await groundOfRun(sql, companyId, workDate, lines),
    lines,
    await standingPlans(sql, companyId, planned),
  )!;
  return {
    lines: moved
      .filter(({ was, is }) => is === null || is > was)
      .map((line) => ({ ...line, lineNo: rows.find(({ id }) => id === line.lineId)!.lineNo })),
  };
}

/** Lines that are shown of a run: those promised soonest first, what is taken last, so that the next come up. */
const SHOWN = 500;

/** The last run, with what its lines are of. */
export async function openRepromise(sql: Sql, companyId: number): Promise<z.infer<typeof contract.openRepromise.out>> {
  const [run] = await sql.rows<Columns<PromiseRun, 'id state done total workDate taken'> & { moved: string }>(
    "SELECT id, state, done, total, work_date, found AS moved, taken FROM promise_run WHERE company_id = ? AND kind = 'again' ORDER BY id DESC LIMIT 1",
    [companyId],
  );
  if (!run) return { run: null };
  const all = JSON.parse(run.moved) as MovedLine[];
  const taken = JSON.parse(run.taken) as Record<number, true>;
  const rank = ({ lineId }: MovedLine) => (taken[lineId] ? 1 : 0);
  const moved = all
    .sort((a, b) => rank(a) - rank(b) || a.was.localeCompare(b.was) || a.lineId - b.lineId)
    .slice(0, SHOWN);
  const lines = await sql.rows<{
    id: number;
    lineNo: number;
    orderId: number;
    orderNumber: string;
    customer: string;
    item: string;
    quantity: string;
    shipDate: Day;
  }>(
    `SELECT l.id, l.line_no, o.id AS order_id, o.number AS order_number, c.name AS customer, i.number AS item,
            l.quantity - l.cancelled - l.shipped AS quantity, l.ship_date
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.id IN (?)`,
    [companyId, moved.map((line) => line.lineId)],
  );
  const byId = new Map(lines.map((line) => [line.id, line]));
  return {
    run: {
      id: run.id,
      state: run.state,
      done: run.done,
      total: run.total,
      workDate: run.workDate,
      ...(await freshnessOf(sql, companyId, run.id)),
      moves: all.length,
      moved: moved.flatMap((each) => {
        const line = byId.get(each.lineId);
        if (!line) return [];
        return [
          {
            ...each,
            lineNo: line.lineNo,
            order: { kind: 'SO' as const, id: line.orderId, number: line.orderNumber },
            customer: line.customer,
            item: line.item,
            quantity: line.quantity,
            taken: line.shipDate === each.is,
          },
        ];
      }),
    },
  };
}
