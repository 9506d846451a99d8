import { dec, decimalText } from '@core/kernel';

/** What is summed of an agreement, in the order it is kept. */
export const AMOUNTS = ['committed', 'released', 'shipped', 'invoiced'] as const;
export type Amounts = Record<(typeof AMOUNTS)[number], string>;

/** Values are kept as whole thousandths: every currency's places fit, and sums stay whole. */
const SCALE = 1000;
/**
 * Each value is held as two floats, `high × HALF + low`, so that millions of either add up exactly without a check on
 * the way.
 */
const HALF = 2 ** 26;
/** Floats that the amounts of one thing take. */
export const WIDTH = AMOUNTS.length * 2;

/** Writes the amounts' halves at `at`. */
export function keep(into: Float64Array, at: number, amounts: Amounts): void {
  AMOUNTS.forEach((amount, index) => {
    const value = dec(amounts[amount]).times(SCALE);
    const whole = Number(value.toFixed(0));
    if (!value.eq(whole) || !Number.isSafeInteger(whole)) {
      throw new RangeError(`a value of ${amounts[amount]} cannot be summed`);
    }
    const high = Math.trunc(whole / HALF);
    into[at + index * 2] = high;
    into[at + index * 2 + 1] = whole - high * HALF;
  });
}

/** The value at `at` as plain decimal text. */
export function textAt(from: Float64Array, at: number): string {
  const whole = BigInt(from[at]!) * BigInt(HALF) + BigInt(from[at + 1]!);
  const digits = (whole < 0n ? -whole : whole).toString().padStart(4, '0');
  return decimalText(`${whole < 0n ? '-' : ''}${digits.slice(0, -3)}.${digits.slice(-3)}`);
}

/** The value at `at` as a float: for putting in order, not for showing. */
export const numberAt = (from: Float64Array, at: number) => (from[at]! * HALF + from[at + 1]!) / SCALE;

/** A column that grows. */
export class Column<Values extends Float64Array | Int32Array> {
  constructor(
    public values: Values,
    private readonly width = 1,
  ) {}

  /** Room for a row; columns double when they are full. */
  reach(row: number): void {
    let length = this.values.length;
    if ((row + 1) * this.width <= length) return;
    while ((row + 1) * this.width > length) length *= 2;
    const wider = new (this.values.constructor as new (length: number) => Values)(length);
    wider.set(this.values);
    this.values = wider;
  }
}
