import type { Logger } from 'pino';
import type { Attempts, Sessions } from '../access';
import type { Clock } from '../clock';
import type { Config } from '../config';
import type { Database } from '../db';
import type { AgreementSums } from '../insight';
import type { Jobs } from '../jobs';
import type { Runs } from '../promise';
import type { Events } from './events';

/** What the handlers are made of. */
export interface Parts {
  config: Config;
  database: Database;
  clock: Clock;
  log: Logger;
  attempts: Attempts;
  sessions: Sessions;
  events: Events;
  jobs: Jobs;
  runs: Runs;
  agreementSums: AgreementSums;
}
