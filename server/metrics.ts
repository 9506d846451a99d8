import { createServer, type Server } from 'node:http';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { Database, DatabaseFault } from './db';

interface AtWork {
  kind: string;
  activeCount: number;
  pendingCount: number;
}

/** What the database says of itself and of its cluster: its own names of the figures, and ours. */
const STATUS = {
  Innodb_row_lock_waits: ['lock_waits_total', 'Waits for locks of rows, since the database began.'],
  Innodb_row_lock_time: ['lock_wait_milliseconds_total', 'Waited for locks of rows, since it began.'],
  Threads_connected: ['database_connections', 'Connections to the database, of everybody.'],
  wsrep_cluster_size: ['cluster_nodes', 'Database nodes that see each other.'],
  wsrep_local_state: ['cluster_state', 'State of the node asked: 4 is in step with the others.'],
  wsrep_flow_control_paused: ['cluster_paused_ratio', 'Share of time in which writing waited for a slow node.'],
} as const;

/** What is counted while the server runs, of one server: read as text by whoever collects it. */
export interface Metrics {
  acts: Counter<'act' | 'outcome'>;
  requests: Histogram<'method' | 'route' | 'status'>;
  /** Requests turned away before anything was begun for them. */
  shed: Counter<'kind' | 'why'>;
  /** Work of the database begun again or given up, by what stood against it. */
  retries: Counter<'fault'>;
  /** Seconds from an act's row to the screens that were told of it. */
  eventLag: Histogram;
  streams: Gauge;
  jobs: Counter<'job' | 'outcome'>;
  /** Asked for what is at work and what waits, at each reading. */
  onLoad(now: () => AtWork[]): void;
  /** Asked for what the database says, at each reading. */
  onDatabase(database: Database): void;
  text(): Promise<string>;
}

export function createMetrics(): Metrics {
  const registry = new Registry();
  const registers = [registry];
  collectDefaultMetrics({ register: registry });
  const counter = <Label extends string>(name: string, help: string, labelNames: Label[]) =>
    new Counter({ name: `kampong_${name}`, help, labelNames, registers });
  const gauge: NewGauge = (name, help, labelNames = []) =>
    new Gauge({ name: `kampong_${name}`, help, labelNames, registers });
  /** What is asked for at each reading, before it is written. */
  const collect: (() => void | Promise<void>)[] = [];
  return {
    acts: counter('acts_total', 'Acts, by name and outcome.', ['act', 'outcome']),
    requests: new Histogram({
      name: 'kampong_request_seconds',
      help: 'Time of requests, by where they went.',
      labelNames: ['method', 'route', 'status'],
      buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10],
      registers,
    }),
    shed: counter('shed_total', 'Requests turned away because others came first.', ['kind', 'why']),
    retries: counter('database_faults_total', 'Work of the database begun again or given up.', ['fault']),
    eventLag: new Histogram({
      name: 'kampong_event_lag_seconds',
      help: 'From an act to the screens that were told of it.',
      buckets: [0.01, 0.05, 0.1, 0.5, 1, 2, 5, 30],
      registers,
    }),
    streams: gauge('event_streams', 'Screens that listen.'),
    jobs: counter('jobs_total', 'Looks at what is due by the clock, by outcome.', ['job', 'outcome']),
    onLoad(now) {
      const requests = gauge('requests', 'Requests at work, and those that wait for them.', ['kind', 'state']);
      collect.push(() => {
        for (const { kind, activeCount, pendingCount } of now()) {
          requests.set({ kind, state: 'at-work' }, activeCount);
          requests.set({ kind, state: 'waiting' }, pendingCount);
        }
      });
    },
    onDatabase: (database) => collect.push(ofDatabase(database, gauge)),
    async text() {
      await Promise.all(collect.map((each) => each()));
      return registry.metrics();
    },
  };
}

type NewGauge = (name: string, help: string, labelNames?: string[]) => Gauge;

/** What reads the database's figures into gauges. */
function ofDatabase(database: Database, gauge: NewGauge): () => Promise<void> {
  const pool = gauge('pool', 'Connections of the pool in use and free, and who waits for one.', ['state']);
  const up = gauge('database_up', 'Whether the database answers.');
  const told = new Map(Object.entries(STATUS).map(([key, [name, help]]) => [key.toLowerCase(), gauge(name, help)]));
  const job = gauge('job_done_timestamp_seconds', 'When it was last done, well or not.', ['job', 'well']);
  return async () => {
    for (const [state, count] of Object.entries(database.connections())) pool.set({ state }, count);
    try {
      const found = await database.rows<{ name: string; value: string }>(
        `SELECT LOWER(variable_name) AS name, variable_value AS value FROM information_schema.global_status
          WHERE variable_name IN (?)`,
        [Object.keys(STATUS)],
      );
      for (const { name, value } of found) told.get(name)!.set(Number(value));
      const results = await database.rows<{ job: string; well: boolean; seconds: string }>(
        'SELECT job, well, UNIX_TIMESTAMP(MAX(at)) AS seconds FROM job_result GROUP BY job, well',
      );
      for (const { job: name, well, seconds } of results) {
        job.set({ job: name, well: well ? 'yes' : 'no' }, Number(seconds));
      }
      up.set(1);
    } catch {
      up.set(0);
    }
  };
}

/** Counts what stood against work of the database. */
export const countFault =
  ({ retries }: Metrics) =>
  (fault: DatabaseFault) =>
    retries.inc({ fault });

/** Serves the figures at `/metrics`, on a port of their own that no proxy hands on. */
export function serveMetrics(metrics: Metrics, port: number, host: string): Promise<Server> {
  const server = createServer((request, response) => {
    if (request.url !== '/metrics') return response.writeHead(404).end();
    metrics.text().then(
      (text) => response.writeHead(200, { 'Content-Type': 'text/plain; version=0.0.4; charset=utf-8' }).end(text),
      () => response.writeHead(500).end(),
    );
  });
  return new Promise((resolve, reject) => server.listen(port, host, () => resolve(server)).once('error', reject));
}
