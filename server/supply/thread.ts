import type { Route } from '@core/catalogue';
import { dec, inUnits, share, type Day, type DocumentKind } from '@core/kernel';
import { buildThread, differencesOf, pairMoves, type PairedMove, type Part, type ThreadRows } from '@core/supply';
import type { ThreadOut } from '@api/supply';
import { there } from '../acts';
import type { Sql } from '../db/database';
import { plain } from '../db/mapping';
import { invoiceStands, notTakenBack, stands } from '../db/taken-back';

interface LineRow {
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

/** The thread of one order line, read with four indexed queries and built by core. */
export async function openThread(sql: Sql, companyId: number, orderLineId: number): Promise<ThreadOut> {
  const line = await lineOf(sql, companyId, orderLineId);
  const [supplies, came, shipments, vendorInvoices, invoices, undone] = await Promise.all([
    suppliesOf(sql, companyId, orderLineId, line),
    receiptsOf(sql, companyId, orderLineId),
    shipmentsOf(sql, companyId, orderLineId),
    vendorInvoicesOf(sql, companyId, orderLineId),
    invoicesOf(sql, companyId, orderLineId),
    undoneOf(sql, companyId, orderLineId),
  ]);
  const receipts = came.map((each) => ({ ...each, supply: supplies.findIndex(({ tieId }) => tieId === each.tieId) }));
  const moves = line.route === 'drop' ? throughMoves(receipts, shipments) : pairMoves(receipts, shipments.map(partOf));
  const movesOf = (at: 'receiptAt' | 'shipmentAt', place: number) =>
    moves.flatMap((move, index) => (place >= 0 && move[at] === place ? [index] : []));
  const quantity = dec(line.quantity).minus(line.cancelled);
  const rows: ThreadRows = {
    quantity: quantity.gt(0) ? quantity.toFixed() : plain(line.quantity),
    purchased: line.route !== 'stock' || supplies.length > 0,
    agreed: agreedPart(line),
    ordered: orderedPart(line),
    supplies: supplies.map((each) => each.part),
    moves,
    invoices: invoices.map(({ shipmentLineId, part, paid }) => ({
      moves: movesOf(
        'shipmentAt',
        shipments.findIndex((each) => each.shipmentLineId === shipmentLineId),
      ),
      part,
      paid,
    })),
    vendorInvoices: vendorInvoices.map(({ receiptLineId, part }) => ({
      moves: movesOf(
        'receiptAt',
        receipts.findIndex((each) => each.receiptLineId === receiptLineId),
      ),
      part,
    })),
  };
  return {
    orderLineId,
    title: `${line.order_number} line ${line.line_no} · ${line.item} · ${inUnits(plain(line.quantity), line.unit)}`,
    ...buildThread(rows),
    undone,
  };
}

/** What was posted on the line and taken back since, oldest first. // P1 */
async function undoneOf(sql: Sql, companyId: number, id: number): Promise<ThreadOut['undone']> {
  const rows = await sql.rows<{
    kind: 'RC' | 'SH' | 'CI' | 'VI';
    id: number;
    number: string;
    quantity: string;
    by_kind: 'RC' | 'SH' | 'CN' | 'VI';
    by_id: number;
    by_number: string;
    day: Day;
  }>(
    `SELECT 'RC' AS kind, r.id, r.number, rl.quantity, 'RC' AS by_kind, b.id AS by_id, b.number AS by_number, b.posted_on AS day
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
       JOIN receipt b ON b.company_id = r.company_id AND b.reverses_id = r.id
      WHERE t.company_id = ? AND t.order_line_id = ?
     UNION ALL
     SELECT 'SH', s.id, s.number, sl.quantity, 'SH', b.id, b.number, b.posted_on
       FROM shipment_line sl
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN shipment b ON b.company_id = s.company_id AND b.reverses_id = s.id
      WHERE sl.company_id = ? AND sl.order_line_id = ?
     UNION ALL
     SELECT 'CI', i.id, i.number, il.quantity, 'CN', n.id, n.number, n.credit_date
       FROM customer_invoice_line il
       JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
       JOIN credit_note n ON n.company_id = i.company_id AND n.customer_invoice_id = i.id AND n.kind = 'reversal'
      WHERE il.company_id = ? AND il.order_line_id = ?
     UNION ALL
     SELECT 'VI', i.id, i.number, vl.quantity, 'VI', b.id, b.number, b.invoice_date
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN vendor_invoice_line vl ON vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id
       JOIN vendor_invoice i ON i.company_id = vl.company_id AND i.id = vl.invoice_id
       JOIN vendor_invoice b ON b.company_id = i.company_id AND b.reverses_id = i.id
      WHERE t.company_id = ? AND t.order_line_id = ?
      ORDER BY day, number`,
    [companyId, id, companyId, id, companyId, id, companyId, id],
  );
  return rows.map((row) => ({
    document: { kind: row.kind, id: row.id, number: row.number },
    quantity: plain(row.quantity),
    by: { kind: row.by_kind, id: row.by_id, number: row.by_number },
    day: row.day,
  }));
}

/** The first order line a document is about, by the document's kind. */
const FIRST_LINE: Partial<Record<DocumentKind, string>> = {
  SO: 'SELECT MIN(id) AS id FROM sales_order_line WHERE company_id = ? AND order_id = ?',
  PO: `SELECT MIN(t.order_line_id) AS id FROM purchase_order_line pl
         JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
        WHERE pl.company_id = ? AND pl.purchase_order_id = ?`,
  RC: `SELECT MIN(t.order_line_id) AS id FROM receipt_line rl
         JOIN tie t ON t.company_id = rl.company_id AND t.id = rl.tie_id
        WHERE rl.company_id = ? AND rl.receipt_id = ?`,
  SH: 'SELECT MIN(order_line_id) AS id FROM shipment_line WHERE company_id = ? AND shipment_id = ?',
  CN: 'SELECT MIN(order_line_id) AS id FROM credit_note_line WHERE company_id = ? AND credit_note_id = ?',
  CI: 'SELECT MIN(order_line_id) AS id FROM customer_invoice_line WHERE company_id = ? AND invoice_id = ?',
  VI: `SELECT MIN(t.order_line_id) AS id FROM vendor_invoice_line vl
         JOIN receipt_line rl ON rl.company_id = vl.company_id AND rl.id = vl.receipt_line_id
         JOIN tie t ON t.company_id = rl.company_id AND t.id = rl.tie_id
        WHERE vl.company_id = ? AND vl.invoice_id = ?`,
};

/** The thread of the first order line a document is about; null where it is about none. */
export async function threadOfDocument(
  sql: Sql,
  companyId: number,
  document: { kind: DocumentKind; id: number },
): Promise<ThreadOut | null> {
  const first = FIRST_LINE[document.kind];
  if (!first) return null;
  const [row] = await sql.rows<{ id: number | null }>(first, [companyId, document.id]);
  return row?.id ? openThread(sql, companyId, row.id) : null;
}

async function lineOf(sql: Sql, companyId: number, id: number): Promise<LineRow> {
  const [row] = await sql.rows<LineRow>(
    `SELECT l.line_no, l.quantity, l.cancelled, l.shipped, l.ship_date, l.route, i.number AS item, i.unit,
            o.id AS order_id, o.number AS order_number, o.order_date, o.state, o.ship_to_id,
            a.id AS agreement_id, a.number AS agreement_number, a.signed_on, a.first_day,
            IF(a.basis = 'value', al.committed_value, al.committed) AS committed,
            IF(a.basis = 'value', al.shipped_value, al.shipped) AS line_shipped
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
       LEFT JOIN agreement a ON a.company_id = al.company_id AND a.id = al.agreement_id
      WHERE l.company_id = ? AND l.id = ?`,
    [companyId, id],
  );
  return there(row, 'This order line');
}

function agreedPart(line: LineRow): Part | null {
  if (line.agreement_id === null) return null;
  return {
    document: { kind: 'AG', id: line.agreement_id, number: line.agreement_number! },
    quantity: plain(line.quantity),
    day: line.signed_on ?? line.first_day!,
    note: `${plain(line.line_shipped!)} of ${plain(line.committed!)} shipped`,
    filled: share(line.line_shipped!, line.committed!),
  };
}

function orderedPart(line: LineRow): Part {
  return {
    document: { kind: 'SO', id: line.order_id, number: line.order_number },
    quantity: plain(line.quantity),
    day: line.order_date,
    note: line.state === 'confirmed' || line.state === 'closed' ? 'confirmed' : line.state,
    filled: line.state === 'draft' ? 0 : line.state === 'cancelled' ? 0 : 1,
  };
}

async function suppliesOf(sql: Sql, companyId: number, id: number, line: LineRow) {
  const rows = await sql.rows<{
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
    `SELECT t.id AS tie_id, t.quantity, t.received, pl.quantity AS line_quantity, pl.due_date,
            p.id AS purchase_id, p.number, p.ship_to_id, v.name AS vendor
       FROM tie t
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE t.company_id = ? AND t.order_line_id = ? ORDER BY t.id`,
    [companyId, id],
  );
  const tied = rows.reduce((total, row) => total.plus(row.quantity), dec(0));
  return rows.map((row) => {
    const differences = differencesOf({
      route: line.route,
      tied: row.quantity,
      salesQuantity: dec(line.quantity).minus(line.cancelled).minus(tied).plus(row.quantity).toFixed(),
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

const partOf = ({ part }: { part: Part }) => part;

interface ReceivedLine {
  receiptLineId: number;
  tieId: number;
  part: Part;
}

/** What was received on the line's ties, oldest first. */
async function receiptsOf(sql: Sql, companyId: number, id: number): Promise<ReceivedLine[]> {
  const rows = await sql.rows<{
    receipt_line_id: number;
    tie_id: number;
    quantity: string;
    receipt_id: number;
    number: string;
    posted_on: Day;
  }>(
    `SELECT rl.id AS receipt_line_id, rl.tie_id, rl.quantity, r.id AS receipt_id, r.number, r.posted_on
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
      WHERE t.company_id = ? AND t.order_line_id = ? AND ${stands('receipt_line', 'rl')} ORDER BY rl.id`,
    [companyId, id],
  );
  return rows.map((row) => ({
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

interface ShippedLine {
  shipmentLineId: number;
  /** The receipt line of a drop shipment's other half. */
  receiptLineId: number | null;
  part: Part;
}

async function shipmentsOf(sql: Sql, companyId: number, id: number): Promise<ShippedLine[]> {
  const rows = await sql.rows<{
    shipment_line_id: number;
    receipt_line_id: number | null;
    quantity: string;
    shipment_id: number;
    number: string;
    posted_on: Day;
    label: string;
  }>(
    `SELECT sl.id AS shipment_line_id, sl.receipt_line_id, sl.quantity, s.id AS shipment_id, s.number, s.posted_on, st.label
       FROM shipment_line sl
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN ship_to st ON st.company_id = s.company_id AND st.id = s.ship_to_id
      WHERE sl.company_id = ? AND sl.order_line_id = ? AND ${stands('shipment_line', 'sl')} ORDER BY sl.id`,
    [companyId, id],
  );
  return rows.map((row) => ({
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

/** The moves of a drop shipment: each shipment with the receipt that is its other half. // L2 */
function throughMoves(receipts: readonly (ReceivedLine & { supply: number })[], shipments: readonly ShippedLine[]) {
  return shipments.map((shipment, shipmentAt): PairedMove => {
    const receiptAt = receipts.findIndex((each) => each.receiptLineId === shipment.receiptLineId);
    const receipt = receipts[receiptAt];
    return {
      supply: receipt?.supply ?? null,
      receipt: receipt?.part ?? null,
      shipment: shipment.part,
      receiptAt: receipt ? receiptAt : null,
      shipmentAt,
    };
  });
}

async function invoicesOf(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<{
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
    `SELECT il.shipment_line_id, il.quantity, il.net, i.id AS invoice_id, i.number, i.invoice_date, i.due_date,
            i.currency, oi.amount, oi.settled, py.id AS payment_id, py.number AS payment_number, py.paid_on
       FROM customer_invoice_line il
       JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
       JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id
       LEFT JOIN payment py ON py.company_id = oi.company_id AND py.id =
         (SELECT MAX(last.id) FROM payment last WHERE last.company_id = oi.company_id AND last.open_item_id = oi.id)
      WHERE il.company_id = ? AND il.order_line_id = ? AND ${notTakenBack('il')} ORDER BY il.id`,
    [companyId, id],
  );
  return rows.map((row) => ({
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

async function vendorInvoicesOf(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<{
    receipt_line_id: number;
    quantity: string;
    invoice_id: number;
    number: string;
    vendor_number: string;
    invoice_date: Day;
  }>(
    `SELECT vil.receipt_line_id, vil.quantity, i.id AS invoice_id, i.number, i.vendor_number, i.invoice_date
       FROM tie t
       JOIN receipt_line rl ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN vendor_invoice_line vil ON vil.company_id = rl.company_id AND vil.receipt_line_id = rl.id
       JOIN vendor_invoice i ON i.company_id = vil.company_id AND i.id = vil.invoice_id
      WHERE t.company_id = ? AND t.order_line_id = ? AND ${invoiceStands('i')} ORDER BY vil.id`,
    [companyId, id],
  );
  return rows.map((row) => ({
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
