import { currencyPlaces, dec, least, roundHalfAway, sum, ZERO, type Day, type Dec } from '@core/kernel';
import { PRICE_LEVELS, type PriceLevel } from './search';

/** What an invoice allowance is reached by: kilograms, cubic metres, the items' own units, or the amount. // R2 */
export const ALLOWANCE_MEASURES = ['weight', 'volume', 'quantity', 'amount'] as const;
export type AllowanceMeasure = (typeof ALLOWANCE_MEASURES)[number];

/** What a measure is counted in; an amount stands in the invoice's currency. */
export const ALLOWANCE_UNITS: Readonly<Record<AllowanceMeasure, string>> = {
  weight: 'kg',
  volume: 'm³',
  quantity: 'units',
  amount: '',
};

/** Per cent off an invoice from a measure on: for one customer, a price group, or everybody. */
export interface Allowance {
  measure: AllowanceMeasure;
  level: PriceLevel;
  /** The measure it is given from on, in that measure; an amount is in the invoice's currency. */
  from: string;
  perCent: string;
  /** Holds from and to these days, both counted; null for always. */
  firstDay: Day | null;
  lastDay: Day | null;
}

/** A line of an invoice as allowances measure it; weight and volume of one of the item's own unit. */
export interface AllowanceLine {
  net: Dec;
  quantity: string;
  weight: string;
  volume: string;
}

/** One allowance of an invoice: the band reached and what it takes off. */
export interface AllowanceGiven {
  measure: AllowanceMeasure;
  /** What the invoice comes to in that measure, to 5 places. */
  reached: string;
  from: string;
  perCent: string;
  amount: string;
}

/**
 * The allowances of an invoice, and what they take off each of its lines. // R2
 * For each measure the most particular level that says anything on that day counts (the customer's own, else their
 * group's, else everybody's), and of it the highest band the lines together reach; several measures add up, to the whole
 * of the lines at most. The shares of lines go by their net, laid end to end, and sum to the amounts to the cent.
 * O(allowances + lines).
 */
export function allowancesOf(
  allowances: readonly Allowance[],
  lines: readonly AllowanceLine[],
  day: Day,
  currency: string,
): { given: AllowanceGiven[]; shares: Dec[] } {
  const places = currencyPlaces(currency);
  const net = sum(lines.map((line) => line.net));
  let left = net;
  const given = ALLOWANCE_MEASURES.flatMap((measure): AllowanceGiven[] => {
    const reached = sum(lines.map((line) => measureOf(line, measure)));
    const band = bandOf(allowances, measure, reached, day);
    if (!band) return [];
    const amount = least(left, roundHalfAway(net.times(band.perCent).div(100), places));
    if (amount.lte(0)) return [];
    left = left.minus(amount);
    const { from, perCent } = band;
    return [{ measure, reached: roundHalfAway(reached, 5).toFixed(), from, perCent, amount: amount.toFixed() }];
  });
  return { given, shares: sharesOf(lines, net, net.minus(left), places) };
}

function measureOf(line: AllowanceLine, measure: AllowanceMeasure): Dec {
  if (measure === 'amount') return line.net;
  const quantity = dec(line.quantity);
  return measure === 'quantity' ? quantity : quantity.times(line[measure]);
}

function bandOf(
  allowances: readonly Allowance[],
  measure: AllowanceMeasure,
  reached: Dec,
  day: Day,
): Allowance | undefined {
  const today = allowances.filter(
    (each) =>
      each.measure === measure &&
      (each.firstDay === null || each.firstDay <= day) &&
      (each.lastDay === null || each.lastDay >= day),
  );
  const level = PRICE_LEVELS.find((own) => today.some((each) => each.level === own));
  return today
    .filter((each) => each.level === level && reached.gte(each.from))
    .sort((a, b) => dec(b.from).cmp(a.from) || dec(b.perCent).cmp(a.perCent))[0];
}

function sharesOf(lines: readonly AllowanceLine[], net: Dec, off: Dec, places: number): Dec[] {
  let reached = ZERO;
  let shown = ZERO;
  return lines.map((line) => {
    if (net.lte(0)) return ZERO;
    reached = reached.plus(line.net);
    const upTo = roundHalfAway(off.times(reached).div(net), places);
    const own = upTo.minus(shown);
    shown = upTo;
    return own;
  });
}
