import type { Route } from '@core/catalogue';
import { dec, share, ZERO, type Day, type Dec } from '@core/kernel';
import { differencesOf, type Part } from '@core/supply';
import type { ThreadOut } from '@api/supply';
import type { Sql } from '../db/database';
import { plain } from '../db/mapping';
import { invoiceStands, notTakenBack, stands } from '../db/taken-back';

// What threads are made of, read for many order lines at once: each by the lines' keys, answered by line.

export interface LineRow {
  id: number;
  line_no: number;
  quantity: string;
  cancelled: string;
  shipped: string;
  ship_date: Day;
  route: Route;
  item: string;
  unit: string;
  order_id: number;
  order_number: string;
  order_date: Day;
  state: string;
  ship_to_id: number | null;
  agreement_id: number | null;
  agreement_number: string | null;
  signed_on: Day | null;
  first_day: Day | null;
  committed: string | null;
  line_shipped: string | null;
}

export async function threadLines(sql: Sql, companyId: number, ids: readonly number[]): Promise<LineRow[]> {
  return sql.rows<LineRow>(
    `SELECT l.id, l.line_no, l.quantity, l.cancelled, l.shipped, l.ship_date, l.route, i.number AS item, i.unit,
            o.id AS order_id, o.number AS order_number, o.order_date, o.state, o.ship_to_id,
            a.id AS agreement_id, a.number AS agreement_number, a.signed_on, a.first_day,
            IF(a.basis = 'value', al.committed_value, al.committed) AS committed,
            IF(a.basis = 'value', al.shipped_value, al.shipped) AS line_shipped
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
       LEFT JOIN agreement a ON a.company_id = al.company_id AND a.id = al.agreement_id
      WHERE l.company_id = ? AND l.id IN (?) ORDER BY l.line_no, l.id`,
    [companyId, ids],
  );
}

/** What was read, by the order line it is of, in the order it was read. */
function byLine<Row extends { order_line_id: number }, Out>(
  rows: readonly Row[],
  map: (row: Row) => Out,
): Map<number, Out[]> {
  const found = new Map<number, Out[]>();
  for (const row of rows) {
    const own = found.get(row.order_line_id);
    if (own) own.push(map(row));
    else found.set(row.order_line_id, [map(row)]);
  }
  return found;
}

export async function suppliesOf(sql: Sql, companyId: number, lines: readonly LineRow[]) {
  const rows = await sql.rows<{
    order_line_id: number;
    tie_id: number;
    quantity: string;
    received: string;
    line_quantity: string;
    due_date: Day;
    purchase_id: number;
    number: string;
    ship_to_id: number | null;
    vendor: string;
  }>(
    `SELECT t.order_line_id, t.id AS tie_id, t.quantity, t.received, pl.quantity AS line_quantity, pl.due_date,
            p.id AS purchase_id, p.number, p.ship_to_id, v.name AS vendor
       FROM tie t
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE t.company_id = ? AND t.order_line_id IN (?) ORDER BY t.id`,
    [companyId, lines.map((line) => line.id)],
  );
  const tied = new Map<number, Dec>();
  for (const row of rows) tied.set(row.order_line_id, dec(row.quantity).plus(tied.get(row.order_line_id) ?? ZERO));
  const of = new Map(lines.map((line) => [line.id, line]));
  return byLine(rows, (row) => {
    const line = of.get(row.order_line_id)!;
    const differences = differencesOf({
      route: line.route,
      tied: row.quantity,
      salesQuantity: dec(line.quantity).minus(line.cancelled).minus(tied.get(line.id)!).plus(row.quantity).toFixed(),
      supplyQuantity: row.line_quantity,
      shipDate: line.ship_date,
      supplyDate: row.due_date,
      sameAddress: row.ship_to_id === line.ship_to_id,
    });
    const part: Part = {
      document: { kind: 'PO', id: row.purchase_id, number: row.number },
      quantity: plain(row.quantity),
      day: row.due_date,
      note: row.vendor,
      filled: share(row.received, row.quantity),
      ...(differences.length > 0 ? { differs: differences.join(', ') } : {}),
    };
    return { tieId: row.tie_id, part };
  });
}

