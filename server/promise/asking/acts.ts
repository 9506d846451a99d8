import { dec, itemAt, locationAt, pointOf, type Day } from '@core/kernel';
import { decidePromise, decideTakeBack, type PlannedOrderPlan } from '@core/promise';
import * as contract from '@api/promise';
import { defineAct, takeNumbers, type Doer, type Touched } from '../../acts';
import { into, takeTurn, type Sql, type Tx, type Columns } from '../../db';
import { loadOrder } from '../../orders';
import { inStepStatements } from '../../supply';
import { groundRows } from '../ground/ground';
import { OPEN_UNHELD } from '../ground/moves';
import { plannedFor } from './planned-for';
import type { SalesOrderLine } from '../../orders/tables';
import type { Item } from '../../catalogue/tables';
import {
  centreHoldTable,
  plannedComponentTable,
  plannedOperationTable,
  plannedOrderTable,
  plannedTieTable,
} from '../tables';

/** The lines of an order that can be promised: what is open of them, out of our stock or from a vendor to come. */
export async function promisedLines(sql: Sql, companyId: number, orderId: number) {
  const rows = await sql.rows<
    Columns<SalesOrderLine, 'id lineNo itemId locationId shipDate promisedDate promisedBy'> &
      Columns<Item, 'number name unit promiseMethod'> & {
        quantity: string;
        asked: Day;
        planned: number;
        straight: number;
        own: number;
      }
  >(
    `SELECT l.id, l.line_no, l.item_id, l.location_id, i.number, i.name, i.unit, ${OPEN_UNHELD} AS quantity,
            COALESCE(l.asked_date, l.ship_date) AS asked, l.ship_date, l.promised_date, l.promised_by, i.promise_method,
            l.route = 'drop' AS straight,
            EXISTS (SELECT 1 FROM sales_line_option so WHERE so.company_id = l.company_id AND so.order_line_id = l.id) AS own,
            (SELECT COUNT(*) FROM planned_tie t JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open
              WHERE t.company_id = l.company_id AND t.order_line_id = l.id) AS planned
       FROM sales_order_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.order_id = ? AND (l.owed OR l.route = 'drop') ORDER BY l.line_no`,
    [companyId, orderId],
  );
  return rows
    .filter((row) => dec(row.quantity).gt(0))
    .map((row) => ({
      ...row,
      straight: Boolean(row.straight),
      own: Boolean(row.own),
      point: pointOf(row.itemId, row.locationId),
    }));
}

