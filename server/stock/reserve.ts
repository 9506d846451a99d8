import { dec, MAIN_LOCATION, pointOf, type Day } from '@core/kernel';
import { optionsName } from '@core/catalogue';
import type { OrderState } from '@core/orders';
import { decideSupply, type Reserving, type SuppliedLine } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, orNotFound } from '../acts';
import { chosenFor, optionsOf } from '../catalogue';
import type { Sql, Columns } from '../db';
import { heldStatement, loadFree } from '../on-hand';
import { loadToMake, withWork, writeWork } from '../workshop';
import type { SalesOrderLine } from '../orders/tables';

/** Another route for a confirmed line, and what of our stock is held for it. // S3 */
export const supplyLine = defineAct(contract.supplyLine, {
  right: 'orders',
  says: 'say how a line is supplied',
  done: 'supply changed',
  async load(tx, input, doer) {
    const supplied = await loadSupplied(tx, doer.companyId, input.orderLineId, input.locationId);
    const { line, item, order } = supplied;
    const held = /^\d+(\.\d+)?$/.test(input.reserve.trim())
      ? input.reserve.trim()
      : input.route === line.route
        ? line.reserved
        : '0';
    const made = {
      id: line.id,
      lineNo: line.lineNo,
      itemId: item.id,
      locationId: input.locationId ?? line.locationId,
      route: input.route,
      open: line.open,
      held,
      shipDate: supplied.shipDate,
      optionIds: supplied.optionIds,
      field: 'route',
    };
    return { ...supplied, toMake: await loadToMake(tx, doer.companyId, doer.workDate, order.number, [made]) };
  },
  decide: (ground, input) => withWork(decideSupply(ground, input), ground.toMake),
  preview: ({ route, reserved, locationId, by }, { line, item }) => ({
    route,
    reserved,
    was: line.reserved,
    free: by
      .filter((each) => each.locationId === locationId)
      .reduce((free, each) => free.minus(each.quantity), dec(item.free.get(locationId)!))
      .toFixed(),
  }),
  async write(tx, effects, { order, toMake }, doer) {
    const { companyId } = doer;
    await tx.batch([
      ...effects.by.map((each) => heldStatement(companyId, effects.itemId, each.locationId, each.quantity)),
      {
        sql: `UPDATE sales_order_line SET route = ?, location_id = ?, reserved = ?, on_bench = ?
               WHERE company_id = ? AND id = ?`,
        values: [effects.route, effects.locationId, effects.reserved, effects.onBench, companyId, effects.lineId],
      },
    ]);
    // What is made to order is begun with its route. // W2
    const made = await writeWork(tx, doer, effects.work, toMake.planned);
    return { made, touched: [{ kind: 'SO', id: order.id, number: order.number }] };
  },
});

/** What is made for an order line `l` and still to come. */
const WORK = `FROM planned_tie t
              JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open AND p.kind <> 'buy'
             WHERE t.company_id = l.company_id AND t.order_line_id = l.id AND t.quantity > t.made`;

/** The order line with its order, then its item's stock, locked. */
async function loadSupplied(
  sql: Sql,
  companyId: number,
  orderLineId: number,
  locationId: number | undefined,
): Promise<SuppliedLine & { shipDate: Day; optionIds: number[] }> {
  const [of] = await sql.rows<{ orderId: number }>(
    'SELECT order_id FROM sales_order_line WHERE company_id = ? AND id = ?',
    [companyId, orderLineId],
  );
  const [row] = await sql.rows<
    Columns<SalesOrderLine, 'id lineNo route quantity cancelled tied shipped reserved shipDate itemId locationId'> & {
      orderId: number;
      number: string;
      state: OrderState;
      making: string;
      work: string;
    }
  >(
    `SELECT o.id AS order_id, o.number, o.state, l.id, l.line_no, l.route, l.quantity, l.cancelled, l.tied, l.shipped,
            l.reserved, l.ship_date, l.item_id, l.location_id,
            COALESCE((SELECT SUM(IF(p.state = 'planned', 0, t.quantity - t.made)) ${WORK}), 0) AS making, COALESCE((SELECT MIN(p.number) ${WORK}), '') AS work
       FROM sales_order o JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
      WHERE o.company_id = ? AND o.id = ? AND l.id = ? ${sql.forUpdate}`,
    [companyId, orNotFound(of, 'This order line').orderId, orderLineId],
  );
  const line = orNotFound(row, 'This order line');
  const optionIds = (await chosenFor(sql, companyId, [line.id])).get(line.id) ?? [];
  const offered = await optionsOf(sql, companyId, null, optionIds.length > 0 ? [line.itemId] : []);
  const [item] = await sql.rows<{
    number: string;
    stocked: boolean;
    obtained: string;
    reserving: Reserving;
    vendors: number;
  }>(
    `SELECT i.number, i.stocked, i.obtained, i.reserving,
            (SELECT COUNT(*) FROM item_vendor v WHERE v.company_id = i.company_id AND v.item_id = i.id) AS vendors
       FROM item i WHERE i.company_id = ? AND i.id = ?`,
    [companyId, line.itemId],
  );
  const at = await sql.rows<{ id: number }>('SELECT id FROM location WHERE company_id = ? AND id IN (?)', [
    companyId,
    [MAIN_LOCATION, line.locationId, locationId ?? line.locationId],
  ]);
  const free = await loadFree(
    sql,
    companyId,
    at.map(({ id }) => pointOf(line.itemId, id)),
  );
  return {
    order: { id: line.orderId, number: line.number, state: line.state },
    line: {
      id: line.id,
      lineNo: line.lineNo,
      route: line.route,
      open: dec(line.quantity).minus(line.cancelled).minus(line.shipped).toFixed(),
      tied: line.tied,
      shipped: line.shipped,
      reserved: line.reserved,
      locationId: line.locationId,
      making: line.making,
      work: line.work,
      chosen: optionsName(offered.get(line.itemId) ?? [], optionIds),
    },
    shipDate: line.shipDate,
    optionIds,
    item: {
      id: line.itemId,
      number: item!.number,
      stocked: item!.stocked,
      hasVendor: item!.vendors > 0,
      obtained: item!.obtained,
      reserving: item!.reserving,
      free: new Map(at.map(({ id }) => [id, free.get(pointOf(line.itemId, id)) ?? '0'])),
    },
  };
}
