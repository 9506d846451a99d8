import { ROUTE_NAMES, routeFits, routeIsBought, routeIsMade, type Route } from '@core/catalogue';
import { dec, isDecimalText, least, MAIN_LOCATION, most, pointOf, ZERO, type Dec } from '@core/kernel';
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
    locationId: number;
    /** What is being made for it, and the first order that makes it; empty for none. // L1 */
    making: string;
    work: string;
    /** What was chosen for it of what its item offers; empty where it is as its item is. // W2 */
    chosen: string;
  };
  /** `free`: held for nobody, by location. */
  item: {
    id: number;
    number: string;
    stocked: boolean;
    hasVendor: boolean;
    obtained: string;
    reserving: Reserving;
    free: ReadonlyMap<number, string>;
  };
}

export interface SupplyTyped {
  route: Route;
  /** Where it goes out from; where it does where left out. */
  locationId?: number | undefined;
  /** What is to be held for the line; empty leaves what is held, as far as the route holds anything. */
  reserve: string;
  /** Says yes to lifting what is held where the route changes. */
  lift: boolean;
}

export interface SupplyEffects {
  lineId: number;
  itemId: number;
  route: Route;
  locationId: number;
  /** What more is held at locations; below zero lets go. */
  by: { locationId: number; quantity: string }[];
  reserved: string;
  onBench: boolean;
}

/**
 * How a confirmed line is supplied: another route, and what of our stock is held for it. // S1 S3
 * Another route or location needs a line without ties and shipments; what is held for it is lifted in the same step
 * after a yes.
 * No more is held than is open and free.
 */
export function decideSupply(ground: SuppliedLine, typed: SupplyTyped): Decision<SupplyEffects> {
  const { order, line, item } = ground;
  const refusals: Refusal[] = [];
  const facts = { order: order.number, line: String(line.lineNo) };
  if (order.state !== 'confirmed') {
    refusals.push(refuse('order-not-confirmed', '', { order: order.number, state: order.state }));
  }
  const locationId = typed.route === 'drop' ? MAIN_LOCATION : (typed.locationId ?? line.locationId);
  const other = typed.route !== line.route || locationId !== line.locationId;
  if (!item.free.has(locationId)) refusals.push(refuse('unknown', 'locationId', { what: 'This location' }));
  if (!routeFits(typed.route, item)) {
    refusals.push(
      routeIsBought(typed.route)
        ? refuse('no-vendor', 'route', { item: item.number })
        : refuse('route-not-kept', 'route', { item: item.number, route: ROUTE_NAMES[typed.route] }),
    );
  } else if (line.chosen !== '' && !routeIsMade(typed.route)) {
    refusals.push(refuse('options-not-made', 'route', { item: item.number, options: line.chosen }));
  } else if (other && dec(line.tied).gt(0)) refusals.push(refuse('line-tied', 'route', facts));
  else if (other && line.work !== '') refusals.push(refuse('line-made', 'route', { ...facts, work: line.work }));
  else if (other && dec(line.shipped).gt(0)) refusals.push(refuse('line-part-shipped', 'route', facts));
  else if (other && dec(line.reserved).gt(0) && !typed.lift) {
    refusals.push(refuse('line-reserved', 'lift', { ...facts, item: item.number, reserved: line.reserved }));
  }
  const kept = other ? ZERO : dec(line.reserved);
  const reserved = typed.reserve.trim() === '' ? kept : reserveOf(ground, typed, locationId, refusals);
  return decided(refusals, () => ({
    lineId: line.id,
    itemId: item.id,
    route: typed.route,
    locationId,
    by:
      locationId === line.locationId
        ? [{ locationId, quantity: reserved.minus(line.reserved).toFixed() }]
        : [
            { locationId: line.locationId, quantity: dec(line.reserved).neg().toFixed() },
            { locationId, quantity: reserved.toFixed() },
          ],
    reserved: reserved.toFixed(),
    onBench: routeIsBought(typed.route) && dec(line.open).plus(line.shipped).gt(line.tied),
  }));
}

function reserveOf({ line, item }: SuppliedLine, typed: SupplyTyped, locationId: number, refusals: Refusal[]): Dec {
  if (!isDecimalText(typed.reserve, 'quantity') || dec(typed.reserve).lt(0)) {
    refusals.push(refuse('not-a-number', 'reserve', { what: 'What is to be held' }));
    return ZERO;
  }
  const asked = dec(typed.reserve);
  if (asked.eq(0)) return ZERO;
  if (line.chosen !== '' && asked.gt(line.reserved)) {
    // What is there is the item as it usually is.
    refusals.push(refuse('options-not-made', 'reserve', { item: item.number, options: line.chosen }));
  } else if (typed.route === 'drop') {
    refusals.push(refuse('route-holds-nothing', 'reserve', { item: item.number }));
  } else if (item.reserving === 'never') {
    refusals.push(refuse('never-reserved', 'reserve', { item: item.number }));
  } else {
    const own = locationId === line.locationId ? line.reserved : '0';
    // What is being made for it need not be held as well. // L1
    const unmade = dec(line.open).minus(line.making);
    const there = least(unmade, dec(item.free.get(locationId) ?? '0').plus(own));
    if (asked.gt(there)) {
      const facts = { item: item.number, asked: typed.reserve, free: most(ZERO, there).toFixed() };
      refusals.push(refuse('above-free', 'reserve', facts));
    }
  }
  return asked;
}

/**
 * What is held at once for lines when their order is confirmed: stock lines of items that are always reserved, in their
 * order, as far as stock is free at their locations; `free` by item and location. // S3
 */
export function reserveAtOnce(
  lines: readonly {
    id: number;
    itemId: number;
    locationId: number;
    route: Route;
    open: string;
    reserving: Reserving;
  }[],
  free: ReadonlyMap<number, string>,
): { lineId: number; itemId: number; locationId: number; quantity: string }[] {
  const left = new Map([...free].map(([point, quantity]) => [point, dec(quantity)]));
  return lines.flatMap((line) => {
    if (line.route !== 'stock' || line.reserving !== 'always') return [];
    const point = pointOf(line.itemId, line.locationId);
    const there = left.get(point) ?? ZERO;
    const quantity = least(dec(line.open), there);
    if (quantity.lte(0)) return [];
    left.set(point, there.minus(quantity));
    return [{ lineId: line.id, itemId: line.itemId, locationId: line.locationId, quantity: quantity.toFixed() }];
  });
}

/** A decision to confirm an order, with what of it is held at once. // S3 */
export function holdingAtOnce<Effects>(
  decision: Decision<Effects>,
  lines: Parameters<typeof reserveAtOnce>[0],
  free: ReadonlyMap<number, string>,
): Decision<Effects & { held: ReturnType<typeof reserveAtOnce> }> {
  if (!decision.ok) return { ok: false, refusals: decision.refusals };
  return { ...decision, effects: { ...decision.effects, held: reserveAtOnce(lines, free) } };
}
