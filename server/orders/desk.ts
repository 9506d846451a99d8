import type * as z from 'zod';
import { addDays, UNDER_WAY, type Day } from '@core/kernel';
import { proposalOf } from '@core/orders';
import type * as contract from '@api/desk';
import { itemChoices } from '../catalogue';
import { likeOf, type Sql, type Columns } from '../db';
import { orNotFound } from '../acts';
import { standingOf } from './standing';
import type { SalesOrder } from './tables';

type Basket = z.infer<typeof contract.usualBasket.out>;

/** Open orders that are shown, and rows of a basket or shelf at most. */
const SHOWN = 5;
const MOST = 120;

/** What is known of a customer while their order is typed. // S4 S5 */
export async function customerDesk(
  sql: Sql,
  companyId: number,
  customerId: number,
): Promise<z.infer<typeof contract.CustomerDesk>> {
  const [found] = await sql.rows<{ currency: string; terms: string }>(
    `SELECT c.currency, pt.name AS terms FROM customer c
       JOIN payment_terms pt ON pt.company_id = c.company_id AND pt.id = c.payment_terms_id
      WHERE c.company_id = ? AND c.id = ?`,
    [companyId, customerId],
  );
  const { currency, terms } = orNotFound(found, 'This customer');
  const [standing, open, [count], permits] = await Promise.all([
    standingOf(sql, companyId, customerId, null, 'shown'),
    sql.rows<Columns<SalesOrder, 'id number firstShipDate net'> & { state: string }>(
      `SELECT id, number, state, first_ship_date, net FROM sales_order FORCE INDEX (sales_order_customer_state)
        WHERE company_id = ? AND customer_id = ? AND state IN ('draft', 'confirmed')
        ORDER BY first_ship_date, id LIMIT ?`,
      [companyId, customerId, SHOWN],
    ),
    sql.rows<{ count: number }>(
      `SELECT COUNT(*) AS count FROM sales_order FORCE INDEX (sales_order_customer_state)
        WHERE company_id = ? AND customer_id = ? AND state IN ('draft', 'confirmed')`,
      [companyId, customerId],
    ),
    sql.rows<{ name: string; number: string; lastDay: Day }>(
      `SELECT t.name, p.number, p.last_day FROM permit p
         JOIN permit_type t ON t.company_id = p.company_id AND t.id = p.permit_type_id
        WHERE p.company_id = ? AND p.customer_id = ? ORDER BY p.last_day DESC`,
      [companyId, customerId],
    ),
  ]);
  return {
    currency,
    terms,
    balance: standing.balance,
    onOrder: standing.onOrder,
    creditLimit: standing.creditLimit,
    open: open.map((row) => ({
      document: { kind: 'SO', id: row.id, number: row.number },
      state: row.state,
      firstShipDate: row.firstShipDate,
      net: row.net,
    })),
    openCount: count!.count,
    permits: permits,
  };
}

/** Each side's lines with their document: what was bought of whom, newest last by line id. */
const BOUGHT = {
  customer: {
    lines: `SELECT l.item_id, l.id, o.id AS document_id, o.order_date, l.quantity, l.unit_price, l.unit, l.unit_factor,
              GREATEST(l.quantity - l.cancelled - l.shipped, 0) AS open
       FROM sales_order o FORCE INDEX (sales_order_customer)
       JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
      WHERE o.company_id = ? AND o.customer_id = ? AND o.state IN ('confirmed', 'closed') AND o.order_date >= ?`,
  },
  vendor: {
    lines: `SELECT l.item_id, l.id, o.id AS document_id, o.order_date, l.quantity, l.unit_price, '' AS unit, '1' AS unit_factor,
              GREATEST(l.quantity - l.received, 0) AS open
       FROM purchase_order o FORCE INDEX (purchase_order_vendor)
       JOIN purchase_order_line l ON l.company_id = o.company_id AND l.purchase_order_id = o.id
      WHERE o.company_id = ? AND o.vendor_id = ? AND o.state IN ('placed', 'closed') AND o.order_date >= ?`,
  },
} as const;

