import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { planningRun, type PlanningRun } from '@core/promise';
import type { PlanningAsk } from './compute';

/** The built thread stands beside the built server; run from its sources, the server computes everything itself. */
export function threadFile(): string | null {
  const file = join(dirname(process.argv[1] ?? ''), 'repromise.js');
  return existsSync(file) ? file : null;
}

/** A planning run over rows that are read already, away from the requests. */
export function plannedOnThread({ rows, forecast, until }: PlanningAsk): Promise<PlanningRun> {
  const file = threadFile();
  if (file === null) return Promise.resolve(planningRun(rows, until, forecast));
  return new Promise((resolve, reject) => {
    const worker = new Worker(file, { workerData: { ask: { rows, forecast, until } } });
    worker.once('message', (run: PlanningRun) => {
      resolve(run);
      void worker.terminate();
    });
    worker.once('error', reject);
  });
}
