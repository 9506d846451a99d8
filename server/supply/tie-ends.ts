import type { OrderState } from '@core/orders';
import type { SalesEnd, SupplyEnd, TieNow } from '@core/supply';
import { dec, most, ZERO } from '@core/kernel';
import type { Sql, Columns } from '../db';
import { orNotFound } from '../acts';
import type { SalesOrderLine } from '../orders/tables';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';
import type { Tie } from './tables';

/** A sales end with what a person is told of it. */
export interface NamedSales extends SalesEnd {
  customer: string;
}

/** A supply end with what a person is told of it. */
export interface NamedSupply extends SupplyEnd {
  vendor: string;
}

type SalesRow = Columns<SalesOrderLine, 'id lineNo locationId itemId route quantity cancelled tied shipDate'> & {
  orderId: number;
  number: string;
  state: OrderState;
  shipToId: number | null;
  customer: string;
  itemNumber: string;
};

const SALES = `SELECT STRAIGHT_JOIN l.id, l.line_no, o.id AS order_id, o.number, o.state, o.ship_to_id, l.location_id, l.item_id, l.route,
    l.quantity, l.cancelled, l.tied, l.ship_date,
    (SELECT c.name FROM customer c WHERE c.company_id = o.company_id AND c.id = o.customer_id) AS customer,
    (SELECT i.number FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS item_number`;

function salesOf(row: SalesRow): NamedSales {
  return {
    id: row.id,
    lineNo: row.lineNo,
    order: { id: row.orderId, number: row.number, state: row.state },
    customer: row.customer,
    item: { id: row.itemId, number: row.itemNumber },
    route: row.route,
    shipToId: row.shipToId,
    locationId: row.locationId,
    uncovered: most(ZERO, dec(row.quantity).minus(row.cancelled).minus(row.tied)).toFixed(),
    shipDate: row.shipDate,
  };
}

/** One sales line as an end of a tie, its order locked. */
export async function loadSalesEnd(sql: Sql, companyId: number, orderLineId: number): Promise<NamedSales> {
  const [line] = await sql.rows<{ orderId: number }>(
    'SELECT order_id FROM sales_order_line WHERE company_id = ? AND id = ?',
    [companyId, orderLineId],
  );
  const [row] = await sql.rows<SalesRow>(
    `${SALES} FROM sales_order o JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
      WHERE o.company_id = ? AND o.id = ? AND l.id = ? ${sql.forUpdate}`,
    [companyId, orNotFound(line, 'This order line').orderId, orderLineId],
  );
  return salesOf(orNotFound(row, 'This order line'));
}

/** Confirmed lines of an item that wait for supply, as ends of a tie; served by the bench's index. */
export async function openSales(sql: Sql, companyId: number, itemId: number): Promise<NamedSales[]> {
  const rows = await sql.rows<SalesRow>(
    `${SALES} FROM sales_order_line l FORCE INDEX (sales_order_line_waiting)
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE l.company_id = ? AND l.item_id = ? AND l.on_bench = TRUE ORDER BY l.ship_date, l.id LIMIT 200`,
    [companyId, itemId],
  );
  return rows.map(salesOf);
}

type SupplyRow = Columns<PurchaseOrderLine, 'id lineNo itemId quantity tied received dueDate'> &
  Columns<PurchaseOrder, 'number state shipToId locationId'> & {
    purchaseId: number;
    vendor: string;
    itemNumber: string;
    served: string;
  };

const SUPPLY = `SELECT STRAIGHT_JOIN l.id, l.line_no, p.id AS purchase_id, p.number, p.state, p.ship_to_id, p.location_id, l.item_id, l.quantity,
    l.tied, l.received, l.due_date,
    (SELECT COALESCE(SUM(t.received), 0) FROM tie t WHERE t.company_id = l.company_id AND t.purchase_line_id = l.id) AS served,
    (SELECT v.name FROM vendor v WHERE v.company_id = p.company_id AND v.id = p.vendor_id) AS vendor,
    (SELECT i.number FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS item_number`;

