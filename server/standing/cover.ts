import type * as z from 'zod';
import { addDays, dec, groupedBy, sum, type Day } from '@core/kernel';
import type * as contract from '@api/standing';
import { ownCurrency } from '../catalogue';
import type { Sql } from '../db';
import { standingDemands } from './demands';

const YEAR_DAYS = 365;

/**
 * How much of a customer's year their standing orders cover: what these bring within a year against what was ordered in the
 * year that is over, both at today's list prices. Cost: the dates of all active ones. // S7
 */
export async function standingCover(
  sql: Sql,
  companyId: number,
  workDate: Day,
): Promise<z.infer<typeof contract.standingCover.out>> {
  const named = await sql.rows<{ itemId: number; listPrice: string }>(
    `SELECT DISTINCT l.item_id, i.list_price FROM standing_order s
       JOIN standing_term t ON t.company_id = s.company_id AND t.standing_order_id = s.id
       JOIN standing_line l ON l.company_id = t.company_id AND l.term_id = t.id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE s.company_id = ? AND s.state = 'active'`,
    [companyId],
  );
  const priceOf = new Map(named.map(({ itemId, listPrice }) => [itemId, listPrice]));
  const until = addDays(workDate, YEAR_DAYS);
  const demands = (await standingDemands(sql, companyId, workDate, [...priceOf.keys()], 'all')).filter(
    ({ day }) => day <= until,
  );
  const byCustomer = groupedBy(demands, ({ customerId }) => customerId);
  const ids = [...byCustomer.keys()];
  const [customers, ordered, [company]] = await Promise.all([
    sql.rows<{ id: number; number: string; name: string }>(
      'SELECT id, number, name FROM customer WHERE company_id = ? AND id IN (?)',
      [companyId, ids],
    ),
    sql.rows<{ customerId: number; value: string }>(
      `SELECT o.customer_id, ROUND(SUM((l.quantity - l.cancelled) * i.list_price), 2) AS value
         FROM sales_order o FORCE INDEX (sales_order_customer)
         JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
         JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE o.company_id = ? AND o.customer_id IN (?) AND o.state IN ('confirmed', 'closed') AND o.order_date > ?
        GROUP BY o.customer_id`,
      [companyId, ids, addDays(workDate, -YEAR_DAYS)],
    ),
    sql.rows<{ currency: string }>(`SELECT ${ownCurrency('?')} AS currency`, [companyId]),
  ]);
  const rows = customers.map((customer) => {
    const own = byCustomer.get(customer.id)!;
    const standing = sum(own.map(({ itemId, quantity }) => dec(quantity).times(priceOf.get(itemId)!)));
    const year = ordered.find(({ customerId }) => customerId === customer.id)?.value ?? '0';
    return { customer, standing: standing.round(2).toFixed(), ordered: year };
  });
  return {
    currency: company!.currency,
    rows: rows.sort((a, b) => dec(b.standing).cmp(a.standing) || a.customer.id - b.customer.id),
  };
}