export const acceptPromise = defineAct(contract.acceptPromise, {
  right: 'plan',
  says: 'promise what must be planned',
  done: 'promised',
  expectedVersion: (input) => ({ kind: 'SO', id: input.orderId, version: input.version }),
  async load(tx, input, doer) {
    const head = await loadOrder(tx, doer.companyId, input.orderId);
    // Whoever promises next sees what this one planned. // T8
    await takeTurn(tx, 'promise_turn', [doer.companyId]);
    const lines = await promisedLines(tx, doer.companyId, head.id);
    const asked = input.lines.map((line) => line.lineId);
    const leftOut = lines.filter((line) => asked.includes(line.id));
    const rows = await groundRows(
      tx,
      doer.companyId,
      doer.workDate,
      leftOut.map((line) => line.point),
      { without: leftOut.map((line) => line.id) },
    );
    return { head, lines, rows, planned: await plannedFor(tx, doer.companyId, asked) };
  },
  decide: (ground, input) => decidePromise({ ...ground, order: ground.head }, input),
  preview: ({ lines, orders }) => ({
    lines: lines.map(({ lineId, day }) => ({ lineId, day })),
    orders: orders.length,
  }),
  async write(tx, effects, { head, planned }, doer, input) {
    await cancelPlanned(tx, doer, planned);
    const made = await writePlanned(tx, doer, effects.orders);
    await tx.batch([
      ...effects.lines.map((line) => ({
        sql: `UPDATE sales_order_line SET asked_date = ?, promised_date = ?, promised_by = ?, ship_date = ?
               WHERE company_id = ? AND id = ?`,
        values: [
          input.lines.find((each) => each.lineId === line.lineId)!.asked,
          line.day,
          line.way,
          line.day,
          doer.companyId,
          line.lineId,
        ],
      })),
      headStatement(doer, head.id),
      ...inStepStatements(doer.companyId, 'order', [head.id]),
    ]);
    return { made, touched: [{ kind: 'SO', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});

export function headStatement(doer: Doer, orderId: number) {
  return {
    sql: `UPDATE sales_order o SET o.version = o.version + 1,
            o.first_ship_date = (SELECT MIN(l.ship_date) FROM sales_order_line l
              WHERE l.company_id = o.company_id AND l.order_id = o.id AND l.cancelled < l.quantity)
           WHERE o.company_id = ? AND o.id = ?`,
    values: [doer.companyId, orderId],
  };
}

/** Planned orders hold nothing of their centres any more. */
export function loadStatement(companyId: number, plannedIds: readonly number[]) {
  return {
    sql: `DELETE l FROM centre_hold l JOIN planned_operation o ON o.company_id = l.company_id AND o.id = l.planned_operation_id
           WHERE l.company_id = ? AND o.planned_order_id IN (?)`,
    values: [companyId, plannedIds],
  };
}

/** What was planned is cancelled and holds no capacity any more; it stays to be read. */
export async function cancelPlanned(tx: Tx, doer: Doer, ids: readonly number[]): Promise<void> {
  if (ids.length === 0) return;
  await tx.batch([
    loadStatement(doer.companyId, ids),
    {
      sql: "UPDATE planned_order SET state = 'cancelled', version = version + 1 WHERE company_id = ? AND id IN (?)",
      values: [doer.companyId, ids as number[]],
    },
  ]);
}

/** The kinds of document planned orders are. */
export const KIND = { make: 'PR', assemble: 'AS', buy: 'PL' } as const;

/**
 * Writes planned orders level by level, since each names the one it is for; then what they need and hold. The first may
 * stand already: what it needs and holds is written anew, and what is for it. Its parts are kept where somebody changed them.
 */
export async function writePlanned(
  tx: Tx,
  doer: Doer,
  orders: readonly PlannedOrderPlan[],
  standing: { id: number; number: string; ownParts: boolean } | null = null,
): Promise<Touched[]> {
  if (orders.length === 0) return [];
  const { companyId } = doer;
  const isNew = (place: number) => place > 0 || standing === null;
  const count = (kind: PlannedOrderPlan['kind']) =>
    orders.filter((order, place) => order.kind === kind && isNew(place)).length;
  const number = await takeNumbers(tx, companyId, { PR: count('make'), AS: count('assemble'), PL: count('buy') });
  const numbers = orders.map((order, place) => (isNew(place) ? number(KIND[order.kind]) : standing!.number));
  const ids: number[] = [];
  let level = orders.flatMap((order, place) => (order.parent === null ? [place] : []));
  if (standing) {
    ids[0] = standing.id;
    level = orders.flatMap((order, place) =>
      order.parent === 0 || (order.parent === null && place > 0) ? [place] : [],
    );
  }
  while (level.length > 0) {
    const found = await tx.insert(
      plannedOrderTable,
      level.map((place) => {
        const order = orders[place]!;
        return {
          companyId,
          number: numbers[place]!,
          kind: order.kind,
          itemId: itemAt(order.itemId),
          locationId: locationAt(order.itemId),
          quantity: order.quantity,
          held: order.held,
          startDate: order.start,
          dueDate: order.due,
          vendorId: order.vendorId,
          parentId: order.parent === null ? null : ids[order.parent]!,
          ownParts: order.own,
        };
      }),
    );
    level.forEach((place, at) => (ids[place] = found[at]!));
    const above = new Set(level);
    level = orders.flatMap((order, place) => (order.parent !== null && above.has(order.parent) ? [place] : []));
  }
  const operations = orders.flatMap((order, place) =>
    order.operations.map((operation) => ({ operation, orderId: ids[place]! })),
  );
  const components = orders.flatMap((order, place) =>
    (standing?.ownParts && place === 0 ? [] : order.components).map((component) => ({
      companyId,
      plannedOrderId: ids[place]!,
      itemId: component.itemId,
      quantity: component.quantity,
      covered: component.covered,
      neededOn: component.neededOn,
      operationNo: component.operationNo,
    })),
  );
  const ties = orders.flatMap((order, place) =>
    isNew(place) && order.parent === null && order.lineId !== null && dec(order.held).gt(0)
      ? [{ companyId, plannedOrderId: ids[place]!, orderLineId: order.lineId, quantity: order.held }]
      : [],
  );
  await operationRows(tx, doer, operations, [into(plannedComponentTable, components), into(plannedTieTable, ties)]);
  return orders.map((order, place) => ({ kind: KIND[order.kind], id: ids[place]!, number: numbers[place]! }));
}

/** Writes operations of planned orders with what they take of their centres, minute by minute, and rows that go along. */
export async function operationRows(
  tx: Tx,
  { companyId }: Doer,
  operations: readonly { operation: PlannedOrderPlan['operations'][number]; orderId: number }[],
  along: Parameters<Tx['insertBatch']>[0] = [],
): Promise<void> {
  const [operationIds] = await tx.insertBatch([
    into(
      plannedOperationTable,
      operations.map(({ operation, orderId }) => ({
        companyId,
        plannedOrderId: orderId,
        no: operation.no,
        name: operation.name,
        workCentreId: operation.centreId,
        minutes: operation.minutes,
        firstDay: operation.firstDay,
        lastDay: operation.lastDay,
      })),
      { ids: true },
    ),
    ...along,
  ]);
  await tx.insertBatch([
    into(
      centreHoldTable,
      operations.flatMap(({ operation }, at) =>
        operation.load.map(({ day, from, until, machines }) => ({
          companyId,
          workCentreId: operation.centreId,
          day,
          plannedOperationId: operationIds![at]!,
          fromMinute: from,
          untilMinute: until,
          machines,
        })),
      ),
    ),
  ]);
}

export const takeBackPromise = defineAct(contract.takeBackPromise, {
  right: 'plan',
  says: 'take back what was promised',
  done: 'promise taken back',
  expectedVersion: (input) => ({ kind: 'SO', id: input.orderId, version: input.version }),
  async load(tx, input, doer) {
    const head = await loadOrder(tx, doer.companyId, input.orderId);
    await takeTurn(tx, 'promise_turn', [doer.companyId]);
    const lines = await tx.rows<{ id: number }>(
      `SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ? AND promised_date IS NOT NULL`,
      [doer.companyId, head.id],
    );
    const ids = lines.map((line) => line.id);
    const planned = await plannedFor(tx, doer.companyId, ids);
    const [running] = await tx.rows<{ number: string }>(
      `SELECT p.number FROM planned_tie t
         JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.state IN ('running', 'finished')
        WHERE t.company_id = ? AND t.order_line_id IN (?) LIMIT 1`,
      [doer.companyId, ids],
    );
    return { head, lineIds: ids, planned, running: running?.number ?? null };
  },
  decide: (ground) => decideTakeBack({ ...ground, order: ground.head }),
  preview: ({ lineIds, cancelled }) => ({ lines: lineIds.length, orders: cancelled.length }),
  async write(tx, { lineIds, cancelled }, { head }, doer) {
    await cancelPlanned(tx, doer, cancelled);
    await tx.batch([
      {
        sql: `UPDATE sales_order_line SET ship_date = COALESCE(asked_date, ship_date), asked_date = NULL,
                     promised_date = NULL, promised_by = NULL WHERE company_id = ? AND id IN (?)`,
        values: [doer.companyId, lineIds],
      },
      headStatement(doer, head.id),
      ...inStepStatements(doer.companyId, 'order', [head.id]),
    ]);
    return { made: [], touched: [{ kind: 'SO', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});
