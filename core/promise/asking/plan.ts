import { boughtBy, NEVER, type DayIndex } from '../../kernel';
import { DAY_MINUTES, dayBefore, dayOfMoment, type Moment, type Run, type Slice } from '../ground/capacity';
import { minutesOf, type Ground, type Item, type Operation } from '../ground/ground';
import { partPromises } from '../ground/parts';
import type { Trouble } from '../ground/rows';
import { lotUp, ONE, timesUp, TooMuch, wholeUp, type Scaled } from '../ground/scaled';

/** `have`: what is there, and what is coming, before anything new; `nothing`: all of it new, down to what is bought. // T4 */
export type Mode = 'have' | 'nothing';

/** Taken from what is there or coming. */
export interface FromFree {
  kind: 'free';
  quantity: Scaled;
  day: DayIndex;
}

export interface NewPurchase {
  kind: 'buy';
  /** What is needed, and what the vendor's lot makes of it. */
  quantity: Scaled;
  lot: Scaled;
  seller: number;
  ordered: DayIndex;
  day: DayIndex;
}

export interface PlannedOperation {
  operation: number;
  centre: number;
  minutes: number;
  /** When it could have begun but for the centre: its material is there and the operation before it is done. */
  ready: DayIndex;
  /** Which need was waited for at that; null for the operation before it. */
  waitedFor: number | null;
  firstDay: DayIndex;
  lastDay: DayIndex;
  slices: Slice[];
}

export interface NewOrder {
  kind: 'make';
  quantity: Scaled;
  lot: Scaled;
  start: DayIndex;
  day: DayIndex;
  operations: PlannedOperation[];
  needs: Need[];
  /** The operation each need is for, by its place. */
  neededAt: number[];
  /** Without operations: the need that is there last, and the days it takes from then on. */
  waitedFor: number | null;
}

export type Part = FromFree | NewPurchase | NewOrder;

/** So many of an item, where they come from, and when all of them are there. */
export interface Need {
  item: number;
  quantity: Scaled;
  day: DayIndex;
  parts: Part[];
}

/** Carries why no plan can be made. */
export class Stuck extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble.kind);
  }
}

/** More orders below one line than anybody would read; stops BOMs that fan out without end. */
const MOST_NEEDS = 20_000;

/**
 * Plans what an item needs on a ground, taking from it as it goes: whoever asks next finds it gone.
 * Deterministic; each need costs O(log days), each operation O(days it runs).
 */
export class Planner {
  private needs = 0;

  constructor(
    private readonly ground: Ground,
    private readonly mode: Mode,
    /** The vendor to buy an item from, by its place among its sellers, where not the first. */
    private readonly sellerOf: ReadonlyMap<number, number> = new Map(),
  ) {}

  /**
   * The earliest plan from a day on. Throws `Stuck`; what was taken until then is to be given back by who asked.
   * // T4 T5
   */
  forward(item: number, quantity: Scaled, from: DayIndex): Need {
    this.needs = 0;
    return this.guarded(item, () => this.need(item, quantity, from));
  }

  private guarded(item: number, plan: () => Need): Need {
    try {
      return plan();
    } catch (error) {
      if (error instanceof TooMuch) throw new Stuck({ kind: 'too-much', item: this.ground.items[item]!.row.number });
      throw error;
    }
  }

  private count(item: Item): void {
    this.needs += 1;
    if (this.needs > MOST_NEEDS) throw new Stuck({ kind: 'too-deep', item: item.row.number });
  }

