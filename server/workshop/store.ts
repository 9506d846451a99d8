import { dec, isWholeUnit, pointOf, sum, type Day } from '@core/kernel';
import type { SerialGround } from '@core/serial';
import type { There, WorkGround, WorkState, WorkTie } from '@core/workshop';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Columns, Sql, Statement } from '../db';
import { loadStockAndNumbers, type AskedOfNumbers } from '../serial';
import type { PlannedComponent, PlannedOperation, PlannedOrder } from '../promise/tables';
import { costText, KNOWN, reckonedCosts } from './costs';

const NOTHING: There = { onHand: '0', reserved: '0', value: '0' };

type OrderRow = Columns<
  PlannedOrder,
  'id number version itemId locationId quantity finished scrapped held plannedCost inWork parentId startDate dueDate'
> & { kind: 'make' | 'assemble'; state: WorkState; item: string; unit: string; place: string; currency: string };

/** An order as its acts need it, with its version and the order it is for. */
export interface LoadedWork extends WorkGround {
  version: number;
  start: Day;
  due: Day;
  parentId: number | null;
}

/** An order before its stock was locked: what of it takes from or brings to stock, and the order once that is known. */
export interface UnstockedWork {
  id: number;
  points: number[];
  stocked: (stock: ReadonlyMap<number, There>) => LoadedWork;
}

/** An order that makes something, with all its acts decide on, locked, its stock last. */
export async function loadWork(
  sql: Sql,
  companyId: number,
  id: number,
  asked: AskedOfNumbers = {},
): Promise<LoadedWork & { numbers: SerialGround }> {
  const tiedTo = await sql.rows<{ orderId: number }>(
    `SELECT DISTINCT l.order_id FROM planned_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
      WHERE t.company_id = ? AND t.planned_order_id = ?`,
    [companyId, id],
  );
  const orderIds = tiedTo.map(({ orderId }) => orderId);
  const { works } = await loadUnstocked(sql, companyId, [id], { locked: [], tiedTo: orderIds });
  const [work] = works;
  const { stock, numbers } = await loadStockAndNumbers(sql, companyId, work!.points, { ...asked, workIds: [id] });
  return { ...work!.stocked(stock), numbers };
}

/**
 * Orders that make something, locked but for their stock, in the order they are asked for: the orders they are for, then
 * each with what it is for above it. Two trips at most, and two for each level of costs not known below what goes into them.
 */
export async function loadUnstocked(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
  /** The sales orders they are for, and which of those are locked already. */
  { locked, tiedTo }: { locked: readonly number[]; tiedTo: readonly number[] },
  /** What else is to be read with them, after them. */
  more: readonly Statement[] = [],
): Promise<{ works: UnstockedWork[]; more: unknown[] }> {
  if (tiedTo.some((orderId) => !locked.includes(orderId))) {
    await sql.rows(`SELECT id FROM sales_order WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`, [
      companyId,
      [...new Set(tiedTo)],
    ]);
  }
  const answers = await sql.batch([...ids.flatMap((id) => statementsOf(sql, companyId, id)), ...more]);
  const rows = ids.map((_id, at) => {
    const [order, operations, components, ties, parents] = answers.slice(at * 5, at * 5 + 5);
    return {
      order: orNotFound((order as OrderRow[])[0], 'This order'),
      operations: operations as OperationRow[],
      components: components as ComponentRow[],
      ties: (ties as TieRow[]).map(tieOf),
      parents: parents as ParentRow[],
    };
  });
  const parts = rows
    .filter(({ order }) => order.plannedCost === null)
    .flatMap(({ components }) => components.map(({ itemId, known }) => ({ id: itemId, known })));
  const costs = await reckonedCosts(
    sql,
    companyId,
    parts.map(({ id }) => id),
    [...new Map(parts.map((part) => [part.id, part])).values()],
  );
  const works = rows.map(
    ({ order: { version, startDate, dueDate, parentId, currency, unit, ...order }, ...found }): UnstockedWork => {
      const { components, ties } = found;
      const forLines = sum(ties.map(({ quantity, made }) => dec(quantity).minus(made)));
      const pointOfItem = (itemId: number) => pointOf(itemId, order.locationId);
      return {
        id: order.id,
        points: [...components.map(({ itemId }) => itemId), order.itemId].map(pointOfItem),
        stocked: (stock) => ({
          ...found,
          version,
          start: startDate,
          due: dueDate,
          parentId,
          currency,
          order: {
            ...order,
            whole: isWholeUnit(unit),
            heldForParent: parentId === null ? '0' : dec(order.held).minus(forLines).toFixed(),
          },
          components: components.map(({ unit: counted, reported, known: _known, ...each }) => ({
            ...each,
            reported: Boolean(reported),
            whole: isWholeUnit(counted),
            expectedCost: order.plannedCost === null ? costText(costs, each.itemId) : '0',
            there: stock.get(pointOfItem(each.itemId)) ?? NOTHING,
          })),
          product: stock.get(pointOfItem(order.itemId)) ?? NOTHING,
        }),
      };
    },
  );
  return { works, more: answers.slice(ids.length * 5) };
}

