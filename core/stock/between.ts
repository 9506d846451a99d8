import { currencyPlaces, dec, isDay, isDecimalText, roundHalfAway, UNDER_WAY, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** What `quantity` of what is on hand is worth at the moving average: the last unit takes the last cent. // P3 */
export function averageCost(stock: { quantity: Dec; value: Dec }, quantity: Dec, currency: string): Dec {
  if (quantity.eq(stock.quantity)) return stock.value;
  return roundHalfAway(stock.value.times(quantity).div(stock.quantity), currencyPlaces(currency));
}

/** An item with what is there of it at the location goods are to leave. */
export interface BetweenGround {
  item: { id: number; number: string };
  /** Locations by their number, with their names. */
  locations: ReadonlyMap<number, string>;
  stock: { onHand: string; reserved: string; value: string };
  currency: string;
}

export interface BetweenTyped {
  from: number;
  to: number;
  quantity: string;
  /** The day they arrive; empty where they are there at once. */
  arrivesOn: string;
}

/** Goods that change their place, and what they are worth there as here. */
export interface CarriedEffects {
  itemId: number;
  quantity: string;
  value: string;
  /** What either place gains or, below nothing, loses: where they leave, then where they come to. */
  moves: [CarriedMove, CarriedMove];
}

interface CarriedMove {
  locationId: number;
  quantity: string;
  cost: string;
}

export interface BetweenEffects extends CarriedEffects {
  /** Where they are to arrive, and when; null where they are there at once. */
  carriage: { toId: number; dueDate: Day } | null;
}

/**
 * Goods carried from one of our places to another, at what they cost: there at once, or under way until they arrive. Only
 * what is free moves: what is held for a line stays where the line goes out from. // P3 S3 W6
 */
export function decideBetween(ground: BetweenGround, typed: BetweenTyped, workDate: Day): Decision<BetweenEffects> {
  const { item, locations, stock, currency } = ground;
  const refusals: Refusal[] = [];
  for (const field of ['from', 'to'] as const) {
    if (!locations.has(typed[field])) refusals.push(refuse('unknown', field, { what: 'This location' }));
  }
  if (typed.from === typed.to) refusals.push(refuse('same-location', 'to', {}));
  const quantity = quantityOf(typed.quantity, refusals);
  if (quantity) {
    const free = dec(stock.onHand).minus(stock.reserved);
    if (quantity.gt(free)) {
      const facts = { item: item.number, asked: typed.quantity, free: free.toFixed() };
      refusals.push(refuse('above-free-there', 'quantity', { ...facts, place: locations.get(typed.from) ?? '' }));
    }
  }
  const dueDate = typed.arrivesOn.trim();
  if (dueDate !== '') refusals.push(...arrivalRefusals(dueDate, 'arrivesOn', workDate));
  return decided(refusals, () => {
    const value = averageCost({ quantity: dec(stock.onHand), value: dec(stock.value) }, quantity!, currency);
    const to = dueDate === '' ? typed.to : UNDER_WAY;
    return {
      ...carried(item.id, quantity!, value, typed.from, to),
      carriage: dueDate === '' ? null : { toId: typed.to, dueDate },
    };
  });
}

/** A quantity above nothing; null where that is refused. */
export function quantityOf(typed: string, refusals: Refusal[]): Dec | null {
  const refused = (refusal: Refusal) => (refusals.push(refusal), null);
  if (!isDecimalText(typed, 'quantity')) return refused(refuse('not-a-number', 'quantity', { what: 'The quantity' }));
  if (dec(typed).lte(0)) return refused(refuse('not-above-zero', 'quantity', { what: 'The quantity' }));
  return dec(typed);
}

/** Goods arrive on a day, today or later. */
export function arrivalRefusals(day: string, field: string, workDate: Day): Refusal[] {
  if (!isDay(day)) return [refuse('not-a-day', field, { what: 'The day they arrive' })];
  if (day < workDate) return [refuse('days-order', field, { what: 'The day they arrive,', day, earliest: workDate })];
  return [];
}

/** So many of an item, worth what they are, out of one place and into another. // P3 */
export function carried(itemId: number, quantity: Dec, value: Dec, from: number, to: number): CarriedEffects {
  return {
    itemId,
    quantity: quantity.toFixed(),
    value: value.toFixed(),
    moves: [
      { locationId: from, quantity: quantity.neg().toFixed(), cost: value.neg().toFixed() },
      { locationId: to, quantity: quantity.toFixed(), cost: value.toFixed() },
    ],
  };
}
