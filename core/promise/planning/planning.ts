import { addDays, boughtBy, NEVER, orderBy, type Day, type DayIndex } from '../../kernel';
import { Ground, minutesOf, type Item } from '../ground/ground';
import type { GroundRows, MoveRow, Obtained } from '../ground/rows';
import { bySource, inTime, matched, type Timed } from './matching';
import { exactly, lotUp, ONE, scaled, timesUp, unscaled, wholeUp, type Scaled } from '../ground/scaled';
import { on } from '../asking/plan';

/** Who a proposal is for: the demand, and how much of it. */
export interface PeggedDemand {
  source: MoveRow['source'];
  day: Day;
  quantity: string;
}

export interface PlaceProposal {
  kind: 'place';
  itemId: number;
  obtained: Exclude<Obtained, 'none'>;
  quantity: string;
  start: Day;
  due: Day;
  /** The day it was needed, where it cannot be there by then; null where it can. */
  neededOn: Day | null;
  vendorId: number | null;
  /** What of phantoms in it is there already. // T4 */
  own: { itemId: number; quantity: string }[];
  for: PeggedDemand[];
}

export interface MoveProposal {
  kind: 'move';
  itemId: number;
  source: MoveRow['source'];
  quantity: string;
  from: Day;
  to: Day;
  neededOn: Day | null;
  for: PeggedDemand[];
}

export interface CancelProposal {
  kind: 'cancel';
  itemId: number;
  source: MoveRow['source'];
  quantity: string;
  from: Day;
  for: PeggedDemand[];
}

export type Proposal = PlaceProposal | MoveProposal | CancelProposal;

/** What is short and will not be more of: an item nobody sells us, or that is neither bought nor made. */
export interface Short {
  itemId: number;
  quantity: string;
  day: Day;
  why: 'nobody-sells' | 'no-way' | 'cycle';
}

/** A supply that is there, comes too late for whom it is for, and cannot come sooner. // T11 */
export interface Late {
  itemId: number;
  source: MoveRow['source'];
  /** What of it is late. */
  quantity: string;
  comes: Day;
  /** The first day it was needed. */
  neededOn: Day;
  for: PeggedDemand[];
}

export interface PlanningRun {
  proposals: Proposal[];
  short: Short[];
  late: Late[];
}

/** A supply that comes up to so many days before it is needed stays where it is. */
export const EARLY_DAYS = 7;

interface Demand extends Timed {
  source: MoveRow['source'];
  /** The order that is proposed it is needed for. */
  of?: PlaceProposal;
}

interface Supply extends Timed {
  /** The day it comes on as it stands; `day` is as it would. */
  was: DayIndex;
  from: Day;
  left: Scaled;
  /** Neither moved nor cancelled. */
  fixed: boolean;
  /** Of a supply that is there: the demand it first serves, and all of them. */
  first: DayIndex | null;
  for: PeggedDemand[];
}

/** Why there is no way to have more of an item; null where there is. */
function whyNone({ row, cycle, sellers }: Item): Short['why'] | null {
  if (cycle) return 'cycle';
  if (row.obtained === 'none') return 'no-way';
  return row.obtained === 'buy' && sellers.length === 0 ? 'nobody-sells' : null;
}

/** More than any supplies were seen to need. */
const MOST_TURNS = 50;

/** Items between two reports. */
const REPORT_EVERY = 250;

/**
 * Net needs level by level, parents before what they are made of: what is on hand serves demand in the order of its
 * days, then what is coming, in the order of its days; the rest is to be placed, in lots. A supply that serves too late
 * is to be moved to where it is needed, but not before it could be there; one much too early, back; one that serves
 * nobody, cancelled. Orders placed or moved bring the demand of their components with them. Capacity is not looked at.
 * When all is taken, the next run proposes nothing. // T11
 * `forecast` is planned demand that is not released yet. O(moves × log moves), and the BOM lines of what is placed.
 * `report` hears now and then how many items are planned.
 */
export function planningRun(
  rows: GroundRows,
  until: Day,
  forecast: readonly MoveRow[] = [],
  report?: (done: number) => void,
): PlanningRun {
  const ground = new Ground({ ...rows, supplies: [], demands: [] });
  const run = new Run(ground, rows, until, forecast);
  return run.all(report);
}

