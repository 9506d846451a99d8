import { NEVER } from '@core/kernel';
import { Planner, Ground, ONE, repromiseAvailable, Timelines, type Events, type OpenLines } from '@core/promise';
import { createPool } from 'mysql2/promise';
import { Naive } from '../core/promise/reference/naive';
import { eventSet, HORIZON, worksSet } from './promise-sets';
import type { Figure } from './measure';
import { median } from './measure';

const RUNS = 5;

function timed(work: () => void): number {
  const begun = performance.now();
  work();
  return performance.now() - begun;
}

const ms = (times: readonly number[]) => `${median(times).toFixed(1)} ms`;

/** The least that could look at every event once: their sum and least, in one pass. */
function onePass({ quantity }: Events): number {
  let sum = 0;
  let least = 0;
  for (let at = 0; at < quantity.length; at += 1) {
    sum += quantity[at]!;
    if (sum < least) least = sum;
  }
  return least;
}

function askAll(timelines: Timelines, { item, asked, quantity }: OpenLines): number {
  let found = 0;
  for (let line = 0; line < item.length; line += 1) {
    if (timelines.earliest(item[line]!, asked[line]!, quantity[line]!) !== NEVER) found += 1;
  }
  return found;
}

/** A hundred thousand answers against one pass over the events, with and without building; and against SQL. */
export async function benchAtp(url: string, full: boolean): Promise<Figure[]> {
  const [items, count, asks] = full ? [10_000, 1_000_000, 100_000] : [1_000, 100_000, 10_000];
  const { events, lines } = eventSet(7, items, count, asks);
  const figures: Figure[] = [];
  const passes: number[] = [];
  const answers: number[] = [];
  const builds: number[] = [];
  let seen = 0;
  for (let run = 0; run < RUNS + 2; run += 1) {
    let timelines: Timelines | null = null;
    const pass = timed(() => (seen += onePass(events)));
    const build = timed(() => (timelines = Timelines.sparse(items, HORIZON, events)));
    const answer = timed(() => (seen += askAll(timelines!, lines)));
    // The first turns are for the compiler.
    if (run < 2) continue;
    passes.push(pass);
    builds.push(build + answer);
    answers.push(answer);
  }
  if (Number.isNaN(seen)) throw new Error('nothing was summed');
  const against = (ours: readonly number[]) => ours.map((time, run) => time / passes[run]!);
  figures.push({
    name: `atp, ${asks} answers / one pass`,
    ours: ms(answers),
    theirs: ms(passes),
    ratios: against(answers),
    aim: 'at most 5',
  });
  figures.push({
    name: 'atp, with building / one pass',
    ours: ms(builds),
    theirs: ms(passes),
    ratios: against(builds),
    aim: 'at most 30',
  });
  figures.push(await againstSql(url, items, events, lines, median(answers) / asks));
  return figures;
}

/** The same answers from SQL with window functions, for some of the lines; each must agree. */
async function againstSql(url: string, items: number, events: Events, lines: OpenLines, each: number): Promise<Figure> {
  const pool = createPool({ uri: url, connectionLimit: 1 });
  const name = `atp_${process.pid}`;
  await pool.query(`CREATE DATABASE ${name}`);
  await pool.query(
    `CREATE TABLE ${name}.event (item INT NOT NULL, day SMALLINT NOT NULL, quantity BIGINT NOT NULL, KEY event_item (item, day, quantity))`,
  );
  for (let from = 0; from < events.item.length; from += 5000) {
    const rows = Array.from({ length: Math.min(5000, events.item.length - from) }, (_, at) => [
      events.item[from + at]!,
      events.day[from + at]!,
      events.quantity[from + at]!,
    ]);
    await pool.query(`INSERT INTO ${name}.event VALUES ?`, [rows]);
  }
  const timelines = Timelines.sparse(items, HORIZON, events);
  const ratios: number[] = [];
  const times: number[] = [];
  for (let run = 0; run < RUNS; run += 1) {
    const begun = performance.now();
    for (let at = 0; at < 60; at += 1) {
      const line = run * 60 + at;
      const [rows] = await pool.query(
        `SELECT MIN(day) AS day FROM (
           SELECT day, MIN(balance) OVER (ORDER BY day DESC) AS available FROM (
             SELECT day, SUM(SUM(quantity)) OVER (ORDER BY day) AS balance FROM ${name}.event WHERE item = ? GROUP BY day) b) a
          WHERE available >= ?`,
        [lines.item[line], lines.quantity[line]],
      );
      const { day } = (rows as { day: number | null }[])[0]!;
      const ours = timelines.earliest(lines.item[line]!, 0, lines.quantity[line]!);
      if ((day ?? NEVER) !== ours) throw new Error(`SQL says ${day}, we say ${ours}`);
    }
    const perLine = (performance.now() - begun) / 60;
    times.push(perLine);
    ratios.push(perLine / each);
  }
  await pool.query(`DROP DATABASE ${name}`);
  await pool.end();
  return {
    name: 'atp, SQL window functions / ours',
    ours: `${(each * 1000).toFixed(3)} us`,
    theirs: `${(median(times) * 1000).toFixed(0)} us`,
    ratios,
    aim: 'at least 1000',
  };
}

