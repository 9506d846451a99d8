import { randomUUID } from 'node:crypto';
import { fork } from 'node:child_process';
import { dirname, join } from 'node:path';
import type { Logger } from 'pino';
import { plannedUpTo } from '@core/agreements';
import { sentenceOf } from '@core/refusals';
import type { Day } from '@core/kernel';
import { RIGHTS } from '@api/access';
import { type Asked, runAct, type Doer } from '../acts';
import { fireReminders, remindersDue } from '../agreements';
import { takeTaxRates, taxRatesDue } from '../catalogue';
import { lookForShort } from '../going-out';
import { today, type Clock } from '../clock';
import type { Config } from '../config';
import type { Database } from '../db';
import { seal } from '../ledger';
import type { Metrics } from '../metrics';
import { bringInQueue } from '../lists';
import { releasePlanned } from '../orders';
import type { Jobs } from '../room';
import { fittingOffers, lapsedHolds, letHoldGo, takeOffer } from '../sisters';
import { countSupport } from '../claims';
import { countCommission } from '../commission';
import { dueDates, makeStanding } from '../standing';
import { standIn } from '../stand-ins';
import { lateWorks, layLate } from '../workshop';

interface JobParts {
  database: Database;
  clock: Clock;
  log: Logger;
}

const EVERY_MS = 60_000;

/** Does every minute what is due by itself. Several servers may run it at once: each act happens once. */
export function startJobs(parts: JobParts & { metrics: Metrics; config: Config }, done: () => void): Jobs {
  let looking = false;
  let again = false;
  const look = async () => {
    // One look at a time; what is asked for meanwhile is looked for once more.
    again = looking;
    if (looking) return;
    looking = true;
    do {
      again = false;
      try {
        if ((await tick(parts)) > 0) done();
        parts.metrics.jobs.inc({ job: 'due', outcome: 'done' });
      } catch (error) {
        parts.metrics.jobs.inc({ job: 'due', outcome: 'failed' });
        parts.log.warn({ err: error }, 'what is due by itself could not be done; trying again');
      }
    } while (again);
    looking = false;
  };
  // What fell due while no server ran is not left waiting; nor files that another server left lying.
  const files = bringInQueue(parts.database, parts.log);
  files.poke();
  void look();
  const timer = setInterval(() => {
    void look();
    files.poke();
    verifyWhenDue(parts).catch((error: unknown) => parts.log.warn({ err: error }, 'could not be verified'));
  }, EVERY_MS).unref();
  return {
    poke: () => void look(),
    stop: () => {
      clearInterval(timer);
      void files.stop();
    },
  };
}

/** Does all that is due now; how many acts it did, and lines it found short or no more. */
export async function tick(parts: JobParts): Promise<number> {
  const companies = await parts.database.rows<{ id: number; workDate: Day | null; timeZone: string | null }>(
    'SELECT id, work_date, time_zone FROM company WHERE elsewhere = FALSE',
  );
  const people = await parts.database.rows<{ id: number; signIn: string }>(
    "SELECT id, sign_in FROM person WHERE sign_in IN ('kampong', 'stand-in')",
  );
  const named = (signIn: string) => people.find((person) => person.signIn === signIn)!.id;
  let acts = 0;
  for (const company of companies) {
    const doer: Doer = {
      companyId: company.id,
      personId: named('kampong'),
      rights: RIGHTS,
      workDate: company.workDate ?? today(parts.clock, company.timeZone),
      origin: 'clock',
    };
    acts += await fireDue(parts, doer);
    acts += await releaseDue(parts, doer);
    acts += await makeDue(parts, doer);
    acts += await lookAgain(parts, doer, 'support_due', countSupport.asked({}));
    acts += await lookAgain(parts, doer, 'commission_due', countCommission.asked({ since: null }));
    acts += await layLateDue(parts, doer);
    acts += await takeFitting(parts, doer);
    acts += await letLapse(parts, doer);
    const outside = { ...doer, personId: named('stand-in'), origin: 'stand-in' };
    acts += await standIn(parts.database, parts.log, outside, company.id);
    acts += await takeRatesDue(parts, doer);
    acts += await lookForShort(parts.database, parts.clock, company.id, doer.workDate);
  }
  await seal(parts.database, parts.clock).catch((error: unknown) =>
    parts.log.warn({ err: error }, 'what was written could not be sealed'),
  );
  await forget(parts).catch((error: unknown) => parts.log.warn({ err: error }, 'what is old could not be forgotten'));
  return acts;
}