class Run {
  private readonly demands: Demand[][];
  private readonly supplies: Supply[][];
  private readonly proposals: Proposal[] = [];
  private readonly short: Short[] = [];
  private readonly late: Late[] = [];
  private readonly last: DayIndex;
  /** The day of the supply before, once settled: supplies keep their order, so that the next run finds them so. */
  private settled: DayIndex = 0;
  /** Of the item last matched: what served orders that are proposed. */
  private served: { of: PlaceProposal; quantity: Scaled }[] = [];
  private ofOrders: Map<string, { item: number; demand: Demand }[]> | null = null;

  constructor(
    private readonly ground: Ground,
    rows: GroundRows,
    until: Day,
    forecast: readonly MoveRow[],
  ) {
    this.last = Math.min(ground.dayIndex(until), ground.horizon - 1);
    this.demands = ground.items.map(() => []);
    this.supplies = ground.items.map(() => []);
    const known = new Set(rows.items.map((item) => item.id));
    for (const move of [...rows.demands, ...forecast]) {
      if (!known.has(move.itemId)) continue;
      const demand = { day: ground.dayIndex(move.day), quantity: scaled(move.quantity), source: move.source };
      this.demands[ground.at(move.itemId)]!.push(demand);
    }
    for (const move of rows.supplies) {
      if (!known.has(move.itemId)) continue;
      const quantity = scaled(move.quantity);
      const day = ground.supplyDay(move.day);
      this.supplies[ground.at(move.itemId)]!.push({
        was: day,
        day,
        from: move.day,
        quantity,
        left: quantity,
        fixed: move.fixed ?? false,
        source: move.source,
        first: null,
        for: [],
      });
    }
  }

  all(report?: (done: number) => void): PlanningRun {
    for (const index of this.ground.items.keys()) {
      this.plan(index);
      if (report && (index + 1) % REPORT_EVERY === 0) report(index + 1);
    }
    return { proposals: this.proposals, short: this.short, late: this.late };
  }

  private day(index: DayIndex): Day {
    return addDays(this.ground.rows.workDate, index);
  }

  private plan(index: number): void {
    const item = this.ground.items[index]!;
    const there = this.supplies[index]!;
    const demands = this.demands[index]!.sort(inTime);
    const none = whyNone(item);
    let coming = [...there];
    let rest: Demand[] = [];
    // Supplies that move to one day may serve in another order then, and one of them nobody; and what is placed may come
    // before one that cannot move: until nothing changes.
    for (let turn = 0; turn < MOST_TURNS; turn += 1) {
      coming.sort(inTime);
      rest = this.match(item, coming, demands);
      const kept = coming.filter((supply) => supply.fixed || supply.first !== null || this.isBeyond(supply));
      const moved = this.settle(item, kept);
      if (!moved && kept.length === coming.length) {
        if (none !== null || item.row.phantom || rest.length === 0) break;
        kept.push(...this.placeFor(item, rest));
      }
      coming = kept;
    }
    for (const supply of there) this.tell(item, supply, coming.includes(supply));
    for (const supply of coming) if (supply.source === null) this.propose(item, supply);
    if (item.row.phantom) {
      for (const { of, quantity } of this.served) of.own.push({ itemId: item.row.id, quantity: unscaled(quantity) });
    }
    if (item.row.phantom && none !== 'cycle') {
      // Never made by itself: what it is made of is needed in its place.
      for (const { quantity, day, source, of } of rest) this.explode(item, quantity, day, source, of);
      return;
    }
    for (const { quantity, day } of none === null ? [] : rest) {
      this.short.push({ itemId: item.row.id, quantity: unscaled(quantity), day: this.day(day), why: none! });
    }
  }

  /** What is there already and comes after the last day is not looked at. */
  private isBeyond({ source, day }: Supply): boolean {
    return source !== null && day > this.last;
  }

  /** Serves demand in the order of its days from what is there, then from what comes; what nothing serves is left. */
  private match(item: Item, supplies: readonly Supply[], demands: readonly Demand[]): Demand[] {
    for (const supply of supplies) {
      supply.left = supply.quantity;
      supply.first = null;
      supply.for = [];
    }
    const served: { of: PlaceProposal; quantity: Scaled }[] = [];
    // What stays and comes too late serves only what it is there for, unless a new one could not be there before it.
    const waits = whyNone(item) !== null;
    const rest = matched(
      item.row,
      demands,
      supplies,
      (supply, demand, quantity) => {
        if (supply) this.serve(supply, demand, quantity);
        if ('of' in demand && demand.of) served.push({ of: demand.of, quantity });
      },
      ({ fixed, day, quantity }, demand) => !fixed || day <= demand.day || waits || this.soonest(item, quantity) >= day,
    );
    this.served = served;
    // Nothing is placed for what is needed after the last day; what comes may serve it.
    return rest.filter((demand) => demand.day <= this.last);
  }

