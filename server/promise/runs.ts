import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { Day } from '@core/kernel';
import type { Database } from '../db/database';
import { compute, type RunData, type RunSaid } from './compute';
import { groundOfPlanning } from './planning';
import { groundOfRun, LOST_SECONDS, openLines } from './repromise';

export interface Runs {
  /** Begins what waits, and what another server left lying. */
  poke(): void;
  stop(): Promise<void>;
}

/** How often a run says how far it is, and looks whether it is still wanted. */
const BEAT_MS = 400;

/** Runs over all open lines and over what is to be planned, one after the other, each on a thread of its own; what they are is in the database. // T9 T11 */
export function runsOn(database: Database, log: Logger): Runs {
  let going: Promise<void> | null = null;
  let stopping = false;
  let again = false;
  const work = async (): Promise<void> => {
    do {
      again = false;
      for (let run = await claimed(database); run && !stopping; run = await claimed(database)) {
        const { companyId, id } = run;
        await oneRun(database, run, () => stopping).catch(async (error: unknown) => {
          log.error({ err: error, run: id }, 'a run failed');
          await database
            .run("UPDATE promise_run SET state = 'failed' WHERE company_id = ? AND id = ? AND state = 'running'", [
              companyId,
              id,
            ])
            .catch(() => undefined);
        });
      }
    } while (again && !stopping);
  };
  return {
    poke() {
      if (going) again = true;
      else {
        going = work()
          .catch((error: unknown) => log.error({ err: error }, 'runs cannot be read'))
          .finally(() => (going = null));
      }
    },
    async stop() {
      stopping = true;
      await going;
    },
  };
}

interface Claimed {
  companyId: number;
  id: number;
  workDate: Day;
  kind: 'again' | 'plan';
  until: Day | null;
  itemIds: number[];
}

/** The next run that waits or was left lying, claimed: two servers never both have it. */
async function claimed(database: Database): Promise<Claimed | null> {
  const rows = await database.rows<{
    company_id: number;
    id: number;
    work_date: Day;
    kind: 'again' | 'plan';
    until_day: Day | null;
    item_ids: string;
  }>(
    `SELECT company_id, id, work_date, kind, until_day, item_ids FROM promise_run
      WHERE state = 'waiting' OR (state = 'running' AND beat_at < NOW(3) - INTERVAL ? SECOND) ORDER BY id LIMIT 5`,
    [LOST_SECONDS],
  );
  for (const row of rows) {
    const taken = await database.run(
      `UPDATE promise_run SET state = 'running', beat_at = NOW(3), done = 0 WHERE company_id = ? AND id = ?
        AND (state = 'waiting' OR (state = 'running' AND beat_at < NOW(3) - INTERVAL ? SECOND))`,
      [row.company_id, row.id, LOST_SECONDS],
    );
    if (taken === 0) continue;
    return {
      companyId: row.company_id,
      id: row.id,
      workDate: row.work_date,
      kind: row.kind,
      until: row.until_day,
      itemIds: JSON.parse(row.item_ids) as number[],
    };
  }
  return null;
}

/** All a run computes on, and how many lines or items that is. */
async function dataOf(database: Database, run: Claimed): Promise<{ data: RunData; total: number }> {
  const { companyId, workDate } = run;
  if (run.kind === 'plan') {
    const { rows, forecast } = await groundOfPlanning(database, companyId, workDate, run.itemIds);
    return { data: { kind: 'plan', rows, until: run.until!, forecast }, total: rows.items.length };
  }
  const lines = await openLines(database, companyId);
  const rows = await groundOfRun(database, companyId, workDate, lines);
  return { data: { kind: 'again', rows, lines }, total: lines.length };
}

async function oneRun(database: Database, run: Claimed, stopping: () => boolean): Promise<void> {
  const { companyId, id } = run;
  const { data, total } = await dataOf(database, run);
  let done = 0;
  const wanted = async () => {
    const still = await database.run(
      "UPDATE promise_run SET done = ?, total = ?, beat_at = NOW(3) WHERE company_id = ? AND id = ? AND state = 'running'",
      [done, total, companyId, id],
    );
    return still > 0 && !stopping();
  };
  if (!(await wanted())) return;
  const found = await computed(data, (at) => (done = at), wanted);
  if (found === null) return;
  await database.run(
    "UPDATE promise_run SET state = 'done', done = total, found = ? WHERE company_id = ? AND id = ? AND state = 'running'",
    [found, companyId, id],
  );
}

/** The built thread stands beside the built server; run from its sources, the server computes it itself. */
function threadFile(): string | null {
  const file = join(dirname(process.argv[1] ?? ''), 'repromise.js');
  return existsSync(file) ? file : null;
}

function computed(data: RunData, report: (done: number) => void, wanted: () => Promise<boolean>) {
  const file = threadFile();
  if (file === null) return Promise.resolve(compute(data, report));
  return new Promise<string | null>((resolve, reject) => {
    const worker = new Worker(file, { workerData: data });
    const beat = setInterval(() => {
      wanted().then(
        (still) => {
          if (!still) end(() => resolve(null));
        },
        (error: unknown) => end(() => reject(error as Error)),
      );
    }, BEAT_MS);
    const end = (then: () => void) => {
      clearInterval(beat);
      void worker.terminate().then(then);
    };
    worker.on('message', (said: RunSaid) => {
      if ('done' in said) report(said.done);
      else end(() => resolve(said.found));
    });
    worker.on('error', (error) => end(() => reject(error)));
  });
}
