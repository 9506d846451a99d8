import type { DayIndex } from '../../kernel';
import type { Ground } from './ground';
import type { Scaled } from './scaled';

/** So many on a day; `lead` where only the lead time says so. */
export interface PartPromise {
  quantity: Scaled;
  day: DayIndex;
  lead: boolean;
}

/**
 * What of a quantity can be promised when, from a day to another, in the order it comes; less than the quantity where
 * there is not enough until then. O(log days) for what is there on the first day, else O(days). // T2
 */
export function partPromises(
  ground: Ground,
  item: number,
  quantity: Scaled,
  from: DayIndex,
  until: DayIndex = ground.horizon - 1,
): PartPromise[] {
  const parts: PartPromise[] = [];
  let promised = 0;
  const take = (day: DayIndex, available: Scaled) => {
    const more = Math.min(quantity, available) - promised;
    if (more <= 0) return;
    parts.push({ quantity: more, day, lead: false });
    promised += more;
  };
  take(from, ground.timelines.available(item, from));
  if (promised < quantity && until > from) {
    for (const step of ground.timelines.steps(item)) {
      if (step.day > from && step.day <= until) take(step.day, step.available);
    }
  }
  return parts;
}
