import type { DocumentKind, DocumentRef } from '@core/kernel';
import { ownCurrency } from '../catalogue';
import type { Sql } from '../db';

export interface RelatedDocument {
  document: DocumentRef;
  day: string;
  note: string;
  amount: string | null;
  currency: string;
}

// Each kind's documents are found by keys alone, in the order they are walked, and then what is told of them: an order of
// many lines names the same few over and over, and left to itself the database begins anywhere.

/** One order or purchase order, as what is asked about: its company and id. */
const ONE = '(SELECT ? AS company_id, ? AS id)';

/** Orders with a line that an agreement prices. */
const SOLD_UNDER = `(SELECT DISTINCT STRAIGHT_JOIN ol.company_id, ol.order_id AS id FROM agreement_line al FORCE INDEX (agreement_line_no)
   JOIN sales_order_line ol FORCE INDEX (sales_order_line_agreement) ON ol.company_id = al.company_id AND ol.agreement_line_id = al.id
  WHERE al.company_id = ? AND al.agreement_id = ?)`;

/** Purchases with a line that a buying agreement prices. */
const BOUGHT_UNDER = `(SELECT DISTINCT STRAIGHT_JOIN pol.company_id, pol.purchase_order_id AS id FROM agreement_line al FORCE INDEX (agreement_line_no)
   JOIN purchase_order_line pol FORCE INDEX (purchase_order_line_agreement) ON pol.company_id = al.company_id AND pol.agreement_line_id = al.id
  WHERE al.company_id = ? AND al.agreement_id = ?)`;

/** Every document that hangs on one order, newest last. */
export function documentsOfOrder(sql: Sql, companyId: number, id: number): Promise<RelatedDocument[]> {
  return union(sql, ofOrders(ONE), companyId, id);
}

/** Every document that came from an agreement, newest last. */
export function documentsOfAgreement(
  sql: Sql,
  companyId: number,
  id: number,
  side: 'selling' | 'buying',
): Promise<RelatedDocument[]> {
  const branches = side === 'selling' ? [...ofOrders(SOLD_UNDER), ...AGREEMENTS_OWN] : ofPurchases(BOUGHT_UNDER);
  return union(sql, branches, companyId, id);
}

/** Every document that hangs on one purchase order, newest last. */
export async function documentsOfPurchase(sql: Sql, companyId: number, id: number): Promise<RelatedDocument[]> {
  const documents = await union(sql, ofPurchases(ONE), companyId, id);
  return documents.filter(({ document }) => document.kind !== 'PO');
}

/** What hangs on an agreement itself: money taken ahead, rebates settled, shortfalls charged. */
const AGREEMENTS_OWN = [
  `SELECT 'PP', x.id, x.number, x.taken_on, 'paid ahead', x.amount, x.currency FROM prepayment x WHERE x.company_id = ? AND x.agreement_id = ?`,
  `SELECT 'CN', x.id, x.number, x.credit_date, 'rebate settled', x.total, x.currency FROM credit_note x WHERE x.company_id = ? AND x.agreement_id = ?`,
  `SELECT 'CI', x.id, x.number, x.invoice_date, 'shortfall charged', x.total, x.currency FROM customer_invoice x WHERE x.company_id = ? AND x.agreement_id = ?`,
];

type Party = 'customer' | 'vendor';

/** What is told of a document `d` and a party of it, `y`: its day, a note and its amount. */
type Details = [day: string, note: string, amount: string];

/** The documents of one kind that `ids` finds, as `id`, from `k`, what is asked about. */
function found(kind: DocumentKind, table: string, [day, note, amount]: Details, ids: string, party?: Party): string {
  const joined = `JOIN ${party} y FORCE INDEX (PRIMARY) ON y.company_id = d.company_id AND y.id = d.${party}_id`;
  // What goods cost is in the company's currency. // P8
  const currency = kind === 'RC' || kind === 'SH' ? ownCurrency('d.company_id') : 'd.currency';
  return `SELECT STRAIGHT_JOIN '${kind}' AS kind, d.id, d.number, ${day} AS day, ${note} AS note, ${amount} AS amount,
      ${currency} AS currency
    FROM (SELECT DISTINCT STRAIGHT_JOIN k.company_id, ${ids}) f
    JOIN ${table} d FORCE INDEX (PRIMARY) ON d.company_id = f.company_id AND d.id = f.id ${party ? joined : ''}`;
}

/** Those of a table that name what is asked about themselves, by the table's key for it. */
function own(k: string, table: string, of: 'order' | 'purchase'): string {
  const column = of === 'order' ? 'order_id' : 'purchase_order_id';
  return `x.id FROM ${k} k JOIN ${table} x FORCE INDEX (${table}_${of}) ON x.company_id = k.company_id AND x.${column} = k.id`;
}

