import { parentPort, workerData } from 'node:worker_threads';
import { repromise } from '@core/promise';
import type { RunData, RunSaid } from './runs';

/** One run over all open lines, away from the requests. */
const { rows, lines } = workerData as RunData;
const say = (said: RunSaid) => parentPort!.postMessage(said);
const moved = repromise(rows, lines, (done) => {
  say({ done });
  return true;
});
say({ moved: moved! });
