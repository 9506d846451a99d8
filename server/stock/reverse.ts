import { dec, pointOf } from '@core/kernel';
import { receiptReversalJournal, shipmentJournal } from '@core/ledger';
import { costOf, decideReverse, type ReceiptNow, type ReverseEffects, type ShipmentNow } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, takeNumbers, there, type Doer, type Touched } from '../acts';
import { counterStatements, loadAgreements } from '../agreements';
import { invoiceStands, notTakenBack, type Sql, type Statement, type Tx } from '../db';
import { postJournals } from '../ledger';
import { loadStock, reopenStatement } from '../orders';
import { receiptLineTable, receiptTable, shipmentLineTable, shipmentTable, stockEntryTable } from './tables';

/** Takes a receipt or shipment back, with the other half where it was a drop shipment. // P1 L2 */
export const reverseMovement = defineAct(contract.reverseMovement, {
  right: 'goods',
  says: 'reverse receipts and shipments',
  done: 'reversed',
  load: (tx, input, doer) => loadEvent(tx, doer.companyId, input),
  decide: (ground, input) => decideReverse(ground, input.reason),
  show: ({ receipts, shipments, taken }) => ({
    documents: [
      ...receipts.map(({ id, number, lines }) => ({
        document: { kind: 'RC' as const, id, number },
        cost: costOf(lines),
      })),
      ...shipments.map(({ id, number, lines }) => ({
        document: { kind: 'SH' as const, id, number },
        cost: costOf(lines),
      })),
    ],
    // What the goods are worth less by now than they came in for.
    difference: taken
      .reduce(
        (sum, each) =>
          sum
            .plus(receipts.flatMap((receipt) => receipt.lines).find((line) => line.id === each.lineId)!.cost)
            .minus(each.value),
        dec(0),
      )
      .toFixed(),
  }),
  async write(tx, effects, { orders, purchases, agreements }, doer) {
    return { made: await writeReversal(tx, effects, doer), touched: [...orders, ...purchases, ...agreements] };
  },
});

const less = (text: string) => dec(text).neg().toFixed();

