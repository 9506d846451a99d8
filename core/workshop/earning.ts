import { currencyPlaces, dec, roundHalfAway, sum, type Dec } from '@core/kernel';

/** What of an order is for an order line, and what that line is sold for. */
export interface SoldPart {
  /** Of the order, for the line. */
  quantity: string;
  /** Of the line as a whole: how many, and for how much in its currency. */
  lineQuantity: string;
  amount: string;
  /** What one of that currency is worth in ours on the day of the order; null where no rate is kept. */
  rate: string | null;
}

export interface Earning {
  /** Of the order, for lines. */
  quantity: string;
  sold: string;
  cost: string;
  earns: string;
  /** Of what it is sold for, to one place; empty where it is given away. */
  percent: string;
}

/**
 * What is earned on the part of an order that is for order lines: their share of what the lines are sold for, less its
 * share of what the order costs, in the company's currency. Null where nothing of it is sold, or not in a currency a rate
 * is kept of. // W1 P8
 */
export function earning(
  sold: readonly SoldPart[],
  order: { quantity: string; cost: string },
  currency: string,
): Earning | null {
  if (sold.length === 0 || sold.some(({ rate }) => rate === null)) return null;
  const cents = (amount: Dec) => roundHalfAway(amount, currencyPlaces(currency));
  const quantity = sum(sold.map((part) => dec(part.quantity)));
  const earned = cents(
    sum(sold.map((part) => dec(part.amount).times(part.quantity).times(part.rate!).div(part.lineQuantity))),
  );
  const cost = cents(dec(order.cost).times(quantity).div(order.quantity));
  const earns = earned.minus(cost);
  return {
    quantity: quantity.toFixed(),
    sold: earned.toFixed(),
    cost: cost.toFixed(),
    earns: earns.toFixed(),
    percent: earned.gt(0) ? roundHalfAway(earns.times(100).div(earned), 1).toFixed() : '',
  };
}
