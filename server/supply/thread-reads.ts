import type { Route } from '@core/catalogue';
import { dec, share, ZERO, type Day, type Dec } from '@core/kernel';
import { differencesOf, type Part } from '@core/supply';
import type { ThreadOut } from '@api/supply';
import type { Sql, Columns } from '../db';
import type { SalesOrder } from '../orders/tables';

// What threads are made of, for one order line or all of an order's: four reads by their keys, however many lines.

/** The order lines that are meant: one, or all of an order. */
export interface Scope {
  of: 'order' | 'line';
  id: number;
}

/** Those lines as `l`, walked by the key that is theirs; the placeholders are the company and the id. */
export const LINES: Record<Scope['of'], { from: string; where: string }> = {
  order: {
    from: 'sales_order_line l FORCE INDEX (sales_order_line_no)',
    where: 'l.company_id = ? AND l.order_id = ?',
  },
  line: { from: 'sales_order_line l FORCE INDEX (PRIMARY)', where: 'l.company_id = ? AND l.id = ?' },
};

export type OrderRow = Columns<SalesOrder, 'id number orderDate shipToId'> & { state: string };

export interface LineRow {
  id: number;
  lineNo: number;
  quantity: string;
  cancelled: string;
  shipDate: Day;
  route: Route;
  item: string;
  unit: string;
  agreementId: number | null;
  agreementNumber: string | null;
  signedOn: Day | null;
  firstDay: Day | null;
  committed: string | null;
  lineShipped: string | null;
}

/** The order of a scope; undefined where there is none. */
export async function threadOrder(sql: Sql, companyId: number, { of, id }: Scope): Promise<OrderRow | undefined> {
  const lines = 'SELECT l.order_id FROM sales_order_line l WHERE l.company_id = ? AND l.id = ?';
  const [order] = await sql.rows<OrderRow>(
    `SELECT o.id, o.number, o.order_date, o.state, o.ship_to_id FROM sales_order o
      WHERE o.company_id = ? AND o.id = ${of === 'order' ? '?' : `(${lines})`}`,
    of === 'order' ? [companyId, id] : [companyId, companyId, id],
  );
  return order;
}

export function threadLines(sql: Sql, companyId: number, { of, id }: Scope): Promise<LineRow[]> {
  return sql.rows<LineRow>(
    `SELECT STRAIGHT_JOIN l.id, l.line_no, l.quantity, l.cancelled, l.ship_date, l.route, i.number AS item, i.unit,
            a.id AS agreement_id, a.number AS agreement_number, a.signed_on, a.first_day,
            IF(a.basis = 'value', al.committed_value, al.committed) AS committed,
            IF(a.basis = 'value', al.shipped_value, al.shipped) AS line_shipped
       FROM ${LINES[of].from}
       JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN agreement_line al FORCE INDEX (PRIMARY) ON al.company_id = l.company_id AND al.id = l.agreement_line_id
       LEFT JOIN agreement a FORCE INDEX (PRIMARY) ON a.company_id = al.company_id AND a.id = al.agreement_id
      WHERE ${LINES[of].where} ORDER BY l.line_no`,
    [companyId, id],
  );
}

interface SupplyRow {
  orderLineId: number;
  tieId: number;
  quantity: string;
  received: string;
  lineQuantity: string;
  lineReceived: string;
  dueDate: Day;
  purchaseId: number;
  number: string;
  shipToId: number | null;
  vendor: string;
}

interface PostedRow {
  orderLineId: number;
  kind: 'RC' | 'SH' | 'CI' | 'VI';
  /** Of the document's own line, and of the line it hangs on: a receipt's tie, a shipment's or vendor invoice's receipt line, an invoice's shipment line. */
  lineId: number;
  onId: number | null;
  quantity: string;
  id: number;
  number: string;
  day: Day;
  note: string;
  /** What took it back, if anything did. // P1 */
  byId: number | null;
  byNumber: string | null;
  byDay: Day | null;
  /** Of a customer invoice: what it is worth, owes, and was paid last. */
  net: string | null;
  dueDate: Day | null;
  amount: string | null;
  settled: string | null;
  paymentId: number | null;
  paymentNumber: string | null;
  paidOn: Day | null;
}

/** One line's documents, oldest first, and what of it was taken back. */
export interface LineDocuments {
  supplies: { tieId: number; part: Part }[];
  came: ReceivedLine[];
  shipments: ShippedLine[];
  vendorInvoices: { receiptLineId: number; part: Part }[];
  invoices: { shipmentLineId: number; part: Part; paid: Part }[];
  undone: ThreadOut['undone'];
}

export interface ReceivedLine {
  receiptLineId: number;
  tieId: number;
  part: Part;
}

