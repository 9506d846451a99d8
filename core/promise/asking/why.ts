import type { DayIndex, Shift } from '../../kernel';
import { answer, type Answer, type Ask } from './ask';
import { DAY_MINUTES } from '../ground/capacity';
import { Ground } from '../ground/ground';
import { partPromises } from '../ground/parts';
import type { Need } from './plan';
import type { GroundRows, Way } from '../ground/rows';
import { ONE, scaled, unscaled, type Scaled } from '../ground/scaled';

/** One wait of the chain that sets the date; from the day it begins to the day it ends. */
export interface Wait {
  kind:
    /** The vendor sends it. */
    | 'buy'
    /** It is coming already. */
    | 'coming'
    /** The work centre has nothing free. */
    | 'queue'
    /** It is worked on. */
    | 'run'
    /** It takes so many days, without a routing. */
    | 'make';
  item: number;
  quantity: Scaled;
  /** Of a purchase: the vendor. */
  seller: number | null;
  /** Of a wait for a centre or a run at it. */
  centre: number | null;
  operation: number | null;
  from: DayIndex;
  to: DayIndex;
}

/**
 * The waits that set the date of a plan, one after the other from the first day to the last: at each point the
 * material or operation that was there last. Empty where all of it is there at once. O(BOM levels × operations). // T7
 */
export function chainOf(need: Need): Wait[] {
  const waits: Wait[] = [];
  collect(need, waits);
  return waits.filter((wait) => wait.to > wait.from || wait.kind === 'run');
}

function collect(need: Need, waits: Wait[]): void {
  const part = need.parts.reduce((last, each) => (each.day > last.day ? each : last));
  const about = { item: need.item, quantity: part.quantity, seller: null, centre: null, operation: null };
  if (part.kind === 'free') {
    waits.push({ ...about, kind: 'coming', from: 0, to: part.day });
    return;
  }
  if (part.kind === 'buy') {
    waits.push({ ...about, kind: 'buy', quantity: part.lot, seller: part.seller, from: part.ordered, to: part.day });
    return;
  }
  const { operations, needs } = part;
  // Back to the last operation that waited for material: what came before it did not matter.
  let first = operations.length;
  let waitedFor = operations.length > 0 ? null : part.waitedFor;
  while (first > 0 && waitedFor === null) {
    first -= 1;
    waitedFor = operations[first]!.waitedFor;
  }
  if (waitedFor !== null) collect(needs[waitedFor]!, waits);
  for (const operation of operations.slice(first)) {
    const at = { ...about, quantity: part.lot, centre: operation.centre, operation: operation.operation };
    if (operation.firstDay > operation.ready) {
      waits.push({ ...at, kind: 'queue', from: operation.ready, to: operation.firstDay });
    }
    waits.push({ ...at, kind: 'run', from: operation.firstDay, to: operation.lastDay });
  }
  if (operations.length === 0)
    waits.push({ ...about, kind: 'make', quantity: part.lot, from: part.start, to: part.day });
}

/** Something that would bring the date forward, and to when. */
export type Shortening =
  | { kind: 'vendor'; item: string; vendor: string; day: DayIndex }
  | { kind: 'overtime'; centre: string; minutes: number; day: DayIndex }
  | { kind: 'part'; quantity: string; day: DayIndex };

/** Overtime that is tried: two hours a day. */
const OVERTIME = 120;

/**
 * What would shorten a line, each computed anew on a ground of its own, nothing written: another vendor for what the
 * chain waits for, overtime at a centre it waits for, part of it on the day asked. Only what helps. // T7
 * Costs one answer for each that is tried, and twenty for the part.
 */
export function shortenings(rows: GroundRows, ask: Ask, now: Answer): Shortening[] {
  if (now.day === null || now.slack) return [];
  const ground = new Ground(rows);
  const found: Shortening[] = [];
  const waits = now.need ? chainOf(now.need) : [];
  const day = now.day;
  for (const item of new Set(waits.filter((wait) => wait.kind === 'buy').map((wait) => wait.item))) {
    for (let seller = 1; seller < ground.items[item]!.sellers.length; seller += 1) {
      const other = tried(ground, ask, now.way, new Map([[item, seller]]));
      if (other !== null && other < day) {
        const { row, sellers } = ground.items[item]!;
        found.push({ kind: 'vendor', item: row.number, vendor: sellers[seller]!.name, day: other });
      }
    }
  }
  for (const centre of new Set(waits.flatMap((wait) => wait.centre ?? []))) {
    const row = ground.centreRows[centre]!;
    const longer = rows.centres.map((each) =>
      each.id === row.id ? { ...each, shifts: withOvertime(each.shifts) } : each,
    );
    const other = tried(new Ground({ ...rows, centres: longer }), ask, now.way);
    if (other !== null && other < day)
      found.push({ kind: 'overtime', centre: row.code, minutes: OVERTIME, day: other });
  }
  const part = partBy(ground, ask, now.way);
  if (part !== null) found.push(part);
  return found;
}

/** The same shifts with overtime after the last of each weekday, or before the first where the day ends. */
function withOvertime(shifts: readonly Shift[]): Shift[] {
  const more = Array.from({ length: 7 }, (_, weekday): Shift | null => {
    const hours = shifts.filter(({ week }) => week[weekday] === '1');
    if (hours.length === 0) return null;
    const week = '0'.repeat(weekday) + '1' + '0'.repeat(6 - weekday);
    const until = Math.max(...hours.map((each) => each.until));
    const from = Math.min(...hours.map((each) => each.from));
    return until + OVERTIME <= DAY_MINUTES
      ? { week, from: until, until: until + OVERTIME }
      : { week, from: Math.max(0, from - OVERTIME), until: from };
  });
  return [...shifts, ...more.flatMap((each) => (each && each.until > each.from ? [each] : []))];
}

function tried(ground: Ground, ask: Ask, way: Way, sellerOf?: ReadonlyMap<number, number>): DayIndex | null {
  const mark = ground.mark();
  const { day } = answer(ground, ask, way, sellerOf);
  ground.backTo(mark);
  return day;
}

/** How many could be had on the day asked, where not all: whole ones, by halving. */
function partBy(ground: Ground, ask: Ask, way: Way): Shortening | null {
  const by = ask.asked === null ? 0 : ground.dayIndex(ask.asked);
  const item = ground.at(ask.itemId);
  const all = Math.floor((scaled(ask.quantity) - 1) / ONE);
  if (way === 'atp') {
    const [first] = partPromises(ground, item, scaled(ask.quantity), by);
    return first?.day === by && first.quantity < scaled(ask.quantity)
      ? { kind: 'part', quantity: unscaled(first.quantity), day: by }
      : null;
  }
  let low = 0;
  let high = all;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    const day = tried(ground, { ...ask, quantity: String(middle) }, way);
    if (day !== null && day <= by) low = middle;
    else high = middle - 1;
  }
  return low > 0 ? { kind: 'part', quantity: String(low), day: by } : null;
}
