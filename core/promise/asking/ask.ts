import type { Day } from '../../kernel';
import { NEVER, type DayIndex } from '../ground/calendar';
import type { Ground } from '../ground/ground';
import { boughtBy } from '../ground/lead-time';
import { Planner, startOf, Stuck, type Mode, type Need } from './plan';
import type { Trouble, Way } from '../ground/rows';
import { scaled, TooMuch, type Scaled } from '../ground/scaled';

export interface Ask {
  /** Whose it is among the asks of one order. */
  key: string;
  itemId: number;
  /** In the item's own unit, above zero. */
  quantity: string;
  /** The day they would like it; null for as soon as can be. */
  asked: Day | null;
}

/** So many on a day; `lead` where only the lead time says so. */
export interface PartPromise {
  quantity: Scaled;
  day: DayIndex;
  lead: boolean;
}

/** What can be promised one way. */
export interface Answer {
  way: Way;
  /** The day all of it can be had, not before it was asked for; null where no day can be said. */
  day: DayIndex | null;
  trouble: Trouble | null;
  /** How many when, where it does not come at once. // T2 */
  parts: PartPromise[];
  /** What is taken, made and bought for it; null where nothing is planned. // T4 */
  need: Need | null;
  /** Asked for later than it could be: the last day to begin, and our working days until then. // T6 */
  slack: { start: DayIndex; days: number } | null;
}

/**
 * What one line can be promised, taken from the ground as it is answered: the next line finds it gone.
 * Where no answer is possible nothing stays taken. O(log days) for what is there; for a plan as `Planner` says.
 */
export function answer(ground: Ground, ask: Ask, way: Way, sellerOf?: ReadonlyMap<number, number>): Answer {
  const mark = ground.mark();
  try {
    const item = ground.at(ask.itemId);
    const quantity = scaled(ask.quantity);
    const from = ask.asked === null ? 0 : ground.dayIndex(ask.asked);
    if (from >= ground.horizon) {
      throw new Stuck({ kind: 'horizon', item: ground.items[item]!.row.number, days: ground.horizon });
    }
    if (way === 'atp') return available(ground, item, quantity, from);
    if (way === 'lead') return byLeadTime(ground, item, quantity, from);
    return capable(ground, item, quantity, from, way, sellerOf);
  } catch (error) {
    const trouble =
      error instanceof Stuck
        ? error.trouble
        : error instanceof TooMuch
          ? ({ kind: 'too-much', item: ground.items[ground.at(ask.itemId)]!.row.number } as const)
          : null;
    if (!trouble) throw error;
    ground.backTo(mark);
    return { way, day: null, trouble, parts: [], need: null, slack: null };
  }
}

/** The first day from `from` on with enough from then on; else what can be had when, and the lead time for the rest. // T2 */
function available(ground: Ground, item: number, quantity: Scaled, from: DayIndex): Answer {
  const day = ground.timelines.earliest(item, from, quantity);
  const parts = partPromises(ground, item, quantity, from);
  if (day !== NEVER) {
    // All of it at once: taken on that day, however its parts could come.
    ground.move(item, day, -quantity);
    return { way: 'atp', day, trouble: null, parts, need: null, slack: null };
  }
  for (const part of parts) ground.move(item, part.day, -part.quantity);
  const promised = parts.reduce((sum, part) => sum + part.quantity, 0);
  const lead = Math.max(from, leadDay(ground, item));
  parts.push({ quantity: quantity - promised, day: lead, lead: true });
  return { way: 'atp', day: Math.max(...parts.map((part) => part.day)), trouble: null, parts, need: null, slack: null };
}

/** What of a quantity can be promised when, in the order it comes; less than the quantity where there is not enough. // T2 */
export function partPromises(ground: Ground, item: number, quantity: Scaled, from: DayIndex): PartPromise[] {
  const parts: PartPromise[] = [];
  let promised = 0;
  const take = (day: DayIndex, available: Scaled) => {
    const more = Math.min(quantity, available) - promised;
    if (more <= 0) return;
    parts.push({ quantity: more, day, lead: false });
    promised += more;
  };
  take(from, ground.timelines.available(item, from));
  if (promised < quantity) {
    for (const step of ground.timelines.steps(item)) if (step.day > from) take(step.day, step.available);
  }
  return parts;
}

/** The day a new one is there, ordered or begun today, with no look at capacity. // T3 */
function leadDay(ground: Ground, index: number): DayIndex {
  const item = ground.items[index]!;
  const [seller] = item.sellers;
  const bought = item.row.obtained === 'buy';
  if (bought && !seller) throw new Stuck({ kind: 'nobody-sells', item: item.row.number });
  if (!bought && item.row.makeDays === 0) {
    throw new Stuck({ kind: item.row.obtained === 'none' ? 'no-way' : 'no-lead', item: item.row.number });
  }
  const day = bought ? boughtBy(0, seller!) : ground.ownCalendar.plus(0, item.row.makeDays);
  if (day === NEVER) throw new Stuck({ kind: 'horizon', item: item.row.number, days: ground.horizon });
  return day;
}

function byLeadTime(ground: Ground, item: number, quantity: Scaled, from: DayIndex): Answer {
  const day = Math.max(from, leadDay(ground, item));
  return {
    way: 'lead',
    day,
    trouble: null,
    parts: [{ quantity, day, lead: true }],
    need: null,
    slack: null,
  };
}

/** Planned from today; where that is done before the day asked, planned again backward from it. // T4 T5 T6 */
function capable(
  ground: Ground,
  item: number,
  quantity: Scaled,
  from: DayIndex,
  mode: Mode,
  sellerOf?: ReadonlyMap<number, number>,
): Answer {
  const planner = new Planner(ground, mode, sellerOf);
  const mark = ground.mark();
  const need = planner.forward(item, quantity, 0);
  if (need.day >= from) return planned(mode, need.day, need, null);
  ground.backTo(mark);
  try {
    const later = planner.backward(item, quantity, from);
    const start = startOf(later);
    return planned(mode, from, later, { start, days: ground.ownCalendar.between(0, start) });
  } catch (error) {
    if (!(error instanceof Stuck)) throw error;
    // Backward it would not fit; done early it does.
    ground.backTo(mark);
    return planned(mode, from, planner.forward(item, quantity, 0), { start: 0, days: 0 });
  }
}

function planned(way: Way, day: DayIndex, need: Need, slack: Answer['slack']): Answer {
  const parts = need.parts
    .map((part) => ({ quantity: part.quantity, day: Math.max(part.day, slack ? day : 0), lead: false }))
    .sort((a, b) => a.day - b.day);
  return { way, day, trouble: null, parts, need, slack };
}

/**
 * Lines of one order, competing in their order for the same stock and capacity; the ground is as before afterwards.
 * `wayOf` says the way of each.
 */
export function answers<Each extends Ask>(
  ground: Ground,
  asks: readonly Each[],
  wayOf: (ask: Each) => Way,
  sellerOf?: ReadonlyMap<number, number>,
): Answer[] {
  const mark = ground.mark();
  const found = asks.map((ask) => answer(ground, ask, wayOf(ask), sellerOf));
  ground.backTo(mark);
  return found;
}
