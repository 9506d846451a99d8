import type { Day } from '@core/kernel';
import { readTypedDay } from './day';

/** Days from one to another, both counted; null where an end is open. */
export interface DayRange {
  from: Day | null;
  to: Day | null;
}

/**
 * A range of days as people type it, each end as any day is typed: `1/3..5/3`, `today..fri`, `..-1` (up to yesterday),
 * `+5..` (from in five days on), or one day alone. Read against the work date, so that a range that is kept by name
 * moves with it. Null where an end is no day, where both are missing, or where it ends before it begins.
 */
export function readTypedRange(typed: string, workDate: Day): DayRange | null {
  const [first = '', last = first, ...more] = typed.trim().split('..');
  if (more.length > 0) return null;
  const from = readTypedDay(first, workDate);
  const to = readTypedDay(last, workDate);
  if ((from === null && first.trim() !== '') || (to === null && last.trim() !== '')) return null;
  if (from === null && to === null) return null;
  return from !== null && to !== null && to < from ? null : { from, to };
}