export interface ReceivedLine {
  receiptLineId: number;
  tieId: number;
  part: Part;
}

/** What was received on lines' ties, oldest first. */
export async function receiptsOf(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
): Promise<Map<number, ReceivedLine[]>> {
  const rows = await sql.rows<{
    order_line_id: number;
    receipt_line_id: number;
    tie_id: number;
    quantity: string;
    receipt_id: number;
    number: string;
    posted_on: Day;
  }>(
    `SELECT t.order_line_id, rl.id AS receipt_line_id, rl.tie_id, rl.quantity, r.id AS receipt_id, r.number, r.posted_on
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
      WHERE t.company_id = ? AND t.order_line_id IN (?) AND ${stands('receipt_line', 'rl')} ORDER BY rl.id`,
    [companyId, ids],
  );
  return byLine(rows, (row) => ({
    receiptLineId: row.receipt_line_id,
    tieId: row.tie_id,
    part: {
      document: { kind: 'RC', id: row.receipt_id, number: row.number },
      quantity: plain(row.quantity),
      day: row.posted_on,
      note: '',
      filled: 1,
    },
  }));
}

export interface ShippedLine {
  shipmentLineId: number;
  /** The receipt line of a drop shipment's other half. */
  receiptLineId: number | null;
  part: Part;
}

/** What was shipped of lines, oldest first. */
export async function shipmentsOf(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
): Promise<Map<number, ShippedLine[]>> {
  const rows = await sql.rows<{
    order_line_id: number;
    shipment_line_id: number;
    receipt_line_id: number | null;
    quantity: string;
    shipment_id: number;
    number: string;
    posted_on: Day;
    label: string;
  }>(
    `SELECT sl.order_line_id, sl.id AS shipment_line_id, sl.receipt_line_id, sl.quantity, s.id AS shipment_id, s.number, s.posted_on, st.label
       FROM shipment_line sl
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN ship_to st ON st.company_id = s.company_id AND st.id = s.ship_to_id
      WHERE sl.company_id = ? AND sl.order_line_id IN (?) AND ${stands('shipment_line', 'sl')} ORDER BY sl.id`,
    [companyId, ids],
  );
  return byLine(rows, (row) => ({
    shipmentLineId: row.shipment_line_id,
    receiptLineId: row.receipt_line_id,
    part: {
      document: { kind: 'SH', id: row.shipment_id, number: row.number },
      quantity: plain(row.quantity),
      day: row.posted_on,
      note: `to ${row.label}`,
      filled: 1,
    },
  }));
}

/** What was invoiced of lines and stands, with how far it is paid. */
export async function invoicesOf(sql: Sql, companyId: number, ids: readonly number[]) {
  const rows = await sql.rows<{
    order_line_id: number;
    shipment_line_id: number;
    quantity: string;
    net: string;
    invoice_id: number;
    number: string;
    invoice_date: Day;
    due_date: Day;
    currency: string;
    amount: string;
    settled: string;
    payment_id: number | null;
    payment_number: string | null;
    paid_on: Day | null;
  }>(
    `SELECT il.order_line_id, il.shipment_line_id, il.quantity, il.net, i.id AS invoice_id, i.number, i.invoice_date, i.due_date,
            i.currency, oi.amount, oi.settled, py.id AS payment_id, py.number AS payment_number, py.paid_on
       FROM customer_invoice_line il
       JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
       JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id
       LEFT JOIN payment py ON py.company_id = oi.company_id AND py.id =
         (SELECT MAX(last.id) FROM payment last WHERE last.company_id = oi.company_id AND last.open_item_id = oi.id)
      WHERE il.company_id = ? AND il.order_line_id IN (?) AND ${notTakenBack('il')} ORDER BY il.id`,
    [companyId, ids],
  );
  return byLine(rows, (row) => ({
    shipmentLineId: row.shipment_line_id,
    part: {
      document: { kind: 'CI', id: row.invoice_id, number: row.number },
      quantity: plain(row.quantity),
      day: row.invoice_date,
      note: `${row.currency} ${dec(row.net).toFixed(2)}`,
      filled: 1,
    } satisfies Part,
    paid: {
      // Unpaid, the bead leads to the invoice it waits for.
      document:
        row.payment_id === null
          ? { kind: 'CI' as const, id: row.invoice_id, number: row.number }
          : { kind: 'PY' as const, id: row.payment_id, number: row.payment_number! },
      quantity: plain(row.quantity),
      day: row.paid_on ?? row.due_date,
      note: row.payment_id === null ? 'due' : dec(row.settled).eq(row.amount) ? 'paid' : 'part paid',
      filled: share(row.settled, row.amount),
    } satisfies Part,
  }));
}

