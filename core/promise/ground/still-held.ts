import type { Day } from '../../kernel';

/** What an operation holds of its centre, in time order. */
export interface HeldStretch {
  operationId: number;
  centreId: number;
  day: Day;
  from: number;
  until: number;
  machines: number;
}

/**
 * What operations still hold of their centres once so many of their minutes are done: the first of what they hold is
 * what was done. `doneOf` gives machine minutes by operation. O(stretches). // T5
 */
export function stillHeld<Each extends HeldStretch>(
  held: readonly Each[],
  doneOf: ReadonlyMap<number, number>,
): Each[] {
  const left = new Map(doneOf);
  return held.flatMap((each) => {
    const done = left.get(each.operationId) ?? 0;
    if (done === 0) return [each];
    const minutes = (each.until - each.from) * each.machines;
    left.set(each.operationId, Math.max(0, done - minutes));
    if (done >= minutes) return [];
    // Whole minutes of all its machines: a part of one is still held.
    const from = each.from + Math.floor(done / each.machines);
    return [{ ...each, from }];
  });
}
