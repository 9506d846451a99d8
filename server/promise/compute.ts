import { planningRun, type MovedLine, type PlanningRun } from '@core/promise';
import type { Database } from '../db/database';
import { promiseAgain } from './again';
import { groundOfPlanning } from './planning-ground';
import type { Report, Run } from './run';

/** What the thread of a run is given, and what it says: how far it is, and that what it found is written. */
export interface RunData {
  url: string;
  run: Run;
}
export type RunSaid = { done: number; total: number } | { ended: true };

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

async function foundBy(database: Database, run: Run, report: Report): Promise<MovedLine[] | PlanningRun> {
  const { companyId, workDate } = run;
  if (run.kind === 'again') return promiseAgain(database, companyId, workDate, report);
  const { rows, forecast } = await groundOfPlanning(database, companyId, workDate, run.itemIds);
  const total = rows.items.length;
  report(0, total);
  return planningRun(rows, run.until!, forecast, (done) => report(done, total));
}