  private need(index: number, quantity: Scaled, from: DayIndex): Need {
    const { ground } = this;
    this.count(ground.items[index]!);
    if (this.mode === 'nothing') return needOf(index, quantity, [this.anew(index, quantity, from)]);
    const { timelines } = ground;
    const free = timelines.earliest(index, from, quantity);
    if (free === from) return needOf(index, quantity, [this.take(index, quantity, from)]);
    // What is free at once and the rest new, or all of it later: whichever is there first, and the same day without an order.
    const mark = ground.mark();
    try {
      let need = this.partlyNew(index, quantity, from, from);
      // What comes before the new one would is taken as well: less is new then.
      const before = Math.min(need.day, ground.horizon) - 1;
      if (before > from && timelines.available(index, before) > 0) {
        ground.backTo(mark);
        need = this.partlyNew(index, quantity, from, before);
      }
      if (need.day < free) return need;
    } catch (error) {
      if (!(error instanceof Stuck) || free === NEVER) throw error;
    }
    ground.backTo(mark);
    return needOf(index, quantity, [this.take(index, quantity, free)]);
  }

  /** What is free or comes until a day, in the order it comes, and the rest new. */
  private partlyNew(index: number, quantity: Scaled, from: DayIndex, until: DayIndex): Need {
    const there = partPromises(this.ground, index, quantity, from, until);
    const parts: Part[] = there.map((part) => this.take(index, part.quantity, part.day));
    const rest = quantity - there.reduce((sum, part) => sum + part.quantity, 0);
    if (rest > 0) parts.push(this.anew(index, rest, from));
    return needOf(index, quantity, parts);
  }

  private take(index: number, quantity: Scaled, day: DayIndex): FromFree {
    this.ground.move(index, day, -quantity);
    return { kind: 'free', quantity, day };
  }

  private anew(index: number, quantity: Scaled, from: DayIndex): NewPurchase | NewOrder {
    const { row } = this.ground.items[index]!;
    if (row.obtained === 'buy') return this.buy(index, quantity, from);
    if (row.obtained === 'none') throw new Stuck({ kind: 'no-way', item: row.number });
    return this.make(index, quantity, from);
  }

  private seller(index: number): number {
    const { row, sellers } = this.ground.items[index]!;
    if (sellers.length === 0) throw new Stuck({ kind: 'nobody-sells', item: row.number });
    return this.sellerOf.get(index) ?? 0;
  }

  private buy(index: number, quantity: Scaled, ordered: DayIndex): NewPurchase {
    const item = this.ground.items[index]!;
    const seller = this.seller(index);
    const day = boughtBy(ordered, item.sellers[seller]!);
    if (day === NEVER) throw this.horizon(item);
    const lot = lotUp(quantity, item.sellers[seller]!.lot);
    this.spare(index, day, lot - quantity);
    return { kind: 'buy', quantity, lot, seller, ordered, day };
  }

  /** What a lot brings beyond the need is there for others. */
  private spare(index: number, day: DayIndex, quantity: Scaled): void {
    if (quantity > 0) this.ground.move(index, day, quantity);
  }

  private horizon(item: Item): Stuck {
    return new Stuck({ kind: 'horizon', item: item.row.number, days: this.ground.horizon });
  }

  /** An order by the BOM and the routing of the day it starts: where that is another than looked at, again. // T4 */
  private make(index: number, quantity: Scaled, from: DayIndex): NewOrder {
    const item = this.ground.items[index]!;
    if (item.cycle) throw new Stuck({ kind: 'cycle', path: item.cycle });
    const mark = this.ground.mark();
    let starts = from;
    for (;;) {
      const order = this.makeOn(item, index, quantity, from, starts);
      if (!item.changes.some((day) => day > starts && day <= order.start)) return order;
      this.ground.backTo(mark);
      starts = order.start;
    }
  }