  /** Says of a supply that is there what is to become of it. */
  private tell(item: Item, supply: Supply, kept: boolean): void {
    const about = {
      itemId: item.row.id,
      source: supply.source!,
      quantity: unscaled(supply.quantity),
      from: supply.from,
      for: kept ? supply.for : [],
    };
    if (!kept) {
      this.proposals.push({ kind: 'cancel', ...about });
      this.shift(supply.source!, null);
    } else if (supply.day !== supply.was) {
      const late = supply.first !== null && supply.day > supply.first;
      const neededOn = late ? this.day(supply.first!) : null;
      this.proposals.push({ kind: 'move', ...about, to: this.day(supply.day), neededOn });
      this.shift(supply.source!, supply.day - supply.was);
    } else if (supply.first !== null && supply.day > supply.first) this.tellLate(about, supply);
  }

  /** Nothing can be done about it but to know it. */
  private tellLate({ itemId, source, from }: Pick<Late, 'itemId' | 'source'> & { from: Day }, supply: Supply): void {
    const comes = this.day(supply.day);
    const waits = supply.for.filter((each) => each.day < comes);
    const late = waits.reduce((sum, each) => sum + scaled(each.quantity), 0);
    const neededOn = waits.map((each) => each.day).sort()[0]!;
    this.late.push({
      itemId,
      source,
      quantity: unscaled(late),
      comes: from < comes ? comes : from,
      neededOn,
      for: waits,
    });
  }

  private serve(supply: Supply, demand: Demand, taken: Scaled): void {
    supply.left -= taken;
    supply.first ??= demand.day;
    supply.for.push({ source: demand.source, day: this.day(demand.day), quantity: unscaled(taken) });
  }

  /**
   * New orders for what nothing that comes serves, one for all that is needed on a day; what a lot brings beyond that
   * serves what follows.
   */
  private placeFor(item: Item, demands: readonly Demand[]): Supply[] {
    const placed: Supply[] = [];
    const byDay = new Map<DayIndex, Scaled>();
    for (const { day, quantity } of demands) byDay.set(day, exactly((byDay.get(day) ?? 0) + quantity));
    let spare: Scaled = 0;
    for (const [first, all] of byDay) {
      const needed = all - Math.min(spare, all);
      spare -= all - needed;
      if (needed === 0) continue;
      const quantity = lotUp(needed, item.row.obtained === 'buy' ? item.sellers[0]!.lot : item.lot);
      spare += quantity - needed;
      const wanted = Math.max(first, this.settled);
      const day = this.startFor(item, quantity, wanted) >= 0 ? wanted : this.soonest(item, quantity);
      this.settled = day;
      placed.push({
        was: day,
        day,
        from: this.day(day),
        quantity,
        left: quantity,
        fixed: false,
        source: null,
        first,
        for: [],
      });
    }
    return placed;
  }

  private propose(item: Item, supply: Supply): void {
    const { row } = item;
    if (row.obtained === 'none') return;
    const start = Math.max(0, this.startFor(item, supply.quantity, supply.day));
    const late = supply.first !== null && supply.day > supply.first;
    const proposal: PlaceProposal = {
      kind: 'place',
      itemId: row.id,
      obtained: row.obtained,
      quantity: unscaled(supply.quantity),
      start: this.day(start),
      due: this.day(supply.day),
      neededOn: late ? this.day(supply.first!) : null,
      vendorId: row.obtained === 'buy' ? item.sellers[0]!.vendorId : null,
      own: [],
      for: supply.for,
    };
    this.proposals.push(proposal);
    const source = { kind: 'proposal', id: row.id, number: row.number, party: '' };
    if (row.obtained !== 'buy') this.explode(item, supply.quantity, start, source, proposal);
  }

