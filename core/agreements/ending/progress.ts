import { dec, daysBetween, most, ZERO, type Day, type Dec } from '@core/kernel';

/** What is left to release and to ship of a line: C − R and C − S, never below zero. // A4 */
export function leftOf(line: { committed: string; released: string; shipped: string }): {
  toRelease: Dec;
  toShip: Dec;
} {
  const committed = dec(line.committed);
  return {
    toRelease: most(ZERO, committed.minus(dec(line.released))),
    toShip: most(ZERO, committed.minus(dec(line.shipped))),
  };
}

/** Places of a quantity. */
const PLACES = 5;

/**
 * What may still be released under the limit widened by the tolerance; below zero once passed. The limit is rounded down
 * to what a quantity can be: a rest that nothing could be is none. // A5
 */
export function leftUnderLimit(committed: string, released: string, tolerancePercent: string): Dec {
  const limit = dec(committed).times(dec(tolerancePercent).plus(100)).div(100).round(PLACES, 0);
  return limit.minus(dec(released));
}

/** Share of the term gone by `day`: both ends counted, within 0 to 1. // A8 */
export function elapsedShare(firstDay: Day, lastDay: Day, day: Day): number {
  const term = daysBetween(firstDay, lastDay) + 1;
  const gone = daysBetween(firstDay, day) + 1;
  return Math.min(1, Math.max(0, gone / term));
}

/** Fulfilled minus elapsed share, as a number for showing: 0.14 is 14 points ahead. // A8 */
export function pace(fulfilled: number, elapsed: number): number {
  return fulfilled - elapsed;
}
