import { addDays, Calendar, daysBetween, NEVER, type Day } from '@core/kernel';
import {
  byLeadTime,
  byPlanning,
  Columns,
  comingOn,
  leadDays,
  repromiseAvailable,
  scaled,
  WAYS,
  wayOf,
  whyOn,
  type FoundDays,
  type Method,
  type MovedLine,
  type OpenLines,
  type PromisedLine,
  type Way,
} from '@core/promise';
import type { Database } from '../../db';
import { groundRows, HORIZON, itemRows } from '../ground/ground';
import { comingThen, eachMove } from '../ground/moves';
import { OPEN_LINES } from '../ground/open-lines';
import { plannedForAll } from '../asking/planned-for';
import type { Report } from '../runs/claimed-run';
import { standingPlans } from './standing-plans';

/** Lines whose reason is looked up in one query. */
const MOST_PAIRS = 200;

const LINE = ['lineId', 'point', 'asked', 'promised', 'ordered', 'way', 'quantity'] as const;

/** What tells one day from another, as days from the work date; the same few come again and again. */
function daysFrom(workDate: Day): (day: Day) => number {
  const known = new Map<Day, number>();
  return (day) => {
    let index = known.get(day);
    if (index === undefined) known.set(day, (index = daysBetween(workDate, day)));
    return index;
  };
}

/**
 * All open lines asked again in rank order, as `repromise` of core does it, read straight into columns: neither the
 * lines nor what comes and goes is ever held as rows, but for the lines that are planned and all they are made of.
 * Time and memory as of the columns. // T9
 */
