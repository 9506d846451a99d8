import type { TakenLine } from '@core/sisters';
import { dec, type Day } from '@core/kernel';
import { actNamed, doWithin, type Doer, type Touched } from '../acts';
import type { Tx } from '../db';
import { shipToHere } from './addresses';
import type { Taken } from './ground';
import { joinTaken } from './joined';
import { sellingOf } from './selling';

/** What was changed since is changed here: quantities and days of lines that are joined, lines that are new, the address. */
export async function changedBy(tx: Tx, ground: Taken, lines: readonly TakenLine[], doer: Doer) {
  const { head, source } = ground;
  const { companyId } = doer;
  const reason = `${head.number} of ${head.sister} was changed`.slice(0, 200);
  const known = new Map(
    lines.flatMap((line) => (line.source.lineId === null ? [] : [[line.source.lineId, line] as const])),
  );
  const added = lines.filter((line) => line.source.lineId === null);
  const nothing = { made: [] as Touched[], touched: [] as Touched[] };
  if (head.kind === 'order') {
    const [order] = await tx.rows<{
      version: number;
      state: string;
      shipToId: number | null;
      customerReference: string;
      customerId: number;
    }>(
      `SELECT version, state, ship_to_id, customer_reference, customer_id FROM sales_order WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
      [companyId, head.takenId],
    );
    const shipToId =
      source.shipToId === null && source.place === null
        ? order!.shipToId
        : await shipToHere(tx, companyId, head.fromId, order!.customerId, source);
    const now = await tx.rows<{
      id: number;
      itemId: number;
      quantity: string;
      cancelled: string;
      shipDate: Day;
      route: string;
      locationId: number;
      agreementLineId: number | null;
    }>(
      `SELECT id, item_id, quantity, cancelled, ship_date, route, location_id, agreement_line_id FROM sales_order_line
        WHERE company_id = ? AND order_id = ? ORDER BY line_no`,
      [companyId, head.takenId],
    );
    const same = now.every(({ id, quantity, cancelled, shipDate }) => {
      const line = known.get(id);
      return !line || (dec(quantity).minus(cancelled).eq(line.quantity) && shipDate === line.day);
    });
    if (same && added.length === 0 && shipToId === order!.shipToId) return nothing;
    const items = await sellingOf(tx, ground, added, companyId);
    const done = await doWithin(
      tx,
      // A draft is typed anew; what was confirmed is changed.
      actNamed(order!.state === 'draft' ? 'saveOrder' : 'changeOrder')!,
      {
        id: head.takenId,
        version: order!.version,
        customerId: order!.customerId,
        shipToId,
        customerReference: order!.customerReference,
        reason,
        along: true,
        lines: [
          ...now.map(({ cancelled, ...line }) => ({
            ...line,
            quantity: known.has(line.id) ? dec(known.get(line.id)!.quantity).plus(cancelled).toFixed() : line.quantity,
            shipDate: known.get(line.id)?.day ?? line.shipDate,
          })),
          ...added.map(({ itemId, quantity, day }) => ({
            id: null,
            itemId,
            quantity,
            shipDate: day,
            ...items.get(itemId)!,
          })),
        ],
      },
      doer,
    );
    await joinTaken(tx, head, head.takenId!, added, companyId);
    return { made: [], touched: done.touched };
  }
  const [purchase] = await tx.rows<{ version: number }>(
    `SELECT version FROM purchase_order WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
    [companyId, head.takenId],
  );
  const now = await tx.rows<{ id: number; itemId: number; quantity: string; dueDate: Day }>(
    'SELECT id, item_id, quantity, due_date FROM purchase_order_line WHERE company_id = ? AND purchase_order_id = ? ORDER BY line_no',
    [companyId, head.takenId],
  );
  const moved = now.filter(({ id, quantity, dueDate }) => {
    const line = known.get(id);
    return line && (!dec(quantity).eq(line.quantity) || dueDate !== line.day);
  });
  if (moved.length + added.length === 0) return nothing;
  const done = await doWithin(
    tx,
    actNamed('changePurchase')!,
    {
      purchaseId: head.takenId,
      version: purchase!.version,
      reason,
      lines: [
        ...moved.map(({ id, itemId }) => ({
          id,
          itemId,
          quantity: known.get(id)!.quantity,
          price: '',
          dueDate: known.get(id)!.day,
        })),
        ...added.map(({ itemId, quantity, day, price }) => ({ id: null, itemId, quantity, price, dueDate: day })),
      ],
    },
    doer,
  );
  await joinTaken(tx, head, head.takenId!, added, companyId);
  return { made: [], touched: done.touched };
}

/** What the sister cancelled or took back is cancelled or taken back here. */
export async function endedBy(tx: Tx, { head }: Taken, doer: Doer) {
  const reason = `${head.sister} took ${head.number} back`.slice(0, 200);
  const id = head.takenId!;
  if (head.kind === 'receipt') return doWithin(tx, actNamed('reverseMovement')!, { kind: 'RC', id, reason }, doer);
  const table = head.kind === 'order' ? 'sales_order' : 'purchase_order';
  const [now] = await tx.rows<{ version: number; state: string }>(
    `SELECT version, state FROM ${table} WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
    [doer.companyId, id],
  );
  if (now!.state === 'cancelled') return { made: [], touched: [] };
  return head.kind === 'order'
    ? doWithin(tx, actNamed('cancelOrder')!, { id, version: now!.version, reason }, doer)
    : doWithin(tx, actNamed('cancelPurchase')!, { purchaseId: id, version: now!.version, reason }, doer);
}