/**
 * What a party bought (or brought) over so many days up to the work date, most often first. The cost is that of the
 * party's own documents: they are found by its key.
 */
export async function basketOf(
  sql: Sql,
  companyId: number,
  side: keyof typeof BOUGHT,
  partyId: number,
  days: number,
  workDate: Day,
): Promise<Basket> {
  const rows = await sql.rows<{
    itemId: number;
    times: number;
    quantity: string;
    unitPrice: string;
    unit: string;
    unitFactor: string;
    orderDate: Day;
    firstDay: Day;
    whole: string;
    open: string;
  }>(
    `SELECT b.item_id, b.times, b.first_day, b.whole, b.coming AS open, b.quantity, b.unit_price, b.unit, b.unit_factor, b.order_date
       FROM (SELECT x.*, COUNT(*) OVER (PARTITION BY item_id) AS times, MIN(order_date) OVER (PARTITION BY item_id) AS first_day,
                    SUM(quantity) OVER (PARTITION BY item_id) AS whole, SUM(open) OVER (PARTITION BY item_id) AS coming,
                    ROW_NUMBER() OVER (PARTITION BY item_id ORDER BY order_date DESC, id DESC) AS place
               FROM (${BOUGHT[side].lines}) x) b
      WHERE b.place = 1 ORDER BY b.times DESC, b.order_date DESC, b.item_id LIMIT ?`,
    [companyId, partyId, addDays(workDate, -days), MOST],
  );
  const items = await itemChoices(
    sql,
    companyId,
    rows.map((row) => row.itemId),
    side === 'customer' ? partyId : 0,
  );
  return {
    rows: rows.flatMap((row) => {
      const found = items.get(row.itemId);
      return found
        ? [
            {
              ...found,
              times: row.times,
              lastQuantity: row.quantity,
              unit: row.unit || found.item.unit,
              factor: row.unitFactor,
              lastPrice: row.unitPrice,
              lastDay: row.orderDate,
              open: row.open,
              again: proposalOf(
                {
                  times: row.times,
                  firstDay: row.firstDay,
                  lastDay: row.orderDate,
                  quantity: row.whole,
                  lastQuantity: row.quantity,
                  open: row.open,
                },
                workDate,
              ),
            },
          ]
        : [];
    }),
  };
}

/** Items on hand somewhere and held for nobody, by any part of number or name, and group. */
export async function shelf(
  sql: Sql,
  companyId: number,
  query: z.infer<typeof contract.shelf.query>,
): Promise<z.infer<typeof contract.shelf.out>> {
  const like = likeOf(query.q);
  const rows = await sql.rows<{
    id: number;
    groupName: string | null;
    free: string;
    locationId: number;
    code: string;
    location: string;
  }>(
    `SELECT i.id, g.name AS group_name, s.on_hand - s.reserved AS free, s.location_id, lo.code, lo.name AS location FROM stock s
       JOIN location lo ON lo.company_id = s.company_id AND lo.id = s.location_id
       JOIN item i ON i.company_id = s.company_id AND i.id = s.item_id
       LEFT JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id
      WHERE s.company_id = ? AND s.on_hand > s.reserved AND s.location_id <> ${UNDER_WAY} AND (i.number LIKE ? OR i.name LIKE ?)
        ${query.groupId ? 'AND i.item_group_id = ?' : ''} ORDER BY i.number, s.location_id LIMIT ?`,
    [companyId, like, like, ...(query.groupId ? [query.groupId] : []), MOST + 1],
  );
  const shown = rows.slice(0, MOST);
  const items = await itemChoices(
    sql,
    companyId,
    shown.map((row) => row.id),
    query.customerId ?? 0,
  );
  return {
    rows: shown.flatMap((row) => {
      const found = items.get(row.id);
      const location = { id: row.locationId, code: row.code, name: row.location };
      return found ? [{ item: found.item, location, free: row.free, group: row.groupName ?? '' }] : [];
    }),
    more: rows.length > MOST,
  };
}
