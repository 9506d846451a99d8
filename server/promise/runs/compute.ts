import type { Day } from '@core/kernel';
import { planningRun, type GroundRows, type MovedLine, type MoveRow, type PlanningRun } from '@core/promise';
import type { Database } from '../../db';
import { repromiseRun } from '../again/repromise-run';
import { groundOfPlanning } from '../ground/planning-ground';
import { actBy, type KeptPlanning, type Report, type Run } from './claimed-run';

/** What the thread of a run is given, and what it says: how far it is, and that what it found is written. */
export interface RunData {
  url: string;
  run: Run;
}
export type RunSaid = { done: number; total: number } | { ended: true };

/** A planning run over rows that are read already. */
export interface PlanningAsk {
  rows: GroundRows;
  forecast: MoveRow[];
  until: Day;
}

/** Reads what a run stands on, computes it and writes what it found, unless it was stopped meanwhile. */
export async function compute(database: Database, run: Run, report: Report): Promise<void> {
  let total = 0;
  const found = await foundBy(database, run, (done, of) => {
    total = of;
    report(done, of);
  });
  await database.run(
    `UPDATE promise_run SET state = 'done', done = ?, total = ?, found = ?
      WHERE company_id = ? AND id = ? AND state = 'running'`,
    [total, total, JSON.stringify(found), run.companyId, run.id],
  );
}

/** Proposals that are kept of a run: more are not read by anybody, and the next run has those that are left. */
export const MOST_KEPT = 10_000;

/** What is kept of a planning run: what must be begun first, and how much there was. */
export function soonest({ proposals, short, late }: PlanningRun): KeptPlanning {
  const proposed = proposals.length;
  const kept = proposed > MOST_KEPT ? [...proposals].sort((a, b) => actBy(a).localeCompare(actBy(b))) : proposals;
  return {
    proposals: kept.slice(0, MOST_KEPT),
    short: short.slice(0, MOST_KEPT),
    late: late.slice(0, MOST_KEPT),
    proposed,
  };
}

async function foundBy(database: Database, run: Run, report: Report): Promise<MovedLine[] | KeptPlanning> {
  const { companyId, workDate } = run;
  if (run.kind === 'again') return repromiseRun(database, companyId, workDate, report);
  const { rows, forecast } = await groundOfPlanning(
    database,
    companyId,
    workDate,
    run.itemIds.length > 0 ? run.itemIds : 'all',
  );
  const total = rows.items.length;
  report(0, total);
  return soonest(planningRun(rows, run.until!, forecast, (done) => report(done, total)));
}
