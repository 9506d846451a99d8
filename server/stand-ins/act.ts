import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { sentenceOf } from '@core/refusals';
import { runAct, type Act, type Doer } from '../acts';
import type { Database } from '../db';

/** Does an act in the name of an outside party; what is refused them is told to the log and left. How many were done. */
export async function tryAct(database: Database, log: Logger, act: Act, input: unknown, doer: Doer): Promise<number> {
  const answer = await runAct(database, act.asked(input), doer, randomUUID());
  if (answer.ok) return 1;
  log.debug({ act: act.endpoint.name, why: answer.refusals.map(sentenceOf) }, 'an outside party was refused');
  return 0;
}
