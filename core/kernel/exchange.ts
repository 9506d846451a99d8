import type { Day } from './day';
import { dec, roundHalfAway, type Dec } from './decimal';
import { currencyPlaces } from './money';

/** The currency of a document beside the company's own, and what one unit of it is worth in that. // P8 */
export interface Exchange {
  currency: string;
  own: string;
  /** `1` where both are one. */
  rate: string;
}

/** An exchange of a day, whose rate may not be known. */
export interface ExchangeOf extends Omit<Exchange, 'rate'> {
  rate: string | null;
  day: Day;
}

/** An amount in a document's currency and in the company's. // P8 */
export interface Both {
  amount: Dec;
  own: Dec;
}

/** Something owed in both currencies, and what of it is settled in each. Below zero for a credit. */
export interface OwedInBoth {
  amount: string;
  settled: string;
  ownAmount: string;
  ownSettled: string;
}

/** A rate that was found to be there. Throws where it was not: to be asked after what refuses without one. */
export function known(exchange: ExchangeOf): Exchange {
  if (exchange.rate === null) throw new RangeError(`no rate of ${exchange.currency}`);
  const { currency, own, rate } = exchange;
  return { currency, own, rate };
}

/** An amount in the company's currency, in its places, half away from zero. // P7 P8 */
export function ownOf(amount: Dec | string, { own, rate }: Exchange): Dec {
  return roundHalfAway(dec(amount).times(rate), currencyPlaces(own));
}

/** Amounts as they are kept in both currencies. */
export const bothOf = (amount: string, own: string): Both => ({ amount: dec(amount), own: dec(own) });

export const plusBoth = (a: Both, b: Both): Both => ({ amount: a.amount.plus(b.amount), own: a.own.plus(b.own) });
export const negBoth = ({ amount, own }: Both): Both => ({ amount: amount.neg(), own: own.neg() });

/**
 * What a part of something owed is worth in the company's currency as it is carried there: the share of it, so that
 * parts laid end to end sum to the whole, to the cent. A part of a credit is below zero. // P8
 */
export function carriedOf(
  { amount, settled, ownAmount, ownSettled }: OwedInBoth,
  part: Dec | string,
  own: string,
): Dec {
  const reached = dec(settled).plus(part);
  const carried = reached.eq(amount)
    ? dec(ownAmount)
    : roundHalfAway(dec(ownAmount).times(reached).div(amount), currencyPlaces(own));
  return carried.minus(ownSettled);
}

/**
 * What a balance that grows and shrinks changes by in the company's currency: what is added comes at the rate of its
 * day, what is taken leaves at what the balance is carried at on average; a balance of nothing is worth nothing. // P8 A10
 */
export function balanceChange(balance: Both, change: Dec, exchange: Exchange): Dec {
  const after = balance.amount.plus(change);
  const grows = balance.amount.times(change).gte(0);
  if (grows) return ownOf(change, exchange);
  const crosses = balance.amount.times(after).lt(0);
  const carried = crosses
    ? ownOf(after, exchange)
    : roundHalfAway(balance.own.times(after).div(balance.amount), currencyPlaces(exchange.own));
  return carried.minus(balance.own);
}
