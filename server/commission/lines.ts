import type { CommissionBase, CommissionRate, EarnedAt, InvoicedLine } from '@core/commission';
import { groupedBy, type Day } from '@core/kernel';
import type { Sql } from '../db';

/** What credit notes took off a line of an invoice `il`. */
const credited = (what: 'net' | 'cost') => `COALESCE((SELECT SUM(n.${what}) FROM credit_note_line n
  WHERE n.company_id = il.company_id AND n.invoice_line_id = il.id), 0)`;

/** What is left of a line net, in the company's currency; the invoice is `i`. */
export const LEFT_NET = `((il.net - ${credited('net')}) * i.rate)`;

/** What is left of what it cost; the shipment line is `sl`. */
const LEFT_COST = `(COALESCE(sl.cost * il.quantity / sl.quantity, 0) - ${credited('cost')})`;

export const LEFT_MARGIN = `(${LEFT_NET} - ${LEFT_COST})`;

/** Set off against what was credited of the invoice itself: that is no payment. The open item is `oi`. */
const OWN_SET_OFF = `COALESCE((SELECT SUM(f.amount) FROM set_off f
  JOIN open_item ci ON ci.company_id = f.company_id AND ci.id = f.credit_item_id
  JOIN credit_note cn ON cn.company_id = ci.company_id AND cn.id = ci.credit_note_id
 WHERE f.company_id = oi.company_id AND f.invoice_item_id = oi.id AND cn.customer_invoice_id = i.id), 0)`;

const CREDITED_TOTAL = `COALESCE((SELECT SUM(cn.total) FROM credit_note cn
  WHERE cn.company_id = i.company_id AND cn.customer_invoice_id = i.id), 0)`;

/** How much of what is owed for an invoice is paid, from 0 to 1. */
export const PAID = `LEAST(1, GREATEST(0, COALESCE((oi.settled - ${OWN_SET_OFF}) / NULLIF(oi.amount - ${CREDITED_TOTAL}, 0), 1)))`;

/** All that a line `il` of an invoice `i` is reckoned of. */
export const RECKONED_OF = `JOIN sales_order_line ol ON ol.company_id = il.company_id AND ol.id = il.order_line_id
  LEFT JOIN shipment_line sl ON sl.company_id = il.company_id AND sl.id = il.shipment_line_id
  LEFT JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id`;

/** Lines of invoices as they stand, with whose commission they are and what was earned of them before. */
export async function invoicedLines(
  sql: Sql,
  companyId: number,
  invoiceIds: readonly number[],
): Promise<InvoicedLine[]> {
  if (invoiceIds.length === 0) return [];
  const rows = await sql.rows<Omit<InvoicedLine, 'shares' | 'before'> & { orderId: number }>(
    `SELECT il.id, i.invoice_date AS invoice_day, c.price_group_id, t.item_group_id, ROUND(${LEFT_NET}, 4) AS net, ROUND(${LEFT_MARGIN}, 4) AS margin,
            ROUND(${PAID}, 8) AS paid, ol.order_id
       FROM customer_invoice i
       JOIN customer_invoice_line il ON il.company_id = i.company_id AND il.invoice_id = i.id
       ${RECKONED_OF}
       JOIN customer c ON c.company_id = i.company_id AND c.id = i.customer_id
       JOIN item t ON t.company_id = ol.company_id AND t.id = ol.item_id
      WHERE i.company_id = ? AND i.id IN (?) ORDER BY il.id`,
    [companyId, invoiceIds],
  );
  const [shares, before] = await Promise.all([
    sql.rows<{ orderId: number; personId: number; perCent: string }>(
      'SELECT order_id, person_id, per_cent FROM order_commission WHERE company_id = ? AND order_id IN (?) ORDER BY person_id',
      [companyId, [...new Set(rows.map(({ orderId }) => orderId))]],
    ),
    sql.rows<{
      lineId: number;
      personId: number;
      perCent: string;
      of: CommissionBase;
      at: EarnedAt;
      amount: string;
    }>(
      `SELECT invoice_line_id AS line_id, person_id, per_cent, base AS \`of\`, earned_at AS at, amount FROM commission_earning
        WHERE company_id = ? AND invoice_line_id IN (?) ORDER BY id`,
      [companyId, rows.map(({ id }) => id)],
    ),
  ]);
  const sharesOf = groupedBy(shares, ({ orderId }) => orderId);
  const beforeOf = groupedBy(before, ({ lineId }) => lineId);
  return rows.map(({ orderId, ...row }) => ({
    ...row,
    shares: sharesOf.get(orderId) ?? [],
    before: beforeOf.get(row.id) ?? [],
  }));
}

export function ratesOf(sql: Sql, companyId: number): Promise<CommissionRate[]> {
  return sql.rows<CommissionRate & { firstDay: Day | null }>(
    `SELECT id, person_id, price_group_id, item_group_id, per_cent, base AS \`of\`, earned_at AS at, first_day, last_day
       FROM commission_rate WHERE company_id = ? ORDER BY id`,
    [companyId],
  );
}
