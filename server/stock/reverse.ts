import { dec } from '@core/kernel';
import { atCost, receiptReversalJournal, shipmentJournal } from '@core/ledger';
import { numbered, together, type MovedWith } from '@core/serial';
import {
  costOf,
  decideReverse,
  reversalNeeds,
  worthOf,
  type ReceiptNow,
  type ReverseEffects,
  type ShipmentNow,
} from '@core/stock';
import { apartNeeds, takingApart } from '@core/workshop';
import * as contract from '@api/stock';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import { counterStatements } from '../agreements';
import { Piece, TextPiece, type Statement, type Tx } from '../db';
import { postJournals } from '../ledger';
import { reopenStatement } from '../orders';
import { numbersToWrite } from '../serial';
import { loadAssembledWith, takenBack } from '../workshop';
import { takenBackBySisters } from './for-sister';
import { receiptLineTable, receiptTable, shipmentLineTable, shipmentTable, stockEntryTable } from './tables';
import { loadEvent } from './reversible';

/** Takes a receipt or shipment back, with the other half where it was a drop shipment. // P1 L2 */
export const reverseMovement = defineAct(contract.reverseMovement, {
  right: 'goods',
  says: 'reverse receipts and shipments',
  done: 'reversed',
  async load(tx, input, { companyId }) {
    const event = await loadEvent(tx, companyId, input);
    const shipped = event.shipments.map(({ id }) => id);
    return { ...event, assembled: await loadAssembledWith(tx, companyId, shipped) };
  },
  decide(ground, input, { workDate }) {
    const back = ground.shipments.flatMap(({ lines }) => lines.filter(({ receiptLineId }) => receiptLineId === null));
    const { receipts, shipments, assembled } = ground;
    const decision = takingApart(decideReverse(ground, input.reason), assembled, back, input.reason);
    const numbers = together([ground.numbers, ...assembled.map(({ work }) => work.numbers)]);
    return numbered(decision, numbers, workDate, ({ apart }) => [
      ...reversalNeeds(receipts, shipments),
      ...apartNeeds(apart),
    ]);
  },
  posts: (_effects, { workDate }) => workDate,
  preview: ({ receipts, shipments, taken }) => ({
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
    await takenBackBySisters(tx, effects, doer);
    const made = await writeReversal(tx, effects, doer);
    const touched = [...orders, ...purchases, ...agreements];
    const documentOf = ({ kind, at }: MovedWith) =>
      kind === 'WR' ? null : made[kind === 'RC' ? at : effects.receipts.length + at]!.id;
    // What was assembled for it is taken apart in the same trip. // P5
    const left =
      effects.apart.length === 0
        ? { ...numbersToWrite(doer, effects.numbers, (moved) => documentOf(moved)!), made: [] }
        : await takenBack(tx, doer, effects.apart, effects.numbers, documentOf);
    const written = made.map(({ kind, id, number }) => ({
      kind,
      id: new Piece('?', [id]),
      number: new TextPiece('?', [number]),
    }));
    const works = effects.apart.map(({ ground: { order } }) => ({
      kind: order.kind === 'make' ? ('PR' as const) : ('AS' as const),
      id: order.id,
      number: order.number,
    }));
    return { ...left, made: [...written, ...left.made], touched: [...touched, ...works] };
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
    rate: each.rate,
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
            value: less(line.value),
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
      entries: receiptReversalJournal(worthOf(each.lines), outOf(each)),
      currency: each.foreign,
      vendorId: each.vendorId,
    })),
    ...shipments.map((each, at) => ({
      kind: 'SH' as const,
      at,
      entries: shipmentJournal(
        less(costOf(each.lines)),
        atCost(each.lines.map(({ itemId, cost }) => ({ itemId, cost: less(cost) }))),
      ),
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
        ...received.map((line) => ({ ...line, worth: line.value })),
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
    ...[...new Set(shipments.flatMap(({ lines }) => lines.map(({ orderId }) => orderId)))].map((orderId) =>
      reopenStatement(companyId, orderId),
    ),
    ...receipts.map((each) => ({
      sql: `UPDATE purchase_order p SET p.state = 'placed' WHERE p.company_id = ? AND p.id = ? AND p.state = 'closed'
               AND EXISTS (SELECT 1 FROM purchase_order_line l WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id
                 AND l.quantity > l.invoiced)`,
      values: [companyId, each.purchaseId],
    })),
  ];
}
