import { dayText, dec, isDay, pointOf, type Day } from '@core/kernel';
import type { ChangeEffects, ConfirmedLine } from '@core/orders';
import { decideChangeAlong, type PairEffects } from '@core/supply';
import { tiesBeyond, type ComingTie } from '@core/workshop';
import * as contract from '@api/orders';
import { defineAct, type Doer, type Touched } from '../acts';
import { counterStatements, type PartyOffer } from '../agreements';
import { locationsOf } from '../catalogue';
import { setStatement, type Columns, type Sql, type Statement, type Tx } from '../db';
import { heldStatement, loadFree } from '../on-hand';
import { addressLine, shipTosOf } from '../parties';
import { orderPricing } from '../pricing';
import { alongStatements, buyingLinesOf, inStepStatements, loadAlong, purchasesAlong } from '../supply';
import { beyondStatements, comingRead } from '../workshop';
import { customerOf, linesShown, offersOfOrder, touchedBy } from './offers';
import { standingOf } from './standing';
import { totalsAgain } from './state';
import {
  insertLines,
  lineColumns,
  linesNow,
  loadOrder,
  netOf,
  plannedLines,
  pricedItems,
  withFreeItems,
} from './store';
import { salesOrderLineTable, type SalesOrderLine } from './tables';

/** Changes a confirmed order as far as it has not happened, as a revision with each field as it was and as it is. // S8 */
export const changeOrder = defineAct(contract.changeOrder, {
  right: 'orders',
  says: 'change confirmed sales orders',
  done: 'changed',
  expectedVersion: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const customerId = await customerOf(tx, companyId, input.id);
    // Agreements, the order, what is made for it, its stock: in the order everybody locks them, in few trips.
    const bought = input.along ? await buyingLinesOf(tx, companyId, input.id) : [];
    const all = await offersOfOrder(tx, companyId, input.id, doer.workDate, bought);
    const offers = all.filter(({ customerId: whose }) => whose !== null);
    const [head, lines, [customer], shipTos, standing, locations, works] = await Promise.all([
      loadOrder(tx, companyId, input.id),
      confirmedLines(tx, companyId, input.id),
      tx.rows<{ id: number; name: string; currency: string; contractedOnly: boolean }>(
        'SELECT id, name, currency, contracted_only FROM customer WHERE company_id = ? AND id = ?',
        [companyId, customerId],
      ),
      shipTosOf(tx, companyId, customerId),
      standingOf(tx, companyId, customerId, input.id, 'done'),
      locationsOf(tx, companyId),
      worksDue(tx, companyId, input.id),
    ]);
    const pairs = input.along ? await loadAlong(tx, companyId, head.id) : [];
    const itemIds = [...input.lines.flatMap(({ itemId }) => itemId ?? []), ...lines.map(({ itemId }) => itemId)];
    const [[coming], items, pricing] = await Promise.all([
      tx.batch([comingRead(tx, companyId, [head.id])]),
      pricedItems(tx, companyId, customerId, itemIds),
      orderPricing(tx, doer, customerId, head.orderDate),
    ]);
    const always = input.lines.filter(
      ({ itemId, route }) => route === 'stock' && itemId !== null && items.get(itemId)?.reserving === 'always',
    );
    const heldAt = lines
      .filter(({ reserved }) => reserved !== '0')
      .map((line) => pointOf(line.itemId, line.locationId));
    return {
      head,
      current: { ...head, lines },
      customer: customer!,
      shipToIds: shipTos.map(({ id }) => id),
      addresses: new Map(shipTos.map((shipTo) => [shipTo.id, addressLine(shipTo)])),
      locationIds: locations.map(({ id }) => id),
      items: await withFreeItems(tx, companyId, customerId, items, pricing),
      offers,
      buying: all.filter(({ vendorId }) => vendorId !== null),
      pairs,
      pricing,
      parts: [],
      standing,
      coming: coming as ComingTie[],
      works,
      free: await loadFree(tx, companyId, [
        ...new Set([...heldAt, ...always.map(({ itemId, locationId = 0 }) => pointOf(itemId!, locationId))]),
      ]),
    };
  },
  decide: (ground, input, doer) =>
    decideChangeAlong(ground, input, doer.workDate, {
      mayPassCredit: doer.rights.includes('credit'),
      creditReason: input.creditReason ?? '',
    }),
  also: ({ along }) =>
    along.supply.length + along.purchases.length > 0 ? [{ right: 'purchases', says: 'change purchase orders' }] : [],
  preview: (effects, { current, offers, coming, items, works, pairs, addresses }) => ({
    net: netOf(effects.lines),
    was: netOf(current.lines),
    purchases: [
      ...new Set(current.lines.flatMap((line) => (dec(line.onTheWay).gt(0) ? line.purchases.split(', ') : []))),
    ],
    lines: linesShown(effects.lines, offers),
    fields: effects.fields,
    effects: [
      ...wordsOf(effects, { current, offers, coming, items, works }),
      ...purchasesAlong(effects.along, pairs, addresses).flatMap(({ number, fields = [] }) =>
        fields.map(({ what, was, is }) => `${number}: ${what} ${fieldText(was)} → ${fieldText(is)}`),
      ),
    ],
  }),
  async write(tx, effects, { head, current, offers, buying, coming, pairs, addresses }, doer) {
    const { companyId } = doer;
    const known = effects.lines.filter((line) => line.id !== null);
    const added = effects.lines.filter((line) => line.id === null);
    const wanted = new Map(effects.wanted.map(({ lineId, quantity }) => [lineId, quantity]));
    const last = Math.max(0, ...current.lines.map(({ lineNo }) => lineNo));
    const ids = await insertLines(tx, doer, head.id, added, last + 1);
    const idAt = (at: number) => effects.lines[at]!.id ?? ids[added.indexOf(effects.lines[at]!)]!;
    const tiedOf = (id: number) =>
      dec(current.lines.find((line) => line.id === id)!.tied)
        .plus(effects.along.sales.find((line) => line.id === id)?.tiedBy ?? '0')
        .toFixed();
    const statements = [
      ...counterStatements(companyId, 'released', effects.released),
      ...effects.freed.flatMap(({ lineId, itemId, locationId, quantity }) =>
        heldStatements(companyId, lineId, { itemId, locationId, by: dec(quantity).neg().toFixed() }),
      ),
      ...known.map((line) =>
        setStatement(salesOrderLineTable, { ...lineColumns(line), tied: tiedOf(line.id!) }, companyId, line.id!),
      ),
      ...effects.datedIds.map((id) => ({
        // A day that was typed is neither promised nor moved by itself.
        sql: `UPDATE sales_order_line SET asked_date = NULL, promised_date = NULL, promised_by = NULL, moved_from = NULL
               WHERE company_id = ? AND id = ?`,
        values: [companyId, id],
      })),
      ...beyondStatements(companyId, tiesBeyond(coming, wanted)),
      ...alongStatements(effects.along, pairs, companyId),
      ...effects.permits.map(({ at, permitId }) => ({
        sql: 'UPDATE sales_order_line SET permit_id = ? WHERE company_id = ? AND id = ?',
        values: [permitId, companyId, idAt(at)],
      })),
      ...effects.toHold.flatMap(({ at, quantity }) => {
        const { itemId, locationId } = effects.lines[at]!;
        return heldStatements(companyId, idAt(at), { itemId, locationId, by: quantity });
      }),
      {
        sql: `UPDATE sales_order_line SET on_bench = route IN ('drop', 'special') AND tied < quantity - cancelled
               WHERE company_id = ? AND order_id = ?`,
        values: [companyId, head.id],
      },
      headAgain(effects, head.id, companyId),
      ...inStepStatements(
        companyId,
        'orderLine',
        known.map((line) => line.id!),
      ),
      totalsAgain(companyId, head.id),
    ];
    const order: Touched = {
      kind: 'SO',
      id: head.id,
      number: head.number,
      version: head.version + 1,
      fields: effects.fields,
      reason: effects.reason,
    };
    return {
      made: [],
      touched: [
        order,
        ...purchasesAlong(effects.along, pairs, addresses).map((purchase) => ({ ...purchase, reason: effects.reason })),
        ...touchedBy(offers, effects.released),
        ...touchedBy(buying, effects.along.released),
        ...(await worksOf(tx, doer, coming, wanted)),
      ],
      statements,
      insertions: [],
    };
  },
});