  /** An order that starts on a day or later, by the BOM and the routing of that day. */
  private makeOn(item: Item, index: number, quantity: Scaled, from: DayIndex, starts: DayIndex): NewOrder {
    const lot = lotUp(quantity, item.lot);
    const routing = item.operations.filter((operation) => on(operation, starts));
    const needs: Need[] = [];
    const neededAt: number[] = [];
    // The day each operation's material is there, and the need that is there last.
    const there = routing.map(() => ({ day: starts, need: null as number | null }));
    let latest = { day: starts, need: null as number | null };
    for (const { need, operation } of this.needsOf(item, lot, from, starts)) {
      const place = Math.max(0, routing.indexOf(item.operations[operation]!));
      needs.push(need);
      neededAt.push(place);
      const at = { day: this.thereOn(need), need: needs.length - 1 };
      if (at.day > latest.day) latest = at;
      if (there.length > 0 && at.day > there[place]!.day) there[place] = at;
    }
    const operations: PlannedOperation[] = [];
    let clock = { day: starts, moment: starts * DAY_MINUTES };
    for (const [place, operation] of routing.entries()) {
      const material = there[place]!;
      const waited = material.day > clock.day;
      if (waited) clock = { day: material.day, moment: material.day * DAY_MINUTES };
      const ready = clock.day;
      const minutes = minutesOf(operation, lot);
      const { start, end, slices } = this.run(item, operation, minutes, clock.moment);
      if (slices.length > 0) clock = { day: dayBefore(end), moment: end };
      operations.push({
        operation: item.operations.indexOf(operation),
        centre: operation.centre,
        minutes,
        ready,
        waitedFor: waited ? material.need : null,
        firstDay: slices.length > 0 ? dayOfMoment(start) : clock.day,
        lastDay: clock.day,
        slices,
      });
    }
    const day = operations.length > 0 ? clock.day : this.ground.ownCalendar.plus(latest.day, item.row.makeDays);
    if (day >= this.ground.horizon) throw this.horizon(item);
    this.spare(index, day, lot - quantity);
    const start = operations[0]?.firstDay ?? latest.day;
    return { kind: 'make', quantity, lot, start, day, operations, needs, neededAt, waitedFor: latest.need };
  }

  /** What goes into a lot that starts on a day: of a phantom its own stock first, then what it is made of. // T4 */
  private *needsOf(
    item: Item,
    lot: Scaled,
    from: DayIndex,
    starts: DayIndex,
    within?: number,
  ): Generator<{ need: Need; operation: number }> {
    for (const component of item.components) {
      if (!on(component, starts)) continue;
      const inner = this.ground.items[component.item]!;
      const operation = within ?? component.operation;
      const quantity = wholeUp(timesUp(lot, component.per, ONE), inner);
      if (!inner.row.phantom) {
        yield { need: this.need(component.item, quantity, from), operation };
        continue;
      }
      if (inner.cycle) throw new Stuck({ kind: 'cycle', path: inner.cycle });
      const free = this.mode === 'have' ? this.ground.timelines.available(component.item, from) : 0;
      const own = Math.min(quantity, Math.max(0, free));
      if (own > 0) yield { need: needOf(component.item, own, [this.take(component.item, own, from)]), operation };
      if (own < quantity) yield* this.needsOf(inner, quantity - own, from, starts, operation);
    }
  }

  /** The first day at whose start it is there: what is made is there the day after. */
  private thereOn(need: Need): DayIndex {
    const made = need.parts.some((part) => part.kind === 'make' && part.day === need.day);
    return made ? need.day + 1 : need.day;
  }

  private run(item: Item, { centre, parallel }: Operation, minutes: number, from: Moment): Run {
    if (!this.ground.centres[centre]!.everWorked) {
      throw new Stuck({ kind: 'no-shift', centre: this.ground.centreRows[centre]!.code });
    }
    const run = this.ground.run(centre, minutes, parallel, from);
    if (!run) throw this.horizon(item);
    return run;
  }
}

/** Whether a BOM line or an operation stands on a day. */
export const on = ({ first, last }: { first: DayIndex; last: DayIndex }, day: DayIndex) => day >= first && day <= last;

function needOf(item: number, quantity: Scaled, parts: Part[]): Need {
  return { item, quantity, day: Math.max(...parts.map((part) => part.day)), parts };
}