/** What moved, taken back: counters first, then the documents, their stock entries and journals. // P1 P2 P3 */
async function writeReversal(tx: Tx, effects: ReverseEffects, doer: Doer): Promise<Touched[]> {
  const { receipts, shipments, reason } = effects;
  const { companyId, workDate } = doer;
  const journals = journalsOf(effects);
  const number = await takeNumbers(
    tx,
    companyId,
    { RC: receipts.length, SH: shipments.length, JR: journals.length },
    countStatements(effects, companyId),
  );
  const head = (kind: 'RC' | 'SH', each: ReceiptNow | ShipmentNow) => ({
    companyId,
    number: number(kind),
    postedOn: workDate,
    cost: less(costOf(each.lines)),
    reversesId: each.id,
    reason,
  });
  const receiptRows = receipts.map((each) => ({
    ...head('RC', each),
    purchaseOrderId: each.purchaseId,
    vendorId: each.vendorId,
  }));
  const shipmentRows = shipments.map((each) => ({
    ...head('SH', each),
    orderId: each.orderId,
    customerId: each.customerId,
    shipToId: each.shipToId,
  }));
  const receiptIds = receiptRows.length > 0 ? await tx.insert(receiptTable, receiptRows) : [];
  const shipmentIds = shipmentRows.length > 0 ? await tx.insert(shipmentTable, shipmentRows) : [];
  const received = receipts.flatMap((each, at) => each.lines.map((line) => ({ line, receiptId: receiptIds[at]! })));
  const receiptLineIds =
    received.length === 0
      ? []
      : await tx.insert(
          receiptLineTable,
          received.map(({ line, receiptId }) => ({
            companyId,
            receiptId,
            purchaseLineId: line.purchaseLineId,
            tieId: line.tieId,
            itemId: line.itemId,
            quantity: less(line.quantity),
            unitCost: dec(line.cost).div(line.quantity).round(4).toFixed(),
            cost: less(line.cost),
            agreedValue: line.agreedValue === null ? null : less(line.agreedValue),
            reversesLineId: line.id,
          })),
        );
  const newLineOf = new Map(received.map(({ line }, at) => [line.id, receiptLineIds[at]!]));
  const shipped = shipments.flatMap((each, at) => each.lines.map((line) => ({ line, shipmentId: shipmentIds[at]! })));
  await tx.insertPlain(
    shipmentLineTable,
    shipped.map(({ line, shipmentId }) => ({
      companyId,
      shipmentId,
      orderLineId: line.orderLineId,
      receiptLineId: line.receiptLineId === null ? null : newLineOf.get(line.receiptLineId)!,
      itemId: line.itemId,
      quantity: less(line.quantity),
      unitCost: dec(line.cost).div(line.quantity).round(4).toFixed(),
      cost: less(line.cost),
      value: less(line.value),
      agreedValue: line.agreedValue === null ? null : less(line.agreedValue),
      reversesLineId: line.id,
    })),
  );
  const entry = { companyId, postedOn: workDate };
  await tx.insertPlain(stockEntryTable, [
    ...received.map(({ line, receiptId }) => ({
      ...entry,
      itemId: line.itemId,
      place: line.through ? ('vendor-to-customer' as const) : ('ours' as const),
      locationId: line.locationId,
      quantity: less(line.quantity),
      cost: less(line.through ? line.cost : effects.taken.find((each) => each.lineId === line.id)!.value),
      documentKind: 'RC',
      documentId: receiptId,
    })),
    ...shipped.map(({ line, shipmentId }) => ({
      ...entry,
      itemId: line.itemId,
      place: line.receiptLineId === null ? ('ours' as const) : ('vendor-to-customer' as const),
      locationId: line.locationId,
      quantity: line.quantity,
      cost: line.cost,
      documentKind: 'SH',
      documentId: shipmentId,
    })),
  ]);
  const ids = { RC: receiptIds, SH: shipmentIds };
  await postJournals(
    tx,
    doer,
    journals.map(({ kind, at, ...plan }) => ({
      ...plan,
      source: { kind, id: ids[kind][at]! },
      number: number('JR'),
      postedOn: workDate,
    })),
  );
  return [
    ...receiptIds.map((id, at): Touched => ({ kind: 'RC', id, number: receiptRows[at]!.number })),
    ...shipmentIds.map((id, at): Touched => ({ kind: 'SH', id, number: shipmentRows[at]!.number })),
  ];
}

/** The journals of what had a cost, each by the receipt or shipment it takes back. */
function journalsOf({ receipts, shipments, taken }: ReverseEffects) {
  const outOf = (receipt: ReceiptNow) =>
    receipt.lines
      .map((line) => (line.through ? line.cost : taken.find((each) => each.lineId === line.id)!.value))
      .reduce((sum, value) => sum.plus(value), dec(0))
      .toFixed();
  return [
    ...receipts.map((each, at) => ({
      kind: 'RC' as const,
      at,
      entries: receiptReversalJournal(costOf(each.lines), outOf(each)),
      vendorId: each.vendorId,
    })),
    ...shipments.map((each, at) => ({
      kind: 'SH' as const,
      at,
      entries: shipmentJournal(less(costOf(each.lines))),
      customerId: each.customerId,
    })),
  ].filter((plan) => plan.entries.length > 0);
}