export interface ShippedLine {
  shipmentLineId: number;
  /** The receipt line of a drop shipment's other half. */
  receiptLineId: number | null;
  part: Part;
}

/** Everything that hangs on the lines, by line. */
export function documentsOfLines(
  order: OrderRow,
  lines: readonly LineRow[],
  supplies: SupplyRow[],
  posted: PostedRow[],
): Map<number, LineDocuments> {
  const found = new Map(
    lines.map((line): [number, LineDocuments] => [
      line.id,
      { supplies: [], came: [], shipments: [], vendorInvoices: [], invoices: [], undone: [] },
    ]),
  );
  const tied = new Map<number, Dec>();
  for (const row of supplies) tied.set(row.orderLineId, dec(row.quantity).plus(tied.get(row.orderLineId) ?? ZERO));
  const of = new Map(lines.map((line) => [line.id, line]));
  for (const row of supplies.sort((a, b) => a.tieId - b.tieId)) {
    const line = of.get(row.orderLineId);
    if (line) found.get(line.id)!.supplies.push(supplyOf(row, line, tied.get(line.id)!, order.shipToId));
  }
  for (const row of posted.sort((a, b) => a.lineId - b.lineId)) {
    const documents = found.get(row.orderLineId);
    if (documents) addPosted(documents, row);
  }
  return found;
}

export function supplyRows(sql: Sql, companyId: number, { of, id }: Scope): Promise<SupplyRow[]> {
  return sql.rows<SupplyRow>(
    `SELECT STRAIGHT_JOIN t.order_line_id, t.id AS tie_id, t.quantity, t.received, pl.quantity AS line_quantity, pl.received AS line_received, pl.due_date,
            p.id AS purchase_id, p.number, p.ship_to_id, v.name AS vendor
       FROM ${LINES[of].from}
       JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = l.company_id AND t.order_line_id = l.id
       JOIN purchase_order_line pl FORCE INDEX (PRIMARY) ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p FORCE INDEX (PRIMARY) ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v FORCE INDEX (PRIMARY) ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE ${LINES[of].where}`,
    [companyId, id],
  );
}

/**
 * Receipts, shipments and invoices of the lines with what took them back: one read, its branches walking keys only.
 * What takes another back is no row of its own. // P1
 */
export function postedRows(sql: Sql, companyId: number, { of, id }: Scope): Promise<PostedRow[]> {
  const { from, where } = LINES[of];
  const received = `${from}
       JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = l.company_id AND t.order_line_id = l.id
       JOIN receipt_line rl FORCE INDEX (receipt_line_tie) ON rl.company_id = t.company_id AND rl.tie_id = t.id`;
  // A plain NULL would make the ids of the first branch decimals.
  const unpaid = 'NULL, NULL, NULL, NULL, CAST(NULL AS UNSIGNED), NULL, NULL';
  return sql.rows<PostedRow>(
    `SELECT STRAIGHT_JOIN l.id AS order_line_id, 'CI' AS kind, il.id AS line_id, il.shipment_line_id AS on_id, il.quantity,
            i.id, i.number, i.invoice_date AS day, i.currency AS note, n.id AS by_id, n.number AS by_number, n.credit_date AS by_day,
            il.net, i.due_date, oi.amount, oi.settled, py.id AS payment_id, py.number AS payment_number, py.paid_on
       FROM ${from}
       JOIN customer_invoice_line il FORCE INDEX (customer_invoice_line_order) ON il.company_id = l.company_id AND il.order_line_id = l.id
       JOIN customer_invoice i FORCE INDEX (PRIMARY) ON i.company_id = il.company_id AND i.id = il.invoice_id
       JOIN open_item oi FORCE INDEX (open_item_customer_invoice) ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id
       LEFT JOIN credit_note n FORCE INDEX (credit_note_invoice)
         ON n.company_id = i.company_id AND n.customer_invoice_id = i.id AND n.kind = 'reversal'
       LEFT JOIN payment py FORCE INDEX (PRIMARY) ON py.company_id = oi.company_id AND py.id =
         (SELECT MAX(last.id) FROM payment last FORCE INDEX (payment_open_item)
           WHERE last.company_id = oi.company_id AND last.open_item_id = oi.id)
      WHERE ${where}
     UNION ALL
     SELECT STRAIGHT_JOIN l.id, 'RC', rl.id, t.id, rl.quantity, r.id, r.number, r.posted_on, '', b.id, b.number, b.posted_on, ${unpaid}
       FROM ${received}
       JOIN receipt r FORCE INDEX (PRIMARY) ON r.company_id = rl.company_id AND r.id = rl.receipt_id
       LEFT JOIN receipt b FORCE INDEX (receipt_reverses) ON b.company_id = r.company_id AND b.reverses_id = r.id
      WHERE ${where} AND rl.reverses_line_id IS NULL
     UNION ALL
     SELECT STRAIGHT_JOIN l.id, 'SH', sl.id, sl.receipt_line_id, sl.quantity, s.id, s.number, s.posted_on, st.label, b.id, b.number, b.posted_on, ${unpaid}
       FROM ${from}
       JOIN shipment_line sl FORCE INDEX (shipment_line_order) ON sl.company_id = l.company_id AND sl.order_line_id = l.id
       JOIN shipment s FORCE INDEX (PRIMARY) ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN ship_to st FORCE INDEX (PRIMARY) ON st.company_id = s.company_id AND st.id = s.ship_to_id
       LEFT JOIN shipment b FORCE INDEX (shipment_reverses) ON b.company_id = s.company_id AND b.reverses_id = s.id
      WHERE ${where} AND sl.reverses_line_id IS NULL
     UNION ALL
     SELECT STRAIGHT_JOIN l.id, 'VI', vl.id, rl.id, vl.quantity, i.id, i.number, i.invoice_date, i.vendor_number, b.id, b.number, b.invoice_date, ${unpaid}
       FROM ${received}
       JOIN vendor_invoice_line vl FORCE INDEX (vendor_invoice_line_receipt) ON vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id
       JOIN vendor_invoice i FORCE INDEX (PRIMARY) ON i.company_id = vl.company_id AND i.id = vl.invoice_id
       LEFT JOIN vendor_invoice b FORCE INDEX (vendor_invoice_reverses) ON b.company_id = i.company_id AND b.reverses_id = i.id
      WHERE ${where} AND i.reverses_id IS NULL`,
    [companyId, id, companyId, id, companyId, id, companyId, id],
  );
}

