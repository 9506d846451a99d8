import type { Day } from '@core/kernel';
import { decideTieWork, decideUntieWork, type ServedLine, type TiedWork, type TieWorkGround } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, type Doer, type Touched } from '../acts';
import { takeTurn, type Columns, type Sql, type Statement } from '../db';
import { headStatement } from '../promise';
import type { PlannedOrder } from '../promise/tables';
import { untiedStatements } from './given-back';
import { WORK_KIND } from './report';
import { tiedStatement } from './take-back';

/** What is open of an order line `l`, not held for it and not on its way to it. // L1 */
export const WANTED = `GREATEST(0, l.quantity - l.cancelled - l.shipped - l.reserved
  - COALESCE((SELECT SUM(t.quantity - t.received) FROM tie t WHERE t.company_id = l.company_id AND t.order_line_id = l.id), 0)
  - COALESCE((SELECT SUM(pt.quantity - pt.made) FROM planned_tie pt
      JOIN planned_order d ON d.company_id = pt.company_id AND d.id = pt.planned_order_id AND d.open
     WHERE pt.company_id = l.company_id AND pt.order_line_id = l.id), 0))`;

/** The options of an order or a line, as text that is the same where they are. */
const CHOSEN = (from: string, where: string) =>
  `COALESCE((SELECT GROUP_CONCAT(x.option_id ORDER BY x.option_id) FROM ${from} WHERE ${where}), '')`;

/** Orders that make something, as tying sees them. */
export async function tiedWorks(sql: Sql, companyId: number, ids: readonly number[]): Promise<TiedWork[]> {
  const rows = await sql.rows<
    Columns<PlannedOrder, 'id version number itemId locationId quantity finished scrapped held dueDate'> & {
      kind: TiedWork['kind'];
      state: TiedWork['state'];
      item: string;
      chosen: string;
    }
  >(
    `SELECT p.id, p.version, p.number, p.kind, p.state, p.item_id, i.number AS item, p.location_id, p.quantity, p.finished, p.scrapped,
            p.held, p.due_date, ${CHOSEN('planned_order_option x', 'x.company_id = p.company_id AND x.planned_order_id = p.id')} AS chosen
       FROM planned_order p JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
      WHERE p.company_id = ? AND p.id IN (?) AND p.kind <> 'buy' ORDER BY p.id ${sql.forUpdate}`,
    [companyId, ids],
  );
  return rows;
}

/** Order lines as tying sees them, with their orders. */
export async function servedLines(sql: Sql, companyId: number, ids: readonly number[]): Promise<ServedLine[]> {
  const rows = await sql.rows<{
    orderLineId: number;
    orderId: number;
    number: string;
    state: string;
    version: number;
    lineNo: number;
    itemId: number;
    locationId: number;
    straight: number;
    shipDate: Day;
    wanted: string;
    chosen: string;
  }>(
    `SELECT l.id AS order_line_id, o.id AS order_id, o.number, o.state, o.version, l.line_no, l.item_id, l.location_id,
            l.route = 'drop' AS straight, l.ship_date, ${WANTED} AS wanted,
            ${CHOSEN('sales_line_option x', 'x.company_id = l.company_id AND x.order_line_id = l.id')} AS chosen
       FROM sales_order o JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
      WHERE l.company_id = ? AND l.id IN (?) ORDER BY o.id, l.id ${sql.forUpdate}`,
    [companyId, ids],
  );
  return rows.map(({ orderId, number, state, version, straight, ...row }) => ({
    ...row,
    straight: Boolean(straight),
    order: { id: orderId, number, state, version },
  }));
}