/** The counters of ties, lines, stock and agreements, moved back; what was closed is open again. // A4 L1 */
function countStatements({ receipts, shipments, taken }: ReverseEffects, companyId: number): Statement[] {
  const received = receipts.flatMap((each) => each.lines);
  const shipped = shipments.flatMap((each) => each.lines);
  return [
    ...shipped.flatMap((line): Statement[] => [
      {
        sql: 'UPDATE sales_order_line SET shipped = shipped - ?, reserved = reserved + ? WHERE company_id = ? AND id = ?',
        values: [line.quantity, line.special ? line.quantity : '0', companyId, line.orderLineId],
      },
      ...(line.receiptLineId === null
        ? [
            {
              sql: `UPDATE stock SET on_hand = on_hand + ?, value = value + ?, reserved = reserved + ?
                     WHERE company_id = ? AND item_id = ? AND location_id = ?`,
              values: [
                line.quantity,
                line.cost,
                line.special ? line.quantity : '0',
                companyId,
                line.itemId,
                line.locationId,
              ],
            },
          ]
        : []),
    ]),
    ...received.flatMap((line): Statement[] => [
      {
        sql: 'UPDATE purchase_order_line SET received = received - ? WHERE company_id = ? AND id = ?',
        values: [line.quantity, companyId, line.purchaseLineId],
      },
      ...(line.tieId === null
        ? []
        : [
            {
              sql: 'UPDATE tie SET received = received - ? WHERE company_id = ? AND id = ?',
              values: [line.quantity, companyId, line.tieId],
            },
          ]),
    ]),
    ...taken.flatMap((each): Statement[] => [
      {
        sql: `UPDATE stock SET reserved = reserved - ?, on_hand = on_hand - ?, value = value - ?
               WHERE company_id = ? AND item_id = ? AND location_id = ?`,
        values: [each.held?.quantity ?? '0', each.quantity, each.value, companyId, each.itemId, each.locationId],
      },
      ...(each.held
        ? [
            {
              sql: 'UPDATE sales_order_line SET reserved = reserved - ? WHERE company_id = ? AND id = ?',
              values: [each.held.quantity, companyId, each.held.orderLineId],
            },
          ]
        : []),
    ]),
    ...counterStatements(
      companyId,
      'shipped',
      [
        ...shipped.map((line) => ({ ...line, worth: line.value })),
        ...received.map((line) => ({ ...line, worth: line.cost })),
      ].flatMap((line) =>
        line.agreementLineId === null
          ? []
          : [
              {
                agreementLineId: line.agreementLineId,
                quantity: less(line.quantity),
                value: less(line.agreedValue ?? line.worth),
              },
            ],
      ),
    ),
    ...shipments.map((each) => reopenStatement(companyId, each.orderId)),
    ...receipts.map((each) => ({
      sql: `UPDATE purchase_order p SET p.state = 'placed' WHERE p.company_id = ? AND p.id = ? AND p.state = 'closed'
               AND EXISTS (SELECT 1 FROM purchase_order_line l WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id
                 AND l.quantity > l.invoiced)`,
      values: [companyId, each.purchaseId],
    })),
  ];
}

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
  documentId: number;
  documentNumber: string;
  partyId: number;
  shipToId: number | null;
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
async function loadEvent(sql: Sql, companyId: number, from: { kind: 'RC' | 'SH'; id: number }) {
  const { receiptIds, shipmentIds } = await eventOf(sql, companyId, from);
  const [receiptHeads, shipmentHeads] = await Promise.all([
    sql.rows<HeadRow>(
      `SELECT r.id, r.number, b.number AS reversed_by, x.number AS reverses, p.id AS document_id, p.number AS document_number,
              r.vendor_id AS party_id, NULL AS ship_to_id
         FROM receipt r JOIN purchase_order p ON p.company_id = r.company_id AND p.id = r.purchase_order_id
         LEFT JOIN receipt b ON b.company_id = r.company_id AND b.reverses_id = r.id
         LEFT JOIN receipt x ON x.company_id = r.company_id AND x.id = r.reverses_id
        WHERE r.company_id = ? AND r.id IN (?) ORDER BY r.id`,
      [companyId, receiptIds],
    ),
    sql.rows<HeadRow>(
      `SELECT s.id, s.number, b.number AS reversed_by, x.number AS reverses, o.id AS document_id, o.number AS document_number,
              s.customer_id AS party_id, s.ship_to_id
         FROM shipment s JOIN sales_order o ON o.company_id = s.company_id AND o.id = s.order_id
         LEFT JOIN shipment b ON b.company_id = s.company_id AND b.reverses_id = s.id
         LEFT JOIN shipment x ON x.company_id = s.company_id AND x.id = s.reverses_id
        WHERE s.company_id = ? AND s.id IN (?) ORDER BY s.id`,
      [companyId, shipmentIds],
    ),
  ]);
  there(receiptHeads[0] ?? shipmentHeads[0], 'This movement');
  const unlocked = {
    receipts: await receivedLines(sql, companyId, receiptIds),
    shipments: await shippedLines(sql, companyId, shipmentIds),
  };
  const agreements = await loadAgreements(
    sql,
    companyId,
    [...unlocked.receipts, ...unlocked.shipments].map((line) => line.agreementId),
  );
  const refs = (kind: 'SO' | 'PO', heads: readonly HeadRow[]): Touched[] => [
    ...new Map(
      heads.map((head) => [head.documentId, { kind, id: head.documentId, number: head.documentNumber }]),
    ).values(),
  ];
  const orders = refs('SO', shipmentHeads);
  const purchases = refs('PO', receiptHeads);
  const held = unlocked.receipts.flatMap((line) => line.heldOrderId ?? []);
  await lockHeads(sql, companyId, 'sales_order', [...orders.map((each) => each.id), ...held]);
  await lockHeads(
    sql,
    companyId,
    'purchase_order',
    purchases.map((each) => each.id),
  );
  const stock = await loadStock(
    sql,
    companyId,
    [...unlocked.receipts, ...unlocked.shipments].map((line) => pointOf(line.itemId, line.locationId)),
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
      purchaseId: head.documentId,
      vendorId: head.partyId,
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
    orders,
    purchases,
    agreements,
  };
}

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
  through: number;
};

