import { agreementsByLine, overWholes } from '@core/agreements';
import { dec, isDay, isDecimalText, MAIN_LOCATION, sum, ZERO, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { unrated, vendorQuantity, vendorRefusal, type Offer } from './bench';
import {
  addToPlan,
  priceBought,
  Taken,
  type BoughtItem,
  type BuyingOffer,
  type CounterGrowth,
  type PurchasePlan,
} from './buying';

/** What a purchase order typed by hand is checked against. */
export interface PurchaseGround {
  vendor: { id: number; name: string; currency: string; outOfUse?: boolean } | null;
  /** The customers' addresses it may go to. */
  shipToIds: readonly number[];
  locationIds: readonly number[];
  /** What is out of use is bought for nobody any more. */
  items: ReadonlyMap<number, { item: BoughtItem & { outOfUse: boolean }; offers: readonly Offer[] }>;
  buying: readonly BuyingOffer[];
}

/** A purchase order as typed: to our place, or to a customer's address before anybody ordered. */
export interface PurchaseTyped {
  shipToId: number | null;
  /** Which of our places it comes to; the main one where left out. */
  locationId?: number | undefined;
  lines: readonly {
    itemId: number | null;
    quantity: string;
    dueDate: Day | null;
    agreementLineId?: number | null | undefined;
    /** Another price than the vendor's; blank or left out for theirs. */
    price?: string | undefined;
  }[];
}

export interface PurchaseEffects {
  purchase: PurchasePlan;
  released: CounterGrowth[];
  /** What each typed line costs, in their order: one may be bought in two portions. */
  typed: { itemId: number; quantity: string; unitPrice: string; amount: string; agreementLineId: number | null }[];
}

/**
 * A purchase order for nobody's order yet: for our stock, or a drop shipment to be tied later. // L4 L9
 * Refused where the vendor does not sell an item, naming who does; a quantity they do not sell is taken with a word.
 */
export function decidePurchase(
  ground: PurchaseGround,
  typed: PurchaseTyped,
  workDate: Day,
  /** What the act takes of agreements besides. */
  taken = new Taken(),
): Decision<PurchaseEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  const { vendor } = ground;
  if (!vendor) refusals.push(refuse('required', 'vendorId', { what: 'The vendor' }));
  else if (vendor.outOfUse) refusals.push(refuse('party-out-of-use', 'vendorId', { party: vendor.name }));
  if (typed.shipToId !== null && !ground.shipToIds.includes(typed.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This ship-to address' }));
  }
  const locationId = typed.shipToId === null ? (typed.locationId ?? MAIN_LOCATION) : MAIN_LOCATION;
  if (!ground.locationIds.includes(locationId)) {
    refusals.push(refuse('unknown', 'locationId', { what: 'This location' }));
  }
  if (typed.lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: 'The purchase order' }));
  const plans = new Map<string, PurchasePlan>();
  const costs: PurchaseEffects['typed'] = [];
  typed.lines.forEach((line, index) => {
    const field = `lines.${index}`;
    const found = lineRefusals(ground, line, field, workDate);
    refusals.push(...found);
    if (found.length > 0 || !vendor) return;
    const { item, offers } = ground.items.get(line.itemId!)!;
    const offer = offers.find((each) => each.vendorId === vendor.id)!;
    const quantity = dec(line.quantity);
    const sold = vendorQuantity(quantity, offer);
    if (!sold.eq(quantity)) {
      const facts = { vendor: vendor.name, item: item.number, asked: quantity.toFixed(), sold: sold.toFixed() };
      warnings.push(refuse('vendor-sells-by', `${field}.quantity`, facts));
    }
    if (index === 0) warnings.push(...unrated(offer, 'vendorId'));
    const want = {
      vendorId: vendor.id,
      shipToId: typed.shipToId,
      locationId,
      currency: vendor.currency,
      item,
      offer,
      dueDate: line.dueDate!,
      agreementLineId: line.agreementLineId,
      price: line.price?.trim() ? dec(line.price.trim()) : undefined,
      field,
      needs: [],
    };
    const priced = priceBought(want, quantity, ground.buying, taken, workDate);
    refusals.push(...priced.refused);
    warnings.push(...priced.warned);
    addToPlan(plans, want, priced.portions);
    const [first] = priced.portions;
    costs.push({
      itemId: item.id,
      quantity: quantity.toFixed(),
      unitPrice: (first?.unitPrice ?? ZERO).toFixed(),
      amount: sum(priced.portions.map((portion) => portion.amount)).toFixed(),
      agreementLineId: first?.agreementLineId ?? null,
    });
  });
  const whole = overWholes(agreementsByLine(ground.buying), taken.grown(), 'lines');
  refusals.push(...whole.refused);
  warnings.push(...whole.warned);
  return decided(
    refusals,
    () => ({ purchase: [...plans.values()][0]!, released: taken.grown(), typed: costs }),
    warnings,
  );
}

function lineRefusals(
  ground: PurchaseGround,
  line: PurchaseTyped['lines'][number],
  field: string,
  workDate: Day,
): Refusal[] {
  const at = (name: string) => `${field}.${name}`;
  const refusals: Refusal[] = [];
  const known = line.itemId === null ? undefined : ground.items.get(line.itemId);
  if (line.itemId === null) refusals.push(refuse('required', at('itemId'), { what: 'The item' }));
  else if (!known) refusals.push(refuse('unknown', at('itemId'), { what: 'This item' }));
  else if (known.item.outOfUse) {
    refusals.push(refuse('item-out-of-use', at('itemId'), { item: known.item.number }));
  } else if (ground.vendor) {
    const refused = vendorRefusal(known.offers, ground.vendor, known.item.number, at('itemId'));
    if (refused) refusals.push(refused);
  }
  if (!isDecimalText(line.quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', at('quantity'), { what: 'The quantity' }));
  } else if (dec(line.quantity).lte(0)) {
    refusals.push(refuse('not-above-zero', at('quantity'), { what: 'The quantity' }));
  }
  const price = line.price?.trim() ?? '';
  if (price !== '' && (!isDecimalText(price, 'price') || dec(price).lt(0))) {
    refusals.push(refuse('not-a-number', at('price'), { what: 'The price' }));
  }
  if (line.dueDate === null) refusals.push(refuse('required', at('dueDate'), { what: 'The day it is due' }));
  else if (!isDay(line.dueDate)) refusals.push(refuse('not-a-day', at('dueDate'), { what: 'The day it is due' }));
  else if (line.dueDate < workDate) {
    refusals.push(refuse('ship-date-past', at('dueDate'), { day: line.dueDate, workDate }));
  }
  return refusals;
}
