import { pino } from 'pino';
import { readConfig } from './config';
import { serve, type Serving } from './serve';

/** Serves in this very process, as `npm start` does. */
export function serveHere(environment: NodeJS.ProcessEnv): Promise<Serving> {
  const config = readConfig(environment);
  return serve(config, pino({ level: config.LOG_LEVEL }));
}
