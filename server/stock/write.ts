import { dec, sum } from '@core/kernel';
import { atCost, receiptJournal, shipmentJournal } from '@core/ledger';
import { staysHere, type MovedPart, type MoveEffects, type ReceivedPart, type ShippedPart } from '@core/stock';
import { numbersAtLast, type Doer, type LeftToWrite } from '../acts';
import { counterStatements, type CounterChange } from '../agreements';
import { journalEntries, journalHeads, type JournalPlan } from '../ledger';
import { into, newId, type Insertion, type Piece, type Statement, type TextPiece, type Tx } from '../db';
import type { SerialEffects } from '@core/serial';
import { numbersToWrite } from '../serial';
import type { ReportsToWrite } from '../workshop';
import { workReportTable } from '../workshop/tables';
import { receiptLineTable, receiptTable, shipmentLineTable, shipmentTable, stockEntryTable } from './tables';

/**
 * What writes a movement, in the act's last trip: counters first, then numbers, then receipts, shipments, stock entries
 * and journals, each table in one statement. From the numbers on everybody else who posts waits. // L2 P1 P2 P3
 */
export async function moveToWrite(
  tx: Tx,
  effects: MoveEffects & { numbers: SerialEffects },
  doer: Doer,
  first: AssembledFirst = NOTHING_FIRST,
): Promise<Omit<LeftToWrite, 'touched'>> {
  const { receipts, shipments } = effects;
  const posted = journalsOf(effects, doer);
  const { statements, number } = numbersAtLast(doer.companyId, {
    RC: receipts.length,
    SH: shipments.length,
    WR: first.count,
    JR: posted.length + first.posted,
  });
  const numbers = { RC: receipts.map(() => number('RC')), SH: shipments.map(() => number('SH')) };
  const work = first.toWrite(
    Array.from({ length: first.count }, () => number('WR')),
    (lineId) => shipmentWith(effects, lineId),
  );
  const pieces = numbersToWrite(doer, effects.numbers, ({ kind, at }) =>
    newId(kind === 'WR' ? workReportTable : kind === 'RC' ? receiptTable : shipmentTable, at),
  );
  const journals = [...posted, ...work.journals].map((plan) => ({ ...plan, number: number('JR') }));
  return {
    // What is assembled is there before it goes out.
    statements: [...work.statements, ...countStatements(effects, doer), ...pieces.statements, ...statements],
    insertions: [
      receiptHeads(effects, numbers.RC, doer),
      shipmentHeads(effects, numbers.SH, doer),
      ...work.insertions,
      receiptLines(effects, doer),
      shipmentLines(effects, doer),
      stockEntries(effects, doer),
      ...pieces.insertions,
      journalHeads(doer, journals),
      await journalEntries(tx, doer, journals),
    ],
    made: [
      ...numbers.RC.map((each, index) => ({ kind: 'RC' as const, id: receiptId(index), number: each })),
      ...numbers.SH.map((each, index) => ({ kind: 'SH' as const, id: shipmentId(index), number: each })),
      ...work.made,
    ],
  };
}

/** What is assembled in the act that ships it: how many reports, how many of them post, and what writes them. // P5 */
export interface AssembledFirst {
  count: number;
  posted: number;
  toWrite(numbers: TextPiece[], shipmentOf: (orderLineId: number) => Piece | null): ReportsToWrite;
}

const NOTHING_FIRST: AssembledFirst = {
  count: 0,
  posted: 0,
  toWrite: () => ({ statements: [], insertions: [], journals: [], made: [] }),
};

/** The shipment an order line goes out with. */
function shipmentWith({ shipments }: MoveEffects, lineId: number): Piece | null {
  const at = shipments.findIndex(({ parts }) => parts.some(({ orderLineId }) => orderLineId === lineId));
  return at < 0 ? null : shipmentId(at);
}

const receiptId = (index: number) => newId(receiptTable, index);
const shipmentId = (index: number) => newId(shipmentTable, index);

