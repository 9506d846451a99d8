import { decideTake, transferPrice, type OfferKind, type TakenLine, type TakeEffects } from '@core/sisters';
import { dec, type Day } from '@core/kernel';
import { refuse } from '@core/refusals';
import type { Right } from '@api/access';
import * as contract from '@api/sisters';
import { actNamed, defineAct, doWithin, orNotFound, recordIn, Refused, type Doer, type Touched } from '../acts';
import { listPriceIn } from '../catalogue';
import type { Sql, Tx } from '../db';
import {
  halfOf,
  loadOffer,
  offerNow,
  partyFor,
  SOURCE_KIND,
  sourceHead,
  sourceLines,
  TAKEN_KIND,
  type OfferHead,
} from './sources';
import { shipToHere } from './addresses';
import { joinedLines } from './joined';
import { sisterLineTable } from './tables';

/** The right each kind of offer asks for, and what it lets one do. */
const RIGHT: Readonly<Record<OfferKind, Right>> = {
  order: 'orders',
  purchase: 'purchases',
  receipt: 'goods',
  invoice: 'vendor-invoices',
};

/** All that an offer is taken on, the offer locked. */
export async function loadTake(sql: Sql, companyId: number, id: number, kind: OfferKind) {
  const head = await loadOffer(sql, companyId, id);
  if (head.kind !== kind) orNotFound(undefined, 'This offer');
  const [half, source, lines] = await Promise.all([
    halfOf(sql, companyId, head.fromId),
    sourceHead(sql, head),
    sourceLines(sql, companyId, { fromId: head.fromId, kind: head.kind, sourceIds: [head.sourceId] }),
  ]);
  const party = await partyFor(sql, companyId, head.kind, half);
  const invoices = head.kind === 'receipt' ? await invoicesWith(sql, companyId, head) : [];
  return { head, half, source, party, lines, invoices, offer: offerNow(head), currency: source.currency };
}
type Taken = Awaited<ReturnType<typeof loadTake>>;

/**
 * Invoices of a sister that wait and are for a shipment of hers: folded into its receipt; of several shipments, into the
 * last that is to be received. // X3
 */
export async function invoicesWith(
  sql: Sql,
  companyId: number,
  { fromId, sourceId }: Pick<OfferHead, 'fromId' | 'sourceId'>,
): Promise<{ id: number; number: string; revision: number }[]> {
  return sql.rows(
    `SELECT DISTINCT f.id, f.number, f.revision FROM shipment_line s
       JOIN customer_invoice_line l ON l.company_id = s.company_id AND l.shipment_line_id = s.id
       JOIN offer f ON f.from_id = l.company_id AND f.kind = 'invoice' AND f.source_id = l.invoice_id AND f.company_id = ?
        AND f.state IN ('open', 'aside')
      WHERE s.company_id = ? AND s.shipment_id = ?
        AND NOT EXISTS (SELECT 1 FROM customer_invoice_line ol
          JOIN shipment_line os ON os.company_id = ol.company_id AND os.id = ol.shipment_line_id AND os.shipment_id <> s.shipment_id
          JOIN offer r ON r.from_id = os.company_id AND r.kind = 'receipt' AND r.source_id = os.shipment_id AND r.state IN ('open', 'aside')
         WHERE ol.company_id = f.from_id AND ol.invoice_id = f.source_id)
      ORDER BY f.id`,
    [companyId, fromId, sourceId],
  );
}

/** Takes what a sister offers. // X2 X3 */
export const takeOffer = defineAct(contract.takeOffer, {
  right: 'orders',
  rightFor: ({ kind }) => RIGHT[kind],
  says: 'take what sister companies offer',
  done: 'taken from a sister company',
  load: (sql, { id, kind }, { companyId }) => loadTake(sql, companyId, id, kind),
  decide: (ground, input, { workDate }) => decideTake(ground, input, workDate),
  also: (effects, { invoices }, input) =>
    input.invoices && effects.does === 'make' && invoices.length > 0
      ? [{ right: 'vendor-invoices' as const, says: "enter vendors' invoices" }]
      : [],
  preview: ({ does, lines, otherwise }) => ({
    does,
    lines: lines.map(({ source, quantity, day, price }) => ({ item: source.ours!.number, quantity, day, price })),
    otherwise,
    fields: lines.flatMap(({ source, quantity, day }) => [
      ...(dec(source.quantity).times(source.factor).eq(quantity)
        ? []
        : [
            {
              what: `quantity of line ${source.lineNo}`,
              was: dec(source.quantity).times(source.factor).toFixed(),
              is: quantity,
            },
          ]),
      ...(source.day === null || source.day === day
        ? []
        : [{ what: `day of line ${source.lineNo}`, was: source.day, is: day }]),
    ]),
  }),
  async write(tx, effects, ground, doer, input) {
    const done = await take(tx, ground, effects, doer, input);
    const more = input.invoices && effects.does === 'make' ? await takeInvoices(tx, ground, doer) : [];
    return { made: [...done.made, ...more], touched: done.touched };
  },
});

