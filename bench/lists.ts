import { layBulk } from '../demo';
import type { Figure } from './measure';
import { plansOf } from './plans';
import { Stage, WORK_DATE } from './stage';

const SMALL = 10_000;
/** Rows of a page, and the most that are turned at a time. */
const MOST = 100;
const MOST_TURNED = 200;
const PERCENTILES = [50, 75, 90, 95] as const;

export interface View {
  name: string;
  path: string;
  /** The share of these rows turned over before the page that is timed. */
  deep?: { of: string; share: number };
}

/** What is asked of the lists, and of the sums over agreements. */
const VIEWS: readonly View[] = [
  { name: 'agreements, first page', path: '/api/agreements?' },
  { name: 'agreements, deep page', path: '/api/agreements?', deep: { of: 'agreement', share: 0.5 } },
  { name: 'agreements, a customer', path: '/api/agreements?customerId=20' },
  { name: 'agreements, in force', path: '/api/agreements?state=in-force' },
  { name: 'agreements, used up', path: '/api/agreements?left=used-up' },
  { name: 'agreements, dates passed', path: '/api/agreements?dates=passed' },
  { name: 'agreements, by last day', path: '/api/agreements?sort=last-day' },
  { name: 'agreements, by value', path: '/api/agreements?sort=committed' },
  { name: 'agreements, by pace', path: '/api/agreements?dates=running&sort=pace' },
  { name: 'fulfilment, by customer', path: '/api/fulfilment?' },
  { name: 'fulfilment, by group', path: '/api/fulfilment?by=group' },
  { name: 'orders, first page', path: '/api/orders?' },
  { name: 'orders, deep page', path: '/api/orders?', deep: { of: 'sales_order', share: 0.5 } },
  { name: 'orders, confirmed', path: '/api/orders?state=confirmed' },
  { name: 'orders, by ship day', path: '/api/orders?sort=ships' },
  { name: 'orders, by ship day, deep', path: '/api/orders?sort=ships', deep: { of: 'sales_order', share: 0.5 } },
  { name: 'orders, by amount', path: '/api/orders?sort=net-down' },
  { name: 'orders, by customer', path: '/api/orders?sort=customer' },
  { name: 'orders, of some days', path: '/api/orders?ordered=..-30' },
  { name: 'orders, a customer by ship day', path: '/api/orders?customer=B-000020&sort=ships' },
  { name: 'orders, late', path: '/api/orders?show=late' },
  { name: 'purchases, first page', path: '/api/purchases?' },
  { name: 'purchases, by due day', path: '/api/purchases?sort=due' },
  { name: 'purchases, late', path: '/api/purchases?show=late' },
  { name: 'purchases, placed', path: '/api/purchases?state=placed' },
  { name: 'bench, first page', path: '/api/bench?' },
  { name: 'bench, deep page', path: '/api/bench?', deep: { of: 'sales_order_line WHERE on_bench = TRUE', share: 0.5 } },
  { name: 'ties, first page', path: '/api/ties?' },
  { name: 'ties, deep page', path: '/api/ties?', deep: { of: 'tie WHERE open = TRUE', share: 0.5 } },
  { name: 'ties, of a customer', path: '/api/ties?q=B-000020' },
  { name: 'ties, late', path: '/api/ties?show=late' },
];

/**
 * The lists over years of business against the same lists over `SMALL` order lines: the worst ratio of the
 * percentiles up to 95, for each run. `full` takes a million order lines and prints the query plans, else a tenth of that. Prints each as it is read.
 */
export async function benchLists(root: string, full: boolean, print: (figures: Figure[]) => void): Promise<void> {
  const stageOf = (orderLines: number) =>
    Stage.make(root, (url, companyId) => layBulk(url, { companyId, workDate: WORK_DATE, orderLines, seed: 7 }));
  const small = await stageOf(SMALL);
  const large = await stageOf(full ? 1_000_000 : 100_000);
  try {
    for (const view of VIEWS) print([await against(view, small, large, full ? 100 : 30)]);
    if (full) console.log((await plansOf(large.database, large.masters.companyId)).join('\n'));
  } finally {
    await small.end();
    await large.end();
  }
}

/** One list of the large stage against the same of the small one. */
export async function against(view: View, small: Stage, large: Stage, requests: number): Promise<Figure> {
  const runs = requests < 100 ? 3 : 5;
  // Pages of one size: both give as many rows as the set that has fewer.
  const whole = await Promise.all([small, large].map(async (stage) => rowsOf(stage, await pathOn(stage, view, MOST))));
  const rows = Math.max(1, Math.min(...whole));
  const [floor, ours] = await Promise.all([pathOn(small, view, rows), pathOn(large, view, rows)]);
  await timed(small, floor, 20);
  await timed(large, ours, 20);
  const times: { ours: number[][]; theirs: number[][] } = { ours: [], theirs: [] };
  for (let run = 0; run < runs; run += 1) {
    const [a, b]: [number[], number[]] = [[], []];
    // In turn, so that what else the machine does falls on both.
    for (let request = 0; request < requests; request += 1) {
      b.push(...(await timed(small, floor, 1)));
      a.push(...(await timed(large, ours, 1)));
    }
    times.ours.push(percentilesOf(a));
    times.theirs.push(percentilesOf(b));
  }
  const mid = (of: number[][]) => of.map((run) => run[0]!).sort((a, b) => a - b)[runs >> 1]!;
  return {
    name: `${view.name} (${Math.min(...whole)} rows)`,
    ours: `${mid(times.ours).toFixed(2)} ms`,
    theirs: `${mid(times.theirs).toFixed(2)} ms`,
    ratios: times.ours.map((run, index) => Math.max(...run.map((value, at) => value / times.theirs[index]![at]!))),
    aim: 'at most 1.5',
  };
}

async function rowsOf(stage: Stage, path: string): Promise<number> {
  const { rows } = (await stage.get(path)) as { rows: unknown[] };
  return rows.length;
}

async function timed(stage: Stage, path: string, times: number): Promise<number[]> {
  const taken: number[] = [];
  for (let time = 0; time < times; time += 1) {
    const begun = performance.now();
    await stage.get(path);
    taken.push(performance.now() - begun);
  }
  return taken;
}

function percentilesOf(times: number[]): number[] {
  const sorted = [...times].sort((a, b) => a - b);
  return PERCENTILES.map((percentile) => sorted[Math.ceil((percentile / 100) * sorted.length) - 1]!);
}

/** The path that is timed, for pages of so many rows: for a deep page, after turning that share of all rows. */
async function pathOn(stage: Stage, view: View, rows: number): Promise<string> {
  const path = `${view.path}&rows=${rows}`;
  if (!view.deep) return path;
  const [{ count } = { count: 0 }] = await stage.database.rows<{ count: number }>(
    `SELECT COUNT(*) AS count FROM ${view.deep.of}`,
  );
  const turned = Math.floor(count * view.deep.share);
  // Large pages turn fast; the last one ends where the timed one begins.
  let cursor = '';
  for (let left = turned; left > 0; left -= MOST_TURNED) {
    const turn = `${view.path}&rows=${Math.min(left, MOST_TURNED)}${cursor}`;
    const { next } = (await stage.get(turn)) as { next: string | null };
    if (next === null) break;
    cursor = `&cursor=${encodeURIComponent(next)}`;
  }
  return `${path}${cursor}`;
}
