import { pointOf } from '@core/kernel';
import { type ReceiptNow, type ShipmentNow } from '@core/stock';
import { orNotFound, type Touched } from '../acts';
import { loadAgreements } from '../agreements';
import { ownCurrency } from '../catalogue';
import { invoiceStands, notTakenBack, type Sql } from '../db';
import { loadStockAndNumbers } from '../serial';

/** Every receipt and shipment that hang together with one: what one event made. // L2 */
async function eventOf(sql: Sql, companyId: number, from: { kind: 'RC' | 'SH'; id: number }) {
  const found = { RC: new Set<number>(), SH: new Set<number>() };
  found[from.kind].add(from.id);
  for (let known = 0; known < found.RC.size + found.SH.size;) {
    known = found.RC.size + found.SH.size;
    const pairs = await sql.rows<{ receiptId: number; shipmentId: number }>(
      `SELECT DISTINCT rl.receipt_id, sl.shipment_id FROM receipt_line rl
         JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
        WHERE rl.company_id = ? AND (rl.receipt_id IN (?) OR sl.shipment_id IN (?))`,
      [companyId, [...found.RC], [...found.SH]],
    );
    for (const pair of pairs) {
      found.RC.add(pair.receiptId);
      found.SH.add(pair.shipmentId);
    }
  }
  return { receiptIds: [...found.RC].sort((a, b) => a - b), shipmentIds: [...found.SH].sort((a, b) => a - b) };
}

interface HeadRow {
  id: number;
  number: string;
  reversedBy: string | null;
  reverses: string | null;
  /** Its purchase or sales order; null of a shipment of several orders. */
  documentId: number | null;
  documentNumber: string | null;
  partyId: number;
  shipToId: number | null;
  /** Of a receipt in another currency: which, and its rate. // P8 */
  foreignCurrency: string | null;
  rate: string | null;
}

interface LineRow {
  id: number;
  headId: number;
  itemId: number;
  item: string;
  locationId: number;
  quantity: string;
  cost: string;
  agreementLineId: number | null;
  agreementId: number | null;
  agreedValue: string | null;
  invoice: string | null;
}