/** The documents of the orders `k` gives. */
function ofOrders(k: string): string[] {
  const ties = `${k} k
    JOIN sales_order_line l FORCE INDEX (sales_order_line_no) ON l.company_id = k.company_id AND l.order_id = k.id
    JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = l.company_id AND t.order_line_id = l.id`;
  const received = `${ties}
    JOIN receipt_line rl FORCE INDEX (receipt_line_tie) ON rl.company_id = t.company_id AND rl.tie_id = t.id`;
  const bought = `pl.purchase_order_id AS id FROM ${ties}
    JOIN purchase_order_line pl FORCE INDEX (PRIMARY) ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id`;
  const invoiced = `il.invoice_id AS id FROM ${received}
    JOIN vendor_invoice_line il FORCE INDEX (vendor_invoice_line_receipt) ON il.company_id = rl.company_id AND il.receipt_line_id = rl.id`;
  // A shipment may carry goods of several orders. // S9
  const shipped = `sl.shipment_id AS id FROM ${k} k
    JOIN sales_order_line l FORCE INDEX (sales_order_line_no) ON l.company_id = k.company_id AND l.order_id = k.id
    JOIN shipment_line sl FORCE INDEX (shipment_line_order) ON sl.company_id = l.company_id AND sl.order_line_id = l.id`;
  // And so may an invoice, and what is credited of it.
  const invoicedLines = `${k} k
    JOIN sales_order_line l FORCE INDEX (sales_order_line_no) ON l.company_id = k.company_id AND l.order_id = k.id
    JOIN customer_invoice_line cl FORCE INDEX (customer_invoice_line_order) ON cl.company_id = l.company_id AND cl.order_line_id = l.id`;
  const charged = `cl.invoice_id AS id FROM ${invoicedLines}`;
  const credited = `nl.credit_note_id AS id FROM ${invoicedLines}
    JOIN credit_note_line nl FORCE INDEX (credit_note_line_invoice) ON nl.company_id = cl.company_id AND nl.invoice_line_id = cl.id`;
  const reference = "CONCAT(d.state, IF(d.customer_reference = '', '', CONCAT(', ', d.customer_reference)))";
  const due = "CONCAT('due ', DATE_FORMAT(d.due_date, '%a %e %b %Y'))";
  return [
    found('SO', 'sales_order', ['d.order_date', reference, 'd.net'], `k.id FROM ${k} k`),
    found('PO', 'purchase_order', ['d.order_date', 'y.name', 'd.net'], bought, 'vendor'),
    found(
      'RC',
      'receipt',
      ['d.posted_on', "CONCAT('from ', y.name)", 'd.cost'],
      `rl.receipt_id AS id FROM ${received}`,
      'vendor',
    ),
    found('SH', 'shipment', ['d.posted_on', "'to the customer'", 'd.cost'], shipped),
    found('CI', 'customer_invoice', ['d.invoice_date', due, 'd.total'], charged),
    found(
      'VI',
      'vendor_invoice',
      ['d.invoice_date', "CONCAT(y.name, ' ', d.vendor_number)", 'd.total'],
      invoiced,
      'vendor',
    ),
    found('CN', 'credit_note', ['d.credit_date', 'd.reason', 'd.total'], credited),
  ];
}

/** The documents of the purchases `k` gives. */
function ofPurchases(k: string): string[] {
  const ordered = `l.order_id AS id FROM ${k} k
    JOIN purchase_order_line pl FORCE INDEX (purchase_order_line_no) ON pl.company_id = k.company_id AND pl.purchase_order_id = k.id
    JOIN tie t FORCE INDEX (tie_purchase) ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
    JOIN sales_order_line l FORCE INDEX (PRIMARY) ON l.company_id = t.company_id AND l.id = t.order_line_id`;
  const shipped = `sl.shipment_id AS id FROM ${k} k
    JOIN receipt r FORCE INDEX (receipt_purchase) ON r.company_id = k.company_id AND r.purchase_order_id = k.id
    JOIN receipt_line rl FORCE INDEX (receipt_line_receipt) ON rl.company_id = r.company_id AND rl.receipt_id = r.id
    JOIN shipment_line sl FORCE INDEX (shipment_line_receipt) ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id`;
  return [
    found('PO', 'purchase_order', ['d.order_date', 'd.state', 'd.net'], `k.id FROM ${k} k`),
    found('SO', 'sales_order', ['d.order_date', 'y.name', 'd.net'], ordered, 'customer'),
    found('RC', 'receipt', ['d.posted_on', "'received'", 'd.cost'], own(k, 'receipt', 'purchase')),
    found('SH', 'shipment', ['d.posted_on', "'to the customer'", 'd.cost'], shipped),
    found(
      'VI',
      'vendor_invoice',
      ['d.invoice_date', 'd.vendor_number', 'd.total'],
      own(k, 'vendor_invoice', 'purchase'),
    ),
  ];
}

async function union(sql: Sql, branches: readonly string[], companyId: number, id: number): Promise<RelatedDocument[]> {
  const rows = await sql.rows<{
    kind: DocumentKind;
    id: number;
    number: string;
    day: string;
    note: string;
    amount: string;
    currency: string;
  }>(
    `SELECT * FROM (${branches.join(' UNION ALL ')}) d ORDER BY day, FIELD(kind, 'PP', 'SO', 'PO', 'RC', 'SH', 'CI', 'VI', 'CN'), id`,
    branches.flatMap(() => [companyId, id]),
  );
  return rows.map((row) => ({
    document: { kind: row.kind, id: row.id, number: row.number },
    day: row.day,
    note: row.note,
    amount: row.amount,
    currency: row.currency,
  }));
}
