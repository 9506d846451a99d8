import type { Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { waitsToBeMade, type StandingDate } from './dates';
import type { StandingState } from './save';

/** One date of a standing order, and how that stands. */
export interface DateGround {
  number: string;
  state: StandingState;
  /** Null where its rule does not give that day. */
  date: StandingDate | null;
}

/** What is made of a date: when it ships, or that it passed before it could be made. */
export interface Made {
  shipDay: Day;
  passed: boolean;
}

/**
 * Makes the order of one date: once, and not of what is skipped. What was refused before may be tried again. What passed
 * before the clock saw it is not made by itself: a person makes it, and it ships at once, or skips it. // S7
 */
export function decideMake(
  { number, state, date }: DateGround,
  day: Day,
  workDate: Day,
  by: 'clock' | 'person',
): Decision<Made> {
  const refusals: Refusal[] = [];
  if (state === 'ended' || (state === 'paused' && by === 'clock')) {
    refusals.push(refuse('standing-not-active', '', { number, state }));
  }
  if (date === null) refusals.push(refuse('not-a-date-of', 'day', { number, day }));
  else if (date.said?.state === 'made') refusals.push(refuse('made-already', 'day', { number, day }));
  else if (date.shipDay === null) refusals.push(refuse('date-skipped', 'day', { number, day, why: date.why }));
  return decided(refusals, () => {
    const passed = date!.shipDay! < workDate;
    return { shipDay: passed ? workDate : date!.shipDay!, passed: passed && by === 'clock' };
  });
}

/** Skips one date, with why; or takes that back. What was made is cancelled on its order. // S7 */
export function decideSkip(
  { number, date }: DateGround,
  { day, skipped, reason }: { day: Day; skipped: boolean; reason: string },
): Decision<{ why: string }> {
  const refusals: Refusal[] = [];
  if (date === null) refusals.push(refuse('not-a-date-of', 'day', { number, day }));
  else if (date.said?.state === 'made') refusals.push(refuse('made-already', 'day', { number, day }));
  else if (!skipped && date.said === null) refusals.push(refuse('not-skipped', 'day', { number, day }));
  if (skipped && reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'Why it is skipped' }));
  return decided(refusals, () => ({ why: reason.trim() }));
}

/**
 * Paused, going on again, or ended for good; what was made stays. What came while it was paused is not made up for when it
 * goes on: those dates are skipped. // S7
 */
export function decideState(
  { number, state, dates }: { number: string; state: StandingState; dates: readonly StandingDate[] },
  asked: StandingState,
  workDate: Day,
): Decision<{ state: StandingState; skipped: Day[] }> {
  const refusals = state === 'ended' ? [refuse('standing-ended', '', { number })] : [];
  return decided(refusals, () => ({
    state: asked,
    skipped:
      state === 'paused' && asked === 'active'
        ? dates.filter((date) => waitsToBeMade(date) && date.shipDay! < workDate).map(({ day }) => day)
        : [],
  }));
}