function supplyOf(row: SupplyRow, line: LineRow, tied: Dec, shipToId: number | null): { tieId: number; part: Part } {
  const differences = differencesOf({
    route: line.route,
    tied: row.quantity,
    salesQuantity: dec(line.quantity).minus(line.cancelled).minus(tied).plus(row.quantity).toFixed(),
    supplyQuantity: row.lineQuantity,
    shipDate: line.shipDate,
    supplyDate: row.dueDate,
    received: row.received,
    sameAddress: row.shipToId === shipToId,
  });
  const part: Part = {
    document: { kind: 'PO', id: row.purchaseId, number: row.number },
    quantity: row.quantity,
    day: row.dueDate,
    // What came beyond what was asked is on our stock. // L10
    note: dec(row.lineReceived).gt(row.lineQuantity)
      ? `${row.vendor}, ${dec(row.lineReceived).minus(row.lineQuantity).toFixed()} more came, to stock`
      : row.vendor,
    filled: share(row.received, row.quantity),
    ...(differences.length > 0 ? { differs: differences.join(', ') } : {}),
  };
  return { tieId: row.tieId, part };
}

/** Puts what was posted where it belongs: what stands with its kind, what was taken back by itself. */
function addPosted(documents: LineDocuments, row: PostedRow): void {
  const document = { kind: row.kind, id: row.id, number: row.number };
  const quantity = row.quantity;
  if (row.byId !== null) {
    const by = { kind: row.kind === 'CI' ? ('CN' as const) : row.kind, id: row.byId, number: row.byNumber! };
    documents.undone.push({ document, quantity, by, day: row.byDay! });
    return;
  }
  const part = (note: string): Part => ({ document, quantity, day: row.day, note, filled: 1 });
  if (row.kind === 'RC') documents.came.push({ receiptLineId: row.lineId, tieId: row.onId!, part: part('') });
  else if (row.kind === 'SH') {
    documents.shipments.push({ shipmentLineId: row.lineId, receiptLineId: row.onId, part: part(`to ${row.note}`) });
  } else if (row.kind === 'VI') documents.vendorInvoices.push({ receiptLineId: row.onId!, part: part(row.note) });
  else {
    const worth = `${row.note} ${dec(row.net!).toFixed(2)}`;
    documents.invoices.push({ shipmentLineId: row.onId!, part: part(worth), paid: paidPart(row) });
  }
}

/** How far an invoice is paid; unpaid, the bead leads to the invoice it waits for. */
function paidPart(row: PostedRow): Part {
  const unpaid = row.paymentId === null;
  return {
    document: unpaid
      ? { kind: 'CI', id: row.id, number: row.number }
      : { kind: 'PY', id: row.paymentId!, number: row.paymentNumber! },
    quantity: row.quantity,
    day: row.paidOn ?? row.dueDate!,
    note: unpaid ? 'due' : dec(row.settled!).eq(row.amount!) ? 'paid' : 'part paid',
    filled: share(row.settled!, row.amount!),
  };
}
