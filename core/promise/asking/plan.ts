import { NEVER, type DayIndex } from '../ground/calendar';
import type { Clock, Slice } from '../ground/capacity';
import { minutesOf, type Ground, type Item } from '../ground/ground';
import { boughtBy, orderBy } from '../ground/lead-time';
import type { Trouble } from '../ground/rows';
import { lotUp, ONE, timesUp, TooMuch, type Scaled } from '../ground/scaled';

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

  /** The latest plan that has it by a day. Throws `Stuck` where it would have to begin before today. // T6 */
  backward(item: number, quantity: Scaled, by: DayIndex): Need {
    this.needs = 0;
    return this.guarded(item, () => this.needBy(item, quantity, by));
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
    const now = Math.min(quantity, Math.max(0, timelines.available(index, from)));
    try {
      const parts: Part[] = now > 0 ? [this.take(index, now, from)] : [];
      parts.push(this.anew(index, quantity - now, from));
      const need = needOf(index, quantity, parts);
      if (need.day < free) return need;
    } catch (error) {
      if (!(error instanceof Stuck) || free === NEVER) throw error;
    }
    ground.backTo(mark);
    return needOf(index, quantity, [this.take(index, quantity, free)]);
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

  private make(index: number, quantity: Scaled, from: DayIndex): NewOrder {
    const item = this.ground.items[index]!;
    if (item.cycle) throw new Stuck({ kind: 'cycle', path: item.cycle });
    const lot = lotUp(quantity, item.lot);
    const needs: Need[] = [];
    const neededAt: number[] = [];
    // The day each operation's material is there, and the need that is there last.
    const there = item.operations.map(() => ({ day: from, need: null as number | null }));
    let latest = { day: from, need: null as number | null };
    for (const component of item.components) {
      if (from < component.first || from > component.last) continue;
      const need = this.need(component.item, timesUp(lot, component.per, ONE), from);
      needs.push(need);
      neededAt.push(component.operation);
      const day = this.thereOn(need);
      const at = { day, need: needs.length - 1 };
      if (day > latest.day) latest = at;
      if (there.length > 0 && day > there[component.operation]!.day) there[component.operation] = at;
    }
    const operations: PlannedOperation[] = [];
    let clock: Clock = { day: from, minutes: 0 };
    for (const [place, operation] of item.operations.entries()) {
      const material = there[place]!;
      const waited = material.day > clock.day;
      if (waited) clock = { day: material.day, minutes: 0 };
      const ready = clock.day;
      const minutes = minutesOf(operation, lot);
      const run = this.run(item, operation.centre, minutes, operation.parallel, clock, 'forward');
      operations.push({
        operation: place,
        centre: operation.centre,
        minutes,
        ready,
        waitedFor: waited ? material.need : null,
        firstDay: run.firstDay,
        lastDay: run.lastDay,
        slices: run.slices,
      });
      clock = { day: run.lastDay, minutes: run.clock };
    }
    const day = operations.length > 0 ? clock.day : this.ground.ownCalendar.plus(latest.day, item.row.makeDays);
    if (day >= this.ground.horizon) throw this.horizon(item);
    this.spare(index, day, lot - quantity);
    const start = operations[0]?.firstDay ?? latest.day;
    return { kind: 'make', quantity, lot, start, day, operations, needs, neededAt, waitedFor: latest.need };
  }

  /** The first day at whose start it is there: what is made is there the day after. */
  private thereOn(need: Need): DayIndex {
    const made = need.parts.some((part) => part.kind === 'make' && part.day === need.day);
    return made ? need.day + 1 : need.day;
  }

  private run(
    item: Item,
    centreIndex: number,
    minutes: number,
    parallel: number,
    clock: Clock,
    way: 'forward' | 'backward',
  ) {
    const centre = this.ground.centres[centreIndex]!;
    if (centre.machines * centre.shift <= 0 || centre.calendar.next(0) === NEVER) {
      throw new Stuck({ kind: 'no-shift', centre: this.ground.centreRows[centreIndex]!.code });
    }
    const run = centre[way](minutes, parallel, clock);
    if (!run) {
      throw way === 'forward' ? this.horizon(item) : new Stuck({ kind: 'before-today', item: item.row.number });
    }
    for (const slice of run.slices) this.ground.took(centreIndex, slice.day, slice.minutes);
    return run;
  }

  private needBy(index: number, quantity: Scaled, by: DayIndex): Need {
    const { ground } = this;
    this.count(ground.items[index]!);
    if (by < 0) throw new Stuck({ kind: 'before-today', item: ground.items[index]!.row.number });
    const parts: Part[] = [];
    let rest = quantity;
    if (this.mode === 'have') {
      const free = Math.min(quantity, Math.max(0, ground.timelines.available(index, by)));
      if (free > 0) parts.push(this.take(index, free, by));
      rest -= free;
    }
    if (rest > 0) parts.push(this.anewBy(index, rest, by));
    return needOf(index, quantity, parts);
  }

  private anewBy(index: number, quantity: Scaled, by: DayIndex): NewPurchase | NewOrder {
    const item = this.ground.items[index]!;
    if (item.row.obtained === 'none') throw new Stuck({ kind: 'no-way', item: item.row.number });
    if (item.row.obtained !== 'buy') return this.makeBy(index, quantity, by);
    const seller = this.seller(index);
    const ordered = orderBy(by, item.sellers[seller]!);
    if (ordered < 0) throw new Stuck({ kind: 'before-today', item: item.row.number });
    const day = boughtBy(ordered, item.sellers[seller]!);
    const lot = lotUp(quantity, item.sellers[seller]!.lot);
    this.spare(index, day, lot - quantity);
    return { kind: 'buy', quantity, lot, seller, ordered, day };
  }

  private makeBy(index: number, quantity: Scaled, by: DayIndex): NewOrder {
    const item = this.ground.items[index]!;
    if (item.cycle) throw new Stuck({ kind: 'cycle', path: item.cycle });
    const lot = lotUp(quantity, item.lot);
    const operations: PlannedOperation[] = [];
    let clock: Clock = { day: by, minutes: 0 };
    for (let place = item.operations.length - 1; place >= 0; place -= 1) {
      const operation = item.operations[place]!;
      const minutes = minutesOf(operation, lot);
      const run = this.run(item, operation.centre, minutes, operation.parallel, clock, 'backward');
      operations.unshift({
        operation: place,
        centre: operation.centre,
        minutes,
        ready: run.firstDay,
        waitedFor: null,
        firstDay: run.firstDay,
        lastDay: run.lastDay,
        slices: run.slices,
      });
      clock = { day: run.firstDay, minutes: run.clock };
    }
    const day = operations.at(-1)?.lastDay ?? by;
    const start = operations[0]?.firstDay ?? this.ground.ownCalendar.minus(by, item.row.makeDays);
    if (start < 0) throw new Stuck({ kind: 'before-today', item: item.row.number });
    const needs: Need[] = [];
    const neededAt: number[] = [];
    for (const component of item.components) {
      if (by < component.first || by > component.last) continue;
      const at = operations[component.operation]?.firstDay ?? start;
      const needed = timesUp(lot, component.per, ONE);
      // What is made must be done the day before; what is bought or there, on the day.
      const made = this.ground.items[component.item]!.row.obtained !== 'buy';
      needs.push(this.needBy(component.item, needed, made ? at - 1 : at));
      neededAt.push(component.operation);
    }
    this.spare(index, day, lot - quantity);
    return { kind: 'make', quantity, lot, start, day, operations, needs, neededAt, waitedFor: null };
  }
}

function needOf(item: number, quantity: Scaled, parts: Part[]): Need {
  return { item, quantity, day: Math.max(...parts.map((part) => part.day)), parts };
}

/** The first day anything of a plan must be done: an order placed, an operation begun. */
export function startOf(need: Need): DayIndex {
  return Math.min(
    ...need.parts.map((part) => {
      if (part.kind === 'free') return part.day;
      if (part.kind === 'buy') return part.ordered;
      return Math.min(part.start, ...part.needs.map(startOf));
    }),
  );
}
