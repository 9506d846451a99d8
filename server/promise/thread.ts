import { parentPort, workerData } from 'node:worker_threads';
import { compute, type RunData, type RunSaid } from './compute';

/** One run, away from the requests. */
const say = (said: RunSaid) => parentPort!.postMessage(said);
say({ found: compute(workerData as RunData, (done) => say({ done })) });