/** The lines of a confirmed order with what has happened to them. */
async function confirmedLines(sql: Sql, companyId: number, orderId: number): Promise<ConfirmedLine[]> {
  const [lines, planned, more] = await Promise.all([
    linesNow(sql, companyId, orderId),
    plannedLines(sql, companyId, orderId, 'planned'),
    sql.rows<Columns<SalesOrderLine, 'id invoiced reserved'> & { onTheWay: string | null; purchases: string | null }>(
      `SELECT l.id, l.invoiced, l.reserved, SUM(t.quantity - t.received) AS on_the_way,
            GROUP_CONCAT(DISTINCT p.number ORDER BY p.id SEPARATOR ', ') AS purchases
       FROM sales_order_line l
       LEFT JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
       LEFT JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       LEFT JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
      WHERE l.company_id = ? AND l.order_id = ? GROUP BY l.id`,
      [companyId, orderId],
    ),
  ]);
  return lines.map((line) => {
    const { onTheWay, purchases, ...rest } = more.find(({ id }) => id === line.id)!;
    return {
      ...line,
      ...rest,
      onTheWay: onTheWay ?? '0',
      purchases: purchases ?? '',
      planned: planned.find(({ id }) => id === line.id)?.number ?? '',
    };
  });
}

/** What is laid for the lines of an order and not made yet, with the day it is due. */
const worksDue = (sql: Sql, companyId: number, orderId: number) =>
  sql.rows<{ orderLineId: number; number: string; due: Day }>(
    `SELECT t.order_line_id, p.number, p.due_date AS due FROM sales_order_line l
       JOIN planned_tie t ON t.company_id = l.company_id AND t.order_line_id = l.id AND t.quantity > t.made
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open
      WHERE l.company_id = ? AND l.order_id = ? ORDER BY p.id`,
    [companyId, orderId],
  );

