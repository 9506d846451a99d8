import type { Day } from '@core/kernel';
import { refuse } from '@core/refusals';
import { readTypedRange } from '@core/typed';
import type { Bound } from '../db';
import { Refusals } from './answer';

/** Narrows a read to the days that were typed for a field of its query, where any were; refuses what are none. */
export function addDays(
  add: (condition: string, ...bound: Bound[]) => void,
  column: string,
  field: string,
  typed: string | undefined,
  workDate: Day,
): void {
  if (typed === undefined || typed.trim() === '') return;
  const range = readTypedRange(typed, workDate);
  if (!range) throw new Refusals(422, [refuse('bad-days', field, { typed })]);
  if (range.from !== null) add(`${column} >= ?`, range.from);
  if (range.to !== null) add(`${column} <= ?`, range.to);
}
