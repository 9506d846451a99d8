import type { CustomerStanding } from '@core/orders';
import { orNotFound } from '../acts';
import { takeTurn, type Sql, type Columns } from '../db';
import type { Customer, Permit } from '../parties/tables';

/**
 * How a customer stands, but for one order of theirs: what they owe, what is confirmed and not invoiced yet, their
 * permits. Shown to people it is all of that; what is typed or done asks only what their limit asks: every open order and
 * invoice of theirs is not summed where they have none. What is done on credit takes its turn, so that two orders are not
 * confirmed on the same. // S4 S5
 * Served by open_item's customer key and sales_order_customer_state.
 */
export async function standingOf(
  sql: Sql,
  companyId: number,
  customerId: number,
  exceptOrderId: number | null,
  as: 'shown' | 'typed' | 'done',
): Promise<CustomerStanding> {
  const [row] = await sql.rows<Columns<Customer, 'name currency referenceRequired creditLimit'>>(
    'SELECT name, currency, reference_required, credit_limit FROM customer WHERE company_id = ? AND id = ?',
    [companyId, customerId],
  );
  const customer = orNotFound(row, 'This customer');
  if (as === 'done' && customer.creditLimit !== null) {
    await takeTurn(sql, 'customer', [companyId, customerId]);
  }
  const asked = as === 'shown' || customer.creditLimit !== null;
  const [[owed], [ordered], permits, [contact]] = await Promise.all([
    asked
      ? sql.rows<{ sum: string | null }>(
          'SELECT SUM(amount - settled) AS sum FROM open_item WHERE company_id = ? AND customer_id = ?',
          [companyId, customerId],
        )
      : [],
    asked
      ? sql.rows<{ sum: string | null }>(
          `SELECT ROUND(SUM(l.amount * (1 - l.invoiced / (l.quantity - l.cancelled)) * (1 + l.tax_rate / 100)), 2) AS sum
         FROM sales_order o FORCE INDEX (sales_order_customer_state)
         JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id AND l.cancelled < l.quantity
        WHERE o.company_id = ? AND o.customer_id = ? AND o.state = 'confirmed' AND o.id <> ?`,
          [companyId, customerId, exceptOrderId ?? 0],
        )
      : [],
    sql.rows<Columns<Permit, 'id permitTypeId firstDay lastDay'>>(
      `SELECT id, permit_type_id, first_day, last_day FROM permit WHERE company_id = ? AND customer_id = ?
          AND (contact_id IS NULL OR contact_id = (SELECT o.contact_id FROM sales_order o WHERE o.company_id = permit.company_id AND o.id = ?))`,
      [companyId, customerId, exceptOrderId ?? 0],
    ),
    sql.rows<{ name: string }>(
      `SELECT c.name FROM sales_order o JOIN contact c ON c.company_id = o.company_id AND c.id = o.contact_id
        WHERE o.company_id = ? AND o.id = ?`,
      [companyId, exceptOrderId ?? 0],
    ),
  ]);
  return {
    ...customer,
    balance: owed?.sum ?? '0',
    onOrder: ordered?.sum ?? '0',
    permitsOf: contact?.name ?? customer.name,
    permits: permits.map((each) => ({
      id: each.id,
      typeId: each.permitTypeId,
      firstDay: each.firstDay,
      lastDay: each.lastDay,
    })),
  };
}