/** Lines of a run that are walked as well. */
const WALKED = 4;

/** Plans of five levels against walking minute by minute, which some of the lines are; every day of them must agree. */
export function benchCtp(full: boolean): Figure[] {
  const [lines, products] = full ? [1000, 60] : [100, 12];
  const rows = worksSet(7, products, 200);
  const tops = rows.items.filter((item) => item.number.startsWith('M0-')).map((item) => item.id);
  return (['have', 'nothing'] as const).map((mode) => {
    const ours: number[] = [];
    const theirs: number[] = [];
    // Both stand on one ground throughout, and have seen it before they are timed.
    const ground = new Ground(rows);
    const naive = new Naive(rows);
    const planner = new Planner(ground, mode);
    for (let turn = 0; turn < 4000; turn += 1) {
      planner.forward(ground.at(tops[turn % tops.length]!), ONE, 0);
      ground.backTo(0);
    }
    naive.ask(tops[0]!, ONE, 0, mode);
    for (let run = 0; run < RUNS; run += 1) {
      const asks = Array.from({ length: lines }, (_, line) => ({
        item: tops[(line * 7 + run) % tops.length]!,
        quantity: ((line % 4) + 1) * ONE,
      }));
      const days: number[] = [];
      const our = timed(() => {
        for (const ask of asks) {
          days.push(planner.forward(ground.at(ask.item), ask.quantity, 0).day);
          ground.backTo(0);
        }
      });
      const their = timed(() => {
        for (const [line, ask] of asks.slice(0, WALKED).entries()) {
          const day = naive.ask(ask.item, ask.quantity, 0, mode);
          if (day !== days[line]) throw new Error(`walking says ${day}, we say ${days[line]}`);
        }
      });
      ours.push(our);
      theirs.push((their * lines) / WALKED);
    }
    return {
      name: `ctp, ${mode === 'have' ? 'use what we have' : 'start from nothing'}, ${lines} lines`,
      ours: ms(ours),
      theirs: ms(theirs),
      ratios: theirs.map((time, run) => time / ours[run]!),
      aim: 'at least 20',
    };
  });
}

/** All open lines in rank order against as many single answers. */
export function benchRepromise(full: boolean): Figure[] {
  const [items, count, asks] = full ? [10_000, 1_000_000, 100_000] : [1_000, 100_000, 10_000];
  const { events, lines } = eventSet(7, items, count, asks);
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let run = 0; run < RUNS + 2; run += 1) {
    let seen = 0;
    const again = timed(() => (seen = repromiseAvailable(items, HORIZON, events, lines)!.length));
    const single = timed(() => (seen += askAll(Timelines.sparse(items, HORIZON, events), lines)));
    if (seen === 0) throw new Error('nothing was promised');
    if (run < 2) continue;
    ours.push(again);
    theirs.push(single);
  }
  return [
    {
      name: `repromise, ${asks} lines / atp`,
      ours: ms(ours),
      theirs: ms(theirs),
      ratios: ours.map((time, run) => time / theirs[run]!),
      aim: 'at most 3',
    },
  ];
}
