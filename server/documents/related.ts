import type { DocumentKind, DocumentRef } from '@core/kernel';
import type { Sql } from '../db/database';
import { plain } from '../db/mapping';

export interface RelatedDocument {
  document: DocumentRef;
  day: string;
  note: string;
  amount: string | null;
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
  `SELECT 'PP', x.id, x.number, x.taken_on, 'paid ahead', x.amount FROM prepayment x WHERE x.company_id = ? AND x.agreement_id = ?`,
  `SELECT 'CN', x.id, x.number, x.credit_date, 'rebate settled', x.total FROM credit_note x WHERE x.company_id = ? AND x.agreement_id = ?`,
  `SELECT 'CI', x.id, x.number, x.invoice_date, 'shortfall charged', x.total FROM customer_invoice x WHERE x.company_id = ? AND x.agreement_id = ?`,
];

const PARTY = { customer: 'customer c', vendor: 'vendor v' } as const;

/** The documents `ids` finds (as `id`, of `k`, what is asked about), with what is told of each and of a party of theirs. */
function found(told: string, head: string, ids: string, party?: keyof typeof PARTY): string {
  const [, d] = head.split(' ');
  const [, p] = party ? PARTY[party].split(' ') : [];
  return `SELECT STRAIGHT_JOIN ${told} FROM (SELECT DISTINCT STRAIGHT_JOIN k.company_id, ${ids}) f
    JOIN ${head} FORCE INDEX (PRIMARY) ON ${d}.company_id = f.company_id AND ${d}.id = f.id
    ${party ? `JOIN ${PARTY[party]} FORCE INDEX (PRIMARY) ON ${p}.company_id = ${d}.company_id AND ${p}.id = ${d}.${party}_id` : ''}`;
}

/** The documents of the orders `k` gives. */
function ofOrders(k: string): string[] {
  const ties = `${k} k
    JOIN sales_order_line l FORCE INDEX (sales_order_line_no) ON l.company_id = k.company_id AND l.order_id = k.id
    JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = l.company_id AND t.order_line_id = l.id`;
  const received = `${ties}
    JOIN receipt_line rl FORCE INDEX (receipt_line_tie) ON rl.company_id = t.company_id AND rl.tie_id = t.id`;
  const own = (table: string) =>
    `x.id FROM ${k} k JOIN ${table} x FORCE INDEX (${table}_order) ON x.company_id = k.company_id AND x.order_id = k.id`;
  return [
    found(
      "'SO' AS kind, o.id, o.number, o.order_date AS day, CONCAT(o.state, IF(o.customer_reference = '', '', CONCAT(', ', o.customer_reference))) AS note, o.net AS amount",
      'sales_order o',
      `k.id FROM ${k} k`,
    ),
    found(
      "'PO', p.id, p.number, p.order_date, v.name, p.net",
      'purchase_order p',
      `pl.purchase_order_id AS id FROM ${ties}
         JOIN purchase_order_line pl FORCE INDEX (PRIMARY) ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id`,
      'vendor',
    ),
    found(
      "'RC', r.id, r.number, r.posted_on, CONCAT('from ', v.name), r.cost",
      'receipt r',
      `rl.receipt_id AS id FROM ${received}`,
      'vendor',
    ),
    found("'SH', s.id, s.number, s.posted_on, 'to the customer', s.cost", 'shipment s', own('shipment')),
    found(
      "'CI', i.id, i.number, i.invoice_date, CONCAT('due ', DATE_FORMAT(i.due_date, '%a %e %b %Y')), i.total",
      'customer_invoice i',
      own('customer_invoice'),
    ),
    found(
      "'VI', i.id, i.number, i.invoice_date, CONCAT(v.name, ' ', i.vendor_number), i.total",
      'vendor_invoice i',
      `il.invoice_id AS id FROM ${received}
         JOIN vendor_invoice_line il FORCE INDEX (vendor_invoice_line_receipt) ON il.company_id = rl.company_id AND il.receipt_line_id = rl.id`,
      'vendor',
    ),
    found("'CN', n.id, n.number, n.credit_date, n.reason, n.total", 'credit_note n', own('credit_note')),
  ];
}

/** The documents of the purchases `k` gives. */
function ofPurchases(k: string): string[] {
  const own = (table: string) =>
    `x.id FROM ${k} k JOIN ${table} x FORCE INDEX (${table}_purchase) ON x.company_id = k.company_id AND x.purchase_order_id = k.id`;
  return [
    found(
      "'PO' AS kind, p.id, p.number, p.order_date AS day, p.state AS note, p.net AS amount",
      'purchase_order p',
      `k.id FROM ${k} k`,
    ),
    found(
      "'SO', o.id, o.number, o.order_date, c.name, o.net",
      'sales_order o',
      `l.order_id AS id FROM ${k} k
         JOIN purchase_order_line pl FORCE INDEX (purchase_order_line_no) ON pl.company_id = k.company_id AND pl.purchase_order_id = k.id
         JOIN tie t FORCE INDEX (tie_purchase) ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
         JOIN sales_order_line l FORCE INDEX (PRIMARY) ON l.company_id = t.company_id AND l.id = t.order_line_id`,
      'customer',
    ),
    found("'RC', r.id, r.number, r.posted_on, 'received', r.cost", 'receipt r', own('receipt')),
    found(
      "'SH', s.id, s.number, s.posted_on, 'to the customer', s.cost",
      'shipment s',
      `sl.shipment_id AS id FROM ${k} k
         JOIN receipt r FORCE INDEX (receipt_purchase) ON r.company_id = k.company_id AND r.purchase_order_id = k.id
         JOIN receipt_line rl FORCE INDEX (receipt_line_receipt) ON rl.company_id = r.company_id AND rl.receipt_id = r.id
         JOIN shipment_line sl FORCE INDEX (shipment_line_receipt) ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id`,
    ),
    found("'VI', i.id, i.number, i.invoice_date, i.vendor_number, i.total", 'vendor_invoice i', own('vendor_invoice')),
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