function supplyOf(row: SupplyRow): NamedSupply {
  const open = dec(row.quantity).minus(row.received);
  // What is still to come for its ties is not to be had twice.
  const promised = dec(row.tied).minus(row.served);
  return {
    id: row.id,
    lineNo: row.lineNo,
    purchase: { id: row.purchaseId, number: row.number, state: row.state },
    vendor: row.vendor,
    item: { id: row.itemId, number: row.itemNumber },
    shipToId: row.shipToId,
    locationId: row.locationId,
    untied: most(ZERO, open.minus(promised)).toFixed(),
    dueDate: row.dueDate,
  };
}

/** One purchase line as an end of a tie, its purchase locked; sales orders must have been locked before. */
export async function loadSupplyEnd(sql: Sql, companyId: number, purchaseLineId: number): Promise<NamedSupply> {
  const [line] = await sql.rows<{ purchaseOrderId: number }>(
    'SELECT purchase_order_id FROM purchase_order_line WHERE company_id = ? AND id = ?',
    [companyId, purchaseLineId],
  );
  const [row] = await sql.rows<SupplyRow>(
    `${SUPPLY} FROM purchase_order p JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
      WHERE p.company_id = ? AND p.id = ? AND l.id = ? ${sql.forUpdate}`,
    [companyId, orNotFound(line, 'This purchase line').purchaseOrderId, purchaseLineId],
  );
  return supplyOf(orNotFound(row, 'This purchase line'));
}

/** Placed purchase lines of an item that are not received and tied whole, as ends of a tie. */
export async function openSupplies(sql: Sql, companyId: number, itemId: number): Promise<NamedSupply[]> {
  const rows = await sql.rows<SupplyRow>(
    `${SUPPLY} FROM purchase_order_line l FORCE INDEX (purchase_order_line_untied)
       JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
      WHERE l.company_id = ? AND l.item_id = ? AND l.untied = TRUE AND p.state = 'placed' ORDER BY l.due_date, l.id LIMIT 200`,
    [companyId, itemId],
  );
  return rows.map(supplyOf);
}

/** Ties with both their documents locked, orders before purchases; in the order of the ids. */
export async function loadTiesById(sql: Sql, companyId: number, tieIds: readonly number[]): Promise<TieNow[]> {
  if (tieIds.length === 0) return [];
  const where = 't.company_id = ? AND t.id IN (?)';
  const values = [companyId, [...tieIds]];
  await sql.rows(
    `SELECT o.id FROM sales_order o WHERE o.company_id = ? AND o.id IN (
       SELECT sl.order_id FROM tie t JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
        WHERE ${where}) ORDER BY o.id ${sql.forUpdate}`,
    [companyId, ...values],
  );
  await sql.rows(
    `SELECT p.id FROM purchase_order p WHERE p.company_id = ? AND p.id IN (
       SELECT pl.purchase_order_id FROM tie t
         JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
        WHERE ${where}) ORDER BY p.id ${sql.forUpdate}`,
    [companyId, ...values],
  );
  const rows = await sql.rows<
    Columns<Tie, 'id quantity received orderLineId purchaseLineId'> & {
      orderLineNo: number;
      orderId: number;
      orderNumber: string;
      purchaseLineNo: number;
      purchaseId: number;
      purchaseNumber: string;
    }
  >(
    `SELECT t.id, t.quantity, t.received, t.order_line_id, sl.line_no AS order_line_no, o.id AS order_id, o.number AS order_number,
            t.purchase_line_id, pl.line_no AS purchase_line_no, p.id AS purchase_id, p.number AS purchase_number
       FROM tie t
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
      WHERE ${where} ORDER BY t.id ${sql.forUpdate}`,
    values,
  );
  if (rows.length < new Set(tieIds).size) orNotFound(undefined, 'This tie');
  return rows.map((row) => ({
    id: row.id,
    quantity: dec(row.quantity).toFixed(),
    received: dec(row.received).toFixed(),
    sales: {
      id: row.orderLineId,
      lineNo: row.orderLineNo,
      order: { id: row.orderId, number: row.orderNumber },
    },
    supply: {
      id: row.purchaseLineId,
      lineNo: row.purchaseLineNo,
      purchase: { id: row.purchaseId, number: row.purchaseNumber },
    },
  }));
}