/** One event as it stands, locked: agreements, orders, purchases, stock, in that order. */
export async function loadEvent(sql: Sql, companyId: number, from: { kind: 'RC' | 'SH'; id: number }) {
  const { receiptIds, shipmentIds } = await eventOf(sql, companyId, from);
  const [receiptHeads, shipmentHeads] = await Promise.all([
    sql.rows<HeadRow>(
      `SELECT r.id, r.number, b.number AS reversed_by, x.number AS reverses, p.id AS document_id, p.number AS document_number,
              r.vendor_id AS party_id, NULL AS ship_to_id, NULLIF(p.currency, ${ownCurrency('p.company_id')}) AS foreign_currency, r.rate
         FROM receipt r JOIN purchase_order p ON p.company_id = r.company_id AND p.id = r.purchase_order_id
         LEFT JOIN receipt b ON b.company_id = r.company_id AND b.reverses_id = r.id
         LEFT JOIN receipt x ON x.company_id = r.company_id AND x.id = r.reverses_id
        WHERE r.company_id = ? AND r.id IN (?) ORDER BY r.id`,
      [companyId, receiptIds],
    ),
    sql.rows<HeadRow>(
      `SELECT s.id, s.number, b.number AS reversed_by, x.number AS reverses, o.id AS document_id, o.number AS document_number,
              s.customer_id AS party_id, s.ship_to_id, NULL AS foreign_currency, NULL AS rate
         FROM shipment s LEFT JOIN sales_order o ON o.company_id = s.company_id AND o.id = s.order_id
         LEFT JOIN shipment b ON b.company_id = s.company_id AND b.reverses_id = s.id
         LEFT JOIN shipment x ON x.company_id = s.company_id AND x.id = s.reverses_id
        WHERE s.company_id = ? AND s.id IN (?) ORDER BY s.id`,
      [companyId, shipmentIds],
    ),
  ]);
  orNotFound(receiptHeads[0] ?? shipmentHeads[0], 'This movement');
  const unlocked = {
    receipts: await receivedLines(sql, companyId, receiptIds),
    shipments: await shippedLines(sql, companyId, shipmentIds),
  };
  const agreements = await loadAgreements(
    sql,
    companyId,
    [...unlocked.receipts, ...unlocked.shipments].map((line) => line.agreementId),
  );
  const orders = once(
    unlocked.shipments.map(({ orderId, orderNumber }) => ({ kind: 'SO', id: orderId, number: orderNumber })),
  );
  const purchases = once(
    receiptHeads.map((head) => ({ kind: 'PO', id: head.documentId!, number: head.documentNumber! })),
  );
  const held = unlocked.receipts.flatMap((line) => line.heldOrderId ?? []);
  await lockHeads(sql, companyId, 'sales_order', [...orders.map((each) => each.id), ...held]);
  await lockHeads(
    sql,
    companyId,
    'purchase_order',
    purchases.map((each) => each.id),
  );
  const { stock, numbers } = await loadStockAndNumbers(
    sql,
    companyId,
    [...unlocked.receipts, ...unlocked.shipments].map((line) => pointOf(line.itemId, line.locationId)),
    {
      back: [...receiptIds.map((id) => ({ kind: 'RC', id })), ...shipmentIds.map((id) => ({ kind: 'SH', id }))],
    },
  );
  // Read again now that nobody else can move them.
  const [received, shipped] = [
    await receivedLines(sql, companyId, receiptIds),
    await shippedLines(sql, companyId, shipmentIds),
  ];
  const posted = ({ id, number, reversedBy, reverses }: HeadRow) => ({
    id,
    number,
    reversedBy: reversedBy ?? '',
    reverses: reverses ?? '',
  });
  const again = await reversedNow(sql, companyId, receiptIds, shipmentIds);
  return {
    receipts: receiptHeads.map((head): ReceiptNow => ({
      ...posted({ ...head, reversedBy: again.get(`RC${head.id}`) ?? null }),
      purchaseId: head.documentId!,
      vendorId: head.partyId,
      foreign: head.foreignCurrency,
      rate: head.rate!,
      lines: received.filter((line) => line.headId === head.id).map(receivedLineOf),
    })),
    shipments: shipmentHeads.map((head): ShipmentNow => ({
      ...posted({ ...head, reversedBy: again.get(`SH${head.id}`) ?? null }),
      orderId: head.documentId,
      customerId: head.partyId,
      shipToId: head.shipToId!,
      lines: shipped.filter((line) => line.headId === head.id).map(shippedLineOf),
    })),
    stock,
    numbers,
    orders,
    purchases,
    agreements,
  };
}

const once = (documents: readonly Touched[]): Touched[] => [
  ...new Map(documents.map((each) => [each.id, each])).values(),
];

/** What reversed each document by now, by kind and id: read once the heads are locked. */
async function reversedNow(sql: Sql, companyId: number, receiptIds: readonly number[], shipmentIds: readonly number[]) {
  const rows = await sql.rows<{ of: string; number: string }>(
    `SELECT CONCAT('RC', reverses_id) AS \`of\`, number FROM receipt WHERE company_id = ? AND reverses_id IN (?)
      UNION ALL SELECT CONCAT('SH', reverses_id), number FROM shipment WHERE company_id = ? AND reverses_id IN (?)`,
    [companyId, receiptIds, companyId, shipmentIds],
  );
  return new Map(rows.map((row) => [row.of, row.number]));
}

async function lockHeads(sql: Sql, companyId: number, table: 'sales_order' | 'purchase_order', ids: readonly number[]) {
  if (ids.length === 0) return;
  await sql.rows(`SELECT id FROM ${table} WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`, [
    companyId,
    [...new Set(ids)],
  ]);
}

type ReceivedRow = LineRow & {
  purchaseLineId: number;
  tieId: number | null;
  heldLineId: number | null;
  heldOrderId: number | null;
  heldReserved: string | null;
  value: string;
  through: number;
};

