import type { Route } from '@core/catalogue';
import { dec, type Day } from '@core/kernel';
import { differencesOf } from '@core/supply';
import type * as z from 'zod';
import type * as contract from '@api/supply';
import { likeOf, pageById, type Bound, type Sql } from '../db';
import { BOTH_ENDS } from './in-step';

type Row = z.infer<typeof contract.PairRow>;
type Query = z.infer<typeof contract.listPairs.query>;

/** The key that ties which are shown are walked by, newest first. */
const WALKED = {
  open: { key: 'tie_open', where: 't.open = TRUE' },
  differs: { key: 'tie_differs', where: 't.open = TRUE AND t.differs = TRUE' },
  late: { key: 'tie_late', where: 't.open = TRUE AND t.late = TRUE' },
  all: { key: 'PRIMARY', where: 'TRUE' },
} as const;

/**
 * Ties newest first. What is typed is looked for in the numbers of orders and purchases, in customers, vendors and
 * items: what those are is found first, then the ties of each by its own key.
 */
export function listPairs(sql: Sql, companyId: number, query: Query): Promise<{ rows: Row[]; next: string | null }> {
  return pageById<PairColumns, Row>(
    async (before, most) => {
      const walked = WALKED[query.show ?? 'open'];
      const where = ['t.company_id = ?', 't.id < ?', walked.where];
      const values: Bound[] = [companyId, before];
      if (query.orderId) {
        where.push('sl.order_id = ?');
        values.push(query.orderId);
      }
      if (query.purchaseId) {
        where.push('pl.purchase_order_id = ?');
        values.push(query.purchaseId);
      }
      const words = query.q?.trim();
      const ways = words
        ? waysTo(await meantBy(sql, companyId, words))
        : [`tie t FORCE INDEX (${walked.key}) ${BOTH_ENDS}`];
      if (ways.length === 0) return [];
      const found = ways.map(
        (way) =>
          `(SELECT STRAIGHT_JOIN t.id FROM ${way.replace('tie t WALKED', `tie t FORCE INDEX (${walked.key})`)}
             WHERE ${where.join(' AND ')} ORDER BY t.id DESC LIMIT ?)`,
      );
      const ids = await sql.rows<{ id: number }>(
        ways.length === 1 ? found[0]! : `${found.join(' UNION ')} ORDER BY id DESC LIMIT ?`,
        [...found.flatMap(() => [...values, most]), ...(ways.length === 1 ? [] : [most])],
      );
      return columnsOf(
        sql,
        companyId,
        ids.map((row) => row.id),
      );
    },
    query,
    (row) => row.row,
  );
}

const FROM_SALES = `JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = sl.company_id AND t.order_line_id = sl.id
   JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
   JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id`;

/** How ties are come by from what the words mean: few ones from their own key, a vendor's many by walking the ties. */
function waysTo(found: Awaited<ReturnType<typeof meantBy>>): string[] {
  const ways: [readonly number[], (ids: string) => string][] = [
    [
      found.orders,
      (ids) => `sales_order o JOIN sales_order_line sl FORCE INDEX (sales_order_line_no)
          ON sl.company_id = o.company_id AND sl.order_id = o.id AND o.id IN (${ids}) ${FROM_SALES}`,
    ],
    [
      found.customers,
      (
        ids,
      ) => `sales_order o FORCE INDEX (sales_order_customer) JOIN sales_order_line sl FORCE INDEX (sales_order_line_no)
          ON sl.company_id = o.company_id AND sl.order_id = o.id AND o.customer_id IN (${ids}) ${FROM_SALES}`,
    ],
    [
      found.items,
      (ids) => `sales_order_line sl FORCE INDEX (sales_order_line_item) JOIN sales_order o
          ON o.company_id = sl.company_id AND o.id = sl.order_id AND sl.item_id IN (${ids}) ${FROM_SALES}`,
    ],
    [
      found.purchases,
      (ids) => `purchase_order p JOIN purchase_order_line pl FORCE INDEX (purchase_order_line_no)
          ON pl.company_id = p.company_id AND pl.purchase_order_id = p.id AND p.id IN (${ids})
        JOIN tie t FORCE INDEX (tie_purchase) ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
        JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
        JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id`,
    ],
    [found.vendors, (ids) => `tie t WALKED ${BOTH_ENDS} AND p.vendor_id IN (${ids})`],
  ];
  return ways.filter(([ids]) => ids.length > 0).map(([ids, way]) => way(ids.join()));
}

interface PairColumns {
  id: number;
  row: Row;
}

