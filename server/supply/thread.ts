import { routeIsMade } from '@core/catalogue';
import { dec, inUnits, share, type DocumentKind } from '@core/kernel';
import { buildThread, pairMoves, type PairedMove, type Part, type ThreadRows } from '@core/supply';
import type { ThreadOut } from '@api/supply';
import { orNotFound } from '../acts';
import type { Sql } from '../db';
import { addMade, madeRows } from './thread-made';
import {
  documentsOfLines,
  postedRows,
  supplyRows,
  threadLines,
  threadOrder,
  type LineDocuments,
  type LineRow,
  type OrderRow,
  type ReceivedLine,
  type Scope,
  type ShippedLine,
} from './thread-reads';

/** The thread of one order line. */
export async function openThread(sql: Sql, companyId: number, orderLineId: number): Promise<ThreadOut> {
  const [thread] = (await threadsOf(sql, companyId, { of: 'line', id: orderLineId })) ?? [];
  return orNotFound(thread, 'This order line');
}

/** The threads of all lines of an order, in their order: as many reads as for one. */
export async function threadsOfOrder(sql: Sql, companyId: number, orderId: number): Promise<ThreadOut[]> {
  return orNotFound(await threadsOf(sql, companyId, { of: 'order', id: orderId }), 'This sales order');
}

/** Threads of order lines, each built by core: six reads, however many lines. Undefined where there is no such order. */
async function threadsOf(sql: Sql, companyId: number, scope: Scope): Promise<ThreadOut[] | undefined> {
  const [order, lines, supplies, posted, made] = await Promise.all([
    threadOrder(sql, companyId, scope),
    threadLines(sql, companyId, scope),
    supplyRows(sql, companyId, scope),
    postedRows(sql, companyId, scope),
    madeRows(sql, companyId, scope),
  ]);
  if (!order || lines.length === 0) return order && [];
  const documents = documentsOfLines(order, lines, supplies, posted);
  addMade(documents, made);
  return lines.map((line) => {
    const own = documents.get(line.id)!;
    return { ...threadOf(order, line, own), undone: own.undone.sort(byDayAndNumber) };
  });
}

type Undone = ThreadOut['undone'][number];

/** Taken back first, first. */
function byDayAndNumber(a: Undone, b: Undone): number {
  return a.day.localeCompare(b.day) || a.document.number.localeCompare(b.document.number);
}

function threadOf(
  order: OrderRow,
  line: LineRow,
  { supplies, came, shipments, vendorInvoices, invoices }: LineDocuments,
): Omit<ThreadOut, 'undone'> {
  const receipts = came.map((each) => ({ ...each, supply: supplies.findIndex(({ tieId }) => tieId === each.tieId) }));
  const moves = line.route === 'drop' ? throughMoves(receipts, shipments) : pairMoves(receipts, shipments.map(partOf));
  const movesOf = (at: 'receiptAt' | 'shipmentAt', place: number) =>
    moves.flatMap((move, index) => (place >= 0 && move[at] === place ? [index] : []));
  const quantity = dec(line.quantity).minus(line.cancelled);
  const rows: ThreadRows = {
    quantity: quantity.gt(0) ? quantity.toFixed() : line.quantity,
    purchased: line.route !== 'stock' || supplies.length > 0,
    bought: supplies.length === 0 ? !routeIsMade(line.route) : supplies.some(({ part }) => part.document.kind === 'PO'),
    agreed: agreedPart(line),
    ordered: orderedPart(order, line),
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
    orderLineId: line.id,
    title: `${order.number} line ${line.lineNo} · ${line.item} · ${inUnits(line.quantity, line.unit)}`,
    ...buildThread(rows),
  };
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

function agreedPart(line: LineRow): Part | null {
  if (line.agreementId === null) return null;
  return {
    document: { kind: 'AG', id: line.agreementId, number: line.agreementNumber! },
    quantity: line.quantity,
    day: line.signedOn ?? line.firstDay!,
    note: `${line.lineShipped!} of ${line.committed!} shipped`,
    filled: share(line.lineShipped!, line.committed!),
  };
}

function orderedPart(order: OrderRow, line: LineRow): Part {
  return {
    document: { kind: 'SO', id: order.id, number: order.number },
    quantity: line.quantity,
    day: order.orderDate,
    note: order.state === 'confirmed' || order.state === 'closed' ? 'confirmed' : order.state,
    filled: order.state === 'draft' ? 0 : order.state === 'cancelled' ? 0 : 1,
  };
}

const partOf = ({ part }: { part: Part }) => part;

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
