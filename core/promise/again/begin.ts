import { addDays, isDay, type Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';

/** What beginning a run over all open lines looks at: whether one goes on, and how many lines there are. */
export interface RepromiseStart {
  running: boolean;
  lines: number;
}

/** Begins asking all open lines again; one run at a time. // T9 */
export function decideRepromise({ running, lines }: RepromiseStart): Decision<{ lines: number }> {
  return decided(running ? [refuse('run-going', '', {})] : [], () => ({ lines }));
}

/** What beginning a planning run looks at: whether one goes on, and the items that could be chosen. */
export interface PlanningStart {
  going: boolean;
  items: ReadonlySet<number>;
  /** Days that are looked ahead. */
  horizon: number;
}

export interface PlanningTyped {
  /** All of them where none is named. */
  itemIds: readonly number[];
  until: Day | null;
}

/** Begins planning what items need until a day of the horizon; one run at a time. // T11 */
export function decidePlanning(
  { going, items, horizon }: PlanningStart,
  { itemIds, until }: PlanningTyped,
  workDate: Day,
): Decision<{ items: number; until: Day }> {
  const refusals: Refusal[] = [];
  if (going) refusals.push(refuse('planning-going', '', {}));
  const last = addDays(workDate, horizon - 1);
  if (until === null || !isDay(until)) refusals.push(refuse('not-a-day', 'until', { what: 'The day' }));
  else if (until < workDate || until > last) {
    refusals.push(refuse('beyond-horizon', 'until', { first: workDate, last }));
  }
  itemIds.forEach((id, index) => {
    if (!items.has(id)) refusals.push(refuse('unknown', `itemIds.${index}`, { what: 'This item' }));
  });
  return decided(refusals, () => ({ items: items.size, until: until! }));
}