/** Takes the turn to verify where it is due; false where another server has it or had it. */
export async function verifyingIsDue(database: Database, clock: Clock, hours: number): Promise<boolean> {
  if (hours === 0) return false;
  const now = clock.now();
  const taken = await database.run(
    "UPDATE job_turn SET begun_at = ? WHERE job = 'verify' AND (begun_at IS NULL OR begun_at <= ?)",
    [now, new Date(now.getTime() - hours * 3_600_000)],
  );
  return taken === 1;
}

/** Verifies in a process of its own, which keeps how it went: nobody who types waits for it. */
async function verifyWhenDue({ database, clock, log, config }: JobParts & { config: Config }): Promise<void> {
  if (!(await verifyingIsDue(database, clock, config.VERIFY_HOURS))) return;
  const child = fork(join(dirname(process.argv[1] ?? ''), 'verify.js'), [], {
    env: { ...process.env, DATABASE_URL: config.DATABASE_URL },
    execArgv: [],
    stdio: 'ignore',
  });
  child.once('exit', (code) => {
    if (code !== 0)
      log.error({ code }, code === 1 ? 'what is kept differs from its documents' : 'could not be verified');
  });
}

/** For how long an act that is sent again is known by its key. */
const KEYS_DAYS = 14;
/** Rows forgotten in one look: what is behind is caught up with, and nobody waits for it. */
const MOST_FORGOTTEN = 2000;

/** Forgets the keys of acts done long ago, and sign-ins counted long ago. */
async function forget({ database, clock }: JobParts): Promise<void> {
  const now = clock.now().getTime();
  await database.run(`DELETE FROM act_key WHERE created_at < ? ORDER BY created_at LIMIT ${MOST_FORGOTTEN}`, [
    new Date(now - KEYS_DAYS * 86_400_000),
  ]);
  await database.run(`DELETE FROM sign_in_attempt WHERE expire < ? LIMIT ${MOST_FORGOTTEN}`, [now]);
}

/** Takes the rates of taxes whose day has come. // U2 */
async function takeRatesDue({ database }: JobParts, doer: Doer): Promise<number> {
  if (!(await taxRatesDue(database, doer.companyId, doer.workDate))) return 0;
  const answer = await runAct(database, takeTaxRates.asked({}), doer, randomUUID());
  return answer.ok ? 1 : 0;
}

async function fireDue({ database }: JobParts, doer: Doer): Promise<number> {
  if (!(await remindersDue(database, doer.companyId, doer.workDate))) return 0;
  await runAct(database, fireReminders.asked({}), doer, randomUUID());
  return 1;
}

/**
 * Lays what is late in the workshop again, and then what waits for it, level by level. What cannot be laid stands in Today
 * as late until a person sees to it. // W3
 */
async function layLateDue({ database, log }: JobParts, doer: Doer): Promise<number> {
  const tried = new Set<number>();
  let acts = 0;
  for (;;) {
    const due = (await lateWorks(database, doer.companyId, doer.workDate)).filter((workId) => !tried.has(workId));
    if (due.length === 0) return acts;
    for (const workId of due) {
      tried.add(workId);
      const answer = await runAct(database, layLate.asked({ workId }), doer, randomUUID());
      if (answer.ok) acts += 1;
      else log.debug({ workId, why: answer.refusals.map(sentenceOf) }, 'what is late could not be laid again');
    }
  }
}

