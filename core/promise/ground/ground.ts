import {
  assert,
  Calendar,
  daysBetween,
  groupedBy,
  isWholeUnit,
  weekdayOf,
  type Day,
  type DayIndex,
  type LeadTime,
} from '../../kernel';
import { Centre, type DayOf, type DaySteps, type Moment, type Run, type Stretch } from './capacity';
import type { ComponentRow, GroundRows, ItemRow, LoadRow, OvertimeRow } from './rows';
import { exactly, ONE, scaled, timesUp, type Lot, type Scaled } from './scaled';
import { Timelines } from './timelines';

/** Minutes of run time travel with 2 places. */
export const RUN_ONE = 100;

export interface Component {
  readonly item: number;
  /** For one piece, scrap in it. */
  readonly per: Scaled;
  /** Its place among the operations of the item. */
  readonly operation: number;
  readonly first: DayIndex;
  readonly last: DayIndex;
}

export interface Operation {
  readonly first: DayIndex;
  readonly last: DayIndex;
  readonly no: number;
  readonly name: string;
  readonly centre: number;
  /** Hundredths of a minute. */
  readonly setup: number;
  readonly run: number;
  readonly parallel: number;
}

export interface Seller extends LeadTime {
  readonly vendorId: number;
  readonly name: string;
  readonly lot: Lot;
}

/** An item as promising sees it. */
export interface Item {
  readonly row: ItemRow;
  readonly lot: Lot;
  readonly sellers: readonly Seller[];
  readonly components: readonly Component[];
  readonly operations: readonly Operation[];
  readonly cycle: readonly string[] | null;
  /** Counted in whole units only. */
  readonly whole: boolean;
  /** Days of the horizon on which another BOM or routing begins, in order. // T4 */
  readonly changes: readonly DayIndex[];
}

const ALWAYS = 0x7ffffffe;

/**
 * What promises are computed on: items in low-level-code order (parents before what they are made of), their balances,
 * and the work centres with what they have free. Everything taken is written down and can be given back.
 * Building costs O(items + BOM lines + events + loads + centres × days); the same rows in any order build the same.
 */
export class Ground {
  readonly items: readonly Item[];
  readonly timelines: Timelines;
  readonly centres: readonly Centre[];
  readonly centreRows: GroundRows['centres'];
  readonly ownCalendar: Calendar;
  readonly horizon: number;
  private readonly indexOf: ReadonlyMap<number, number>;
  private readonly centreAt: ReadonlyMap<number, number>;
  private readonly dayIndexes = new Map<Day, number>();
  /** What was taken: item and day and amount, or centre (as -1 - centre) and day, whose steps before are kept beside. */
  private readonly taken: number[] = [];
  private readonly stepsBefore: DaySteps[] = [];

  constructor(readonly rows: GroundRows) {
    this.horizon = rows.horizon;
    const calendars = new Map(rows.calendars.map((row) => [row.id, new Calendar(rows.workDate, rows.horizon, row)]));
    const calendarOf = (id: number) => {
      const calendar = calendars.get(id);
      assert(calendar, `calendar ${id} is not among the rows`);
      return calendar;
    };
    this.ownCalendar = calendarOf(rows.ownCalendarId);
    this.centreRows = [...rows.centres].sort((a, b) => a.id - b.id);
    this.centreAt = new Map(this.centreRows.map((row, index) => [row.id, index]));
    const daysOf = this.daysOfCentres(rows);
    const weekday = weekdayOf(rows.workDate);
    this.centres = this.centreRows.map(
      ({ id, machines, shifts, calendarId }) =>
        new Centre(machines, shifts, calendarOf(calendarId), weekday, daysOf.get(id)),
    );
    this.items = itemsInOrder(rows, this.centreAt, calendarOf, this.ownCalendar);
    this.indexOf = new Map(this.items.map(({ row }, index) => [row.id, index]));
    this.timelines = this.balances(rows);
  }

  /** What of each centre's days is not as every week. */
  private daysOfCentres({ load, overtime, out, horizon }: GroundRows): Map<number, Map<DayIndex, DayOf>> {
    const all = new Map<number, Map<DayIndex, { overtime: OvertimeRow[]; out: number; taken: LoadRow[] }>>();
    const at = (row: { centreId: number; day: Day }) => {
      const day = this.indexOfDay(row.day);
      if (day < 0 || day >= horizon) return null;
      const days =
        all.get(row.centreId) ?? new Map<DayIndex, { overtime: OvertimeRow[]; out: number; taken: LoadRow[] }>();
      all.set(row.centreId, days);
      const found = days.get(day) ?? { overtime: [], out: 0, taken: [] };
      days.set(day, found);
      return found;
    };
    for (const row of load) at(row)?.taken.push(row);
    for (const row of overtime) at(row)?.overtime.push(row);
    for (const row of out) {
      const found = at(row);
      if (found) found.out += row.machines;
    }
    return all;
  }

