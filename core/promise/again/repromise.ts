import { addDays, Calendar, daysBetween, NEVER, type DayIndex } from '../../kernel';
import type { GroundRows, MoveRow, Way } from '../ground/rows';
import { scaled, type Scaled } from '../ground/scaled';
import { Timelines, type Events } from '../ground/timelines';
import { byPlanning, type StandingPlans } from './by-planning';
import { keptDay, rankOf, rankOrder, type FoundDays, type MovedLine, type PromisedLine, type Ranked } from './lines';
import { byLeadTime, comingOn, leadDays, whyOn, type Coming } from './reasons';

/** Open lines of items that are promised by what is there, as columns of equal length. Days are from the work date. */
export interface OpenLines extends Ranked {
  readonly item: Int32Array;
  /** Hundred-thousandths. */
  readonly quantity: Float64Array;
  /** The day asked, today for what has passed. */
  readonly asked: Int32Array;
  /** The day a new one of each item would be there, ordered or begun today; NEVER where none can be said. // T3 */
  readonly lead: Int32Array;
}

/** How far a run is; answering false stops it. */
export type Progress = (done: number, all: number) => boolean;

/** Lines between two reports. */
const STRIDE = 4096;

/**
 * The day each open line can have; NEVER where none can be said. In rank order each keeps the day it was promised where
 * there is enough for it; then those that cannot, and those a new one would be there for by then, take by priority and
 * age what is left, or the lead time where that is earlier and holds nothing; then those that kept theirs take an earlier
 * one where there is enough. So nobody loses a day to a line that lost its own, and done again with the days that were
 * found it finds the same: each step only takes, none frees what another could use earlier, and the order of those that
 * ask anew does not come from their days.
 * `events` are without the lines' own demand. Null where the run was stopped. // T9
 * O(events + lines × log days) in time; in memory the events' days once as a tree.
 */
export function repromiseAvailable(
  items: number,
  horizon: number,
  events: Events,
  lines: OpenLines,
  progress: Progress = () => true,
): Int32Array | null {
  const { item, quantity, asked, promised } = lines;
  const kept = asked.map((day, line) => keptDay(promised[line]!, day, horizon));
  const order = rankOrder({ ...lines, promised: kept });
  const all = order.length;
  const leadOf = (line: number) => Math.max(asked[line]!, lines.lead[item[line]!]!);
  const both = { item: new Int32Array(2 * all), day: new Int32Array(2 * all) };
  both.item.set(item);
  both.item.set(item, all);
  both.day.set(asked);
  both.day.set(kept, all);
  const timelines = Timelines.sparse(items, horizon, events, both);
  const days = new Int32Array(all);
  const take = (line: number, day: DayIndex) => {
    if (day !== NEVER) timelines.add(item[line]!, day, -quantity[line]!);
    days[line] = day;
  };
  const waits = new Uint8Array(all);
  for (let at = 0; at < all; at += 1) {
    if (at % STRIDE === 0 && !progress(at >> 1, all)) return null;
    const line = order[at]!;
    const keeps = kept[line]! < leadOf(line) && timelines.available(item[line]!, kept[line]!) >= quantity[line]!;
    if (keeps) take(line, kept[line]!);
    else waits[line] = 1;
  }
  for (const line of rankOrder({ ...lines, promised: new Int32Array(all) })) {
    if (waits[line] === 0) continue;
    const day = timelines.earliest(item[line]!, asked[line]!, quantity[line]!);
    if (day <= leadOf(line)) take(line, day);
    else days[line] = leadOf(line);
  }
  for (let at = 0; at < all; at += 1) {
    if (at % STRIDE === 0 && !progress((all + at) >> 1, all)) return null;
    const line = order[at]!;
    if (waits[line] === 1 || kept[line] === asked[line]) continue;
    timelines.add(item[line]!, kept[line]!, quantity[line]!);
    take(line, timelines.earliest(item[line]!, asked[line]!, quantity[line]!));
  }
  progress(all, all);
  return days;
}

const NO_PLANS: StandingPlans = new Map();

/** The ways that look at nothing but what is there and coming. */
const PLAIN: readonly Way[] = ['atp'];

/**
 * All open lines asked again in rank order, and those whose day moves with the reason. `rows` are without the lines'
 * own demand and without what is planned for them, which `plans` are. Lines of items that nothing planned uses go the
 * short way: their balances in few days, O(log days) each; the others stand, or are planned anew, on one ground. Null where it was stopped. // T9
 */
