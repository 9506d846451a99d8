import type { Day } from '@core/kernel';
import { planningRun, repromise, type GroundRows, type MoveRow, type PromisedLine } from '@core/promise';

/** What a run computes on. */
export type RunData =
  | { kind: 'again'; rows: GroundRows; lines: PromisedLine[] }
  | { kind: 'plan'; rows: GroundRows; until: Day; forecast: MoveRow[] };

/** What the thread of a run says: how far it is, and in the end what it found, as it is kept. */
export type RunSaid = { done: number } | { found: string };

/** Computes a run; `report` hears how far it is. */
export function compute(data: RunData, report: (done: number) => void): string {
  if (data.kind === 'plan') return JSON.stringify(planningRun(data.rows, data.until, data.forecast, report));
  const moved = repromise(data.rows, data.lines, (done) => {
    report(done);
    return true;
  });
  return JSON.stringify(moved);
}
