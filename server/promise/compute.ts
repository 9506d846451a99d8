import type { Day } from '@core/kernel';
import { planningRun } from '@core/promise';
import type { Database } from '../db/database';
import { promiseAgain } from './again';
import { groundOfPlanning } from './planning-ground';

/** A run as it was claimed. */
export interface Run {
  companyId: number;
  id: number;
  workDate: Day;
  kind: 'again' | 'plan';
  until: Day | null;
  itemIds: number[];
}

/** Hears how many lines or items of how many are done. */
export type Report = (done: number, total: number) => void;

/** What the thread of a run is given, and what it says: how far it is, and in the end what it found, as it is kept. */
export interface RunData {
  url: string;
  run: Run;
}
export type RunSaid = { done: number; total: number } | { found: string };

/** Reads what a run stands on and computes it. */
export async function compute(database: Database, run: Run, report: Report): Promise<string> {
  const { companyId, workDate } = run;
  if (run.kind === 'again') return JSON.stringify(await promiseAgain(database, companyId, workDate, report));
  const { rows, forecast } = await groundOfPlanning(database, companyId, workDate, run.itemIds);
  const total = rows.items.length;
  report(0, total);
  return JSON.stringify(planningRun(rows, run.until!, forecast, (done) => report(done, total)));
}
