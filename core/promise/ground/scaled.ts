import { assert } from '../../kernel';

/**
 * Quantities of promising are whole numbers: units of 0.00001, below 2^53 in all, so that every sum is exact.
 * Minutes are whole; what does not divide is rounded up, so that a plan never takes less than it needs.
 */
export type Scaled = number;

/** Places kept after the point. */
const PLACES = 5;
export const ONE: Scaled = 10 ** PLACES;

/** A quantity or its sums outside what can be counted exactly: below 90 thousand million units. */
export class TooMuch extends Error {
  constructor() {
    super('more than can be counted exactly');
  }
}

/** The value where it is exact; throws `TooMuch` where it is not. */
export function exactly(value: number): number {
  if (!Number.isSafeInteger(value)) throw new TooMuch();
  return value;
}

/** `12.5` as 1,250,000. Decimal text of at most 5 places. */
export function scaled(text: string): Scaled {
  const read = /^(-?)(\d+)(?:\.(\d{0,5})0*)?$/.exec(text);
  assert(read !== null, `a decimal must come as plain text, got ${text}`);
  const value = Number(read[2]) * ONE + Number((read[3] ?? '').padEnd(PLACES, '0'));
  return exactly(read[1] === '-' ? -value : value);
}

/** 1,250,000 as `12.5`. */
export function unscaled(value: Scaled): string {
  const size = Math.abs(value);
  const rest = size % ONE;
  const whole = (size - rest) / ONE;
  const text = rest === 0 ? `${whole}` : `${whole}.${String(rest).padStart(PLACES, '0').replace(/0+$/, '')}`;
  return value < 0 ? `-${text}` : text;
}

/** a × b ÷ by, rounded up; whole and not below zero, `by` at most 10^7. Throws `TooMuch` beyond the exact. */
export function timesUp(a: number, b: number, by: number): number {
  const rest = a % by;
  return exactly(exactly(((a - rest) / by) * b) + Math.ceil(exactly(rest * b) / by));
}

/** How an item is ordered: at least so much, in steps of so much; zero for any. */
export interface Lot {
  readonly minimum: Scaled;
  readonly multiple: Scaled;
  /** Counted in whole units only. */
  readonly whole: boolean;
}

/** A quantity as it can be had: whole where its unit is. // T4 */
export const wholeUp = (quantity: Scaled, { whole }: Pick<Lot, 'whole'>): Scaled =>
  whole ? exactly(Math.ceil(quantity / ONE) * ONE) : quantity;

/** The least quantity at or above the one needed that can be ordered. // L8 T4 */
export function lotUp(needed: Scaled, { minimum, multiple, whole }: Lot): Scaled {
  const most = Math.max(wholeUp(needed, { whole }), minimum);
  return multiple > 0 ? exactly(Math.ceil(most / multiple) * multiple) : most;
}