const act = (name: string) => actNamed(name)!;

async function take(
  tx: Tx,
  ground: Taken,
  effects: TakeEffects,
  doer: Doer,
  input: { draft: boolean },
): Promise<{ made: Touched[]; touched: Touched[] }> {
  const { head } = ground;
  const done =
    effects.does === 'make'
      ? await made(tx, ground, effects.lines, doer, input)
      : effects.does === 'change'
        ? await changed(tx, ground, effects.lines, doer)
        : await ended(tx, ground, doer);
  const became = done.made.find(({ kind }) => kind === TAKEN_KIND[head.kind])?.id ?? head.takenId;
  await tx.run(
    `UPDATE offer SET state = IF(state IN ('open', 'aside'), 'taken', state), taken_revision = revision, taken_gone = gone,
            taken_id = ? WHERE id = ?`,
    [became, head.id],
  );
  if (became !== null) await foldedBack(tx, head, became, effects, doer);
  await recordIn(
    tx,
    takeOffer.endpoint.name,
    { number: head.number },
    [{ kind: SOURCE_KIND[head.kind], id: head.sourceId, number: head.number }],
    { ...doer, companyId: head.fromId },
  );
  return done;
}

/**
 * What was made here is offered to the sister in turn, and known to her: it is hers. Where it was taken otherwise than
 * she sent it, she has to hear of that. // X3
 */
async function foldedBack(
  tx: Tx,
  { fromId, kind, sourceId }: OfferHead,
  became: number,
  { does, otherwise }: TakeEffects,
  { companyId }: Doer,
): Promise<void> {
  if (kind !== 'order' && kind !== 'purchase') return;
  const [table, back] = kind === 'order' ? ['sales_order', 'purchase'] : ['purchase_order', 'order'];
  if (does === 'end') {
    await tx.run(
      'UPDATE offer SET taken_gone = gone, taken_revision = revision WHERE from_id = ? AND kind = ? AND source_id = ?',
      [companyId, back, became],
    );
    return;
  }
  await tx.run(
    `INSERT INTO offer (company_id, from_id, kind, source_id, number, revision, state, taken_id, taken_revision)
       SELECT ?, d.company_id, ?, d.id, d.number, d.revision, 'folded', ?, d.revision + ? FROM ${table} d
        WHERE d.company_id = ? AND d.id = ?
       ON DUPLICATE KEY UPDATE state = 'folded', taken_id = VALUES(taken_id), revision = VALUES(revision),
         taken_revision = VALUES(taken_revision), taken_gone = gone`,
    [fromId, back, sourceId, otherwise ? 1 : 0, companyId, became],
  );
}

