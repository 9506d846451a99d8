/** Stops at what cannot happen unless the program is wrong. */
export function assert(condition: unknown, what: string): asserts condition {
  if (!condition) throw new Error(`this cannot happen: ${what}`);
}