  /** When it must be ordered or begun to be there by a day; -1 where that was before today. */
  private startFor(item: Item, quantity: Scaled, by: DayIndex): DayIndex {
    if (item.row.obtained === 'buy') return orderBy(by, item.sellers[0]!);
    const start = this.ground.ownCalendar.minus(by, this.daysToMake(item, quantity, by));
    // By the routing of the day it starts. // T4
    return item.changes.some((day) => day > start && day <= by)
      ? this.ground.ownCalendar.minus(by, this.daysToMake(item, quantity, Math.max(0, start)))
      : start;
  }

  private after(days: number): DayIndex {
    const day = this.ground.ownCalendar.plus(0, days);
    return day === NEVER ? this.ground.horizon - 1 : day;
  }

  /** Working days an order takes by itself: each operation its whole days, as if nobody else were there. */
  private daysToMake(item: Item, quantity: Scaled, day: DayIndex): number {
    const days = item.operations.reduce((sum, operation) => {
      if (!on(operation, day)) return sum;
      const centre = this.ground.centres[operation.centre]!;
      const aDay = centre.dayLong(operation.parallel);
      return sum + (aDay > 0 ? Math.ceil(minutesOf(operation, quantity) / aDay) : 0);
    }, 0);
    return Math.max(days, item.row.makeDays);
  }

  /** What goes into so many that start on a day is needed then. // T4 */
  private explode(item: Item, lot: Scaled, start: DayIndex, source: Demand['source'], of?: PlaceProposal): void {
    for (const component of item.components) {
      if (!on(component, start)) continue;
      const quantity = wholeUp(timesUp(lot, component.per, ONE), this.ground.items[component.item]!);
      this.demands[component.item]!.push({ day: start, quantity, source, ...(of && { of }) });
    }
  }

  /**
   * Moves what is there where it serves late or much too early; true where anything moves. What comes on one day goes
   * together, and never before what serves earlier demand.
   */
  private settle(item: Item, supplies: readonly Supply[]): boolean {
    this.settled = 0;
    let moved = false;
    for (let from = 0; from < supplies.length;) {
      const { day } = supplies[from]!;
      let to = from;
      while (to < supplies.length && supplies[to]!.day === day) to += 1;
      const used = supplies.slice(from, to).filter((supply) => supply.first !== null);
      const free = used.filter((supply) => !supply.fixed);
      const settled = free.length > 0 ? this.dayFor(item, day, free) : day;
      if (free.length > 0) this.settled = settled;
      if (settled !== day) moved = true;
      for (const supply of free) supply.day = settled;
      from = to;
    }
    return moved;
  }

  private dayFor(item: Item, day: DayIndex, used: readonly Supply[]): DayIndex {
    const first = used[0]!.first!;
    const soonest = Math.max(...used.map((supply) => this.soonest(item, supply.quantity)));
    // What comes after the last day is left where it is, unless it is needed before.
    const tooEarly = first - day > EARLY_DAYS && day <= this.last;
    const wanted = first > day ? (tooEarly ? first : day) : Math.min(day, Math.max(first, soonest));
    return Math.max(wanted, this.settled);
  }

  /** The first day a supply that is not begun could be there. */
  private soonest(item: Item, quantity: Scaled): DayIndex {
    if (item.row.obtained === 'buy') {
      return item.sellers[0] ? Math.min(boughtBy(0, item.sellers[0]), this.ground.horizon - 1) : 0;
    }
    return this.after(this.daysToMake(item, quantity, 0));
  }

  /** What an order needs moves with it; null where it goes. Its components come after it in the order of items. */
  private shift(source: MoveRow['source'], by: number | null): void {
    if (source.kind !== 'PR' && source.kind !== 'AS') return;
    for (const { item, demand } of this.componentsOf(source)) {
      if (by !== null) demand.day = Math.max(0, demand.day + by);
      else this.demands[item]!.splice(this.demands[item]!.indexOf(demand), 1);
    }
  }

  /** The demand orders that are there have for their components, by order; looked up once for all. */
  private componentsOf(source: MoveRow['source']): readonly { item: number; demand: Demand }[] {
    if (!this.ofOrders) {
      this.ofOrders = new Map();
      for (const [item, demands] of this.demands.entries()) {
        for (const demand of demands) {
          if (demand.source.kind !== 'PR' && demand.source.kind !== 'AS') continue;
          const key = bySource(demand.source);
          const of = this.ofOrders.get(key);
          if (of) of.push({ item, demand });
          else this.ofOrders.set(key, [{ item, demand }]);
        }
      }
    }
    return this.ofOrders.get(bySource(source)) ?? [];
  }
}
