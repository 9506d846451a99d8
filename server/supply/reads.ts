import type * as z from 'zod';
import type { Route } from '@core/catalogue';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/supply';
import { PAGE_ROWS, type Bound, type Sql } from '../db';
import { ADDRESS_COLUMNS, addressOf, type AddressColumns } from '../parties';
import { offersFor, proposalFor, supplyDaysOf } from './store';

type Row = z.infer<typeof contract.BenchRow>;

/** Lines on the bench, soonest ship date first; of one order where asked. */
export async function listBench(
  sql: Sql,
  companyId: number,
  workDate: Day,
  query: { orderId?: number; cursor?: string; rows?: number },
): Promise<{ rows: Row[]; next: string | null }> {
  const where = ['l.company_id = ?', 'l.on_bench = TRUE'];
  const values: Bound[] = [companyId];
  if (query.orderId) {
    where.push('l.order_id = ?');
    values.push(query.orderId);
  }
  const after = /^(\d{4}-\d{2}-\d{2})\|(\d{1,10})$/.exec(query.cursor ?? '');
  if (after) {
    where.push('(l.ship_date > ? OR (l.ship_date = ? AND l.id > ?))');
    values.push(after[1]!, after[1]!, Number(after[2]));
  }
  // The key is named: left to itself the optimizer may read every order of the company first and sort.
  const key = query.orderId ? 'sales_order_line_no' : 'sales_order_line_bench';
  const most = query.rows ?? PAGE_ROWS;
  const rows = await sql.rows<
    AddressColumns & {
      id: number;
      lineNo: number;
      orderId: number;
      orderNumber: string;
      customerId: number;
      customerNumber: string;
      customerName: string;
      itemId: number;
      itemNumber: string;
      itemName: string;
      unit: string;
      quantity: string;
      cancelled: string;
      tied: string;
      shipDate: Day;
      route: Route;
      currency: string;
    }
  >(
    `SELECT STRAIGHT_JOIN l.id, l.line_no, l.order_id, o.number AS order_number, o.customer_id, c.number AS customer_number,
            c.name AS customer_name, l.item_id, i.number AS item_number, i.name AS item_name, i.unit,
            l.quantity, l.cancelled, l.tied, l.ship_date, l.route, o.currency, ${ADDRESS_COLUMNS}
       FROM sales_order_line l FORCE INDEX (${key})
       JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c FORCE INDEX (PRIMARY) ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = l.company_id AND i.id = l.item_id
       JOIN ship_to st FORCE INDEX (PRIMARY) ON st.company_id = o.company_id AND st.id = o.ship_to_id
      WHERE ${where.join(' AND ')} ORDER BY l.ship_date, l.id LIMIT ?`,
    [...values, most + 1],
  );
  const shown = rows.slice(0, most);
  const offers = await offersFor(
    sql,
    companyId,
    shown.map((row) => row.itemId),
    workDate,
  );
  const vendorIds = [...offers.values()].flatMap((all) => all.map(({ vendorId }) => vendorId));
  const days = await supplyDaysOf(sql, companyId, workDate, [...new Set(vendorIds)]);
  const last = shown.at(-1);
  return {
    rows: shown.map((row) => ({
      orderLineId: row.id,
      lineNo: row.lineNo,
      order: { kind: 'SO', id: row.orderId, number: row.orderNumber },
      customer: { id: row.customerId, number: row.customerNumber, name: row.customerName },
      shipTo: addressOf(row)!,
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      quantity: dec(row.quantity).minus(row.cancelled).minus(row.tied).toFixed(),
      route: row.route,
      shipDate: row.shipDate,
      currency: row.currency,
      offers: offers.get(row.itemId) ?? [],
      proposal: proposalFor(offers.get(row.itemId) ?? [], row, days),
    })),
    next: rows.length > most && last ? `${last.shipDate}|${last.id}` : null,
  };
}
