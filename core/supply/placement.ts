import { agreementsByLine, overWholes } from '@core/agreements';
import { ROUTE_NAMES, routeIsBought, type Route } from '@core/catalogue';
import { dec, isDecimalText, least, MAIN_LOCATION, most, sum, ZERO, type Day } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { unrated, vendorQuantity, vendorRefusal, type Offer } from './bench';
import type { SupplyDays } from './due';
import {
  addToPlan,
  priceBought,
  Taken,
  type BoughtItem,
  type BuyingOffer,
  type CounterGrowth,
  type PurchasePlan,
  type Want,
} from './buying';

/** A sales line on the bench, with what it still needs. */
export interface BenchLine {
  id: number;
  lineNo: number;
  order: { id: number; number: string; state: OrderState; currency: string };
  shipToId: number;
  /** Where it goes out from, and a special order's goods come to. */
  locationId: number;
  route: Route;
  /** Open and not tied yet, in base units. */
  uncovered: string;
  shipDate: Day;
  item: BoughtItem;
  offers: readonly Offer[];
}

/** A planned purchase on the bench: bought as it was planned, whole. // T12 */
export interface BenchPlanned {
  id: number;
  number: string;
  state: string;
  kind: 'make' | 'assemble' | 'buy';
  quantity: string;
  /** Which of our places it comes to. */
  locationId: number;
  /** When it is needed there. */
  dueDate: Day;
  item: BoughtItem;
  offers: readonly Offer[];
  /** Of the order it was planned for, the components it brings: how much of each. */
  brings: readonly { componentId: number; covered: string }[];
  /** What of it is for that order. */
  held: string;
}

export interface PlannedChoice {
  plannedId: number;
  vendorId: number;
  /** Another price than was found, with why; it is no agreement's. */
  price?: string | undefined;
  reason?: string | undefined;
  agreementLineId?: number | null | undefined;
}

/** What is no longer brought by a planned order of its own, but comes with the rest. */
export interface Uncovered {
  componentId: number;
  by: string;
}

export interface PlacementGround {
  lines: readonly BenchLine[];
  planned: readonly BenchPlanned[];
  days: SupplyDays;
  buying: readonly BuyingOffer[];
}

export interface PlacementTyped {
  lines: readonly PlacementChoice[];
  planned: readonly PlannedChoice[];
}

export interface PlacementEffects {
  purchases: PurchasePlan[];
  released: CounterGrowth[];
  uncovered: Uncovered[];
}

/** A bench line to place; `agreementLineId` null for no agreement, left out for the first that fits. */
export interface PlacementChoice {
  orderLineId: number;
  vendorId: number;
  /** Part of what the line needs, or for our place more than that, with why; left out for all of it. */
  quantity?: string | undefined;
  /** Another price than was found, with why; it is no agreement's. */
  price?: string | undefined;
  reason?: string | undefined;
  agreementLineId?: number | null | undefined;
}

/**
 * Places chosen bench lines: one purchase order for each vendor and ship-to or location, in the vendor's currency, every
 * line tied. // L1 L2 L3 L8
 * Special orders of one item that are due together share a purchase line, rounded up to what the vendor sells; planned
 * purchases share it with them, and are then on their way: what they are for waits for goods like anything else. // T12
 * Each is priced by the buying agreement chosen for it, else the first that fits, else the vendor's price. // A13
 * Orders come in the order of their first line. O(lines × offers).
 */
