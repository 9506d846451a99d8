import { boughtBy, NEVER, type Calendar, type Day, type DayIndex, type LeadTime } from '../../kernel';
import type { Ground } from '../ground/ground';
import { partPromises, type PartPromise } from '../ground/parts';
import { Planner, Stuck, type Mode, type Need } from './plan';
import type { ItemRow, Trouble, Way } from '../ground/rows';
import { scaled, TooMuch, type Scaled } from '../ground/scaled';

export interface Ask {
  /** Whose it is among the asks of one order. */
  key: string;
  itemId: number;
  /** In the item's own unit, above zero. */
  quantity: string;
  /** The day they would like it; null for as soon as can be. */
  asked: Day | null;
  /** It goes from the vendor straight to the customer: only the lead time says when. // L2 T3 */
  straight?: boolean;
  /** Something is chosen for it: what there is and what is planned is made another way. // W2 */
  own?: boolean;
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
    if (way === 'lead') return byLeadTime(ground, item, quantity, from, ask.straight);
    if (ask.straight) throw new Stuck({ kind: 'straight', item: ground.items[item]!.row.number });
    if (ask.own) throw new Stuck({ kind: 'own-way', item: ground.items[item]!.row.number });
    if (way === 'atp') return available(ground, item, quantity, from);
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

/**
 * The first day from `from` on with enough from then on, or by lead time where that is earlier: then what can be had
 * until then, when, and the lead time for the rest. // T2
 */
function available(ground: Ground, item: number, quantity: Scaled, from: DayIndex): Answer {
  const day = ground.timelines.earliest(item, from, quantity);
  const soonest = leadDay(ground, item);
  const lead = typeof soonest === 'number' ? Math.max(from, soonest) : NEVER;
  if (day !== NEVER && day <= lead) {
    const parts = partPromises(ground, item, quantity, from);
    // All of it at once: taken on that day, however its parts could come.
    ground.move(item, day, -quantity);
    return { way: 'atp', day, trouble: null, parts, need: null, slack: null };
  }
  if (typeof soonest !== 'number') throw new Stuck(soonest);
  const parts = partPromises(ground, item, quantity, from, lead);
  for (const part of parts) ground.move(item, part.day, -part.quantity);
  const promised = parts.reduce((sum, part) => sum + part.quantity, 0);
  parts.push({ quantity: quantity - promised, day: lead, lead: true });
  return { way: 'atp', day: lead, trouble: null, parts, need: null, slack: null };
}

/** The day a new one is there, ordered or begun today, with no look at capacity; or why no day can be said. O(1). // T3 */
export function leadDay(ground: Ground, index: number): DayIndex | Trouble {
  const { row, sellers } = ground.items[index]!;
  return soonestNew(row, sellers[0], ground.ownCalendar);
}

/** The day a vendor's goods are with the customer: nothing is to be received here. O(1). // L2 T3 */
function straightDay(ground: Ground, index: number): DayIndex | Trouble {
  const { row, sellers } = ground.items[index]!;
  const [seller] = sellers;
  if (!seller) return { kind: 'nobody-sells', item: row.number };
  const day = boughtBy(0, { ...seller, ownDays: 0, ownCalendar: seller.vendorCalendar });
  return day === NEVER ? { kind: 'horizon', item: row.number, days: ground.horizon } : day;
}

/** The same of an item with whom it is bought from first. O(1). // T3 */
export function soonestNew(
  { number: item, obtained, makeDays }: ItemRow,
  seller: LeadTime | undefined,
  ownCalendar: Calendar,
): DayIndex | Trouble {
  const bought = obtained === 'buy';
  if (bought && !seller) return { kind: 'nobody-sells', item };
  if (!bought && (obtained === 'none' || makeDays === 0)) {
    return { kind: obtained === 'none' ? 'no-way' : 'no-lead', item };
  }
  const day = bought ? boughtBy(0, seller!) : ownCalendar.plus(0, makeDays);
  return day === NEVER ? { kind: 'horizon', item, days: ownCalendar.days } : day;
}

function byLeadTime(ground: Ground, item: number, quantity: Scaled, from: DayIndex, straight = false): Answer {
  const soonest = straight ? straightDay(ground, item) : leadDay(ground, item);
  if (typeof soonest !== 'number') throw new Stuck(soonest);
  const day = Math.max(from, soonest);
  return {
    way: 'lead',
    day,
    trouble: null,
    parts: [{ quantity, day, lead: true }],
    need: null,
    slack: null,
  };
}

/**
 * Planned from today; where that is done before the day asked, from the latest day that still meets it: from our next
 * working day it would not. At most log2 of the working days until then plans more. // T4 T5 T6
 */
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
  const { ownCalendar } = ground;
  const meets = (day: DayIndex): boolean => {
    try {
      return planner.forward(item, quantity, day).day <= from;
    } catch (error) {
      if (error instanceof Stuck) return false;
      throw error;
    } finally {
      ground.backTo(mark);
    }
  };
  let start = from;
  if (!meets(from)) {
    // Today, then our working days one after the other; the first of them after the day asked cannot.
    const dayOf = (working: number) => (working === 0 ? 0 : ownCalendar.plus(0, working));
    let low = 0;
    let high = ownCalendar.between(1, from + 1) + 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (meets(dayOf(middle))) low = middle;
      else high = middle;
    }
    start = dayOf(low);
  }
  const later = planner.forward(item, quantity, start);
  return planned(mode, from, later, { start, days: ownCalendar.between(0, start) });
}

function planned(way: Way, day: DayIndex, need: Need, slack: Answer['slack']): Answer {
  const byDay = new Map<DayIndex, Scaled>();
  for (const part of need.parts) {
    const on = Math.max(part.day, slack ? day : 0);
    byDay.set(on, (byDay.get(on) ?? 0) + part.quantity);
  }
  const parts = [...byDay].sort(([a], [b]) => a - b).map(([on, quantity]) => ({ quantity, day: on, lead: false }));
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