export async function repromiseRun(
  database: Database,
  companyId: number,
  workDate: Day,
  report: Report,
): Promise<MovedLine[]> {
  const dayIndex = daysFrom(workDate);
  const lines = new Columns(LINE, ['quantity']);
  // Each point by its place here, which takes less room than the point itself.
  const points: number[] = [];
  const placeOf = new Map<number, number>();
  await database.each(
    OPEN_LINES,
    [companyId],
    ([lineId, read, quantity, asked, promised, promisedBy, method, ordered]) => {
      const way = (promisedBy as Way | null) ?? wayOf(method as Method);
      if (way === null) return;
      const days = [asked, promised, ordered].map((day) => dayIndex(String(day)));
      const point = Number(read);
      if (!placeOf.has(point)) placeOf.set(point, points.push(point) - 1);
      lines.push(Number(lineId), placeOf.get(point)!, ...days, WAYS.indexOf(way), scaled(String(quantity)));
    },
  );
  report(0, lines.length);
  const [lineId, point, asked, promised, ordered, way] = LINE.map((name) => lines.whole(name));
  const pointAt = (at: number) => points[point![at]!]!;
  const quantity = lines.any('quantity');
  const atp = WAYS.indexOf('atp');

  const plannedItems = new Set<number>();
  for (let at = 0; at < lines.length; at += 1) if (way![at] !== atp) plannedItems.add(pointAt(at));
  const rows = await groundRows(database, companyId, workDate, [...plannedItems], { without: 'all' });
  const shared = new Set(plannedItems.size > 0 ? rows.items.map((item) => item.id) : []);
  const lineAt = (at: number): PromisedLine => ({
    lineId: lineId![at]!,
    itemId: pointAt(at),
    quantity: String(quantity[at]! / 100_000),
    asked: addDays(workDate, asked![at]!),
    promised: addDays(workDate, promised![at]!),
    way: WAYS[way![at]!]!,
    // Every customer ranks alike so far.
    priority: 1,
    ordered: addDays(workDate, ordered![at]!),
  });

  // Those of items that nothing planned uses go the short way.
  const plain = new Int32Array(lines.length);
  const planned: PromisedLine[] = [];
  let count = 0;
  for (let at = 0; at < lines.length; at += 1) {
    const item = pointAt(at);
    if (way![at] !== atp || shared.has(item)) planned.push(lineAt(at));
    else plain[count++] = at;
  }
  const places = plain.subarray(0, count);
  const asks: OpenLines = {
    item: places.map((at) => point![at]!),
    quantity: Float64Array.from(places, (at) => quantity[at]!),
    // A day beyond the horizon is not looked at: asked on its last, and had when asked.
    asked: places.map((at) => Math.min(Math.max(0, asked![at]!), HORIZON - 1)),
    priority: new Int32Array(count),
    promised: places.map((at) => promised![at]!),
    ordered: places.map((at) => ordered![at]!),
    lead: new Int32Array(points.length).fill(NEVER),
  };
  const found: FoundDays = new Map();
  const progress = (done: number) => {
    report(done, lines.length);
    return true;
  };
  const own = rows.calendars.find(({ id }) => id === rows.ownCalendarId)!;
  // When what is overdue arrives. // T1
  const first = new Calendar(workDate, HORIZON, own).next(0);
  // The planned ones are not among these: nothing of theirs is read.
  for (const each of shared) placeOf.delete(each);
  const ground = { workDate, first, placeOf, items: points.length };
  const alone = [...placeOf.keys()];
  const bare = await itemRows(database, companyId, workDate, alone);
  for (const [index, day] of leadDays(bare, alone).entries()) asks.lead[placeOf.get(alone[index]!)!] = day;
  const days = await available(database, companyId, ground, asks, progress);

  const moved: number[] = [];
  const none: PromisedLine[] = [];
  for (const [place, at] of places.entries()) {
    if (asked![at]! >= HORIZON) found.set(lineId![at]!, { is: addDays(workDate, asked![at]!), why: '' });
    else if (days[place] === NEVER) none.push(lineAt(at));
    else if (days[place] !== promised![at]) moved.push(place);
  }
  const leftOut = await plannedForAll(database, companyId);
  const dayAt = (place: number) => addDays(workDate, days[place]!);
  for (let from = 0; from < moved.length; from += MOST_PAIRS) {
    const some = moved.slice(from, from + MOST_PAIRS);
    const pairs = some.map((place) => [pointAt(places[place]!), dayAt(place)] as const);
    const coming = comingOn({ supplies: await comingThen(database, companyId, pairs, leftOut) });
    for (const place of some) {
      const at = places[place]!;
      found.set(lineId![at]!, {
        is: dayAt(place),
        why: whyOn(coming, workDate, pointAt(at), days[place]!, asks.lead[point![at]!]!),
      });
    }
  }
  byLeadTime(bare, none, found);
  const plans = await standingPlans(database, companyId, leftOut);
  byPlanning(rows, comingOn(rows), planned, plans, found, (done) => progress(count + done));

  const told: MovedLine[] = [];
  for (let at = 0; at < lines.length; at += 1) {
    const day = found.get(lineId![at]!);
    const was = addDays(workDate, promised![at]!);
    if (day && day.is !== was)
      told.push({
        lineId: lineId![at]!,
        was,
        ...day,
      });
  }
  return told;
}

interface PlainGround {
  workDate: Day;
  /** When what is overdue arrives. */
  first: number;
  /** The points whose moves count, each by its place, among so many. */
  placeOf: ReadonlyMap<number, number>;
  items: number;
}

/** The day of each plain line, NEVER where there is not enough. */
async function available(
  database: Database,
  companyId: number,
  { workDate, first, placeOf, items }: PlainGround,
  asks: OpenLines,
  progress: (done: number) => boolean,
): Promise<Int32Array> {
  const dayIndex = daysFrom(workDate);
  const [rough] = await database.rows<{ moves: number }>(
    'SELECT COUNT(*) AS moves FROM purchase_order_line WHERE company_id = ? AND untied = TRUE',
    [companyId],
  );
  const events = new Columns(['item', 'day', 'quantity'], ['quantity'], rough!.moves + items + 1024);
  await eachMove(database, companyId, workDate, (point, day, size) => {
    const item = placeOf.get(point);
    const on = dayIndex(day);
    const quantity = scaled(size);
    if (item === undefined || on >= HORIZON || quantity === 0) return;
    events.push(item, on >= 0 ? on : quantity > 0 ? first : 0, quantity);
  });
  const columns = {
    item: events.whole('item'),
    day: events.whole('day'),
    quantity: events.any('quantity'),
    own: true,
  };
  return repromiseAvailable(items, HORIZON, columns, asks, progress)!;
}