async function made(
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
      act('enterVendorInvoice'),
      {
        purchaseId,
        vendorNumber: head.number,
        invoiceDate: ground.source.day,
        lines: lines.map(({ source, quantity, price }) => ({
          purchaseLineId: source.lineId!,
          quantity,
          unitPrice: price,
        })),
      },
      doer,
    );
  }
  const done = { made: [] as Touched[], touched: [] as Touched[] };
  for (const [purchaseId, { lineIds, serial }] of purchases) {
    const received = await doWithin(
      tx,
      act('receiveGoods'),
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
  const [shipToId, items] = await Promise.all([
    shipToHere(tx, doer.companyId, head.fromId, party!.id, source.shipToId),
    sellingOf(tx, ground, lines, companyId),
  ]);
  const saved = await doWithin(
    tx,
    act('saveOrder'),
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
  const rows = await joinedLines(tx, 'sales_order_line', companyId, order.id, lines);
  await tx.insertPlain(
    sisterLineTable,
    rows.map(({ id, source: from }) => ({
      sellerId: companyId,
      salesLineId: id,
      buyerId: head.fromId,
      purchaseLineId: from.id,
      factor: dec(1).div(from.factor).toFixed(6),
    })),
  );
  if (draft) return saved;
  const confirmed = await doWithin(tx, act('confirmOrder'), { id: order.id, version: 1 }, doer);
  return { made: saved.made, touched: [...saved.touched, ...confirmed.touched.filter(({ id }) => id !== order.id)] };
}

/** By which route items are sold to a sister, and at what, where she pays a price of her own. // X5 */
async function sellingOf(
  tx: Tx,
  { half, party }: Taken,
  lines: readonly TakenLine[],
  companyId: number,
): Promise<Map<number, { route: string; price?: string }>> {
  const rows = await tx.rows<{ id: number; route: string; list: string; cost: string | null }>(
    `SELECT i.id, i.route, ${listPriceIn('?')} AS list,
            (SELECT ROUND(SUM(s.value) / SUM(s.on_hand), 4) FROM stock s
              WHERE s.company_id = i.company_id AND s.item_id = i.id HAVING SUM(s.on_hand) > 0) AS cost
       FROM item i WHERE i.company_id = ? AND i.id IN (?)`,
    [party!.currency, party!.currency, companyId, lines.map(({ itemId }) => itemId)],
  );
  return new Map(
    rows.map(({ id, route, ...known }) => {
      const price = transferPrice(half, known);
      return [id, { route, ...(price === null ? {} : { price }) }];
    }),
  );
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
    act('enterPurchase'),
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
  const rows = await joinedLines(tx, 'purchase_order_line', companyId, purchase.id, lines);
  await tx.insertPlain(
    sisterLineTable,
    rows.map(({ id, source: from }) => ({
      sellerId: head.fromId,
      salesLineId: from.id,
      buyerId: companyId,
      purchaseLineId: id,
      factor: from.factor,
    })),
  );
  return placed;
}

/** What was changed since is changed here: quantities and days of lines that are joined, lines that are new, the address. */
async function changed(tx: Tx, ground: Taken, lines: readonly TakenLine[], doer: Doer) {
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
      source.shipToId === null
        ? order!.shipToId
        : await shipToHere(tx, companyId, head.fromId, order!.customerId, source.shipToId);
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
      act(order!.state === 'draft' ? 'saveOrder' : 'changeOrder'),
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
    await joinAdded(tx, head, added, doer);
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
    act('changePurchase'),
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
  await joinAdded(tx, head, added, doer);
  return { made: [], touched: done.touched };
}

async function joinAdded(tx: Tx, head: OfferHead, added: readonly TakenLine[], { companyId }: Doer): Promise<void> {
  if (added.length === 0) return;
  const selling = head.kind === 'order';
  const rows = await joinedLines(
    tx,
    selling ? 'sales_order_line' : 'purchase_order_line',
    companyId,
    head.takenId!,
    added,
  );
  await tx.insertPlain(
    sisterLineTable,
    rows.map(({ id, source }) =>
      selling
        ? {
            sellerId: companyId,
            salesLineId: id,
            buyerId: head.fromId,
            purchaseLineId: source.id,
            factor: dec(1).div(source.factor).toFixed(6),
          }
        : {
            sellerId: head.fromId,
            salesLineId: source.id,
            buyerId: companyId,
            purchaseLineId: id,
            factor: source.factor,
          },
    ),
  );
}

/** What the sister cancelled or took back is cancelled or taken back here. */
async function ended(tx: Tx, { head }: Taken, doer: Doer) {
  const reason = `${head.sister} took ${head.number} back`.slice(0, 200);
  const id = head.takenId!;
  if (head.kind === 'receipt') return doWithin(tx, act('reverseMovement'), { kind: 'RC', id, reason }, doer);
  const table = head.kind === 'order' ? 'sales_order' : 'purchase_order';
  const [now] = await tx.rows<{ version: number; state: string }>(
    `SELECT version, state FROM ${table} WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
    [doer.companyId, id],
  );
  if (now!.state === 'cancelled') return { made: [], touched: [] };
  return head.kind === 'order'
    ? doWithin(tx, act('cancelOrder'), { id, version: now!.version, reason }, doer)
    : doWithin(tx, act('cancelPurchase'), { purchaseId: id, version: now!.version, reason }, doer);
}

/** The invoices that came with a shipment, entered with its receipt. // X3 */
async function takeInvoices(tx: Tx, { invoices }: Taken, doer: Doer): Promise<Touched[]> {
  const entered: Touched[] = [];
  for (const { id, revision } of invoices) {
    const ground = await loadTake(tx, doer.companyId, id, 'invoice');
    const decision = decideTake(ground, { revision, lines: [] }, doer.workDate);
    if (!decision.ok) throw new Refused(decision.refusals);
    entered.push(...(await take(tx, ground, decision.effects, doer, { draft: false })).made);
  }
  return entered;
}
