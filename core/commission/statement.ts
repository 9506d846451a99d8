import { dec, sum, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export const STATEMENT_STATES = ['made', 'paid', 'withdrawn'] as const;
export type StatementState = (typeof STATEMENT_STATES)[number];

export interface StatementGround {
  person: { id: number; name: string } | null;
  /** What they earned up to the day and is on no statement; below zero was taken back. */
  earned: readonly { id: number; amount: string }[];
}

/** Puts what somebody earned up to a day on a statement: each earning is on one, once. // S12 */
export function decideStatement(
  { person, earned }: StatementGround,
  until: Day,
  workDate: Day,
): Decision<{ amount: string; earningIds: number[] }> {
  const refusals: Refusal[] = [];
  if (!person) refusals.push(refuse('required', 'personId', { what: 'The sales person' }));
  else if (earned.length === 0) refusals.push(refuse('nothing-earned', '', { person: person.name, day: until }));
  if (until > workDate) refusals.push(refuse('day-to-come', 'until', { day: until, workDate }));
  return decided(refusals, () => ({
    amount: sum(earned.map(({ amount }) => dec(amount))).toFixed(),
    earningIds: earned.map(({ id }) => id),
  }));
}

/** Pays a statement, once; one that came to less than nothing is settled by what is given back. // S12 */
export function decideStatementPaid({
  number,
  state,
  amount,
}: {
  number: string;
  state: StatementState;
  amount: string;
}): Decision<{ amount: string }> {
  return decided(state === 'made' ? [] : [refuse('statement-not-open', '', { number, state })], () => ({ amount }));
}

/** Takes back a statement that is not paid: what is on it can be on another. */
export function decideStatementBack(
  { number, state }: { number: string; state: StatementState },
  reason: string,
): Decision<{ reason: string }> {
  const refusals: Refusal[] = [];
  if (state !== 'made') refusals.push(refuse('statement-not-open', '', { number, state }));
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'Why it is taken back' }));
  return decided(refusals, () => ({ reason: reason.trim() }));
}
