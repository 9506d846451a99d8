import { addDays, Calendar, daysBetween, NEVER, type Day, type DayIndex } from '../../kernel';
import { answer, soonestNew } from '../asking/ask';
import { Ground } from '../ground/ground';
import type { GroundRows, MoveRow, Way } from '../ground/rows';
import { scaled, type Scaled } from '../ground/scaled';
import { Timelines, type Events } from '../ground/timelines';
import { answerText } from '../asking/answer-text';

/** Open lines of items that are promised by what is there, as columns of equal length. Days are from the work date. */
export interface OpenLines {
  readonly item: Int32Array;
  /** Hundred-thousandths. */
  readonly quantity: Float64Array;
  /** The day asked, today for what has passed. */
  readonly asked: Int32Array;
  /** Rank: priority, the lower the earlier; then what was promised; then the order's date. Any whole numbers. */
  readonly priority: Int32Array;
  readonly promised: Int32Array;
  readonly ordered: Int32Array;
  /** The day a new one of each item would be there, ordered or begun today; NEVER where none can be said. // T3 */
  readonly lead: Int32Array;
}

/**
 * The places of lines in rank order, equals in the order they came: three counting sorts, O(lines + spread of the
 * days). // T9
 */
export function rankOrder({
  priority,
  promised,
  ordered,
}: Pick<OpenLines, 'priority' | 'promised' | 'ordered'>): Int32Array {
  let order = Int32Array.from({ length: priority.length }, (_, line) => line);
  for (const key of [ordered, promised, priority]) order = sortedBy(order, key);
  return order;
}

function sortedBy(order: Int32Array, key: Int32Array): Int32Array<ArrayBuffer> {
  let least = 0;
  let most = 0;
  for (let at = 0; at < key.length; at += 1) {
    const value = key[at]!;
    if (at === 0 || value < least) least = value;
    if (at === 0 || value > most) most = value;
  }
  const next = new Int32Array(most - least + 2);
  for (let at = 0; at < key.length; at += 1) next[key[at]! - least + 1]! += 1;
  for (let at = 1; at < next.length; at += 1) next[at]! += next[at - 1]!;
  const sorted = new Int32Array(order.length);
  for (let at = 0; at < order.length; at += 1) {
    const line = order[at]!;
    const bucket = key[line]! - least;
    sorted[next[bucket]!] = line;
    next[bucket]! += 1;
  }
  return sorted;
}

/** How far a run is; answering false stops it. */
export type Progress = (done: number, all: number) => boolean;

/** Lines between two reports. */
const STRIDE = 4096;

/** The day a line would keep: what it was promised, today where that has passed, and not before it was asked for. */
const keptDay = (promised: DayIndex, asked: DayIndex, horizon: number): DayIndex =>
  Math.min(Math.max(promised, asked, 0), horizon - 1);

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

/** An open line with what it was promised. */
export interface PromisedLine {
  lineId: number;
  itemId: number;
  quantity: string;
  /** The day asked, and the one that stands. */
  asked: Day;
  promised: Day;
  way: Way;
  /** The lower the earlier. */
  priority: number;
  ordered: Day;
}

/** A line whose day is another one now. */
export interface MovedLine {
  lineId: number;
  was: Day;
  /** Null where no day can be said. */
  is: Day | null;
  /** What sets the new day. */
  why: string;
}

/** The ways that look at nothing but what is there and coming. */
const PLAIN: readonly Way[] = ['atp'];

/**
 * All open lines asked again in rank order, and those whose day moves with the reason. `rows` are without the lines'
 * own demand and without what is planned for them. Lines of items that nothing planned uses go the short way: their
 * balances in few days, O(log days) each; the others are planned anew on one ground. Null where it was stopped. // T9
 */