/** What vendors invoiced of what was received for lines, and stands. */
export async function vendorInvoicesOf(sql: Sql, companyId: number, ids: readonly number[]) {
  const rows = await sql.rows<{
    order_line_id: number;
    receipt_line_id: number;
    quantity: string;
    invoice_id: number;
    number: string;
    vendor_number: string;
    invoice_date: Day;
  }>(
    `SELECT t.order_line_id, vil.receipt_line_id, vil.quantity, i.id AS invoice_id, i.number, i.vendor_number, i.invoice_date
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN vendor_invoice_line vil ON vil.company_id = rl.company_id AND vil.receipt_line_id = rl.id
       JOIN vendor_invoice i ON i.company_id = vil.company_id AND i.id = vil.invoice_id
      WHERE t.company_id = ? AND t.order_line_id IN (?) AND ${invoiceStands('i')} ORDER BY vil.id`,
    [companyId, ids],
  );
  return byLine(rows, (row) => ({
    receiptLineId: row.receipt_line_id,
    part: {
      document: { kind: 'VI', id: row.invoice_id, number: row.number },
      quantity: plain(row.quantity),
      day: row.invoice_date,
      note: row.vendor_number,
      filled: 1,
    } satisfies Part,
  }));
}
/** What was posted on lines and taken back since, oldest first. // P1 */
export async function undoneOf(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
): Promise<Map<number, ThreadOut['undone']>> {
  const rows = await sql.rows<{
    order_line_id: number;
    kind: 'RC' | 'SH' | 'CI' | 'VI';
    id: number;
    number: string;
    quantity: string;
    by_kind: 'RC' | 'SH' | 'CN' | 'VI';
    by_id: number;
    by_number: string;
    day: Day;
  }>(
    `SELECT t.order_line_id, 'RC' AS kind, r.id, r.number, rl.quantity, 'RC' AS by_kind, b.id AS by_id, b.number AS by_number, b.posted_on AS day
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
       JOIN receipt b ON b.company_id = r.company_id AND b.reverses_id = r.id
      WHERE t.company_id = ? AND t.order_line_id IN (?)
     UNION ALL
     SELECT sl.order_line_id, 'SH', s.id, s.number, sl.quantity, 'SH', b.id, b.number, b.posted_on
       FROM shipment_line sl
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN shipment b ON b.company_id = s.company_id AND b.reverses_id = s.id
      WHERE sl.company_id = ? AND sl.order_line_id IN (?)
     UNION ALL
     SELECT il.order_line_id, 'CI', i.id, i.number, il.quantity, 'CN', n.id, n.number, n.credit_date
       FROM customer_invoice_line il
       JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
       JOIN credit_note n ON n.company_id = i.company_id AND n.customer_invoice_id = i.id AND n.kind = 'reversal'
      WHERE il.company_id = ? AND il.order_line_id IN (?)
     UNION ALL
     SELECT t.order_line_id, 'VI', i.id, i.number, vl.quantity, 'VI', b.id, b.number, b.invoice_date
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN vendor_invoice_line vl ON vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id
       JOIN vendor_invoice i ON i.company_id = vl.company_id AND i.id = vl.invoice_id
       JOIN vendor_invoice b ON b.company_id = i.company_id AND b.reverses_id = i.id
      WHERE t.company_id = ? AND t.order_line_id IN (?)
      ORDER BY day, number`,
    [companyId, ids, companyId, ids, companyId, ids, companyId, ids],
  );
  return byLine(rows, (row) => ({
    document: { kind: row.kind, id: row.id, number: row.number },
    quantity: plain(row.quantity),
    by: { kind: row.by_kind, id: row.by_id, number: row.by_number },
    day: row.day,
  }));
}