export function repromise(
  rows: GroundRows,
  lines: readonly PromisedLine[],
  plans: StandingPlans = NO_PLANS,
  progress: Progress = () => true,
): MovedLine[] | null {
  const shared = usedByPlans(rows, lines);
  const plain = lines.filter((line) => PLAIN.includes(line.way) && !shared.has(line.itemId));
  const planned = lines.filter((line) => !PLAIN.includes(line.way) || shared.has(line.itemId));
  const days: FoundDays = new Map();
  const comes = comingOn(rows);
  const all = lines.length;
  if (!plainly(rows, comes, plain, days, (done) => progress(done, all))) return null;
  // Every day of every item is kept where it is planned: only of those that are.
  const ofPlans = { ...rows, items: rows.items.filter((item) => shared.has(item.id)) };
  if (!byPlanning(ofPlans, comes, planned, plans, days, (done) => progress(plain.length + done, all))) return null;
  return lines.flatMap((line): MovedLine[] => {
    const { is, why } = days.get(line.lineId)!;
    return is === line.promised ? [] : [{ lineId: line.lineId, was: line.promised, is, why }];
  });
}

/** The items of lines that are planned, and all they are made of. */
function usedByPlans(rows: GroundRows, lines: readonly PromisedLine[]): Set<number> {
  const used = new Set(lines.filter((line) => !PLAIN.includes(line.way)).map((line) => line.itemId));
  const madeOf = new Map<number, number[]>();
  for (const { itemId, componentId } of rows.components) {
    madeOf.set(itemId, [...(madeOf.get(itemId) ?? []), componentId]);
  }
  for (const item of used) for (const component of madeOf.get(item) ?? []) used.add(component);
  return used;
}

function plainly(
  rows: GroundRows,
  comes: Coming,
  lines: readonly PromisedLine[],
  days: FoundDays,
  report: (done: number) => boolean,
) {
  if (lines.length === 0) return true;
  const items = [...new Set(lines.map((line) => line.itemId))];
  const at = new Map(items.map((id, index) => [id, index]));
  const events = eventsOf(rows, at);
  const asked = lines.map((line) => Math.max(0, daysBetween(rows.workDate, line.asked)));
  const within = lines.map((_line, index) => asked[index]! < rows.horizon);
  const lead = leadDays(rows, items);
  const found = repromiseAvailable(
    items.length,
    rows.horizon,
    events,
    {
      item: Int32Array.from(lines, (line) => at.get(line.itemId)!),
      quantity: Float64Array.from(lines, (line) => scaled(line.quantity)),
      // A day beyond the horizon is not looked at: asked on its last, and had when asked.
      asked: Int32Array.from(asked, (day) => Math.min(day, rows.horizon - 1)),
      ...rankOf(rows, lines),
      lead,
    },
    report,
  );
  if (!found) return false;
  const none: PromisedLine[] = [];
  for (const [index, line] of lines.entries()) {
    const day = found[index]!;
    if (!within[index]) days.set(line.lineId, { is: line.asked, why: '' });
    else if (day === NEVER) none.push(line);
    else {
      const why = whyOn(comes, rows.workDate, line.itemId, day, lead[at.get(line.itemId)!]);
      days.set(line.lineId, { is: addDays(rows.workDate, day), why });
    }
  }
  byLeadTime(rows, none, days);
  return true;
}

/** What is there of each item, and what comes and goes, as columns. */
function eventsOf(rows: GroundRows, at: ReadonlyMap<number, number>): Events {
  const item: number[] = [];
  const day: number[] = [];
  const quantity: Scaled[] = [];
  const add = (of: number, on: DayIndex, size: Scaled) => {
    if (on >= rows.horizon) return;
    item.push(of);
    day.push(on);
    quantity.push(size);
  };
  for (const row of rows.items) {
    const of = at.get(row.id);
    if (of !== undefined) add(of, 0, scaled(row.onHand) - scaled(row.held) - scaled(row.safetyStock));
  }
  const own = rows.calendars.find(({ id }) => id === rows.ownCalendarId)!;
  const first = new Calendar(rows.workDate, rows.horizon, own).next(0);
  const put = (move: MoveRow, sign: 1 | -1) => {
    const of = at.get(move.itemId);
    const on = daysBetween(rows.workDate, move.day);
    if (of !== undefined) add(of, on < 0 ? (sign > 0 ? first : 0) : on, sign * scaled(move.quantity));
  };
  for (const move of rows.supplies) put(move, 1);
  for (const move of rows.demands) put(move, -1);
  return { item: Int32Array.from(item), day: Int32Array.from(day), quantity: Float64Array.from(quantity) };
}
