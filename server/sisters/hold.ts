import type * as z from 'zod';
import { dec, itemAt, MAIN_LOCATION, pointOf, type Day } from '@core/kernel';
import { decideHold, decideLetGo, type HeldAtSister, type HoldLine } from '@core/sisters';
import * as contract from '@api/sisters';
import { actNamed, defineAct, doInSister, doWithin, orNotFound, recordIn, type Doer, type Touched } from '../acts';
import { twinsOf } from '../catalogue';
import type { Sql, Tx } from '../db';
import { checkPromise, groundRows, sisterSellers, sisterShips } from '../promise';
import { shipToHere } from './addresses';
import { sellingOf } from './selling';
import { halfOf, partyFor } from './sources';
import { sisterHoldTable } from './tables';

interface LineRow {
  id: number;
  lineNo: number;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  quantity: string;
  shipDate: Day;
  holdId: number | null;
  holdNumber: string | null;
  untilDay: Day | null;
}

/** Lines of an order that are bought, what is to be bought of each still (what was shipped came of what is tied), and what is held for them. */
function boughtLines(sql: Sql, companyId: number, orderId: number): Promise<LineRow[]> {
  return sql.rows<LineRow>(
    `SELECT l.id, l.line_no, l.item_id, i.number, i.name, i.unit, l.quantity - l.cancelled - GREATEST(l.shipped, l.tied) AS quantity, l.ship_date,
            h.id AS hold_id, o.number AS hold_number, h.until_day
       FROM sales_order_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN (sister_hold h JOIN sales_order o ON o.company_id = h.seller_id AND o.id = h.order_id AND o.state = 'draft')
         ON h.buyer_id = l.company_id AND h.held_line = l.id
      WHERE l.company_id = ? AND l.order_id = ? AND l.route IN ('drop', 'special') ORDER BY l.line_no`,
    [companyId, orderId],
  );
}

/** What sisters hold or could hold for lines of an order, each with her item. */
async function holdLines(
  sql: Sql,
  companyId: number,
  workDate: Day,
  orderId: number,
): Promise<(HoldLine & { row: LineRow })[]> {
  const read = await boughtLines(sql, companyId, orderId);
  // Of whom each would be bought first.
  const { items: known } = await groundRows(
    sql,
    companyId,
    workDate,
    read.map(({ itemId }) => pointOf(itemId, MAIN_LOCATION)),
  );
  const rows = read.map((row) => ({
    ...row,
    vendorId: known.find(({ id }) => itemAt(id) === row.itemId)?.sellers[0]?.vendorId ?? null,
  }));
  const sellers = await sisterSellers(
    sql,
    companyId,
    rows.flatMap(({ vendorId }) => vendorId ?? []),
  );
  const days = new Map<string, Day | null>();
  const terms = new Map<number, { holdDays: number; knowsUs: boolean }>();
  const items = new Map<number, { itemId: number; factor: string }>();
  for (const [vendorId, sister] of sellers) {
    const own = rows.filter((row) => row.vendorId === vendorId);
    const asked = own
      .filter(({ quantity }) => dec(quantity).gt(0))
      .map((row) => ({ key: String(row.id), itemId: row.itemId, quantity: row.quantity, asked: row.shipDate }));
    for (const [key, day] of await sisterShips(sql, companyId, sister, workDate, asked)) days.set(key, day);
    const { customerId, holdDays } = await halfOf(sql, sister.id, companyId);
    terms.set(sister.id, { holdDays, knowsUs: customerId !== null });
    const twins = await twinsOf(
      sql,
      companyId,
      sister.id,
      own.map(({ itemId }) => itemId),
    );
    for (const [ours, twin] of twins) items.set(ours, twin);
  }
  return rows.map((row) => {
    const sister = row.vendorId === null ? undefined : sellers.get(row.vendorId);
    return {
      row,
      id: row.id,
      lineNo: row.lineNo,
      item: row.number,
      open: row.quantity,
      sister: sister
        ? { id: sister.id, name: sister.name, workDate: sister.workDate ?? workDate, ...terms.get(sister.id)! }
        : null,
      theirs: items.get(row.itemId) ?? null,
      first: days.get(String(row.id)) ?? null,
      heldUntil: row.untilDay,
    };
  });
}

