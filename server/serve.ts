import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { attemptsOn, sessionsOn } from './access';
import { systemClock, type Clock } from './clock';
import type { Config } from './config';
import { connect, type Database } from './db';
import { createApp } from './http/app';
import { eventsOn } from './http/events';
import { runQueue } from './promise';
import { startJobs } from './jobs';
import type { Jobs, Sessions } from './room';
import { ROOMS } from './rooms';

export interface Serving {
  address: string;
  database: Database;
  sessions: Sessions;
  /** Takes no more requests, lets what runs finish, then closes the database. */
  stop(): Promise<void>;
}

/** Starts the server; rejects in one sentence where the port is taken. */
export async function serve(config: Config, log: Logger, clock: Clock = systemClock): Promise<Serving> {
  const database = connect(config.DATABASE_URL, config.DATABASE_CONNECTIONS);
  const events = eventsOn(database, log);
  const idle: Jobs = { poke: () => undefined, stop: () => undefined };
  const jobs = config.JOBS === 'yes' ? startJobs({ database, clock, log }, () => events.poke()) : idle;
  const runs = runQueue(database, config.DATABASE_URL, log);
  runs.poke();
  const sessions = sessionsOn(database, clock);
  const parts = {
    config,
    database,
    clock,
    log,
    events,
    jobs,
    runs,
    attempts: attemptsOn(database),
    sessions,
    findable: ROOMS.flatMap(({ findable = [] }) => findable),
  };
  const app = createApp(parts, ROOMS);
  const server = await listen(app.listen.bind(app), config).catch(async (error: unknown) => {
    await database.close();
    throw error;
  });
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://${config.HOST}:${port}`,
    database,
    sessions,
    async stop() {
      jobs.stop();
      events.close();
      await new Promise<void>((resolve) => {
        server.close(() => resolve());
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