/** Takes what sister companies offer and fits wholly, where that is the rule; what does not stays in the tray. // X2 */
async function takeFitting({ database, log }: JobParts, doer: Doer): Promise<number> {
  let acts = 0;
  for (const { number, ...offer } of await fittingOffers(database, doer.companyId)) {
    const answer = await runAct(database, takeOffer.asked({ ...offer, lines: [] }), doer, randomUUID());
    if (answer.ok) acts += 1;
    else log.debug({ number, why: answer.refusals.map(sentenceOf) }, 'what a sister offers does not fit');
  }
  return acts;
}

/** Lets go what is held for sister companies and was not ordered by its day. // X4 */
async function letLapse({ database, log }: JobParts, doer: Doer): Promise<number> {
  let acts = 0;
  for (const { id } of await lapsedHolds(database, doer.companyId, doer.workDate)) {
    const answer = await runAct(database, letHoldGo.asked({ id }), doer, randomUUID());
    if (answer.ok) acts += 1;
    else log.debug({ hold: id, why: answer.refusals.map(sentenceOf) }, 'what is held could not be let go');
  }
  return acts;
}

/**
 * Makes the orders of standing orders that are due: once for each date, whoever looks first and however often. What is
 * refused is kept with why and is due no more. // S7
 */
async function makeDue({ database, log }: JobParts, doer: Doer): Promise<number> {
  let acts = 0;
  for (;;) {
    const due = await database.snapshot((sql) => dueDates(sql, doer.companyId, doer.workDate));
    let made = 0;
    for (const date of due) {
      const answer = await runAct(database, makeStanding.asked(date), doer, randomUUID());
      if (answer.ok) made += 1;
      else log.info({ ...date, why: answer.refusals.map(sentenceOf) }, 'a date of a standing order could not be made');
    }
    acts += made;
    // Another server had them, or nothing is due any more.
    if (made === 0) return acts;
  }
}

/** Looks at invoices that changed since: what is earned by them, what vendors owe us for them. // S12 S13 */
async function lookAgain(
  { database, log }: JobParts,
  doer: Doer,
  due: 'support_due' | 'commission_due',
  asked: Asked,
): Promise<number> {
  let acts = 0;
  for (;;) {
    const [first] = await database.rows(`SELECT 1 AS n FROM ${due} WHERE company_id = ? LIMIT 1`, [doer.companyId]);
    if (!first) return acts;
    const answer = await runAct(database, asked, doer, randomUUID());
    if (!answer.ok) {
      log.warn({ due, why: answer.refusals.map(sentenceOf) }, 'invoices could not be looked at again');
      return acts;
    }
    acts += 1;
  }
}

/** Releases planned calls so many days ahead as their agreement says. A call is marked in the same transaction. // A7 */
async function releaseDue({ database, log }: JobParts, doer: Doer): Promise<number> {
  const due = await database.rows<{ id: number; number: string; releaseAheadDays: number }>(
    `SELECT DISTINCT a.id, a.number, a.release_ahead_days
       FROM agreement a
       JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
       JOIN agreement_call k ON k.company_id = l.company_id AND k.agreement_line_id = l.id
      WHERE a.company_id = ? AND a.state = 'in-force' AND a.release_ahead_days IS NOT NULL AND ? BETWEEN a.first_day AND a.last_day
        AND k.made_id IS NULL AND k.skipped = FALSE AND k.day <= ? + INTERVAL a.release_ahead_days DAY`,
    [doer.companyId, doer.workDate, doer.workDate],
  );
  let acts = 0;
  for (const agreement of due) {
    const upTo = plannedUpTo(String(agreement.releaseAheadDays), doer.workDate);
    const answer = await runAct(
      database,
      releasePlanned.asked({ agreementId: agreement.id, upTo }),
      doer,
      randomUUID(),
    );
    if (answer.ok) acts += 1;
    else if (!answer.refusals.every((refusal) => refusal.code === 'nothing-planned')) {
      // It stands in Today until a person sees to it.
      log.info(
        { agreement: agreement.number, why: answer.refusals.map(sentenceOf) },
        'planned calls could not be released',
      );
    }
  }
  return acts;
}
