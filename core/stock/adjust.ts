import {
  currencyPlaces,
  dec,
  isDecimalText,
  least,
  most,
  priceText,
  roundHalfAway,
  ZERO,
  type Dec,
} from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { averageCost } from './between';

/** An item with what is there of it at one of our places. */
export interface AdjustGround {
  item: { id: number; number: string };
  location: { id: number; name: string } | null;
  stock: { onHand: string; reserved: string; value: string };
  /** The company's, in which stock is worth what it is. */
  currency: string;
}

export interface AdjustTyped {
  /** How many were said to be there. */
  was: string;
  /** How many there are. */
  now: string;
  /** What one costs that is more than was known of; left out: as those that are there. */
  unitCost: string;
  reason: string;
}

/** What an item at a place gains or, below nothing, loses, with what that is worth. */
export interface AdjustEffects {
  itemId: number;
  locationId: number;
  quantity: string;
  cost: string;
  reason: string;
  currency: string;
}

/**
 * Stock put right by hand: as many are there as are said to be, with a reason. More come at the average cost or at what
 * is typed, fewer leave at the average. Refused below what is held for orders, and where it moved since it was seen. // W6 P3 G2
 */
export function decideAdjust(ground: AdjustGround, typed: AdjustTyped): Decision<AdjustEffects> {
  const { item, location, stock, currency } = ground;
  const refusals: Refusal[] = [];
  if (!location) refusals.push(refuse('unknown', 'locationId', { what: 'This location' }));
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  const change = changeOf(ground, typed, refusals);
  const unitCost = typed.unitCost.trim();
  if (change?.gt(0)) {
    if (unitCost !== '' && !(isDecimalText(unitCost, 'price') && dec(unitCost).gte(0))) {
      refusals.push(refuse('not-a-number', 'unitCost', { what: 'The cost' }));
    } else if (unitCost === '' && dec(stock.onHand).lte(0)) {
      refusals.push(refuse('required', 'unitCost', { what: `What one of ${item.number} costs` }));
    }
  }
  return decided(refusals, () => {
    // What one costs is known by now.
    const cost = costOfChange(stock, change!, unitCost, currency)!;
    return {
      itemId: item.id,
      locationId: location!.id,
      quantity: change!.toFixed(),
      cost: cost.toFixed(),
      reason: typed.reason.trim(),
      currency,
    };
  });
}

/**
 * What stock gains or, below nothing, loses with a change of its quantity: more at what is typed or at the average, fewer
 * at the average. Null where more come, nothing is there to go by, and nothing is typed. // P3
 */
export function costOfChange(
  stock: { onHand: string; value: string },
  change: Dec,
  unitCost: string,
  currency: string,
): Dec | null {
  const there = { quantity: dec(stock.onHand), value: dec(stock.value) };
  if (change.eq(0)) return ZERO;
  if (change.lt(0)) return averageCost(there, change.neg(), currency).neg();
  if (unitCost === '' && there.quantity.lte(0)) return null;
  const exact = unitCost === '' ? there.value.times(change).div(there.quantity) : change.times(unitCost);
  return roundHalfAway(exact, currencyPlaces(currency));
}

/** How many more or fewer there are than was known; null where that is refused. */
function changeOf({ item, location, stock }: AdjustGround, typed: AdjustTyped, refusals: Refusal[]): Dec | null {
  const refused = (refusal: Refusal) => (refusals.push(refusal), null);
  if (!isDecimalText(typed.now, 'quantity')) return refused(refuse('not-a-number', 'now', { what: 'The quantity' }));
  const now = dec(typed.now);
  if (now.lt(0)) return refused(refuse('not-a-number', 'now', { what: 'The quantity' }));
  const facts = { item: item.number, place: location?.name ?? '' };
  if (!isDecimalText(typed.was, 'quantity') || !dec(typed.was).eq(stock.onHand)) {
    return refused(refuse('stock-moved', 'now', { ...facts, is: stock.onHand }));
  }
  if (now.lt(stock.reserved)) return refused(refuse('below-held', 'now', { ...facts, held: stock.reserved }));
  const change = now.minus(stock.onHand);
  return change.eq(0) ? refused(refuse('stock-the-same', 'now', { ...facts, is: stock.onHand })) : change;
}

/** What is written off, in the words a second person reads; empty where nothing is. // G7 */
export function writtenOff(item: string, { quantity, cost, reason, currency }: AdjustEffects): string {
  if (dec(quantity).gt(0)) return '';
  const worth = priceText(dec(cost).abs(), currency);
  return `Write off ${dec(quantity).abs().toFixed()} of ${item}, ${currency} ${worth}: ${reason}`;
}

/** An adjustment as it was posted, with what is there of its item by now. */
export interface AdjustedGround {
  journal: { number: string };
  /** What it moved; null where it is no adjustment. */
  entry: { itemId: number; item: string; locationId: number; quantity: string; cost: string } | null;
  /** The journal it takes back itself, and the one that took it back; empty for none. */
  reverses: string;
  reversedBy: string;
  stock: { onHand: string; reserved: string; value: string };
  currency: string;
}

/**
 * Takes an adjustment back: what left comes back at what it left at, what came leaves at what it came at, or at what the
 * rest is worth where that is less. Refused once it was, and where what came is no longer here and free. // P1 W6
 */
export function decideAdjustBack(ground: AdjustedGround, typed: { reason: string }): Decision<AdjustEffects> {
  const { journal, entry, stock, currency } = ground;
  const refusals: Refusal[] = [];
  const document = journal.number;
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (!entry) refusals.push(refuse('no-adjustment', '', { document }));
  else if (ground.reversedBy) refusals.push(refuse('reversed-already', '', { document, by: ground.reversedBy }));
  else if (ground.reverses) refusals.push(refuse('is-reversal', '', { document, of: ground.reverses }));
  else if (dec(entry.quantity).gt(dec(stock.onHand).minus(stock.reserved))) {
    const here = most(ZERO, dec(stock.onHand).minus(stock.reserved)).toFixed();
    refusals.push(refuse('goods-gone', '', { document, item: entry.item, quantity: entry.quantity, here }));
  }
  return decided(refusals, () => {
    const { itemId, locationId, quantity, cost } = entry!;
    const whole = dec(quantity).eq(stock.onHand);
    const value = dec(quantity).lt(0) ? dec(cost) : whole ? dec(stock.value) : least(dec(cost), dec(stock.value));
    return {
      itemId,
      locationId,
      quantity: dec(quantity).neg().toFixed(),
      cost: value.neg().toFixed(),
      reason: typed.reason.trim(),
      currency,
    };
  });
}
