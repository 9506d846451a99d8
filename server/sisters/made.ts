import type { TakenLine } from '@core/sisters';
import { refuse } from '@core/refusals';
import { actNamed, doWithin, Refused, type Doer, type Touched } from '../acts';
import type { Tx } from '../db';
import { shipToHere } from './addresses';
import { useHolds } from './hold';
import type { Taken } from './ground';
import { joinTaken } from './joined';
import { sellingOf } from './selling';

/** Makes here what an offer is of: an order, a purchase, receipts, or an invoice. // X2 X3 */
export async function madeOf(
  tx: Tx,
  ground: Taken,
  lines: readonly TakenLine[],
  doer: Doer,
  { draft }: { draft: boolean },
): Promise<{ made: Touched[]; touched: Touched[] }> {
  const { head } = ground;
  if (head.kind === 'order') return orderMade(tx, ground, lines, doer, draft);
  if (head.kind === 'purchase') return purchaseMade(tx, ground, lines, doer);
  const purchases = await purchasesOf(tx, doer.companyId, lines);
  if (head.kind === 'invoice') {
    const [purchaseId, ...others] = purchases.keys();
    if (others.length > 0) {
      const numbers = [...purchases.values()].map(({ number }) => number).join(', ');
      throw new Refused([refuse('offer-several', '', { number: head.number, purchases: numbers })]);
    }
    return doWithin(
      tx,
      actNamed('enterVendorInvoice')!,
      {
        purchaseId,
        vendorNumber: head.number,
        invoiceDate: ground.source.day,
        lines: lines.map(({ source, quantity, price, taxCodeId }) => ({
          purchaseLineId: source.lineId!,
          quantity,
          unitPrice: price,
          taxCodeId,
        })),
      },
      doer,
    );
  }
  const done = { made: [] as Touched[], touched: [] as Touched[] };
  for (const [purchaseId, { lineIds, serial }] of purchases) {
    const received = await doWithin(
      tx,
      actNamed('receiveGoods')!,
      {
        purchaseId,
        lines: lines
          .filter(({ source }) => lineIds.has(source.lineId!))
          .map(({ source, quantity }) => ({
            lineId: source.lineId!,
            quantity,
            numbers: serial.has(source.lineId!)
              ? ground.lines.find(({ id }) => id === source.id)!.numbers.slice(0, Number(quantity))
              : [],
          })),
      },
      doer,
    );
    done.made.push(...received.made);
    done.touched.push(...received.touched);
  }
  return done;
}

/** The purchases that taken lines are of, each with its lines, and which of them are kept by number. */
async function purchasesOf(
  tx: Tx,
  companyId: number,
  lines: readonly TakenLine[],
): Promise<Map<number, { number: string; lineIds: Set<number>; serial: Set<number> }>> {
  const rows = await tx.rows<{ id: number; lineId: number; number: string; serial: number }>(
    `SELECT p.id, l.id AS line_id, p.number, EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = i.company_id AND n.item_id = i.id) AS serial FROM purchase_order_line l
       JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.id IN (?) ORDER BY p.id, l.id`,
    [companyId, lines.map(({ source }) => source.lineId!)],
  );
  const found = new Map<number, { number: string; lineIds: Set<number>; serial: Set<number> }>();
  for (const { id, lineId, number, serial } of rows) {
    const of = found.get(id) ?? { number, lineIds: new Set<number>(), serial: new Set<number>() };
    found.set(id, of);
    of.lineIds.add(lineId);
    if (serial) of.serial.add(lineId);
  }
  return found;
}

async function orderMade(tx: Tx, ground: Taken, lines: readonly TakenLine[], doer: Doer, draft: boolean) {
  const { head, party, source } = ground;
  const { companyId } = doer;
  // What was held for it is free for it.
  if (!head.elsewhere) await useHolds(tx, head.fromId, head.sourceId, doer);
  const [shipToId, items] = await Promise.all([
    shipToHere(tx, companyId, head.fromId, party!.id, source),
    sellingOf(tx, ground, lines, companyId),
  ]);
  const saved = await doWithin(
    tx,
    actNamed('saveOrder')!,
    {
      id: null,
      version: null,
      customerId: party!.id,
      shipToId,
      customerReference: head.number,
      lines: lines.map(({ itemId, quantity, day }) => ({
        id: null,
        itemId,
        quantity,
        shipDate: day,
        ...items.get(itemId)!,
      })),
    },
    doer,
  );
  const order = saved.made[0]!;
  await joinTaken(tx, head, order.id, lines, companyId);
  if (draft) return saved;
  const confirmed = await doWithin(tx, actNamed('confirmOrder')!, { id: order.id, version: 1 }, doer);
  return { made: saved.made, touched: [...saved.touched, ...confirmed.touched.filter(({ id }) => id !== order.id)] };
}

async function purchaseMade(tx: Tx, ground: Taken, lines: readonly TakenLine[], doer: Doer) {
  const { head, party, source } = ground;
  const { companyId } = doer;
  const [straight] = await tx.rows<{ id: number }>(
    'SELECT buyer_ship_to_id AS id FROM sister_address WHERE seller_id = ? AND ship_to_id = ? AND buyer_id = ?',
    [head.fromId, source.shipToId ?? 0, companyId],
  );
  const placed = await doWithin(
    tx,
    actNamed('enterPurchase')!,
    {
      vendorId: party!.id,
      shipToId: straight?.id ?? null,
      lines: lines.map(({ itemId, quantity, day, price }) => ({
        itemId,
        quantity,
        dueDate: day,
        agreementLineId: null,
        price,
      })),
    },
    doer,
  );
  const purchase = placed.made[0]!;
  await joinTaken(tx, head, purchase.id, lines, companyId);
  return placed;
}
