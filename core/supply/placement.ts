import { ROUTE_NAMES, routeIsBought, type Route } from '@core/catalogue';
import { dec, isDecimalText, MAIN_LOCATION, sum, type Day } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { vendorQuantity, vendorRefusal, type Offer } from './bench';
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

/** A bench line to place; `agreementLineId` null for no agreement, left out for the first that fits. */
export interface PlacementChoice {
  orderLineId: number;
  vendorId: number;
  /** Part of what the line needs; left out for all of it. */
  quantity?: string | undefined;
  agreementLineId?: number | null | undefined;
}

/**
 * Places chosen bench lines: one purchase order for each vendor, currency and ship-to or location, every line tied. // L1 L2 L3 L8
 * Special orders of one item that are due together share a purchase line, rounded up to what the vendor sells.
 * Each is priced by the buying agreement chosen for it, else the first that fits, else the vendor's price. // A13
 * Orders come in the order of their first line. O(lines × offers).
 */
export function decidePlacement(
  lines: readonly BenchLine[],
  choices: readonly PlacementChoice[],
  days: SupplyDays,
  buying: readonly BuyingOffer[] = [],
): Decision<{ purchases: PurchasePlan[]; released: CounterGrowth[] }> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  if (choices.length === 0) refusals.push(refuse('nothing-asked', 'lines', { what: 'a vendor' }));
  const wants = new Map<string, Want>();
  const seen = new Set<number>();
  choices.forEach((choice, index) => {
    const field = `lines.${index}`;
    const line = lines.find((each) => each.id === choice.orderLineId);
    const refusal = line
      ? choiceRefusal(line, choice, field, seen)
      : refuse('unknown', `${field}.orderLineId`, { what: 'This order line' });
    if (refusal) refusals.push(refusal);
    else addWant(wants, line!, choice, field, days);
    seen.add(choice.orderLineId);
  });
  const taken = new Taken();
  const plans = new Map<string, PurchasePlan>();
  for (const want of wants.values()) {
    const need = sum(want.needs.map((each) => each.quantity));
    const sold = vendorQuantity(need, want.offer);
    const bought = want.shipToId === null ? sold : need;
    if (!bought.eq(sold)) {
      const { vendor } = want.offer;
      const facts = { vendor, item: want.item.number, asked: need.toFixed(), sold: sold.toFixed() };
      warnings.push(refuse('not-as-vendor-sells', `${want.field}.vendorId`, facts));
    }
    const priced = priceBought(want, bought, buying, taken, days.workDate);
    refusals.push(...priced.refused);
    warnings.push(...priced.warned);
    addToPlan(plans, want, priced.portions);
  }
  return decided(refusals, () => ({ purchases: [...plans.values()], released: taken.grown() }), warnings);
}

function addWant(
  wants: Map<string, Want>,
  line: BenchLine,
  { vendorId, quantity, agreementLineId }: PlacementChoice,
  field: string,
  days: SupplyDays,
): void {
  const offer = line.offers.find((each) => each.vendorId === vendorId)!;
  const dueDate = days.due(offer, line.route, line.shipDate);
  const { currency } = line.order;
  const shared = line.route === 'special';
  const key = shared
    ? `${vendorId}|${currency}|${line.item.id}|${line.locationId}|${dueDate}|${agreementLineId}`
    : `line ${line.id}`;
  const shipToId = shared ? null : line.shipToId;
  const { item } = line;
  const want = wants.get(key) ?? {
    vendorId,
    shipToId,
    locationId: shared ? line.locationId : MAIN_LOCATION,
    currency,
    item,
    offer,
    dueDate,
    agreementLineId,
    field,
    needs: [],
  };
  want.needs.push({ orderLineId: line.id, quantity: dec(quantity || line.uncovered) });
  wants.set(key, want);
}

function choiceRefusal(
  line: BenchLine,
  { vendorId, quantity }: PlacementChoice,
  field: string,
  seen: ReadonlySet<number>,
): Refusal | null {
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
  return quantity?.trim() ? partRefusal(line, quantity, `${field}.quantity`) : null;
}

/** A part of what a line needs: any for a special order, all of it for a drop shipment, which has one supply. // L1 */
function partRefusal(line: BenchLine, quantity: string, field: string): Refusal | null {
  if (!isDecimalText(quantity, 'quantity')) return refuse('not-a-number', field, { what: 'The quantity' });
  if (dec(quantity).lte(0)) return refuse('not-above-zero', field, { what: 'The quantity' });
  const facts = { document: line.order.number, line: String(line.lineNo), item: line.item.number };
  if (dec(quantity).gt(line.uncovered)) {
    return refuse('above-open', field, { ...facts, asked: quantity, open: line.uncovered });
  }
  return line.route === 'drop' && dec(quantity).lt(line.uncovered)
    ? refuse('drop-in-one', field, { order: line.order.number, line: String(line.lineNo), open: line.uncovered })
    : null;
}
