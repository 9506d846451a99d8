import type { DocumentKind, DocumentRef } from '@core/kernel';
import type { Sql } from '../db/database';
import { plain } from '../db/mapping';

export interface RelatedDocument {
  document: DocumentRef;
  day: string;
  note: string;
  amount: string | null;
}

const PURCHASES = `SELECT DISTINCT 'PO' AS kind, p.id, p.number, p.order_date AS day, v.name AS note, p.net AS amount
   FROM sales_order o
   JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
   JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
   JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
   JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
   JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id`;

const RECEIPTS = `SELECT DISTINCT 'RC', r.id, r.number, r.posted_on, CONCAT('from ', v.name), r.cost
   FROM sales_order o
   JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
   JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
   JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
   JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
   JOIN vendor v ON v.company_id = r.company_id AND v.id = r.vendor_id`;

const VENDOR_INVOICES = `SELECT DISTINCT 'VI', i.id, i.number, i.invoice_date, CONCAT(v.name, ' ', i.vendor_number), i.total
   FROM sales_order o
   JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
   JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
   JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
   JOIN vendor_invoice_line il ON il.company_id = rl.company_id AND il.receipt_line_id = rl.id
   JOIN vendor_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
   JOIN vendor v ON v.company_id = i.company_id AND v.id = i.vendor_id`;

/** Orders with a line that an agreement prices. */
const UNDER_AGREEMENT = `o.id IN (SELECT ol.order_id FROM agreement_line al
   JOIN sales_order_line ol ON ol.company_id = al.company_id AND ol.agreement_line_id = al.id
  WHERE al.company_id = o.company_id AND al.agreement_id = ?)`;

/** Purchases with a line that a buying agreement prices. */
const BOUGHT_UNDER = `p.id IN (SELECT pol.purchase_order_id FROM agreement_line al
   JOIN purchase_order_line pol ON pol.company_id = al.company_id AND pol.agreement_line_id = al.id
  WHERE al.company_id = p.company_id AND al.agreement_id = ?)`;

/** Every document that hangs on one order, newest last. */
export function documentsOfOrder(sql: Sql, companyId: number, id: number): Promise<RelatedDocument[]> {
  return documentsOfOrders(sql, companyId, 'o.id = ?', id);
}

/** Every document that came from an agreement, newest last. */
export async function documentsOfAgreement(
  sql: Sql,
  companyId: number,
  id: number,
  side: 'selling' | 'buying',
): Promise<RelatedDocument[]> {
  if (side === 'selling') return documentsOfOrders(sql, companyId, UNDER_AGREEMENT, id, AGREEMENTS_OWN);
  return documentsOfPurchases(sql, companyId, BOUGHT_UNDER, id);
}

/** What hangs on an agreement itself: money taken ahead, rebates settled, shortfalls charged. */
const AGREEMENTS_OWN = [
  `SELECT 'PP', x.id, x.number, x.taken_on, 'paid ahead', x.amount FROM prepayment x WHERE x.company_id = ? AND x.agreement_id = ?`,
  `SELECT 'CN', x.id, x.number, x.credit_date, 'rebate settled', x.total FROM credit_note x WHERE x.company_id = ? AND x.agreement_id = ?`,
  `SELECT 'CI', x.id, x.number, x.invoice_date, 'shortfall charged', x.total FROM customer_invoice x WHERE x.company_id = ? AND x.agreement_id = ?`,
];

/** Every document that hangs on the orders `where` picks (alias `o`), newest last. Each branch walks indexes only. */
async function documentsOfOrders(
  sql: Sql,
  companyId: number,
  where: string,
  id: number,
  more: readonly string[] = [],
): Promise<RelatedDocument[]> {
  const on = `WHERE o.company_id = ? AND ${where}`;
  const branches = [
    `SELECT 'SO' AS kind, o.id, o.number, o.order_date AS day, CONCAT(o.state, IF(o.customer_reference = '', '', CONCAT(', ', o.customer_reference))) AS note, o.net AS amount FROM sales_order o ${on}`,
    `${PURCHASES} ${on}`,
    `${RECEIPTS} ${on}`,
    `SELECT 'SH', s.id, s.number, s.posted_on, 'to the customer', s.cost FROM sales_order o
       JOIN shipment s ON s.company_id = o.company_id AND s.order_id = o.id ${on}`,
    `SELECT 'CI', i.id, i.number, i.invoice_date, CONCAT('due ', DATE_FORMAT(i.due_date, '%a %e %b %Y')), i.total FROM sales_order o
       JOIN customer_invoice i ON i.company_id = o.company_id AND i.order_id = o.id ${on}`,
    `${VENDOR_INVOICES} ${on}`,
    `SELECT 'CN', n.id, n.number, n.credit_date, n.reason, n.total FROM sales_order o
       JOIN credit_note n ON n.company_id = o.company_id AND n.order_id = o.id ${on}`,
    ...more,
  ];
  return union(sql, branches, companyId, id);
}

/** Every document that hangs on one purchase order, newest last. */
export async function documentsOfPurchase(sql: Sql, companyId: number, id: number): Promise<RelatedDocument[]> {
  const documents = await documentsOfPurchases(sql, companyId, 'p.id = ?', id);
  return documents.filter(({ document }) => document.kind !== 'PO');
}

async function documentsOfPurchases(
  sql: Sql,
  companyId: number,
  where: string,
  id: number,
): Promise<RelatedDocument[]> {
  const on = `WHERE p.company_id = ? AND ${where}`;
  const branches = [
    `SELECT 'PO' AS kind, p.id, p.number, p.order_date AS day, p.state AS note, p.net AS amount FROM purchase_order p ${on}`,
    `SELECT DISTINCT 'SO' AS kind, o.id, o.number, o.order_date AS day, c.name AS note, o.net AS amount
       FROM purchase_order p
       JOIN purchase_order_line pl ON pl.company_id = p.company_id AND pl.purchase_order_id = p.id
       JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id ${on}`,
    `SELECT 'RC', r.id, r.number, r.posted_on, 'received', r.cost FROM purchase_order p
       JOIN receipt r ON r.company_id = p.company_id AND r.purchase_order_id = p.id ${on}`,
    `SELECT DISTINCT 'SH', s.id, s.number, s.posted_on, 'to the customer', s.cost FROM purchase_order p
       JOIN receipt r ON r.company_id = p.company_id AND r.purchase_order_id = p.id
       JOIN receipt_line rl ON rl.company_id = r.company_id AND rl.receipt_id = r.id
       JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id ${on}`,
    `SELECT 'VI', i.id, i.number, i.invoice_date, i.vendor_number, i.total FROM purchase_order p
       JOIN vendor_invoice i ON i.company_id = p.company_id AND i.purchase_order_id = p.id ${on}`,
  ];
  return union(sql, branches, companyId, id);
}

async function union(sql: Sql, branches: readonly string[], companyId: number, id: number): Promise<RelatedDocument[]> {
  const rows = await sql.rows<{
    kind: DocumentKind;
    id: number;
    number: string;
    day: string;
    note: string;
    amount: string;
  }>(
    `SELECT * FROM (${branches.join(' UNION ALL ')}) d ORDER BY day, FIELD(kind, 'PP', 'SO', 'PO', 'RC', 'SH', 'CI', 'VI', 'CN'), id`,
    branches.flatMap(() => [companyId, id]),
  );
  return rows.map((row) => ({
    document: { kind: row.kind, id: row.id, number: row.number },
    day: row.day,
    note: row.note,
    amount: plain(row.amount),
  }));
}
