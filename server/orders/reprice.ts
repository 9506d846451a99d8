import { dec, type Day } from '@core/kernel';
import { repriceAt, type Repriced } from '@core/orders';
import type { Doer } from '../acts';
import type { Sql, Statement, Columns } from '../db';
import { chosenFor } from '../catalogue';
import { orderPricing } from '../pricing';
import { pricedItems } from './store';
import type { SalesOrderLine } from './tables';

type Row = Columns<SalesOrderLine, 'id orderId itemId discount unitPrice amount'> & {
  customerId: number;
  shipToId: number | null;
  currency: string;
  quantity: string;
  unit: string;
};

/**
 * What lines of orders would cost on the day they ship, where their customer's terms say so: those of which nothing has
 * gone out, that neither an agreement nor a promotion prices and nobody typed a price for. Lines whose price stays are left out. // R3
 * One read for orders of nobody with such terms.
 */
export async function shipDatePrices(sql: Sql, doer: Doer, orderIds: readonly number[], day: Day): Promise<Repriced[]> {
  const { companyId } = doer;
  if (orderIds.length === 0) return [];
  const rows = await sql.rows<Row>(
    `SELECT l.id, l.order_id, o.customer_id, o.ship_to_id, o.currency, l.item_id, l.quantity - l.cancelled AS quantity,
            IF(l.unit = '', i.unit, l.unit) AS unit, l.discount, l.unit_price, l.amount
       FROM sales_order o
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id AND c.price_of = 'ship'
       JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE o.company_id = ? AND o.id IN (?) AND l.agreement_line_id IS NULL AND l.typed_price IS NULL AND l.promotion_line_id IS NULL
        AND l.shipped = 0 AND l.invoiced = 0 AND l.quantity > l.cancelled`,
    [companyId, [...new Set(orderIds)]],
  );
  const chosen = await chosenFor(
    sql,
    companyId,
    rows.map(({ id }) => id),
  );
  const customers = [...new Set(rows.map((row) => row.customerId))];
  const found: Repriced[] = [];
  for (const customerId of customers) {
    const own = rows.filter((row) => row.customerId === customerId);
    const pricing = await orderPricing(sql, doer, customerId, day);
    const items = await pricedItems(
      sql,
      companyId,
      customerId,
      own.map((row) => row.itemId),
    );
    for (const row of own) {
      const repriced = repriceAt(
        {
          id: row.id,
          item: items.get(row.itemId)!,
          quantity: row.quantity,
          unit: row.unit,
          discount: row.discount,
          optionIds: chosen.get(row.id) ?? [],
          shipToId: row.shipToId,
          currency: row.currency,
          unitPrice: row.unitPrice,
          amount: row.amount,
        },
        pricing,
        day,
      );
      if (repriced) found.push(repriced);
    }
  }
  return found;
}

/** Writes prices found at a shipment, with what their lines came to when they were ordered. // R3 */
export function repriceStatements(companyId: number, repriced: readonly Repriced[], day: Day): Statement[] {
  return repriced.flatMap((line) => [
    {
      sql: `UPDATE sales_order_line SET unit_price = ?, list_price = ?, amount = ?, build_up = ?, priced_on = ?,
                   ordered_amount = COALESCE(ordered_amount, ?) WHERE company_id = ? AND id = ?`,
      values: [
        line.unitPrice,
        line.listPrice,
        line.amount,
        JSON.stringify(line.steps),
        day,
        line.was.amount,
        companyId,
        line.orderLineId,
      ],
    },
    {
      sql: `UPDATE sales_order o JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
               SET o.net = o.net + ? WHERE l.company_id = ? AND l.id = ?`,
      values: [dec(line.amount).minus(line.was.amount).toFixed(), companyId, line.orderLineId],
    },
  ]);
}