export function repromise(
  rows: GroundRows,
  lines: readonly PromisedLine[],
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
  if (!byPlanning(ofPlans, comes, planned, days, (done) => progress(plain.length + done, all))) return null;
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

const rankOf = (rows: GroundRows, lines: readonly PromisedLine[]) => {
  const column = (of: (line: PromisedLine) => number) => Int32Array.from(lines, of);
  return {
    priority: column((line) => line.priority),
    promised: column((line) => daysBetween(rows.workDate, line.promised)),
    ordered: column((line) => daysBetween(rows.workDate, line.ordered)),
  };
};

/** Lines in the order they are asked again. // T9 */
export function inRank(rows: GroundRows, lines: readonly PromisedLine[]): PromisedLine[] {
  const byId = [...lines].sort((a, b) => a.lineId - b.lineId);
  return Array.from(rankOrder(rankOf(rows, byId)), (at) => byId[at]!);
}

/** The day found for each line, by its id, and why. */
export type FoundDays = Map<number, { is: Day | null; why: string }>;

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

/** Items with the calendars of their lead times. */
type BareRows = Pick<
  GroundRows,
  'workDate' | 'horizon' | 'calendars' | 'ownCalendarId' | 'receivingDays' | 'safetyDays' | 'items'
>;

const NOTHING = {
  ...{ components: [], operations: [], centres: [], load: [], overtime: [], out: [] },
  ...{ supplies: [], demands: [] },
};

/** The day a new one of each of these items would be there; NEVER where none can be said. O(items). // T3 */
export function leadDays(rows: BareRows, ids: readonly number[]): Int32Array {
  const calendars = new Map(rows.calendars.map((row) => [row.id, new Calendar(rows.workDate, rows.horizon, row)]));
  const byId = new Map(rows.items.map((row) => [row.id, row]));
  const ownCalendar = calendars.get(rows.ownCalendarId)!;
  return Int32Array.from(ids, (id) => {
    const row = byId.get(id)!;
    const [seller] = row.sellers;
    const leadTime = seller && {
      days: seller.leadDays,
      vendorCalendar: calendars.get(seller.calendarId)!,
      ownDays: rows.receivingDays + rows.safetyDays,
      ownCalendar,
    };
    const day = soonestNew(row, leadTime, ownCalendar);
    return typeof day === 'number' ? day : NEVER;
  });
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

/** What comes of each item on each day. */
export type Coming = ReadonlyMap<string, readonly MoveRow['source'][]>;

export function comingOn(rows: Pick<GroundRows, 'supplies'>): Coming {
  const comes = new Map<string, MoveRow['source'][]>();
  for (const { itemId, day, source } of rows.supplies) {
    const key = `${itemId} ${day}`;
    const there = comes.get(key);
    if (there) there.push(source);
    else comes.set(key, [source]);
  }
  return comes;
}

/** What comes on the day that makes it possible; where nothing does, what is there, or a new one by its lead time. */
export function whyOn(comes: Coming, workDate: Day, itemId: number, day: DayIndex, lead: DayIndex = NEVER): string {
  const coming = comes.get(`${itemId} ${addDays(workDate, day)}`) ?? [];
  if (coming.length > 0) {
    return `${coming.map((source) => `${source.number} of ${source.party}`).join(', ')} comes then`;
  }
  if (day === lead) return 'there is not enough; a new one takes its lead time';
  return day === 0 ? 'there is enough' : 'there is enough from then on';
}

/**
 * Lines there is not enough for, or not by the day they were promised: the lead time says when, where that is earlier
 * than the day that was found. Of the rows only the items and their calendars are looked at. // T2
 */
export function byLeadTime(rows: BareRows, lines: readonly PromisedLine[], days: FoundDays): void {
  if (lines.length === 0) return;
  const wanted = new Set(lines.map((line) => line.itemId));
  const items = rows.items.filter((item) => wanted.has(item.id));
  const ground = new Ground({ ...rows, items, ...NOTHING });
  for (const line of lines) {
    const ask = { key: '', itemId: line.itemId, quantity: line.quantity, asked: line.asked };
    const { day, trouble } = answerText(ground, answer(ground, ask, 'lead'));
    const found = days.get(line.lineId)?.is ?? null;
    if (found !== null && (day === null || day >= found)) continue;
    days.set(line.lineId, { is: day, why: trouble ?? 'there is not enough; a new one takes its lead time' });
  }
}

/** Lines that are planned, and those of what plans use, asked in rank order on one ground; false where it was stopped. */
export function byPlanning(
  rows: GroundRows,
  comes: Coming,
  lines: readonly PromisedLine[],
  days: FoundDays,
  report: (done: number) => boolean,
) {
  if (lines.length === 0) return true;
  const ground = new Ground(rows);
  const order = rankOrder(rankOf(rows, lines));
  for (const [done, at] of order.entries()) {
    if (done % 64 === 0 && !report(done)) return false;
    const line = lines[at]!;
    const ask = { key: '', itemId: line.itemId, quantity: line.quantity, asked: line.asked };
    if (line.way === 'atp') {
      // As on the short way: what cannot be promised whole holds nothing.
      const item = ground.at(line.itemId);
      const from = ground.dayIndex(line.asked);
      const found = from < rows.horizon ? ground.timelines.earliest(item, from, scaled(line.quantity)) : from;
      if (found !== NEVER) {
        if (from < rows.horizon) ground.move(item, found, -scaled(line.quantity));
        days.set(line.lineId, {
          is: addDays(rows.workDate, found),
          why: whyOn(comes, rows.workDate, line.itemId, found),
        });
      }
      byLeadTime(rows, [line], days);
      continue;
    }
    const { day, trouble, waits } = answerText(ground, answer(ground, ask, line.way));
    const longest = waits.reduce<(typeof waits)[number] | null>(
      (most, wait) => (!most || daysBetween(wait.from, wait.to) > daysBetween(most.from, most.to) ? wait : most),
      null,
    );
    days.set(line.lineId, { is: day, why: trouble ?? longest?.text ?? 'what it needs is there' });
  }
  return true;
}