const heldStatements = (
  companyId: number,
  lineId: number,
  { itemId, locationId, by }: { itemId: number; locationId: number; by: string },
): Statement[] => [
  heldStatement(companyId, itemId, locationId, by),
  {
    sql: 'UPDATE sales_order_line SET reserved = reserved + ? WHERE company_id = ? AND id = ?',
    values: [by, companyId, lineId],
  },
];

/** A field's value in a sentence. */
const fieldText = (value: string): string => (isDay(value) ? dayText(value, '') : value === '' ? 'nothing' : value);

/** The head of an order that was changed. */
function headAgain(effects: ChangeEffects, id: number, companyId: number): Statement {
  return {
    sql: `UPDATE sales_order o SET o.ship_to_id = ?, o.customer_reference = ?, o.version = o.version + 1, o.revision = o.revision + 1,
            o.credit_reason = IF(? = '', o.credit_reason, ?)
           WHERE o.company_id = ? AND o.id = ?`,
    values: [effects.shipToId, effects.customerReference, effects.creditReason, effects.creditReason, companyId, id],
  };
}

/** The orders that make something for nobody by now. */
async function worksOf(
  tx: Tx,
  doer: Doer,
  coming: readonly ComingTie[],
  wanted: ReadonlyMap<number, string>,
): Promise<Touched[]> {
  const ids = [...new Set(tiesBeyond(coming, wanted).map(({ plannedId }) => plannedId))];
  if (ids.length === 0) return [];
  return tx.rows<Touched>(
    "SELECT id, number, IF(kind = 'make', 'PR', 'AS') AS kind FROM planned_order WHERE company_id = ? AND id IN (?)",
    [doer.companyId, ids],
  );
}

/** What a change moves besides its order, in sentences. */
function wordsOf(
  effects: ChangeEffects & { along: PairEffects },
  {
    current,
    offers,
    coming,
    items,
    works,
  }: {
    current: { lines: readonly ConfirmedLine[] };
    offers: readonly PartyOffer[];
    coming: readonly ComingTie[];
    items: ReadonlyMap<number, { number: string }>;
    works: readonly { orderLineId: number; number: string; due: Day }[];
  },
): string[] {
  const lineNo = (id: number) => String(current.lines.find((line) => line.id === id)!.lineNo);
  const agreed = effects.released.map(({ agreementLineId, quantity }) => {
    const { agreement } = offers.find((offer) => offer.line.id === agreementLineId)!;
    const more = dec(quantity).gte(0);
    return more
      ? `${agreement.number} gives ${dec(quantity).toFixed()} more`
      : `${agreement.number} has ${dec(quantity).abs().toFixed()} back`;
  });
  const freed = effects.freed.map(
    ({ lineId, quantity }) => `${quantity} held for line ${lineNo(lineId)} are free again`,
  );
  const wanted = new Map(effects.wanted.map(({ lineId, quantity }) => [lineId, quantity]));
  const beyond = tiesBeyond(coming, wanted).map(
    ({ orderLineId, quantity }) =>
      `${quantity} that are made for line ${lineNo(orderLineId)} are for nobody from then on`,
  );
  const bench = effects.lines.flatMap((line) => {
    const now = current.lines.find(({ id }) => id === line.id);
    const bought = line.route === 'drop' || line.route === 'special';
    const short = dec(line.quantity)
      .minus(now?.cancelled ?? '0')
      .minus(now?.tied ?? '0')
      .minus(effects.along.sales.find(({ id }) => id === line.id)?.tiedBy ?? '0');
    const grows = !now || dec(line.quantity).gt(now.quantity);
    return bought && grows && short.gt(0)
      ? [`${short.toFixed()} of ${items.get(line.itemId)!.number} are to be bought`]
      : [];
  });
  const apart = effects.datedIds.flatMap((id) => {
    const { purchases, onTheWay } = current.lines.find((line) => line.id === id)!;
    const along = effects.along.sales.some((line) => line.id === id);
    return dec(onTheWay).gt(0) && !along ? [`${purchases} keeps its due date; change both ends to move it along`] : [];
  });
  const after = effects.lines.flatMap((line) =>
    works
      .filter(({ orderLineId, due }) => orderLineId === line.id && due > line.shipDate)
      .map(
        ({ number, due }) =>
          `${number} is there only on ${dayText(due, '')}, after line ${lineNo(line.id!)} is to ship`,
      ),
  );
  return [...agreed, ...freed, ...beyond, ...bench, ...apart, ...after];
}
