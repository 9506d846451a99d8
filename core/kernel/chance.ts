/** Seeded chance: the same seed, the same demo. (mulberry32) */
export interface Chance {
  /** 0 up to but not 1. */
  next(): number;
  /** A whole number from `from` to `to`, both included. */
  whole(from: number, to: number): number;
  pick<Value>(values: readonly Value[]): Value;
}

export function chanceOf(seed: number): Chance {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    next,
    whole: (from, to) => from + Math.floor(next() * (to - from + 1)),
    pick: (values) => values[Math.floor(next() * values.length)]!,
  };
}