  /** Overdue supply arrives on the first working day, overdue demand is due today; what is beyond the horizon is not seen. // T1 */
  private balances(rows: GroundRows): Timelines {
    const timelines = Timelines.dense(this.items.length, rows.horizon);
    const moved = new Float64Array(this.items.length);
    const add = (item: number, day: DayIndex, quantity: Scaled) => {
      moved[item] = exactly(moved[item]! + Math.abs(quantity));
      if (day < this.horizon) timelines.add(item, day, quantity);
    };
    for (const [index, { row }] of this.items.entries()) {
      add(index, 0, scaled(row.onHand));
      add(index, 0, -scaled(row.held));
      add(index, 0, -scaled(row.safetyStock));
    }
    for (const supply of rows.supplies) {
      const index = this.indexOf.get(supply.itemId);
      if (index !== undefined) add(index, this.supplyDay(supply.day), scaled(supply.quantity));
    }
    for (const demand of rows.demands) {
      const index = this.indexOf.get(demand.itemId);
      const day = this.indexOfDay(demand.day);
      if (index !== undefined) add(index, Math.max(0, day), -scaled(demand.quantity));
    }
    return timelines;
  }

  knows(itemId: number): boolean {
    return this.indexOf.has(itemId);
  }

  /** The place of an item by its id. */
  at(itemId: number): number {
    const index = this.indexOf.get(itemId);
    assert(index !== undefined, `item ${itemId} is not among the rows`);
    return index;
  }

  /** The day index of a day, today for one that has passed. */
  dayIndex(day: Day): DayIndex {
    return Math.max(0, this.indexOfDay(day));
  }

  /** The day index supply of a day counts on: what is overdue arrives on the first working day. // T1 */
  supplyDay(day: Day): DayIndex {
    const index = this.indexOfDay(day);
    return index < 0 ? this.ownCalendar.next(0) : index;
  }

  /** Days from the work date; the same few days come again and again. */
  private indexOfDay(day: Day): number {
    let index = this.dayIndexes.get(day);
    if (index === undefined) {
      index = daysBetween(this.rows.workDate, day);
      this.dayIndexes.set(day, index);
    }
    return index;
  }

  /** A place to go back to. */
  mark(): number {
    return this.taken.length;
  }

  /** Gives back all that was taken since. */
  backTo(mark: number): void {
    while (this.taken.length > mark) {
      const amount = this.taken.pop()!;
      const day = this.taken.pop()!;
      const what = this.taken.pop()!;
      if (what >= 0) this.timelines.add(what, day, -amount);
      else this.centres[-1 - what]!.put(day, this.stepsBefore.pop()!);
    }
  }

  /** Moves the balance of an item from a day on. */
  move(item: number, day: DayIndex, quantity: Scaled): void {
    this.timelines.add(item, day, quantity);
    this.taken.push(item, day, quantity);
  }

  /** Runs an operation at a centre from a moment on and takes what it runs on; null where the horizon ends before. */
  run(centre: number, minutes: number, parallel: number, from: Moment): Run | null {
    return this.centres[centre]!.forward(minutes, parallel, from, (day, before) => {
      this.taken.push(-1 - centre, day, 0);
      this.stepsBefore.push(before);
    });
  }

  /** Holds machines of a centre for a stretch of a day, as far as that is within the horizon; false where it has not so many free. */
  hold(centreId: number, day: Day, stretch: Stretch): boolean {
    const centre = this.centreAt.get(centreId);
    const at = this.indexOfDay(day);
    if (centre === undefined || at < 0) return false;
    if (at >= this.horizon) return true;
    return this.centres[centre]!.hold(at, stretch, (before) => {
      this.taken.push(-1 - centre, at, 0);
      this.stepsBefore.push(before);
    });
  }
}

/** Minutes of an operation for a quantity, whole, rounded up. // T4 */
export function minutesOf({ setup, run }: Operation, quantity: Scaled): number {
  return Math.ceil((setup + timesUp(quantity, run, ONE)) / RUN_ONE);
}

const hundredths = (text: string) => scaled(text) / (ONE / RUN_ONE);

