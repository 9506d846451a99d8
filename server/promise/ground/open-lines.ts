import type { Day } from '@core/kernel';
import { wayOf, type Method, type PromisedLine } from '@core/promise';
import type { Sql } from '../../db';
import { ASKED_ANEW, OPEN_UNHELD, pointBy } from './moves';

/** What of an order line `l`, order `o` and item `i` is asked anew, in this order. */
const LINE = `l.id, ${pointBy('l.item_id', 'l.location_id')} AS item_id, ${OPEN_UNHELD} AS quantity, COALESCE(l.asked_date, l.ship_date) AS asked, l.ship_date,
    l.promised_by, i.promise_method, o.order_date`;

/** All open lines that go out of our stock. */
export const OPEN_LINES = `SELECT ${LINE}
   FROM sales_order o FORCE INDEX (sales_order_state)
   JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id AND l.owed
   JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
  WHERE o.company_id = ? AND o.state = 'confirmed' AND ${ASKED_ANEW}
 HAVING quantity > 0 ORDER BY l.id`;

/** Open lines among those named, each by the way it was promised or its item is. // T9 T10 */
export async function openLines(sql: Sql, companyId: number, lineIds: readonly number[]): Promise<PromisedLine[]> {
  const rows = await sql.rows<{
    id: number;
    itemId: number;
    quantity: string;
    asked: Day;
    shipDate: Day;
    promisedBy: PromisedLine['way'] | null;
    promiseMethod: Method;
    orderDate: Day;
  }>(
    `SELECT ${LINE} FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.id IN (?) AND l.owed AND o.state = 'confirmed' AND ${ASKED_ANEW}
     HAVING quantity > 0 ORDER BY l.id`,
    [companyId, lineIds],
  );
  return rows.map((row) => ({
    lineId: row.id,
    itemId: row.itemId,
    quantity: row.quantity,
    asked: row.asked,
    promised: row.shipDate,
    way: row.promisedBy ?? wayOf(row.promiseMethod)!,
    // Every customer ranks alike so far.
    priority: 1,
    ordered: row.orderDate,
  }));
}