/** The journals of what has a cost, not yet numbered. */
function journalsOf(effects: MoveEffects, doer: Doer): Omit<JournalPlan, 'number'>[] {
  return [
    ...effects.receipts.map((receipt, index) => ({
      source: { kind: 'RC' as const, id: receiptId(index) },
      entries: receiptJournal({
        amount: sum(receipt.parts.map((part) => dec(part.value))),
        own: dec(receipt.cost),
      }),
      currency: receipt.foreign,
      vendorId: receipt.vendorId,
      postedOn: doer.workDate,
    })),
    ...effects.shipments.map((shipment, index) => ({
      source: { kind: 'SH' as const, id: shipmentId(index) },
      entries: shipmentJournal(shipment.cost, atCost(shipment.parts)),
      customerId: shipment.customerId,
      postedOn: doer.workDate,
    })),
  ].filter((plan) => plan.entries.length > 0);
}

/** What moves the counters of ties, both lines, stock and agreements. // A4 L1 */
function countStatements({ receipts, shipments }: MoveEffects, { companyId }: Doer): Statement[] {
  const shipped = shipments.flatMap((shipment) => shipment.parts);
  const received = receipts.flatMap((receipt) => receipt.parts);
  return [
    ...shipped.flatMap((part) =>
      part.tieId === null ? fromStock(part, companyId) : [throughTie(part, part.tieId, companyId)],
    ),
    ...received.filter(staysHere).flatMap((part) => intoStock(part, companyId)),
    ...counterStatements(companyId, 'shipped', [
      ...underAgreement(shipped, (part) => part.value),
      ...underAgreement(received, (part) => part.value),
    ]),
  ];
}

/** What of moved parts counts on agreement lines: the customer's as shipped, the vendor's as received. */
function underAgreement<Part extends MovedPart>(
  parts: readonly Part[],
  worth: (part: Part) => string,
): CounterChange[] {
  return parts.flatMap((part) =>
    part.agreementLineId === null
      ? []
      : [{ agreementLineId: part.agreementLineId, quantity: part.quantity, value: part.agreedValue ?? worth(part) }],
  );
}

function throughTie(part: ShippedPart, tieId: number, companyId: number): Statement {
  return {
    sql: `UPDATE tie t
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
        SET t.received = t.received + ?, pl.received = pl.received + ?, sl.shipped = sl.shipped + ?
      WHERE t.company_id = ? AND t.id = ?`,
    values: [part.quantity, part.quantity, part.quantity, companyId, tieId],
  };
}

function fromStock(part: ShippedPart, companyId: number): Statement[] {
  return [
    {
      // Released before it is shipped: what is held and what is shipped never sum to more than the line.
      sql: 'UPDATE sales_order_line SET reserved = reserved - ?, shipped = shipped + ? WHERE company_id = ? AND id = ?',
      values: [part.held, part.quantity, companyId, part.orderLineId],
    },
    {
      sql: `UPDATE stock SET reserved = reserved - ?, on_hand = on_hand - ?, value = value - ?
             WHERE company_id = ? AND item_id = ? AND location_id = ?`,
      values: [part.held, part.quantity, part.cost, companyId, part.itemId, part.locationId],
    },
  ];
}

function intoStock(part: ReceivedPart, companyId: number): Statement[] {
  return [
    {
      sql: 'UPDATE purchase_order_line SET received = received + ? WHERE company_id = ? AND id = ?',
      values: [part.quantity, companyId, part.purchaseLineId],
    },
    {
      sql: `INSERT INTO stock (company_id, item_id, location_id, on_hand, reserved, value) VALUES (?, ?, ?, ?, ?, ?)
         ON DUPLICATE KEY UPDATE on_hand = on_hand + VALUES(on_hand), reserved = reserved + VALUES(reserved), value = value + VALUES(value)`,
      values: [
        companyId,
        part.itemId,
        part.locationId,
        part.quantity,
        part.heldFor === null ? '0' : part.quantity,
        part.cost,
      ],
    },
    ...(part.tieId === null || part.heldFor === null ? [] : [heldOnTie(part, part.tieId, companyId)]),
  ];
}

