import type * as z from 'zod';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/catalogue';
import type { Sql } from '../db';
import { partyOf, type PartyColumns } from '../parties';

/** Newest lines of an item that are looked through, and rows of each band. */
const NEWEST = 400;
const ROWS = 8;

/**
 * Of an item: who has it on order, who brings it, who bought it, and what it goes into. It looks through the newest
 * lines of the item only, so that it costs the same in the tenth year as in the first.
 */
export async function itemWork(
  sql: Sql,
  companyId: number,
  itemId: number,
  workDate: Day,
): Promise<z.infer<typeof contract.ItemWork>> {
  const sold = await sql.rows<
    PartyColumns & {
      orderId: number;
      number: string;
      state: string;
      currency: string;
      orderDate: Day;
      lineNo: number;
      quantity: string;
      open: string;
      shipDate: Day;
      unitPrice: string;
    }
  >(
    `SELECT STRAIGHT_JOIN o.id AS order_id, o.number, o.state, o.currency, o.order_date, l.line_no,
            l.quantity - l.cancelled AS quantity, l.quantity - l.cancelled - l.shipped AS open, l.ship_date, l.unit_price,
            c.id AS party_id, c.number AS party_number, c.name AS party_name
       FROM (SELECT id FROM sales_order_line FORCE INDEX (sales_order_line_item)
              WHERE company_id = ? AND item_id = ? ORDER BY id DESC LIMIT ?) n
       JOIN sales_order_line l ON l.company_id = ? AND l.id = n.id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE o.state IN ('confirmed', 'closed')`,
    [companyId, itemId, NEWEST, companyId],
  );
  const bought = await sql.rows<
    PartyColumns & { purchaseId: number; number: string; open: string; dueDate: Day; straight: number }
  >(
    `SELECT STRAIGHT_JOIN p.id AS purchase_id, p.number, l.quantity - l.received AS open, l.due_date,
            p.ship_to_id IS NOT NULL AS straight, v.id AS party_id, v.number AS party_number, v.name AS party_name
       FROM (SELECT id FROM purchase_order_line FORCE INDEX (purchase_order_line_item)
              WHERE company_id = ? AND item_id = ? ORDER BY id DESC LIMIT ?) n
       JOIN purchase_order_line l ON l.company_id = ? AND l.id = n.id
       JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE p.state = 'placed' AND l.received < l.quantity ORDER BY l.due_date, l.id LIMIT ?`,
    [companyId, itemId, NEWEST, companyId, ROWS],
  );
  const usedIn = await sql.rows<{ id: number; number: string; name: string; unit: string; quantity: string }>(
    `SELECT i.id, i.number, i.name, i.unit, b.quantity FROM bom_line b FORCE INDEX (bom_line_component)
       JOIN item i ON i.company_id = b.company_id AND i.id = b.item_id
      WHERE b.company_id = ? AND b.component_id = ? AND (b.first_day IS NULL OR b.first_day <= ?)
        AND (b.last_day IS NULL OR b.last_day >= ?) ORDER BY i.number LIMIT 50`,
    [companyId, itemId, workDate, workDate],
  );
  return {
    onOrder: sold
      .filter(({ state, open }) => state === 'confirmed' && dec(open).gt(0))
      .sort((a, b) => a.shipDate.localeCompare(b.shipDate) || a.orderId - b.orderId)
      .slice(0, ROWS)
      .map((row) => ({
        order: { kind: 'SO', id: row.orderId, number: row.number },
        lineNo: row.lineNo,
        customer: partyOf(row),
        open: row.open,
        shipDate: row.shipDate,
      })),
    coming: bought.map((row) => ({
      purchase: { kind: 'PO', id: row.purchaseId, number: row.number },
      vendor: partyOf(row),
      open: row.open,
      dueDate: row.dueDate,
      straight: Boolean(row.straight),
    })),
    buyers: buyersOf(sold),
    usedIn: usedIn.map(({ quantity, ...item }) => ({ item, quantity })),
  };
}

type Sold = PartyColumns & { orderDate: Day; orderId: number; quantity: string; unitPrice: string; currency: string };

/** Customers by how much they bought, with the last time and price. */
function buyersOf(sold: readonly Sold[]): z.infer<typeof contract.ItemWork>['buyers'] {
  const byCustomer = new Map<number, Sold[]>();
  for (const row of sold) byCustomer.set(row.partyId, [...(byCustomer.get(row.partyId) ?? []), row]);
  return [...byCustomer.values()]
    .map((rows) => {
      const last = rows.reduce((latest, row) =>
        row.orderDate > latest.orderDate || (row.orderDate === latest.orderDate && row.orderId > latest.orderId)
          ? row
          : latest,
      );
      return {
        customer: partyOf(last),
        times: new Set(rows.map(({ orderId }) => orderId)).size,
        quantity: rows.reduce((all, { quantity }) => all.plus(quantity), dec(0)).toFixed(),
        lastDay: last.orderDate,
        lastPrice: last.unitPrice,
        currency: last.currency,
      };
    })
    .sort((a, b) => dec(b.quantity).cmp(a.quantity) || a.customer.name.localeCompare(b.customer.name))
    .slice(0, ROWS);
}
