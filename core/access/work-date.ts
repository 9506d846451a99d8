import { isDay, type Day } from '@core/kernel';
import { decided, refuse, type Decision } from '@core/refusals';

/** Moves the work date of a demo; a real company's is the day it is. */
export function decideWorkDate({ demo }: { demo: boolean }, workDate: Day | null): Decision<{ workDate: Day }> {
  const isReadable = workDate !== null && isDay(workDate);
  return decided(
    [
      ...(demo ? [] : [refuse('no-right', '', { act: 'move the work date outside the demo' })]),
      ...(isReadable ? [] : [refuse('not-a-day', 'workDate', { what: 'The work date' })]),
    ],
    () => ({ workDate: workDate! }),
  );
}
