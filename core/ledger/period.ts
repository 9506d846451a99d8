import { addDays, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A month as `YYYY-MM`. */
export type Month = string;

export interface PeriodGround {
  /** The last day of the last closed month; null where none is. */
  closedThrough: Day | null;
  workDate: Day;
}

/** A month closed or opened again, and up to where all is closed then. */
export interface PeriodMoved {
  month: Month;
  closed: boolean;
  closedThrough: Day | null;
  reason: string;
}

export const firstDayOf = (month: Month): Day => `${month}-01`;
export const monthOf = (day: Day): Month => day.slice(0, 7);

/** The last day of a month; 28 days are in each, and five more always lead into the next. */
export function lastDayOf(month: Month): Day {
  return addDays(firstDayOf(monthOf(addDays(firstDayOf(month), 32))), -1);
}

/** Where something of that day is posted: there, or on the first day that is open. // P9 */
export function postingDay(day: Day, closedThrough: Day | null): Day {
  return closedThrough !== null && day <= closedThrough ? addDays(closedThrough, 1) : day;
}

/** Closes a month that is over, and those before it that were not. // P9 */
export function decideCloseMonth(ground: PeriodGround, month: Month): Decision<PeriodMoved> {
  const { closedThrough, workDate } = ground;
  const last = lastDayOf(month);
  return decided(
    [
      ...(last >= workDate ? [refuse('month-runs', 'month', { month, last })] : []),
      ...(closedThrough !== null && last <= closedThrough ? [refuse('month-closed', 'month', { month })] : []),
    ],
    () => ({ month, closed: true, closedThrough: last, reason: '' }),
  );
}

/** Opens the month closed last again; those before it stay closed. // P9 */
export function decideReopenMonth(ground: PeriodGround, month: Month, reason: string): Decision<PeriodMoved> {
  const refusals: Refusal[] = [];
  const { closedThrough } = ground;
  if (closedThrough === null || lastDayOf(month) > closedThrough)
    refusals.push(refuse('month-open', 'month', { month }));
  else if (monthOf(closedThrough) !== month) {
    refusals.push(refuse('month-not-last', 'month', { month, last: monthOf(closedThrough) }));
  }
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'A reason' }));
  return decided(refusals, () => ({
    month,
    closed: false,
    closedThrough: addDays(firstDayOf(month), -1),
    reason: reason.trim(),
  }));
}