/** Ids of what the words may mean, a few hundred of each at most. */
async function meantBy(sql: Sql, companyId: number, words: string) {
  const ids = async (statement: string, ...values: string[]) =>
    (await sql.rows<{ id: number }>(`${statement} LIMIT 300`, [companyId, ...values])).map((row) => row.id);
  const starts = `${likeOf(words).slice(1)}`;
  const [orders, purchases, customers, vendors, items] = await Promise.all([
    ids(
      'SELECT id FROM sales_order WHERE company_id = ? AND (number LIKE ? OR batch LIKE ?) ORDER BY id DESC',
      starts,
      starts,
    ),
    ids('SELECT id FROM purchase_order WHERE company_id = ? AND number LIKE ? ORDER BY id DESC', starts),
    ids('SELECT id FROM customer WHERE company_id = ? AND (number LIKE ? OR name LIKE ?)', starts, likeOf(words)),
    ids('SELECT id FROM vendor WHERE company_id = ? AND (number LIKE ? OR name LIKE ?)', starts, likeOf(words)),
    ids('SELECT id FROM item WHERE company_id = ? AND (number LIKE ? OR name LIKE ?)', starts, likeOf(words)),
  ]);
  return { orders, purchases, customers, vendors, items };
}

async function columnsOf(sql: Sql, companyId: number, ids: readonly number[]): Promise<PairColumns[]> {
  if (ids.length === 0) return [];
  const rows = await sql.rows<{
    id: number;
    quantity: string;
    received: string;
    itemId: number;
    itemNumber: string;
    itemName: string;
    unit: string;
    route: Route;
    orderId: number;
    orderNumber: string;
    orderLineId: number;
    orderLineNo: number;
    orderQuantity: string;
    orderTied: string;
    customerId: number;
    customerNumber: string;
    customerName: string;
    orderShipTo: number | null;
    shipDate: Day;
    purchaseId: number;
    purchaseNumber: string;
    purchaseLineNo: number;
    purchaseQuantity: string;
    purchaseReceived: string;
    purchaseShipTo: number | null;
    vendorId: number;
    vendorNumber: string;
    vendorName: string;
    dueDate: Day;
  }>(
    `SELECT t.id, t.quantity, t.received, sl.item_id, i.number AS item_number, i.name AS item_name, i.unit, sl.route,
            o.id AS order_id, o.number AS order_number, sl.id AS order_line_id, sl.line_no AS order_line_no,
            sl.quantity - sl.cancelled AS order_quantity, sl.tied AS order_tied, o.customer_id, c.number AS customer_number,
            c.name AS customer_name, o.ship_to_id AS order_ship_to, sl.ship_date, p.id AS purchase_id,
            p.number AS purchase_number, pl.line_no AS purchase_line_no, pl.quantity AS purchase_quantity,
            pl.received AS purchase_received, p.ship_to_id AS purchase_ship_to, p.vendor_id, v.number AS vendor_number,
            v.name AS vendor_name, pl.due_date
       FROM tie t ${BOTH_ENDS}
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE t.company_id = ? AND t.id IN (?) ORDER BY t.id DESC`,
    [companyId, [...ids]],
  );
  const addresses = await sql.rows<{ id: number; customerId: number; label: string }>(
    'SELECT id, customer_id, label FROM ship_to WHERE company_id = ? AND customer_id IN (?) ORDER BY id',
    [companyId, rows.map((row) => row.customerId)],
  );
  return rows.map((row) => ({
    id: row.id,
    row: {
      tieId: row.id,
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      route: row.route,
      quantity: row.quantity,
      received: row.received,
      order: { kind: 'SO', id: row.orderId, number: row.orderNumber },
      orderLineId: row.orderLineId,
      orderLineNo: row.orderLineNo,
      orderQuantity: row.orderQuantity,
      customer: { id: row.customerId, number: row.customerNumber, name: row.customerName },
      shipToId: row.orderShipTo,
      shipTos: addresses.filter((each) => each.customerId === row.customerId).map(({ id, label }) => ({ id, label })),
      shipDate: row.shipDate,
      purchase: { kind: 'PO', id: row.purchaseId, number: row.purchaseNumber },
      purchaseLineNo: row.purchaseLineNo,
      purchaseQuantity: row.purchaseQuantity,
      purchaseReceived: row.purchaseReceived,
      vendor: { id: row.vendorId, number: row.vendorNumber, name: row.vendorName },
      dueDate: row.dueDate,
      differs: differencesOf({
        route: row.route,
        tied: row.quantity,
        salesQuantity: dec(row.orderQuantity).minus(row.orderTied).plus(row.quantity).toFixed(),
        supplyQuantity: row.purchaseQuantity,
        shipDate: row.shipDate,
        supplyDate: row.dueDate,
        received: row.received,
        sameAddress: row.orderShipTo === row.purchaseShipTo,
      }),
    },
  }));
}
