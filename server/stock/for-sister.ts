import { dec } from '@core/kernel';
import { numbersShown, type SerialEffects } from '@core/serial';
import type { MoveEffects } from '@core/stock';
import { actNamed, doInSister, type Doer } from '../acts';
import { into, newId, type Insertion, type Sql, type Tx } from '../db';
import { sisterMoveTable } from '../sisters/tables';
import { shipmentTable } from './tables';

/** A line of ours that goes straight to the customer of a sister who bought it of us. */
interface ThroughRow {
  salesLineId: number;
  buyerId: number;
  purchaseLineId: number;
  purchaseId: number;
  factor: string;
  serial: boolean;
}

/**
 * What we ship to a sister's customer she receives, and ships, in the same act: her receipts, paired with our shipments
 * once those are written. All or none, across both companies. // X4
 */
export async function receivedBySisters(
  tx: Tx,
  { shipments, numbers }: MoveEffects & { numbers: SerialEffects },
  doer: Doer,
): Promise<Insertion[]> {
  const lineIds = shipments.flatMap(({ parts }) => parts.map(({ orderLineId }) => orderLineId));
  const through = await throughOf(tx, doer.companyId, lineIds);
  if (through.length === 0) return [];
  const shown = numbersShown(numbers);
  const pairs = [];
  for (const [index, shipment] of shipments.entries()) {
    const byPurchase = new Map<
      number,
      { buyerId: number; lines: { lineId: number; quantity: string; numbers: string[] }[] }
    >();
    for (const { orderLineId, quantity } of shipment.parts) {
      const line = through.find(({ salesLineId }) => salesLineId === orderLineId);
      if (!line) continue;
      const to = byPurchase.get(line.purchaseId) ?? { buyerId: line.buyerId, lines: [] };
      byPurchase.set(line.purchaseId, to);
      const known = to.lines.find(({ lineId }) => lineId === line.purchaseLineId);
      const moved = dec(quantity).times(line.factor);
      if (known) known.quantity = moved.plus(known.quantity).toFixed();
      else {
        const pieces = line.serial
          ? shown.filter(({ lineId }) => lineId === orderLineId).map(({ number }) => number)
          : [];
        to.lines.push({ lineId: line.purchaseLineId, quantity: moved.toFixed(), numbers: pieces });
      }
    }
    for (const [purchaseId, { buyerId, lines }] of byPurchase) {
      const { made } = await doInSister(tx, actNamed('receiveGoods')!, { purchaseId, lines }, buyerId, doer);
      pairs.push(
        ...made
          .filter(({ kind }) => kind === 'RC')
          .map(({ id }) => ({
            sellerId: doer.companyId,
            shipmentId: newId(shipmentTable, index),
            buyerId,
            receiptId: id,
          })),
      );
    }
  }
  return [into(sisterMoveTable, pairs)];
}

/** Which of some order lines go straight to a sister's customer, and what she bought them as. */
async function throughOf(sql: Sql, companyId: number, lineIds: readonly number[]): Promise<ThroughRow[]> {
  const rows = await sql.rows<Omit<ThroughRow, 'serial'> & { serial: number }>(
    `SELECT x.sales_line_id, x.buyer_id, x.purchase_line_id, p.id AS purchase_id, x.factor, EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = i.company_id AND n.item_id = i.id) AS serial
       FROM sister_line x
       JOIN purchase_order_line pl ON pl.company_id = x.buyer_id AND pl.id = x.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id AND p.ship_to_id IS NOT NULL
       JOIN item i ON i.company_id = pl.company_id AND i.id = pl.item_id
      WHERE x.seller_id = ? AND x.sales_line_id IN (?)`,
    [companyId, lineIds],
  );
  return rows.map((row) => ({ ...row, serial: Boolean(row.serial) }));
}

/** What was one movement with a sister's is taken back there too, from whichever end it is taken back. // X4 */
export async function takenBackBySisters(
  tx: Tx,
  {
    receipts,
    shipments,
    reason,
  }: { receipts: readonly { id: number }[]; shipments: readonly { id: number }[]; reason: string },
  doer: Doer,
): Promise<void> {
  const ids = (of: readonly { id: number }[]) => of.map(({ id }) => id);
  const pairs = await tx.rows<{ sellerId: number; shipmentId: number; buyerId: number; receiptId: number }>(
    `SELECT seller_id, shipment_id, buyer_id, receipt_id FROM sister_move WHERE seller_id = ? AND shipment_id IN (?)
      UNION SELECT seller_id, shipment_id, buyer_id, receipt_id FROM sister_move WHERE buyer_id = ? AND receipt_id IN (?)`,
    [doer.companyId, ids(shipments), doer.companyId, ids(receipts)],
  );
  const others = new Map<string, { companyId: number; kind: 'RC' | 'SH'; id: number }>();
  for (const { sellerId, shipmentId, buyerId, receiptId } of pairs) {
    // It is one movement no more: the other end finds nothing of ours to take back in turn.
    await tx.run('DELETE FROM sister_move WHERE seller_id = ? AND shipment_id = ? AND receipt_id = ?', [
      sellerId,
      shipmentId,
      receiptId,
    ]);
    const other =
      sellerId === doer.companyId
        ? { companyId: buyerId, kind: 'RC' as const, id: receiptId }
        : { companyId: sellerId, kind: 'SH' as const, id: shipmentId };
    others.set(`${other.companyId} ${other.id}`, other);
  }
  for (const { companyId, ...movement } of others.values()) {
    await doInSister(tx, actNamed('reverseMovement')!, { ...movement, reason }, companyId, doer);
  }
}
