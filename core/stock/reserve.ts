import { ROUTE_NAMES, routeFits, routeIsBought, type Route } from '@core/catalogue';
import { dec, isDecimalText, least, most, ZERO, type Dec } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** Whether stock of an item is held for order lines: never, when somebody asks for it, or at once. // S3 */
export const RESERVING = ['never', 'asked', 'always'] as const;
export type Reserving = (typeof RESERVING)[number];

export interface SuppliedLine {
  order: { id: number; number: string; state: OrderState };
  line: {
    id: number;
    lineNo: number;
    route: Route;
    /** Ordered, not given up and not shipped. */
    open: string;
    tied: string;
    shipped: string;
    reserved: string;
  };
  item: { id: number; number: string; stocked: boolean; hasVendor: boolean; reserving: Reserving; free: string };
}

export interface SupplyTyped {
  route: Route;
  /** What is to be held for the line; empty leaves what is held, as far as the route holds anything. */
  reserve: string;
  /** Says yes to lifting what is held where the route changes. */
  lift: boolean;
}

export interface SupplyEffects {
  lineId: number;
  itemId: number;
  route: Route;
  /** What more is held; below zero lets go. */
  by: string;
  reserved: string;
  onBench: boolean;
}

/**
 * How a confirmed line is supplied: another route, and what of our stock is held for it. // S1 S3
 * Another route needs a line without ties and shipments; what is held for it is lifted in the same step after a yes.
 * No more is held than is open and free.
 */
export function decideSupply(ground: SuppliedLine, typed: SupplyTyped): Decision<SupplyEffects> {
  const { order, line, item } = ground;
  const refusals: Refusal[] = [];
  const facts = { order: order.number, line: String(line.lineNo) };
  if (order.state !== 'confirmed') {
    refusals.push(refuse('order-not-confirmed', '', { order: order.number, state: order.state }));
  }
  const other = typed.route !== line.route;
  if (!routeFits(typed.route, item)) {
    refusals.push(
      routeIsBought(typed.route)
        ? refuse('no-vendor', 'route', { item: item.number })
        : refuse('route-not-kept', 'route', { item: item.number, route: ROUTE_NAMES[typed.route] }),
    );
  } else if (other && dec(line.tied).gt(0)) refusals.push(refuse('line-tied', 'route', facts));
  else if (other && dec(line.shipped).gt(0)) refusals.push(refuse('line-part-shipped', 'route', facts));
  else if (other && dec(line.reserved).gt(0) && !typed.lift) {
    refusals.push(refuse('line-reserved', 'lift', { ...facts, item: item.number, reserved: line.reserved }));
  }
  const kept = other ? ZERO : dec(line.reserved);
  const reserved = typed.reserve.trim() === '' ? kept : reserveOf(ground, typed, refusals);
  return decided(refusals, () => ({
    lineId: line.id,
    itemId: item.id,
    route: typed.route,
    by: reserved.minus(line.reserved).toFixed(),
    reserved: reserved.toFixed(),
    onBench: routeIsBought(typed.route) && dec(line.open).plus(line.shipped).gt(line.tied),
  }));
}

function reserveOf({ line, item }: SuppliedLine, typed: SupplyTyped, refusals: Refusal[]): Dec {
  if (!isDecimalText(typed.reserve, 'quantity') || dec(typed.reserve).lt(0)) {
    refusals.push(refuse('not-a-number', 'reserve', { what: 'What is to be held' }));
    return ZERO;
  }
  const asked = dec(typed.reserve);
  if (asked.eq(0)) return ZERO;
  if (typed.route === 'drop') {
    refusals.push(refuse('route-holds-nothing', 'reserve', { item: item.number }));
  } else if (item.reserving === 'never') {
    refusals.push(refuse('never-reserved', 'reserve', { item: item.number }));
  } else {
    const there = least(dec(line.open), dec(item.free).plus(line.reserved));
    if (asked.gt(there)) {
      const facts = { item: item.number, asked: typed.reserve, free: most(ZERO, there).toFixed() };
      refusals.push(refuse('above-free', 'reserve', facts));
    }
  }
  return asked;
}

/**
 * What is held at once for lines when their order is confirmed: stock lines of items that are always reserved, in their
 * order, as far as stock is free. // S3
 */
export function reserveAtOnce(
  lines: readonly { id: number; itemId: number; route: Route; open: string; reserving: Reserving }[],
  free: ReadonlyMap<number, string>,
): { lineId: number; itemId: number; quantity: string }[] {
  const left = new Map([...free].map(([itemId, quantity]) => [itemId, dec(quantity)]));
  return lines.flatMap((line) => {
    if (line.route !== 'stock' || line.reserving !== 'always') return [];
    const there = left.get(line.itemId) ?? ZERO;
    const quantity = least(dec(line.open), there);
    if (quantity.lte(0)) return [];
    left.set(line.itemId, there.minus(quantity));
    return [{ lineId: line.id, itemId: line.itemId, quantity: quantity.toFixed() }];
  });
}