function receivedLines(sql: Sql, companyId: number, ids: readonly number[]): Promise<ReceivedRow[]> {
  return sql.rows(
    `SELECT rl.id, rl.receipt_id AS head_id, rl.item_id, i.number AS item, p.location_id, rl.quantity, rl.cost, rl.purchase_line_id, rl.tie_id,
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
    purchaseLineId: row.purchaseLineId,
    tieId: row.tieId,
    heldFor: row.heldLineId === null ? null : { orderLineId: row.heldLineId, reserved: row.heldReserved ?? '0' },
    through: Boolean(row.through),
  };
}

type ShippedRow = LineRow & {
  orderLineId: number;
  receiptLineId: number | null;
  tieId: number | null;
  route: string;
  value: string;
};

function shippedLines(sql: Sql, companyId: number, ids: readonly number[]): Promise<ShippedRow[]> {
  return sql.rows(
    `SELECT sl.id, sl.shipment_id AS head_id, sl.item_id, i.number AS item, ol.location_id, sl.quantity, sl.cost, sl.value, sl.order_line_id,
            sl.receipt_line_id, rl.tie_id, ol.route, ol.agreement_line_id, al.agreement_id, sl.agreed_value,
            (SELECT ci.number FROM customer_invoice_line cl
               JOIN customer_invoice ci ON ci.company_id = cl.company_id AND ci.id = cl.invoice_id
              WHERE cl.company_id = sl.company_id AND cl.shipment_line_id = sl.id
                AND ${notTakenBack('cl')} LIMIT 1) AS invoice
       FROM shipment_line sl
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN sales_order_line ol ON ol.company_id = sl.company_id AND ol.id = sl.order_line_id
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
    tieId: row.tieId,
    receiptLineId: row.receiptLineId,
    special: row.route === 'special',
    value: row.value,
  };
}