export function decidePlacement(
  { lines, planned, days, buying }: PlacementGround,
  typed: PlacementTyped,
): Decision<PlacementEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  if (typed.lines.length + typed.planned.length === 0) {
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a vendor' }));
  }
  const wants = new Map<string, Want>();
  const seen = new Set<number>();
  typed.lines.forEach((choice, index) => {
    const field = `lines.${index}`;
    const line = lines.find((each) => each.id === choice.orderLineId);
    const refusal = line
      ? choiceRefusal(line, choice, field, seen)
      : refuse('unknown', `${field}.orderLineId`, { what: 'This order line' });
    if (refusal) refusals.push(refusal);
    else addWant(wants, lineWant(line!, choice, field, days));
    seen.add(choice.orderLineId);
  });
  const uncovered: Uncovered[] = [];
  typed.planned.forEach((choice, index) => {
    const field = `planned.${index}`;
    const order = planned.find((each) => each.id === choice.plannedId);
    const refusal = order
      ? plannedRefusal(order, choice, field)
      : refuse('unknown', `${field}.plannedId`, { what: 'This planned purchase' });
    if (refusal) return void refusals.push(refusal);
    addWant(wants, plannedWant(order!, choice, field, days));
    uncovered.push(...uncoveredBy(order!));
  });
  const taken = new Taken();
  const plans = new Map<string, PurchasePlan>();
  for (const want of wants.values()) {
    const need = sum(want.needs.map((each) => each.quantity)).plus(want.extra ?? 0);
    const sold = vendorQuantity(need, want.offer);
    const bought = want.shipToId === null ? sold : need;
    if (!bought.eq(sold)) {
      const { vendor } = want.offer;
      const facts = { vendor, item: want.item.number, asked: need.toFixed(), sold: sold.toFixed() };
      warnings.push(refuse('not-as-vendor-sells', `${want.field}.vendorId`, facts));
    }
    warnings.push(...unrated(want.offer, `${want.field}.vendorId`));
    const priced = priceBought(want, bought, buying, taken, days.workDate);
    refusals.push(...priced.refused);
    warnings.push(...priced.warned);
    addToPlan(plans, want, priced.portions);
  }
  const whole = overWholes(agreementsByLine(buying), taken.grown(), 'lines');
  refusals.push(...whole.refused);
  warnings.push(...whole.warned);
  return decided(refusals, () => ({ purchases: [...plans.values()], released: taken.grown(), uncovered }), warnings);
}

/** A want by its own, or with those it shares a purchase line with. */
type Keyed = readonly [key: string, Want];

function addWant(wants: Map<string, Want>, [key, want]: Keyed): void {
  const shared = wants.get(key);
  if (shared) {
    shared.needs.push(...want.needs);
    shared.extra = (shared.extra ?? ZERO).plus(want.extra ?? 0);
    shared.reason ||= want.reason;
  } else wants.set(key, want);
}

/** What comes to one of our places on one day, of one item and from one vendor, is one purchase line. */
const sharedKey = (want: Omit<Want, 'needs'>) =>
  `${want.vendorId}|${want.currency}|${want.item.id}|${want.locationId}|${want.dueDate}|${want.agreementLineId}|${want.price?.toFixed()}`;

/** A price that was typed, and why it or the quantity was. */
const typedOf = ({ price, reason }: Pick<PlacementChoice, 'price' | 'reason'>) => ({
  price: price?.trim() ? dec(price.trim()) : undefined,
  reason: reason?.trim() ?? '',
});

function lineWant(line: BenchLine, choice: PlacementChoice, field: string, days: SupplyDays): Keyed {
  const { vendorId, quantity, agreementLineId } = choice;
  const asked = dec(quantity?.trim() || line.uncovered);
  const offer = line.offers.find((each) => each.vendorId === vendorId)!;
  const shared = line.route === 'special';
  const want = {
    vendorId,
    shipToId: shared ? null : line.shipToId,
    locationId: shared ? line.locationId : MAIN_LOCATION,
    currency: offer.currency,
    item: line.item,
    offer,
    dueDate: days.due(offer, line.route, line.shipDate),
    agreementLineId,
    field,
    ...typedOf(choice),
    extra: most(ZERO, asked.minus(line.uncovered)),
    needs: [{ orderLineId: line.id, quantity: least(asked, dec(line.uncovered)) }],
  };
  return [shared ? sharedKey(want) : `line ${line.id}`, want];
}

