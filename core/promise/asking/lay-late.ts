import { addDays, type Day } from '../../kernel';
import { minutesLeft, type LaidWork } from './lay-rest';

/** A part of an order that is there only after the operation it goes in at was to begin. */
export interface WaitsFor {
  operationId: number;
  /** The day it is there. */
  there: Day;
}

/**
 * From where on an order is to be laid again by itself, and on which day: its first operation that should be over and is
 * not, today; or the first that waits for a part, the day after that is there. Null where neither is. // W3
 */
export function lateFrom(
  work: LaidWork,
  workDate: Day,
  waits: readonly WaitsFor[],
): { operationId: number; day: Day; late: boolean } | null {
  for (const operation of work.operations) {
    if (minutesLeft(work, operation) === 0) continue;
    const late = operation.lastDay < workDate;
    const after = waits
      .filter(({ operationId }) => operationId === operation.id)
      .map(({ there }) => addDays(there, 1))
      .filter((day) => day > workDate);
    const day = after.sort().at(-1) ?? workDate;
    if (late || after.length > 0) return { operationId: operation.id, day, late };
  }
  return null;
}
