import type { Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { StandingDate } from './dates';
import type { StandingState } from './save';

/** One date of a standing order, and how that stands. */
export interface DateGround {
  number: string;
  state: StandingState;
  /** Null where its rule does not give that day. */
  date: StandingDate | null;
}

/** Makes the order of one date: once, and not of what is skipped. What was refused before may be tried again. // S7 */
export function decideMake(
  { number, state, date }: DateGround,
  day: Day,
  by: 'clock' | 'person',
): Decision<{ shipDay: Day }> {
  const refusals: Refusal[] = [];
  if (state === 'ended' || (state === 'paused' && by === 'clock')) {
    refusals.push(refuse('standing-not-active', '', { number, state }));
  }
  if (date === null) refusals.push(refuse('not-a-date-of', 'day', { number, day }));
  else if (date.said?.state === 'made') refusals.push(refuse('made-already', 'day', { number, day }));
  else if (date.shipDay === null) refusals.push(refuse('date-skipped', 'day', { number, day, why: date.why }));
  return decided(refusals, () => ({ shipDay: date!.shipDay! }));
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
