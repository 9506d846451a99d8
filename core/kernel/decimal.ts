import Big from 'big.js';

/** An exact decimal. Quantities carry at most 5 places, prices 4, rates of currencies 8, totals the currency's own places. */
export type Dec = Big;

/** What a value is of, which sets how many places it may carry. */
export type DecimalKind = 'quantity' | 'price' | 'percent' | 'rate';

const MOST_PLACES: Record<DecimalKind, number> = { quantity: 5, price: 4, percent: 2, rate: 8 };
const BOUND: Record<DecimalKind, Big> = {
  quantity: new Big('1e10'),
  price: new Big('1e10'),
  percent: new Big('1e3'),
  rate: new Big('1e10'),
};

/** Amounts stay below a million millions: a line of any document, and the sum of an agreement. */
export const AMOUNT_BOUND: Dec = new Big('1e12');

export const ZERO: Dec = new Big(0);

/** Exact value of a decimal text or integer. Throws on anything else: for values already checked at the door. */
export function dec(value: string | number | Dec): Dec {
  if (typeof value === 'number' && !Number.isInteger(value)) {
    throw new RangeError(`a decimal must come as text, got the float ${value}`);
  }
  return new Big(value);
}

/**
 * True where the text is a plain decimal (`12`, `-0.5`) of at most `MOST_PLACES` places
 * and below 10 thousand million (percent: below 1,000).
 */
export function isDecimalText(text: string, kind: DecimalKind): boolean {
  const places = MOST_PLACES[kind];
  if (!new RegExp(`^-?\\d{1,13}(\\.\\d{1,${places}})?$`).test(text)) return false;
  return new Big(text).abs().lt(BOUND[kind]);
}

/**
 * What a person typed, as decimal text: spaces and thousands commas are dropped (`1,250.5` is `1250.5`).
 * Null where it is not a number of that kind.
 */
export function readTypedDecimal(typed: string, kind: DecimalKind): string | null {
  // As it is shown, and as it is typed.
  const trimmed = typed.trim().replace('−', '-');
  if (trimmed.includes(',') && !/^-?\d{1,3}(,\d{3})+(\.\d+)?$/.test(trimmed)) return null;
  const plain = trimmed.replaceAll(',', '').replaceAll(' ', '');
  const text = plain.startsWith('.') ? `0${plain}` : plain;
  return isDecimalText(text, kind) ? text : null;
}

/** Rounds half away from zero: 2.345 to 2 places is 2.35, -2.345 is -2.35. // P7 */
export function roundHalfAway(value: Dec, places: number): Dec {
  return value.round(places, Big.roundHalfUp);
}

/** Sum of exact values; zero for none. */
export function sum(values: Iterable<Dec>): Dec {
  let total = ZERO;
  for (const value of values) total = total.plus(value);
  return total;
}

export function least(a: Dec, b: Dec): Dec {
  return a.lte(b) ? a : b;
}

export function most(a: Dec, b: Dec): Dec {
  return a.gte(b) ? a : b;
}

/** The least whole multiple of `step` at or above the value; the value itself where the step is zero. */
export function roundUpTo(value: Dec, step: Dec): Dec {
  if (step.lte(0)) return value;
  return value.div(step).round(0, Big.roundUp).times(step);
}

/** Part ÷ whole as a number within 0 to 1, for drawing only; 0 where the whole is 0. */
export function share(part: Dec | string, whole: Dec | string): number {
  const of = dec(whole);
  if (of.lte(0)) return 0;
  return Math.min(1, Math.max(0, Number(dec(part).div(of))));
}

/** Decimal text with no exponent and no needless zeros: `12.50000` is `12.5`. Throws on what is no decimal. */
export function decimalText(value: Dec | string): string {
  // As a database writes decimals: no number is made of them to leave their zeros out.
  const written = typeof value === 'string' ? /^(-?(?:0|[1-9]\d*))(?:\.0*|(\.\d*[1-9])0*)?$/.exec(value) : null;
  if (!written) return dec(value).toFixed();
  return written[2] === undefined && written[1] === '-0' ? '0' : written[1]! + (written[2] ?? '');
}
