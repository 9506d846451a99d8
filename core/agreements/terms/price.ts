import { dec, roundHalfAway, type Dec } from '@core/kernel';

/** A fixed unit price, a discount off the price that would apply without it, or none. // A3 */
export const PRICE_KINDS = ['fixed', 'discount', 'none'] as const;
export type PriceKind = (typeof PRICE_KINDS)[number];

/** What holds from a released quantity on, instead of the line's own price or discount. */
export interface PriceBreak {
  /** Above zero; breaks of a line come in rising order. */
  from: string;
  /** A unit price, or per cent, as the line's kind says. */
  value: string;
}

export interface PriceTerm {
  priceKind: PriceKind;
  /** The unit price, or the discount in per cent; empty for `none`. */
  priceValue: string;
  breaks: readonly PriceBreak[];
}

/** Places a unit price carries. */
const PRICE_PLACES = 4;

/**
 * The unit price for a quantity released at once: the last break it reaches, else the line's own. // A3
 * `listPrice` is the price that would apply without the agreement. O(breaks).
 */
export function agreedPrice(term: PriceTerm, quantity: Dec, listPrice: string): Dec {
  const reached = term.breaks.filter((each) => quantity.gte(each.from)).at(-1);
  const value = reached?.value ?? term.priceValue;
  switch (term.priceKind) {
    case 'fixed':
      return dec(value);
    case 'discount':
      return roundHalfAway(dec(listPrice).times(dec(100).minus(value)).div(100), PRICE_PLACES);
    case 'none':
      return dec(listPrice);
  }
}
