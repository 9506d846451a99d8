import { currencyPlaces, dec, isDecimalText, roundHalfAway, type Dec } from '@core/kernel';
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
}

/** Goods that change their place, and what they are worth there as here. */
export interface BetweenEffects {
  itemId: number;
  quantity: string;
  value: string;
  /** What either place gains or, below nothing, loses. */
  moves: { locationId: number; quantity: string; cost: string }[];
}

/**
 * Goods carried from one of our places to another, at what they cost. Only what is free moves: what is held for a line
 * stays where the line goes out from. // P3 S3
 */
export function decideBetween(ground: BetweenGround, typed: BetweenTyped): Decision<BetweenEffects> {
  const { item, locations, stock, currency } = ground;
  const refusals: Refusal[] = [];
  for (const field of ['from', 'to'] as const) {
    if (!locations.has(typed[field])) refusals.push(refuse('unknown', field, { what: 'This location' }));
  }
  if (typed.from === typed.to) refusals.push(refuse('same-location', 'to', {}));
  if (!isDecimalText(typed.quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', 'quantity', { what: 'The quantity' }));
  } else if (dec(typed.quantity).lte(0)) {
    refusals.push(refuse('not-above-zero', 'quantity', { what: 'The quantity' }));
  } else {
    const free = dec(stock.onHand).minus(stock.reserved);
    if (dec(typed.quantity).gt(free)) {
      const facts = { item: item.number, asked: typed.quantity, free: free.toFixed() };
      refusals.push(refuse('above-free-there', 'quantity', { ...facts, place: locations.get(typed.from) ?? '' }));
    }
  }
  return decided(refusals, () => {
    const quantity = dec(typed.quantity);
    const value = averageCost({ quantity: dec(stock.onHand), value: dec(stock.value) }, quantity, currency);
    const gain = { quantity: quantity.toFixed(), cost: value.toFixed() };
    const loss = { quantity: quantity.neg().toFixed(), cost: value.neg().toFixed() };
    return {
      itemId: item.id,
      quantity: gain.quantity,
      value: gain.cost,
      moves: [
        { locationId: typed.from, ...loss },
        { locationId: typed.to, ...gain },
      ],
    };
  });
}