/** A special order's goods are there: its tie has received them, its line holds them. // L3 */
function heldOnTie(part: ReceivedPart, tieId: number, companyId: number): Statement {
  return {
    sql: `UPDATE tie t JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
        SET t.received = t.received + ?, sl.reserved = sl.reserved + ? WHERE t.company_id = ? AND t.id = ?`,
    values: [part.quantity, part.quantity, companyId, tieId],
  };
}

function receiptHeads({ receipts }: MoveEffects, numbers: readonly TextPiece[], doer: Doer): Insertion {
  return into(
    receiptTable,
    receipts.map((receipt, index) => ({
      companyId: doer.companyId,
      number: numbers[index]!,
      purchaseOrderId: receipt.purchaseId,
      vendorId: receipt.vendorId,
      postedOn: doer.workDate,
      cost: receipt.cost,
      rate: receipt.rate,
    })),
    { ids: true },
  );
}

function shipmentHeads({ shipments }: MoveEffects, numbers: readonly TextPiece[], doer: Doer): Insertion {
  return into(
    shipmentTable,
    shipments.map((shipment, index) => ({
      companyId: doer.companyId,
      number: numbers[index]!,
      orderId: shipment.orderId,
      customerId: shipment.customerId,
      shipToId: shipment.shipToId,
      postedOn: doer.workDate,
      cost: shipment.cost,
    })),
    { ids: true },
  );
}

function receiptLines({ receipts }: MoveEffects, doer: Doer): Insertion {
  return into(
    receiptLineTable,
    receipts.flatMap((receipt, index) =>
      receipt.parts.map((part) => ({
        companyId: doer.companyId,
        receiptId: receiptId(index),
        purchaseLineId: part.purchaseLineId,
        tieId: part.tieId,
        itemId: part.itemId,
        quantity: part.quantity,
        unitCost: part.unitCost,
        cost: part.cost,
        value: part.value,
        agreedValue: part.agreedValue,
      })),
    ),
    { ids: true },
  );
}

function shipmentLines({ receipts, shipments }: MoveEffects, doer: Doer): Insertion {
  let at = 0;
  const byReceipt = receipts.map((receipt) => receipt.parts.map(() => newId(receiptLineTable, at++)));
  return into(
    shipmentLineTable,
    shipments.flatMap((shipment, index) =>
      shipment.parts.map((part) => ({
        companyId: doer.companyId,
        shipmentId: shipmentId(index),
        orderLineId: part.orderLineId,
        receiptLineId: part.from ? byReceipt[part.from.receipt]![part.from.part]! : null,
        itemId: part.itemId,
        quantity: part.quantity,
        unitCost: part.unitCost,
        cost: part.cost,
        value: part.value,
        agreedValue: part.agreedValue,
      })),
    ),
  );
}

function stockEntries({ receipts, shipments }: MoveEffects, doer: Doer): Insertion {
  const entry = (
    place: 'ours' | 'vendor-to-customer',
    sign: '' | '-',
    part: { itemId: number; locationId: number; quantity: string; cost: string },
    kind: 'RC' | 'SH',
    id: Piece,
  ) => ({
    companyId: doer.companyId,
    itemId: part.itemId,
    place,
    locationId: part.locationId,
    quantity: `${sign}${part.quantity}`,
    cost: `${sign}${part.cost}`,
    postedOn: doer.workDate,
    documentKind: kind,
    documentId: id,
  });
  return into(stockEntryTable, [
    ...receipts.flatMap((receipt, index) =>
      receipt.parts.map((part) =>
        entry(staysHere(part) ? 'ours' : 'vendor-to-customer', '', part, 'RC', receiptId(index)),
      ),
    ),
    ...shipments.flatMap((shipment, index) =>
      shipment.parts.map((part) =>
        entry(part.from ? 'vendor-to-customer' : 'ours', '-', part, 'SH', shipmentId(index)),
      ),
    ),
  ]);
}
