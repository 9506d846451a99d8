import { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { Database, Columns } from '../../db';
import { compute, type RunData, type RunSaid } from './compute';
import { threadFile } from './on-thread';
import { LOST_SECONDS } from '../again/repromise';
import type { Runs } from '../../room';
import type { Report, Run } from './claimed-run';
import type { PromiseRun } from '../tables';

/** How often a run says how far it is, and looks whether it is still wanted. */
const BEAT_MS = 400;

/** Runs over all open lines and over what is to be planned, one after the other, each on a thread of its own; what they are is in the database. // T9 T11 */
export function runQueue(database: Database, url: string, log: Logger): Runs {
  let going: Promise<void> | null = null;
  let stopping = false;
  let again = false;
  const work = async (): Promise<void> => {
    do {
      again = false;
      for (let run = await claimed(database); run && !stopping; run = await claimed(database)) {
        const { companyId, id } = run;
        await oneRun(database, url, run, () => stopping).catch(async (error: unknown) => {
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

/** The next run that waits or was left lying, claimed: two servers never both have it. */
async function claimed(database: Database): Promise<Run | null> {
  const rows = await database.rows<Columns<PromiseRun, 'companyId id workDate kind untilDay itemIds'>>(
    `SELECT company_id, id, work_date, kind, until_day, item_ids FROM promise_run
      WHERE state = 'waiting' OR (state = 'running' AND beat_at < NOW(3) - INTERVAL ? SECOND) ORDER BY id LIMIT 5`,
    [LOST_SECONDS],
  );
  for (const row of rows) {
    const taken = await database.run(
      `UPDATE promise_run SET state = 'running', beat_at = NOW(3), done = 0 WHERE company_id = ? AND id = ?
        AND (state = 'waiting' OR (state = 'running' AND beat_at < NOW(3) - INTERVAL ? SECOND))`,
      [row.companyId, row.id, LOST_SECONDS],
    );
    if (taken === 0) continue;
    return {
      companyId: row.companyId,
      id: row.id,
      workDate: row.workDate,
      kind: row.kind,
      until: row.untilDay,
      itemIds: JSON.parse(row.itemIds) as number[],
    };
  }
  return null;
}

async function oneRun(database: Database, url: string, run: Run, stopping: () => boolean): Promise<void> {
  const { companyId, id } = run;
  let far = { done: 0, total: 0 };
  const wanted = async () => {
    const still = await database.run(
      `UPDATE promise_run SET done = ?, total = IF(? > 0, ?, total), beat_at = NOW(3)
        WHERE company_id = ? AND id = ? AND state = 'running'`,
      [far.done, far.total, far.total, companyId, id],
    );
    return still > 0 && !stopping();
  };
  await computed(database, { url, run }, (done, total) => (far = { done, total }), wanted);
}

/** A thread reads rows only to put them into columns: its young ones are few, and go at once. */
const YOUNG_MEGABYTES = 2;

function computed(database: Database, data: RunData, report: Report, wanted: () => Promise<boolean>): Promise<void> {
  const file = threadFile();
  if (file === null) return compute(database, data.run, report);
  return new Promise<void>((resolve, reject) => {
    const worker = new Worker(file, {
      workerData: data,
      resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES },
    });
    const beat = setInterval(() => {
      wanted().then(
        (still) => {
          if (!still) end(resolve);
        },
        (error: unknown) => end(() => reject(error as Error)),
      );
    }, BEAT_MS);
    const end = (then: () => void) => {
      clearInterval(beat);
      void worker.terminate().then(then);
    };
    worker.on('message', (said: RunSaid) => {
      if ('done' in said) report(said.done, said.total);
      else end(resolve);
    });
    worker.on('error', (error) => end(() => reject(error)));
  });
}