async function loadTieGround(
  sql: Sql,
  companyId: number,
  lineIds: readonly number[],
  plannedIds: readonly number[],
): Promise<TieWorkGround> {
  const lines = await servedLines(sql, companyId, lineIds);
  // Promising and planning wait: they would plan with what is tied here.
  await takeTurn(sql, 'promise_turn', [companyId]);
  const works = await tiedWorks(sql, companyId, plannedIds);
  const ties = await sql.rows<{ plannedId: number; orderLineId: number; quantity: string; made: string }>(
    `SELECT planned_order_id AS planned_id, order_line_id, quantity, made FROM planned_tie
      WHERE company_id = ? AND planned_order_id IN (?) AND order_line_id IN (?) ORDER BY id ${sql.forUpdate}`,
    [companyId, plannedIds, lineIds],
  );
  return { works, lines, ties };
}

/** Whom production and assembly orders are for, said afterwards. // L5 W4 */
export const tieWork = defineAct(contract.tieWork, {
  right: 'plan',
  says: 'tie production orders to order lines',
  done: 'tied',
  load: (tx, { ties }, { companyId }) =>
    loadTieGround(
      tx,
      companyId,
      ties.map(({ orderLineId }) => orderLineId),
      ties.map(({ plannedId }) => plannedId),
    ),
  decide: (ground, input) => decideTieWork(ground, input),
  preview: ({ ties, firm }) => ({ ties: ties.length, firm: firm.length }),
  async write(tx, { ties, firm }, { works, lines }, doer) {
    await tx.batch([
      ...ties.flatMap((tie) => [
        tiedStatement(doer.companyId, tie),
        heldByStatement(doer.companyId, tie.plannedId, tie.quantity),
      ]),
      ...changedStatements(doer.companyId, works),
      ...firmStatements(doer.companyId, firm),
      ...headStatements(doer, lines),
    ]);
    return { made: [], touched: touchedBy(works, lines) };
  },
});

/** Lets an order go on for nobody. // L4 W4 */
export const untieWork = defineAct(contract.untieWork, {
  right: 'plan',
  says: 'untie production orders from order lines',
  done: 'untied',
  load: (tx, { plannedId, orderLineId }, { companyId }) => loadTieGround(tx, companyId, [orderLineId], [plannedId]),
  decide: (ground, input) => decideUntieWork(ground, input),
  preview: ({ ties }) => ({ quantity: ties[0]!.quantity }),
  async write(tx, { ties, firm }, { works, lines }, doer) {
    const { companyId } = doer;
    await tx.batch([
      ...ties.flatMap((tie) => untiedStatements(companyId, tie)),
      ...firmStatements(companyId, firm),
      ...headStatements(doer, lines),
    ]);
    return { made: [], touched: touchedBy(works, lines) };
  },
});

/** An order changes once, however many of its lines are tied. */
function headStatements(doer: Doer, lines: readonly ServedLine[]): Statement[] {
  return [...new Set(lines.map(({ order }) => order.id))].map((id) => headStatement(doer, id));
}

function heldByStatement(companyId: number, plannedId: number, by: string): Statement {
  return {
    sql: 'UPDATE planned_order SET held = held + ? WHERE company_id = ? AND id = ?',
    values: [by, companyId, plannedId],
  };
}

function changedStatements(companyId: number, works: readonly TiedWork[]): Statement[] {
  return works.map(({ id }) => ({
    sql: 'UPDATE planned_order SET version = version + 1 WHERE company_id = ? AND id = ?',
    values: [companyId, id],
  }));
}

function firmStatements(companyId: number, ids: readonly number[]): Statement[] {
  return ids.length === 0
    ? []
    : [
        {
          sql: "UPDATE planned_order SET state = 'firm' WHERE company_id = ? AND id IN (?)",
          values: [companyId, ids as number[]],
        },
      ];
}

function touchedBy(works: readonly TiedWork[], lines: readonly ServedLine[]): Touched[] {
  const orders = new Map(lines.map(({ order }) => [order.id, order]));
  return [
    ...works.map(({ id, number, kind, version }) => ({ kind: WORK_KIND[kind], id, number, version: version + 1 })),
    ...[...orders.values()].map(({ id, number, version }) => ({
      kind: 'SO' as const,
      id,
      number,
      version: version + 1,
    })),
  ];
}
