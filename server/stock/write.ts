import { receiptJournal, shipmentJournal } from '@core/ledger';
import type { MoveEffects, ShippedPart } from '@core/stock';
import { takeNumbers, type Doer, type Touched } from '../acts';
import { addToCounter } from '../agreements';
import { postJournals } from '../ledger';
import type { Tx } from '../db/database';

/**
 * Writes a movement: counters first, then numbers, then receipts, shipments, stock entries and journals,
 * each table in one statement. // L2 P1 P2 P3
 */
export async function writeMove(tx: Tx, effects: MoveEffects, doer: Doer): Promise<Touched[]> {
  await count(tx, effects, doer);
  const { receipts, shipments } = effects;
  const number = await takeNumbers(tx, doer.companyId, {
    RC: receipts.length,
    SH: shipments.length,
    JR: receipts.length + shipments.length,
  });
  const receiptRefs = await insertReceipts(tx, effects, doer, () => number('RC'));
  const shipmentRefs = await insertShipments(tx, effects, receiptRefs.lineIds, doer, () => number('SH'));
  await insertStockEntries(tx, effects, receiptRefs.made, shipmentRefs, doer);
  const journals = [
    ...receipts.map((receipt, index) => ({
      source: receiptRefs.made[index]!,
      entries: receiptJournal(receipt.cost),
      vendorId: receipt.vendorId,
    })),
    ...shipments.map((shipment, index) => ({
      source: shipmentRefs[index]!,
      entries: shipmentJournal(shipment.cost),
      customerId: shipment.customerId,
    })),
  ].filter((plan) => plan.entries.length > 0);
  await postJournals(
    tx,
    doer,
    journals.map((plan) => ({ ...plan, number: number('JR'), postedOn: doer.workDate })),
  );
  return [...receiptRefs.made, ...shipmentRefs];
}

/** Moves the counters of ties, both lines, agreements and stock. // A4 L1 */
async function count(tx: Tx, { shipments }: MoveEffects, doer: Doer): Promise<void> {
  const parts = shipments.flatMap((shipment) => shipment.parts);
  for (const part of parts) {
    if (part.tieId === null) await countFromStock(tx, part, doer);
    else {
      await tx.run(
        `UPDATE tie t
           JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
           JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
            SET t.received = t.received + ?, pl.received = pl.received + ?, sl.shipped = sl.shipped + ?
          WHERE t.company_id = ? AND t.id = ?`,
        [part.quantity, part.quantity, part.quantity, doer.companyId, part.tieId],
      );
    }
  }
  await addToCounter(
    tx,
    doer.companyId,
    'shipped',
    parts
      .filter((part) => part.agreementLineId !== null)
      .map((part) => ({
        agreementLineId: part.agreementLineId!,
        quantity: part.quantity,
        value: part.value,
      })),
  );
}

async function countFromStock(tx: Tx, part: ShippedPart, doer: Doer): Promise<void> {
  await tx.run('UPDATE sales_order_line SET shipped = shipped + ? WHERE company_id = ? AND id = ?', [
    part.quantity,
    doer.companyId,
    part.orderLineId,
  ]);
  await tx.run('UPDATE stock SET on_hand = on_hand - ?, value = value - ? WHERE company_id = ? AND item_id = ?', [
    part.quantity,
    part.cost,
    doer.companyId,
    part.itemId,
  ]);
}

async function insertReceipts(tx: Tx, { receipts }: MoveEffects, doer: Doer, next: () => string) {
  const numbers = receipts.map(next);
  const ids = await tx.insert(
    'receipt',
    receipts.map((receipt, index) => ({
      company_id: doer.companyId,
      number: numbers[index]!,
      purchase_order_id: receipt.purchaseId,
      vendor_id: receipt.vendorId,
      posted_on: doer.workDate,
      cost: receipt.cost,
    })),
  );
  const flat = await tx.insert(
    'receipt_line',
    receipts.flatMap((receipt, index) =>
      receipt.parts.map((part) => ({
        company_id: doer.companyId,
        receipt_id: ids[index]!,
        purchase_line_id: part.purchaseLineId,
        tie_id: part.tieId,
        item_id: part.itemId,
        quantity: part.quantity,
        unit_cost: part.unitCost,
        cost: part.cost,
      })),
    ),
  );
  let at = 0;
  return {
    made: ids.map((id, index) => ({ kind: 'RC' as const, id, number: numbers[index]! })),
    /** By receipt, then by part. */
    lineIds: receipts.map((receipt) => receipt.parts.map(() => flat[at++]!)),
  };
}

async function insertShipments(
  tx: Tx,
  { shipments }: MoveEffects,
  receiptLineIds: readonly (readonly number[])[],
  doer: Doer,
  next: () => string,
) {
  const numbers = shipments.map(next);
  const ids = await tx.insert(
    'shipment',
    shipments.map((shipment, index) => ({
      company_id: doer.companyId,
      number: numbers[index]!,
      order_id: shipment.orderId,
      customer_id: shipment.customerId,
      ship_to_id: shipment.shipToId,
      posted_on: doer.workDate,
      cost: shipment.cost,
    })),
  );
  await tx.insert(
    'shipment_line',
    shipments.flatMap((shipment, index) =>
      shipment.parts.map((part) => ({
        company_id: doer.companyId,
        shipment_id: ids[index]!,
        order_line_id: part.orderLineId,
        receipt_line_id: part.from ? receiptLineIds[part.from.receipt]![part.from.part]! : null,
        item_id: part.itemId,
        quantity: part.quantity,
        unit_cost: part.unitCost,
        cost: part.cost,
        value: part.value,
      })),
    ),
  );
  return ids.map((id, index) => ({ kind: 'SH' as const, id, number: numbers[index]! }));
}

async function insertStockEntries(
  tx: Tx,
  { receipts, shipments }: MoveEffects,
  receiptRefs: readonly { id: number }[],
  shipmentRefs: readonly { id: number }[],
  doer: Doer,
): Promise<void> {
  const entry = (
    place: string,
    sign: '' | '-',
    part: { itemId: number; quantity: string; cost: string },
    kind: string,
    id: number,
  ) => ({
    company_id: doer.companyId,
    item_id: part.itemId,
    place,
    quantity: `${sign}${part.quantity}`,
    cost: `${sign}${part.cost}`,
    posted_on: doer.workDate,
    document_kind: kind,
    document_id: id,
  });
  await tx.insertPlain('stock_entry', [
    ...receipts.flatMap((receipt, index) =>
      receipt.parts.map((part) => entry('vendor-to-customer', '', part, 'RC', receiptRefs[index]!.id)),
    ),
    ...shipments.flatMap((shipment, index) =>
      shipment.parts.map((part) =>
        entry(part.from ? 'vendor-to-customer' : 'ours', '-', part, 'SH', shipmentRefs[index]!.id),
      ),
    ),
  ]);
}
