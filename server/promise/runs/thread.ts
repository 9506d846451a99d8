import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../../db';
import { planningRun } from '@core/promise';
import { compute, type PlanningAsk, type RunData, type RunSaid } from './compute';

/** One run, away from the requests, with connections of its own: what it reads never passes through the server. */
async function main({ url, run }: RunData): Promise<void> {
  const say = (said: RunSaid) => parentPort!.postMessage(said);
  const database = connect(url, 2);
  try {
    await compute(database, run, (done, total) => say({ done, total }));
    say({ ended: true });
  } finally {
    await database.close();
  }
}

const data = workerData as RunData | { ask: PlanningAsk };
if ('ask' in data) parentPort!.postMessage(planningRun(data.ask.rows, data.ask.until, data.ask.forecast));
else {
  main(data).catch((error: unknown) => {
    throw error;
  });
}
