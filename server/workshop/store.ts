import { dec, isWholeUnit, pointOf, sum, type Day } from '@core/kernel';
import type { There, WorkGround, WorkState, WorkTie } from '@core/workshop';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Columns, Sql } from '../db';
import { loadStock } from '../orders';
import type { PlannedComponent, PlannedOperation, PlannedOrder } from '../promise/tables';
import { costText, reckonedCosts } from './costs';

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

/**
 * An order that makes something, with all its acts decide on, locked: the orders it is for, then itself and what it is
 * for above it, then the stock it takes from and brings to. Six queries, and one for each level of costs not known.
 */
export async function loadWork(sql: Sql, companyId: number, id: number): Promise<LoadedWork> {
  const tiedTo = await sql.rows<{ orderId: number }>(
    `SELECT DISTINCT l.order_id FROM planned_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
      WHERE t.company_id = ? AND t.planned_order_id = ? ORDER BY l.order_id`,
    [companyId, id],
  );
  for (const { orderId } of tiedTo) {
    await sql.rows(`SELECT id FROM sales_order WHERE company_id = ? AND id = ? ${sql.forUpdate}`, [companyId, orderId]);
  }
  const [row] = await sql.rows<OrderRow>(
    `SELECT p.id, p.number, p.version, p.kind, p.state, p.item_id, p.location_id, p.quantity, p.finished, p.scrapped, p.held,
            p.planned_cost, p.in_work, p.parent_id, p.start_date, p.due_date, i.number AS item, i.unit, lo.name AS place,
            ${ownCurrency('p.company_id')} AS currency
       FROM planned_order p
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
       JOIN location lo ON lo.company_id = p.company_id AND lo.id = p.location_id
      WHERE p.company_id = ? AND p.id = ? AND p.kind <> 'buy' ${sql.forUpdate}`,
    [companyId, id],
  );
  const { version, startDate, dueDate, parentId, currency, unit, ...order } = orNotFound(row, 'This order');
  const operations = await operationsOf(sql, companyId, id);
  const components = await componentsOf(sql, companyId, id);
  const ties = await tiesOf(sql, companyId, order);
  const parents = await sql.rows<{ componentId: number; covered: string }>(
    `SELECT id AS component_id, covered FROM planned_component WHERE company_id = ? AND planned_order_id = ? AND item_id = ?
      ORDER BY id ${sql.forUpdate}`,
    [companyId, parentId ?? 0, order.itemId],
  );
  const points = [...components.map(({ itemId }) => itemId), order.itemId].map((each) =>
    pointOf(each, order.locationId),
  );
  const stock = await loadStock(sql, companyId, points);
  const thereOf = (itemId: number) => stock.get(pointOf(itemId, order.locationId)) ?? NOTHING;
  const costs =
    order.plannedCost === null
      ? await reckonedCosts(
          sql,
          companyId,
          components.map((each) => each.itemId),
        )
      : null;
  const forLines = sum(ties.map(({ quantity, made }) => dec(quantity).minus(made)));
  return {
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
    components: components.map(({ unit: counted, reported, ...each }) => ({
      ...each,
      reported: Boolean(reported),
      whole: isWholeUnit(counted),
      expectedCost: costs ? costText(costs, each.itemId) : '0',
      there: thereOf(each.itemId),
    })),
    operations,
    ties,
    parents,
    product: thereOf(order.itemId),
  };
}

/** The operations of an order by number, with what an hour at their centres is reckoned at. */
function operationsOf(sql: Sql, companyId: number, id: number) {
  return sql.rows<
    Columns<PlannedOperation, 'id no name minutes minutesDone done scrapped plannedCost'> & { hourCost: string }
  >(
    `SELECT o.id, o.no, o.name, o.minutes, o.minutes_done, o.done, o.scrapped, o.planned_cost, w.hour_cost
       FROM planned_operation o JOIN work_centre w ON w.company_id = o.company_id AND w.id = o.work_centre_id
      WHERE o.company_id = ? AND o.planned_order_id = ? ORDER BY o.no`,
    [companyId, id],
  );
}

/** What goes into an order, by the operation it is used at. */
function componentsOf(sql: Sql, companyId: number, id: number) {
  return sql.rows<
    Columns<PlannedComponent, 'id itemId operationNo quantity used covered plannedCost neededOn'> & {
      item: string;
      unit: string;
      reported: boolean;
    }
  >(
    `SELECT k.id, k.item_id, k.operation_no, k.quantity, k.used, k.covered, k.planned_cost, k.needed_on, i.number AS item, i.unit,
            EXISTS (SELECT 1 FROM work_report_component r WHERE r.company_id = k.company_id AND r.component_id = k.id) AS reported
       FROM planned_component k JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
      WHERE k.company_id = ? AND k.planned_order_id = ? ORDER BY k.operation_no, k.id`,
    [companyId, id],
  );
}

/** The lines an order is for, locked, the first to ship first: nothing is held for one that goes out from elsewhere. */
async function tiesOf(
  sql: Sql,
  companyId: number,
  { id, locationId }: { id: number; locationId: number },
): Promise<WorkTie[]> {
  const rows = await sql.rows<{
    orderLineId: number;
    orderId: number;
    number: string;
    lineNo: number;
    shipDate: Day;
    quantity: string;
    made: string;
    wanted: string;
    fits: boolean;
  }>(
    `SELECT t.order_line_id, o.id AS order_id, o.number, l.line_no, l.ship_date, t.quantity, t.made,
            GREATEST(0, l.quantity - l.cancelled - l.shipped - l.reserved) AS wanted,
            o.state = 'confirmed' AND l.route <> 'drop' AND l.location_id = ? AS fits
       FROM planned_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE t.company_id = ? AND t.planned_order_id = ? ORDER BY l.ship_date, t.id ${sql.forUpdate}`,
    [locationId, companyId, id],
  );
  return rows.map(({ orderId, number, fits, wanted, ...row }) => ({
    ...row,
    order: { id: orderId, number },
    wanted: fits ? wanted : '0',
  }));
}
