import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { attemptsOn, sessionsOn } from './access';
import { systemClock, type Clock } from './clock';
import type { Config } from './config';
import { connect, FIT_TEXT, fitWith, MIGRATIONS, type Database } from './db';
import { createApp } from './http/app';
import { eventsOn } from './http/events';
import { runQueue } from './promise';
import { startJobs } from './jobs';
import { countFault, createMetrics, serveMetrics } from './metrics';
import type { Jobs, Sessions } from './room';
import { ROOMS } from './rooms';

export interface Serving {
  address: string;
  database: Database;
  sessions: Sessions;
  /** Where its figures are read; null where they are not. */
  metricsPort: number | null;
  /** Takes no more requests, lets what runs finish, then closes the database. */
  stop(): Promise<void>;
}

/** Starts the server; rejects in one sentence where the port is taken. */
export async function serve(config: Config, log: Logger, clock: Clock = systemClock): Promise<Serving> {
  const metrics = createMetrics();
  const database = connect(config.DATABASE_URL, config.DATABASE_CONNECTIONS, countFault(metrics));
  metrics.onDatabase(database);
  const fit = fitWith(MIGRATIONS);
  // Where the database cannot be reached yet, it is looked at again before the server says it is ready.
  const found = await fit(database).catch(() => 'fits' as const);
  if (found !== 'fits') {
    await database.close();
    throw new Error(`Kampong does not start: ${FIT_TEXT[found]}.`);
  }
  const events = eventsOn(database, log, metrics);
  const idle: Jobs = { poke: () => undefined, stop: () => undefined };
  const jobs = config.JOBS === 'yes' ? startJobs({ database, clock, log, metrics, config }, () => events.poke()) : idle;
  const runs = runQueue(database, config.DATABASE_URL, log);
  runs.poke();
  const sessions = sessionsOn(database, clock, config.IDLE_MINUTES);
  let address = '';
  const parts = {
    config,
    database,
    clock,
    log,
    metrics,
    events,
    jobs,
    runs,
    attempts: attemptsOn(database),
    sessions,
    publicUrl: () => config.PUBLIC_URL?.replace(/\/$/, '') ?? address,
    fit: () => fit(database),
    findable: ROOMS.flatMap(({ findable = [] }) => findable),
  };
  const app = createApp(parts, ROOMS);
  const server = await listen(app.listen.bind(app), config).catch(async (error: unknown) => {
    await database.close();
    throw error;
  });
  const figures =
    config.METRICS_PORT === undefined ? null : await serveMetrics(metrics, config.METRICS_PORT, config.METRICS_HOST);
  const { port } = server.address() as AddressInfo;
  address = `http://${config.HOST}:${port}`;
  return {
    address,
    database,
    sessions,
    metricsPort: figures === null ? null : (figures.address() as AddressInfo).port,
    async stop() {
      figures?.close();
      figures?.closeAllConnections();
      jobs.stop();
      events.close();
      await new Promise<void>((resolve) => {
        const unfinished = setTimeout(() => server.closeAllConnections(), config.STOP_SECONDS * 1000);
        server.close(() => (clearTimeout(unfinished), resolve()));
        server.closeIdleConnections();
      });
      await runs.stop();
      await database.close();
    },
  };
}

function listen(begin: (port: number, host: string) => Server, { PORT, HOST }: Config): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = begin(PORT, HOST);
    server.once('listening', () => resolve(server));
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(`Port ${PORT} on ${HOST} is taken; stop what uses it or choose another with --port.`)
          : error,
      ),
    );
  });
}