/** Items, each after every item it goes into; those in a cycle of BOMs, or above one, first and marked with its path. */
function itemsInOrder(
  rows: GroundRows,
  centreAt: ReadonlyMap<number, number>,
  calendarOf: (id: number) => Calendar,
  ownCalendar: Calendar,
): Item[] {
  const items = [...rows.items].sort((a, b) => a.id - b.id);
  const byId = new Map(items.map((row) => [row.id, row]));
  const madeOf = groupedBy(
    [...rows.components]
      .filter((line) => byId.has(line.itemId) && byId.has(line.componentId))
      .sort((a, b) => a.lineNo - b.lineNo || a.componentId - b.componentId),
    (line) => line.itemId,
  );
  const goesInto = groupedBy([...madeOf.values()].flat(), (line) => line.componentId);
  // Children first: an item comes when all it is made of came.
  const waits = new Map(items.map(({ id }) => [id, madeOf.get(id)?.length ?? 0]));
  const order = items.filter(({ id }) => waits.get(id) === 0).map(({ id }) => id);
  for (const id of order) {
    for (const { itemId } of goesInto.get(id) ?? []) {
      waits.set(itemId, waits.get(itemId)! - 1);
      if (waits.get(itemId) === 0) order.push(itemId);
    }
  }
  const placed = new Set(order);
  const stuck = items.filter(({ id }) => !placed.has(id)).map(({ id }) => id);
  const parentsFirst = [...stuck, ...[...order].reverse()];
  const placeOf = new Map(parentsFirst.map((id, index) => [id, index]));
  const operations = groupedBy(
    [...rows.operations].sort((a, b) => a.no - b.no),
    (operation) => operation.itemId,
  );
  const days = ({ firstDay, lastDay }: Dated) => ({
    first: firstDay === null ? 0 : daysBetween(rows.workDate, firstDay),
    last: lastDay === null ? ALWAYS : daysBetween(rows.workDate, lastDay),
  });
  // Days on which another BOM or routing begins, those of phantoms among them: children come first in `order`.
  const changes = new Map<number, number[]>();
  const changesOf = (id: number): number[] => {
    const lines = madeOf.get(id) ?? [];
    const own = [...lines, ...(operations.get(id) ?? [])].map(days).flatMap(({ first, last }) => [first, last + 1]);
    const inner = lines.flatMap(({ componentId }) =>
      byId.get(componentId)!.phantom ? (changes.get(componentId) ?? []) : [],
    );
    return [...new Set([...own, ...inner])].filter((day) => day > 0 && day < rows.horizon).sort((x, y) => x - y);
  };
  for (const id of order) changes.set(id, changesOf(id));
  return parentsFirst.map((id): Item => {
    const row = byId.get(id)!;
    const whole = isWholeUnit(row.unit);
    const numbers = (operations.get(id) ?? []).map((operation) => operation.no);
    return {
      row,
      whole,
      changes: changes.get(id) ?? [],
      lot: { minimum: scaled(row.lotMinimum), multiple: scaled(row.lotMultiple), whole },
      sellers: row.sellers.map((seller) => ({
        vendorId: seller.vendorId,
        name: seller.name,
        lot: { minimum: scaled(seller.minimum), multiple: scaled(seller.multiple), whole },
        days: seller.leadDays,
        vendorCalendar: calendarOf(seller.calendarId),
        ownDays: rows.receivingDays + rows.safetyDays,
        ownCalendar,
      })),
      components: placed.has(id) ? (madeOf.get(id) ?? []).map((line) => componentOf(line, days, numbers, placeOf)) : [],
      operations: (operations.get(id) ?? []).map((operation) => ({
        no: operation.no,
        name: operation.name,
        centre: centreAt.get(operation.centreId)!,
        setup: hundredths(operation.setup),
        run: hundredths(operation.run),
        parallel: operation.parallel,
        ...days(operation),
      })),
      cycle: placed.has(id) ? null : cycleFrom(id, stuck, madeOf, byId),
    };
  });
}

/** A BOM line as it is planned, scrap in its quantity. // T4 */
function componentOf(
  line: ComponentRow,
  days: (row: Dated) => { first: DayIndex; last: DayIndex },
  operationNos: readonly number[],
  placeOf: ReadonlyMap<number, number>,
): Component {
  return {
    item: placeOf.get(line.componentId)!,
    per: timesUp(scaled(line.quantity), 100 * ONE + scaled(line.scrapPercent), 100 * ONE),
    operation: line.operationNo === null ? 0 : Math.max(0, operationNos.indexOf(line.operationNo)),
    ...days(line),
  };
}

type Dated = Pick<ComponentRow, 'firstDay' | 'lastDay'>;

/** The first cycle met below an item, as the numbers along it, the first again at the end. */
function cycleFrom(
  id: number,
  stuck: readonly number[],
  madeOf: ReadonlyMap<number, readonly ComponentRow[]>,
  byId: ReadonlyMap<number, ItemRow>,
): string[] {
  const among = new Set(stuck);
  const path: number[] = [];
  let at = id;
  // Every stuck item is made of another stuck one, so the walk comes back to where it was.
  while (!path.includes(at)) {
    path.push(at);
    at = madeOf.get(at)!.find((line) => among.has(line.componentId))!.componentId;
  }
  return [...path.slice(path.indexOf(at)), at].map((each) => byId.get(each)!.number);
}