/** The lines of an order that are bought of sisters, and what they hold. // X4 */
export async function listHolds(
  sql: Sql,
  companyId: number,
  workDate: Day,
  orderId: number,
): Promise<z.infer<typeof contract.listHolds.out>> {
  const lines = await holdLines(sql, companyId, workDate, orderId);
  return {
    rows: lines.flatMap(({ row, sister, first }) =>
      sister === null
        ? []
        : [
            {
              lineId: row.id,
              lineNo: row.lineNo,
              item: { id: row.itemId, number: row.number, name: row.name, unit: row.unit },
              open: row.quantity,
              sister: sister.name,
              first,
              hold: row.holdId === null ? null : { id: row.holdId, number: row.holdNumber!, until: row.untilDay! },
            },
          ],
    ),
  };
}

/** Has sisters hold what lines of an order need, each as a promised draft of hers. // T8 X4 */
export const holdAtSister = defineAct(contract.holdAtSister, {
  right: 'orders',
  says: 'have sister companies hold what orders need',
  done: 'held at a sister company',
  async load(sql, { orderId }, { companyId, workDate }) {
    const [order] = await sql.rows<{ id: number; number: string; state: string; version: number }>(
      `SELECT id, number, state, version FROM sales_order WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
      [companyId, orderId],
    );
    return { order: orNotFound(order, 'This order'), lines: await holdLines(sql, companyId, workDate, orderId) };
  },
  decide: (ground, input) => decideHold(ground, input),
  preview: ({ held }) => ({ held: held.map(({ lineId, day, until }) => ({ lineId, day, until })) }),
  async write(tx, { held }, { order }, doer) {
    for (const each of held) await heldBy(tx, each, order.number, doer);
    return { made: [], touched: [{ kind: 'SO', id: order.id, number: order.number }] };
  },
});

/** A draft of hers, promised by the way her item is: what it takes of stock and machines is taken. */
async function heldBy(
  tx: Tx,
  { sisterId, lineId, itemId, quantity, day, until }: HeldAtSister,
  forOrder: string,
  doer: Doer,
): Promise<void> {
  const half = await halfOf(tx, sisterId, doer.companyId);
  const party = await partyFor(tx, sisterId, 'order', half);
  const shipToId = await shipToHere(tx, sisterId, doer.companyId, party!.id, { shipToId: null, place: null });
  const selling = (await sellingOf(tx, { half, party }, [{ itemId }], sisterId)).get(itemId)!;
  const saved = await doInSister(
    tx,
    actNamed('saveOrder')!,
    {
      id: null,
      version: null,
      customerId: party!.id,
      shipToId,
      customerReference: `${forOrder}, held until ${until}`,
      lines: [{ id: null, itemId, quantity, shipDate: day, ...selling }],
    },
    sisterId,
    doer,
  );
  const draft = saved.made[0]!;
  const [company] = await tx.rows<{ workDate: Day | null }>('SELECT work_date FROM company WHERE id = ?', [sisterId]);
  const checked = await checkPromise(tx, sisterId, company!.workDate ?? doer.workDate, draft.id);
  const lines = checked.lines.flatMap(({ key, chosen }) =>
    chosen.day === null ? [] : [{ lineId: Number(key), way: chosen.way, asked: day, day: chosen.day }],
  );
  if (lines.length > 0)
    await doInSister(tx, actNamed('acceptPromise')!, { orderId: draft.id, version: 1, lines }, sisterId, doer);
  // One that she ended herself, or made an order of, is none any more.
  await tx.run("UPDATE sister_hold SET state = 'let-go' WHERE buyer_id = ? AND held_line = ?", [
    doer.companyId,
    lineId,
  ]);
  await tx.insert(sisterHoldTable, [
    { sellerId: sisterId, orderId: draft.id, buyerId: doer.companyId, orderLineId: lineId, untilDay: until },
  ]);
}

interface Hold {
  id: number;
  sellerId: number;
  orderId: number;
  buyerId: number;
  state: string;
  untilDay: Day;
  number: string;
  version: number;
  draft: number;
  promised: number;
  buyerOrderId: number;
  buyerNumber: string;
}

const HOLD = `SELECT h.id, h.seller_id, h.order_id, h.buyer_id, h.state, h.until_day, o.number, o.version, o.state = 'draft' AS draft,
       EXISTS (SELECT 1 FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id AND l.promised_date IS NOT NULL) AS promised,
       b.id AS buyer_order_id, b.number AS buyer_number
  FROM sister_hold h
  JOIN sales_order o ON o.company_id = h.seller_id AND o.id = h.order_id
  JOIN sales_order_line bl ON bl.company_id = h.buyer_id AND bl.id = h.order_line_id
  JOIN sales_order b ON b.company_id = bl.company_id AND b.id = bl.order_id`;

/** Ends a hold: her draft is cancelled, where it is one still, and what it took is free. */
async function ended(tx: Tx, hold: Hold, state: 'used' | 'lapsed' | 'let-go', doer: Doer): Promise<void> {
  await tx.run('UPDATE sister_hold SET state = ? WHERE id = ?', [state, hold.id]);
  if (!hold.draft) return;
  const does = async (act: string, input: unknown) => {
    if (hold.sellerId === doer.companyId) await doWithin(tx, actNamed(act)!, input, doer);
    else await doInSister(tx, actNamed(act)!, input, hold.sellerId, doer);
  };
  let { version } = hold;
  if (hold.promised) {
    await does('takeBackPromise', { orderId: hold.orderId, version });
    version += 1;
  }
  const reason = { used: 'ordered', lapsed: 'its day is over', 'let-go': 'let go' }[state];
  await does('cancelOrder', { id: hold.orderId, version, reason });
}

/** Lets go what a sister holds, from either side; the other is told in her trail. // X4 */
export const letHoldGo = defineAct(contract.letHoldGo, {
  right: 'orders',
  says: 'let go what sister companies hold',
  done: 'let go',
  async load(sql, { id }, { companyId }) {
    const [hold] = await sql.rows<Hold>(
      `${HOLD} WHERE h.id = ? AND (h.buyer_id = ? OR h.seller_id = ?) ${sql.forUpdate}`,
      [id, companyId, companyId],
    );
    return orNotFound(hold, 'This hold');
  },
  decide: (hold, _input, { workDate }) => decideLetGo(hold, workDate),
  preview: (_effects, hold) => ({ number: hold.number }),
  async write(tx, { state }, hold, doer) {
    await ended(tx, hold, state, doer);
    const ours: Touched = { kind: 'SO', id: hold.buyerOrderId, number: hold.buyerNumber };
    const hers: Touched = { kind: 'SO', id: hold.orderId, number: hold.number };
    if (hold.buyerId === doer.companyId) return { made: [], touched: [ours] };
    await recordIn(tx, contract.letHoldGo.name, { number: hold.number, state }, [ours], {
      ...doer,
      companyId: hold.buyerId,
    });
    return { made: [], touched: [hers] };
  },
});

/** What was held for lines that a purchase of the buyer's is for is ended in the act that takes it. */
export async function useHolds(tx: Tx, buyerId: number, purchaseId: number, doer: Doer): Promise<void> {
  const holds = await tx.rows<Hold>(
    `${HOLD} WHERE h.seller_id = ? AND h.buyer_id = ? AND h.state = 'held' AND EXISTS (
       SELECT 1 FROM purchase_order_line pl JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
        WHERE pl.company_id = h.buyer_id AND pl.purchase_order_id = ? AND t.order_line_id = h.order_line_id)`,
    [doer.companyId, buyerId, purchaseId],
  );
  for (const hold of holds) await ended(tx, hold, 'used', doer);
}

/** Holds of a seller whose day is over, or whose line needs nothing any more. Served by sister_hold_until. */
export async function lapsedHolds(sql: Sql, sellerId: number, workDate: Day): Promise<{ id: number }[]> {
  return sql.rows(
    `SELECT h.id FROM sister_hold h FORCE INDEX (sister_hold_until)
       JOIN sales_order_line l ON l.company_id = h.buyer_id AND l.id = h.order_line_id
      WHERE h.seller_id = ? AND h.state = 'held' AND (h.until_day < ? OR l.quantity <= l.cancelled + l.shipped)
      ORDER BY h.until_day, h.id LIMIT 20`,
    [sellerId, workDate],
  );
}