function receivedLines(sql: Sql, companyId: number, ids: readonly number[]): Promise<ReceivedRow[]> {
  return sql.rows(
    `SELECT rl.id, rl.receipt_id AS head_id, rl.item_id, i.number AS item, p.location_id, rl.quantity, rl.cost, rl.value, rl.purchase_line_id, rl.tie_id,
            pl.agreement_line_id, al.agreement_id, rl.agreed_value, sl.id IS NOT NULL AS through,
            ol.id AS held_line_id, ol.order_id AS held_order_id, ol.reserved AS held_reserved,
            (SELECT vi.number FROM vendor_invoice_line vl
               JOIN vendor_invoice vi ON vi.company_id = vl.company_id AND vi.id = vl.invoice_id
              WHERE vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id AND ${invoiceStands('vi')} LIMIT 1) AS invoice
       FROM receipt_line rl
       JOIN item i ON i.company_id = rl.company_id AND i.id = rl.item_id
       JOIN purchase_order_line pl ON pl.company_id = rl.company_id AND pl.id = rl.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       LEFT JOIN agreement_line al ON al.company_id = pl.company_id AND al.id = pl.agreement_line_id
       LEFT JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
       LEFT JOIN tie t ON t.company_id = rl.company_id AND t.id = rl.tie_id
       LEFT JOIN sales_order_line ol ON sl.id IS NULL AND ol.company_id = t.company_id AND ol.id = t.order_line_id
      WHERE rl.company_id = ? AND rl.receipt_id IN (?) ORDER BY rl.id`,
    [companyId, ids],
  );
}

const lineOf = (row: LineRow) => ({
  id: row.id,
  itemId: row.itemId,
  locationId: row.locationId,
  quantity: row.quantity,
  cost: row.cost,
  agreementLineId: row.agreementLineId,
  agreedValue: row.agreedValue,
  invoice: row.invoice ?? '',
});

function receivedLineOf(row: ReceivedRow): ReceiptNow['lines'][number] {
  return {
    ...lineOf(row),
    item: row.item,
    value: row.value,
    purchaseLineId: row.purchaseLineId,
    tieId: row.tieId,
    heldFor: row.heldLineId === null ? null : { orderLineId: row.heldLineId, reserved: row.heldReserved ?? '0' },
    through: Boolean(row.through),
  };
}

type ShippedRow = LineRow & {
  orderLineId: number;
  orderId: number;
  orderNumber: string;
  receiptLineId: number | null;
  tieId: number | null;
  route: string;
  value: string;
};

function shippedLines(sql: Sql, companyId: number, ids: readonly number[]): Promise<ShippedRow[]> {
  return sql.rows(
    `SELECT sl.id, sl.shipment_id AS head_id, sl.item_id, i.number AS item, ol.location_id, sl.quantity, sl.cost, sl.value, sl.order_line_id,
            ol.order_id, o.number AS order_number, sl.receipt_line_id, rl.tie_id, ol.route, ol.agreement_line_id, al.agreement_id, sl.agreed_value,
            (SELECT ci.number FROM customer_invoice_line cl
               JOIN customer_invoice ci ON ci.company_id = cl.company_id AND ci.id = cl.invoice_id
              WHERE cl.company_id = sl.company_id AND cl.shipment_line_id = sl.id
                AND ${notTakenBack('cl')} LIMIT 1) AS invoice
       FROM shipment_line sl
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN sales_order_line ol ON ol.company_id = sl.company_id AND ol.id = sl.order_line_id
       JOIN sales_order o ON o.company_id = ol.company_id AND o.id = ol.order_id
       LEFT JOIN agreement_line al ON al.company_id = ol.company_id AND al.id = ol.agreement_line_id
       LEFT JOIN receipt_line rl ON rl.company_id = sl.company_id AND rl.id = sl.receipt_line_id
      WHERE sl.company_id = ? AND sl.shipment_id IN (?) ORDER BY sl.id`,
    [companyId, ids],
  );
}

function shippedLineOf(row: ShippedRow): ShipmentNow['lines'][number] {
  return {
    ...lineOf(row),
    orderLineId: row.orderLineId,
    orderId: row.orderId,
    tieId: row.tieId,
    receiptLineId: row.receiptLineId,
    special: row.route !== 'stock' && row.route !== 'drop',
    value: row.value,
  };
}