type OperationRow = Columns<PlannedOperation, 'id no name minutes minutesDone done scrapped plannedCost'> & {
  hourCost: string;
};
type ComponentRow = Columns<PlannedComponent, 'id itemId operationNo quantity used covered plannedCost neededOn'> & {
  item: string;
  unit: string;
  reported: number;
  known: string | null;
};
type ParentRow = { componentId: number; covered: string };
type TieRow = Omit<WorkTie, 'order'> & { orderId: number; number: string; fits: number };

/**
 * What an order is read by, it and what others may move locked: the order; its operations by number, with what an hour at
 * their centres is reckoned at; what goes into it, by the operation it is used at; the lines it is for, the first to ship
 * first; the components of the order above that it covers.
 */
function statementsOf(sql: Sql, companyId: number, id: number): Statement[] {
  const values = [companyId, id];
  return [
    {
      sql: `SELECT p.id, p.number, p.version, p.kind, p.state, p.item_id, p.location_id, p.quantity, p.finished, p.scrapped, p.held,
            p.planned_cost, p.in_work, p.parent_id, p.start_date, p.due_date, i.number AS item, i.unit, lo.name AS place,
            ${ownCurrency('p.company_id')} AS currency
       FROM planned_order p
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
       JOIN location lo ON lo.company_id = p.company_id AND lo.id = p.location_id
      WHERE p.company_id = ? AND p.id = ? AND p.kind <> 'buy' ${sql.forUpdate}`,
      values,
      rows: true,
    },
    {
      sql: `SELECT o.id, o.no, o.name, o.minutes, o.minutes_done, o.done, o.scrapped, o.planned_cost, w.hour_cost
       FROM planned_operation o JOIN work_centre w ON w.company_id = o.company_id AND w.id = o.work_centre_id
      WHERE o.company_id = ? AND o.planned_order_id = ? ORDER BY o.no`,
      values,
      rows: true,
    },
    {
      sql: `SELECT k.id, k.item_id, k.operation_no, k.quantity, k.used, k.covered, k.planned_cost, k.needed_on, i.number AS item, i.unit, ${KNOWN} AS known,
            EXISTS (SELECT 1 FROM work_report_component r WHERE r.company_id = k.company_id AND r.component_id = k.id) AS reported
       FROM planned_component k JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
      WHERE k.company_id = ? AND k.planned_order_id = ? ORDER BY k.operation_no, k.id`,
      values,
      rows: true,
    },
    {
      sql: `SELECT t.order_line_id, o.id AS order_id, o.number, l.line_no, l.ship_date, t.quantity, t.made,
            GREATEST(0, l.quantity - l.cancelled - l.shipped - l.reserved) AS wanted,
            o.state = 'confirmed' AND l.route <> 'drop' AND l.location_id = p.location_id AS fits
       FROM planned_tie t
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE t.company_id = ? AND t.planned_order_id = ? ORDER BY l.ship_date, t.id ${sql.forUpdate}`,
      values,
      rows: true,
    },
    {
      sql: `SELECT k.id AS component_id, k.covered FROM planned_order p
       JOIN planned_component k ON k.company_id = p.company_id AND k.planned_order_id = p.parent_id AND k.item_id = p.item_id
      WHERE p.company_id = ? AND p.id = ? ORDER BY k.id ${sql.forUpdate}`,
      values,
      rows: true,
    },
  ];
}

/** Nothing is held for a line that goes out from elsewhere. */
const tieOf = ({ orderId, number, fits, wanted, ...row }: TieRow): WorkTie => ({
  ...row,
  order: { id: orderId, number },
  wanted: fits ? wanted : '0',
});