/** What was planned is bought whole: what its lot brings beyond the need may be counted on already. // T4 T12 */
function plannedWant(order: BenchPlanned, choice: PlannedChoice, field: string, days: SupplyDays): Keyed {
  const { vendorId, agreementLineId } = choice;
  const offer = order.offers.find((each) => each.vendorId === vendorId)!;
  const want = {
    vendorId,
    shipToId: null,
    locationId: order.locationId,
    currency: offer.currency,
    item: order.item,
    offer,
    dueDate: days.due(offer, 'special', order.dueDate),
    agreementLineId,
    field,
    ...typedOf(choice),
    needs: [{ plannedId: order.id, quantity: dec(order.quantity) }],
  };
  return [sharedKey(want), want];
}

/** Of each component what this planned purchase brought, first component first. */
function uncoveredBy({ held, brings }: BenchPlanned): Uncovered[] {
  let rest = dec(held);
  return brings.flatMap(({ componentId, covered }) => {
    const by = least(rest, dec(covered));
    rest = rest.minus(by);
    return by.gt(0) ? [{ componentId, by: by.toFixed() }] : [];
  });
}

function plannedRefusal(order: BenchPlanned, choice: PlannedChoice, field: string): Refusal | null {
  const { vendorId } = choice;
  if (order.kind !== 'buy' || order.state !== 'planned') {
    return refuse('planned-not-placeable', field, { number: order.number, state: order.state });
  }
  if (order.offers.length === 0) return refuse('no-vendor', field, { item: order.item.number });
  return (
    vendorRefusal(order.offers, { id: vendorId, name: 'This vendor' }, order.item.number, `${field}.vendorId`) ??
    priceRefusal(choice, field)
  );
}

/** A typed price is one, and says why. */
function priceRefusal({ price, reason }: Pick<PlacementChoice, 'price' | 'reason'>, field: string): Refusal | null {
  const typed = price?.trim() ?? '';
  if (typed === '') return null;
  if (!isDecimalText(typed, 'price') || dec(typed).lt(0)) {
    return refuse('not-a-number', `${field}.price`, { what: 'The price' });
  }
  return reason?.trim() ? null : refuse('required', `${field}.reason`, { what: 'Why it has another price' });
}

function choiceRefusal(
  line: BenchLine,
  choice: PlacementChoice,
  field: string,
  seen: ReadonlySet<number>,
): Refusal | null {
  const { vendorId, quantity } = choice;
  const facts = { order: line.order.number, line: String(line.lineNo) };
  if (line.order.state !== 'confirmed') {
    return refuse('order-not-confirmed', field, { order: line.order.number, state: line.order.state });
  }
  if (!routeIsBought(line.route)) {
    return refuse('line-not-bought', field, { ...facts, route: ROUTE_NAMES[line.route] });
  }
  if (dec(line.uncovered).lte(0) || seen.has(line.id)) return refuse('line-covered', field, facts);
  if (line.offers.length === 0) return refuse('no-vendor', field, { item: line.item.number });
  const vendor = { id: vendorId, name: 'This vendor' };
  const refused = vendorRefusal(line.offers, vendor, line.item.number, `${field}.vendorId`);
  if (refused) return refused;
  const part = quantity?.trim() ? partRefusal(line, quantity.trim(), choice.reason ?? '', field) : null;
  return part ?? priceRefusal(choice, field);
}

/**
 * A part of what a line needs: any for a special order, all of it for a drop shipment, which has one supply. More than it
 * needs comes to our place only, and says why. // L1 L8
 */
function partRefusal(line: BenchLine, quantity: string, reason: string, at: string): Refusal | null {
  const field = `${at}.quantity`;
  if (!isDecimalText(quantity, 'quantity')) return refuse('not-a-number', field, { what: 'The quantity' });
  if (dec(quantity).lte(0)) return refuse('not-above-zero', field, { what: 'The quantity' });
  const facts = { document: line.order.number, line: String(line.lineNo), item: line.item.number };
  if (dec(quantity).gt(line.uncovered)) {
    if (line.route === 'drop') return refuse('above-open', field, { ...facts, asked: quantity, open: line.uncovered });
    return reason.trim() ? null : refuse('required', `${at}.reason`, { what: 'Why more is bought than is needed' });
  }
  return line.route === 'drop' && dec(quantity).lt(line.uncovered)
    ? refuse('drop-in-one', field, { order: line.order.number, line: String(line.lineNo), open: line.uncovered })
    : null;
}
