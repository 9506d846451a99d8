import { addDays } from '../../kernel';
import type { GroundRows, ItemRow, LoadRow, OperationRow, SellerRow } from '../ground/rows';

/** A day on which it is there, and whether it was made for it: what is made goes on the day after. */
interface Planned {
  day: number;
  made: boolean;
}

/**
 * The same answers by walking day by day and operation by operation, with nothing clever: what the real ones are
 * compared with in tests, and raced against in the bench. Quantities are whole hundred-thousandths; a day that never
 * comes is Infinity; where there is no plan a word is thrown.
 */
export class Naive {
  private readonly balances = new Map<number, number[]>();
  /** Free machines of a centre, minute by minute, for each day that was looked at. */
  private readonly free = new Map<string, number[]>();
  private readonly days: string[] = [];
  /** What is taken of a centre on a day already. */
  private readonly loads = new Map<string, LoadRow[]>();
  private undo: (() => void)[] = [];

  constructor(private readonly rows: GroundRows) {
    for (let day = rows.workDate; this.days.length < rows.horizon; day = addDays(day, 1)) this.days.push(day);
    for (const item of rows.items) {
      this.balances.set(
        item.id,
        this.days.map(() => small(item.onHand) - small(item.held) - small(item.safetyStock)),
      );
    }
    for (const { itemId, day, quantity } of rows.supplies) {
      const at = day < rows.workDate ? this.nextWorking(0, rows.ownCalendarId) : this.days.indexOf(day);
      if (at >= 0) this.move(itemId, at, small(quantity));
    }
    for (const { itemId, day, quantity } of rows.demands) {
      const at = day < rows.workDate ? 0 : this.days.indexOf(day);
      if (at >= 0) this.move(itemId, at, -small(quantity));
    }
    this.undo = [];
    for (const load of rows.load) {
      const key = `${load.centreId} ${this.days.indexOf(load.day)}`;
      this.loads.set(key, [...(this.loads.get(key) ?? []), load]);
    }
  }

  private minutesOf(centreId: number, at: number): number[] {
    const key = `${centreId} ${at}`;
    const known = this.free.get(key);
    if (known) return known;
    const centre = this.rows.centres.find(({ id }) => id === centreId)!;
    const of = <Row extends { centreId: number; day: string }>(all: readonly Row[]) =>
      all.filter((row) => row.centreId === centreId && row.day === this.days[at]);
    const minutes = new Array<number>(1440).fill(0);
    for (const { from, until } of this.hoursOf(centreId, at)) minutes.fill(centre.machines, from, until);
    for (const { machines } of of(this.rows.out)) {
      for (let minute = 0; minute < 1440; minute += 1) minutes[minute]! -= machines;
    }
    for (const { from, until, machines } of this.loads.get(key) ?? []) {
      for (let minute = from; minute < until; minute += 1) minutes[minute]! -= machines;
    }
    const free = minutes.map((each) => Math.max(0, each));
    this.free.set(key, free);
    return free;
  }

  private hoursOf(centreId: number, at: number): { from: number; until: number }[] {
    const { shifts, calendarId } = this.rows.centres.find(({ id }) => id === centreId)!;
    const usual = this.works(at, calendarId) ? shifts.filter(({ week }) => week[this.weekday(at)] === '1') : [];
    return [...usual, ...this.rows.overtime.filter((row) => row.centreId === centreId && row.day === this.days[at])];
  }

  private works(at: number, calendarId: number): boolean {
    const { week, holidays } = this.rows.calendars.find(({ id }) => id === calendarId)!;
    return week[this.weekday(at)] === '1' && !holidays.includes(this.days[at]!);
  }

  private weekday(at: number): number {
    return (new Date(`${this.days[at]}T00:00:00Z`).getUTCDay() + 6) % 7;
  }

  private nextWorking(from: number, calendarId: number): number {
    for (let at = from; at < this.days.length; at += 1) if (this.works(at, calendarId)) return at;
    return Infinity;
  }

  workingDaysOn(from: number, count: number, calendarId: number): number {
    if (count === 0) return this.nextWorking(from, calendarId);
    if (from === Infinity) return Infinity;
    let at = from;
    for (let left = count; left > 0; left -= 1) at = this.nextWorking(at + 1, calendarId);
    return at;
  }

  boughtBy(seller: SellerRow, ordered: number): number {
    const sent = this.workingDaysOn(this.nextWorking(ordered, seller.calendarId), seller.leadDays, seller.calendarId);
    const received = this.nextWorking(sent, this.rows.ownCalendarId);
    return this.workingDaysOn(received, this.rows.receivingDays + this.rows.safetyDays, this.rows.ownCalendarId);
  }

  available(itemId: number, day: number): number {
    let least = Infinity;
    const balance = this.balances.get(itemId)!;
    for (let at = day; at < balance.length; at += 1) least = Math.min(least, balance[at]!);
    return least;
  }

  earliest(itemId: number, from: number, quantity: number): number {
    const balance = this.balances.get(itemId)!;
    let day = Infinity;
    for (let at = balance.length - 1; at >= from && balance[at]! >= quantity; at -= 1) day = at;
    return day;
  }

  /** Moves a balance from a day on. */
  move(itemId: number, day: number, quantity: number): void {
    const balance = this.balances.get(itemId)!;
    const by = (amount: number) => {
      for (let at = day; at < balance.length; at += 1) balance[at]! += amount;
    };
    by(quantity);
    this.undo.push(() => by(-quantity));
  }

  private backTo(mark: number): void {
    while (this.undo.length > mark) this.undo.pop()!();
  }

  /** The answer to one ask: the day, or the word; taken where there is a day and it is to be kept. */
  ask(itemId: number, quantity: number, from: number, mode: 'have' | 'nothing', keep = false): number | string {
    const mark = this.undo.length;
    try {
      const { day } = this.plan(itemId, quantity, from, mode);
      if (!keep) this.backTo(mark);
      return day;
    } catch (word) {
      this.backTo(mark);
      if (typeof word !== 'string') throw word;
      return word;
    }
  }

  /**
   * The latest day to begin from which it is there by a day, trying one day after the other from the last; a working day
   * or the first one. Null where no day does.
   */
  latestStart(itemId: number, quantity: number, by: number, mode: 'have' | 'nothing'): number | null {
    for (let day = by; day >= 0; day -= 1) {
      if (day !== by && day !== 0 && !this.works(day, this.rows.ownCalendarId)) continue;
      const found = this.ask(itemId, quantity, day, mode);
      if (typeof found === 'number' && found <= by) return day;
    }
    return null;
  }

  freeAt(centreId: number, day: number, minute: number): number {
    return this.minutesOf(centreId, day)[minute]!;
  }

  workingDaysBefore(by: number, count: number): number {
    let at = by;
    if (count === 0) while (at >= 0 && !this.works(at, this.rows.ownCalendarId)) at -= 1;
    for (let left = count; left > 0 && at >= 0; left -= 1) {
      at -= 1;
      while (at >= 0 && !this.works(at, this.rows.ownCalendarId)) at -= 1;
    }
    return at;
  }

  private plan(itemId: number, quantity: number, from: number, mode: 'have' | 'nothing'): Planned {
    const item = this.item(itemId);
    if (mode === 'nothing') return this.anew(item, quantity, from, mode);
    const free = this.earliest(itemId, from, quantity);
    if (free > from) {
      const mark = this.undo.length;
      try {
        let planned = this.partlyNew(item, quantity, from, from);
        const before = planned.day - 1;
        if (before > from && this.available(itemId, before) > 0) {
          this.backTo(mark);
          planned = this.partlyNew(item, quantity, from, before);
        }
        if (planned.day < free) return planned;
      } catch (word) {
        if (free === Infinity) throw word;
      }
      this.backTo(mark);
    }
    this.move(itemId, free, -quantity);
    return { day: free, made: false };
  }

  private item(itemId: number): ItemRow {
    return this.rows.items.find(({ id }) => id === itemId)!;
  }

  /** Day by day what more can be had until then, and the rest new. */
  private partlyNew(item: ItemRow, quantity: number, from: number, until: number): Planned {
    const balance = this.balances.get(item.id)!;
    const days: number[] = [];
    let least = Infinity;
    for (let day = balance.length - 1; day >= from; day -= 1) {
      least = Math.min(least, balance[day]!);
      if (day <= until) days.unshift(Math.min(quantity, Math.max(0, least)));
    }
    let taken = 0;
    let last = 0;
    for (const [index, there] of days.entries()) {
      if (there <= taken) continue;
      this.move(item.id, from + index, taken - there);
      taken = there;
      last = from + index;
    }
    if (taken === quantity) return { day: last, made: false };
    const planned = this.anew(item, quantity - taken, from, 'have');
    return last > planned.day ? { day: last, made: false } : planned;
  }

  private anew(item: ItemRow, quantity: number, from: number, mode: 'have' | 'nothing'): Planned {
    if (item.obtained === 'none') throw 'no-way';
    const needed = whole(quantity, item);
    if (item.obtained === 'buy') {
      const [seller] = item.sellers;
      if (!seller) throw 'nobody-sells';
      const day = this.boughtBy(seller, from);
      if (day === Infinity) throw 'horizon';
      this.move(item.id, day, lot(needed, seller.minimum, seller.multiple) - quantity);
      return { day, made: false };
    }
    const size = lot(needed, item.lotMinimum, item.lotMultiple);
    const mark = this.undo.length;
    let starts = from;
    for (;;) {
      const { start, day } = this.made(item, size, from, starts, mode);
      let same = true;
      for (let at = starts; at <= start; at += 1) {
        same &&= JSON.stringify(this.standing(item.id, at)) === JSON.stringify(this.standing(item.id, starts));
      }
      if (same) {
        this.move(item.id, day, size - quantity);
        return { day, made: true };
      }
      this.backTo(mark);
      starts = start;
    }
  }

  /** One lot by the BOM and routing of a day, begun on it or later. */
  private made(item: ItemRow, size: number, from: number, starts: number, mode: 'have' | 'nothing') {
    const operations = this.operationsOn(item.id, starts);
    const there = operations.map(() => starts);
    let latest = starts;
    const use = (itemId: number, of: number, within: number | null | undefined): void => {
      for (const line of this.linesOn(itemId, starts)) {
        const component = this.item(line.componentId);
        const operationNo = within === undefined ? line.operationNo : within;
        const quantity = whole(Math.ceil((of * line.per) / 100_000), component);
        let at = starts;
        if (component.phantom) {
          const own = mode === 'have' ? Math.min(quantity, Math.max(0, this.available(component.id, from))) : 0;
          if (own > 0) {
            this.move(component.id, from, -own);
            at = from;
          }
          if (own < quantity) use(component.id, quantity - own, operationNo);
          if (own === 0) continue;
        } else {
          const { day, made } = this.plan(component.id, quantity, from, mode);
          at = made ? day + 1 : day;
        }
        latest = Math.max(latest, at);
        const named = operations.findIndex((operation) => operation.no === operationNo);
        if (operations.length > 0) there[Math.max(0, named)] = Math.max(there[Math.max(0, named)]!, at);
      }
    };
    use(item.id, size, undefined);
    let [day, minute] = [starts, 0];
    let start: number | null = null;
    for (const [place, operation] of operations.entries()) {
      if (there[place]! > day) [day, minute] = [there[place]!, 0];
      const { first, last, next } = this.run(operation, size, day, minute);
      [day, minute] = [last, next];
      start ??= first;
    }
    if (operations.length === 0) day = this.workingDaysOn(latest, item.makeDays, this.rows.ownCalendarId);
    if (day >= this.days.length) throw 'horizon';
    return { start: start ?? latest, day };
  }

  private stands({ firstDay, lastDay }: { firstDay: string | null; lastDay: string | null }, at: number): boolean {
    const day = this.days[at]!;
    return (firstDay ?? day) <= day && (lastDay ?? day) >= day;
  }

  private operationsOn(itemId: number, at: number): OperationRow[] {
    return this.rows.operations
      .filter((operation) => operation.itemId === itemId && this.stands(operation, at))
      .sort((a, b) => a.no - b.no);
  }

  /** BOM lines of an item on a day, scrap in their quantities. */
  linesOn(itemId: number, at: number) {
    return this.rows.components
      .filter((line) => line.itemId === itemId && this.stands(line, at))
      .sort((a, b) => a.lineNo - b.lineNo)
      .map((line) => ({
        ...line,
        per: Math.ceil((small(line.quantity) * (10_000_000 + small(line.scrapPercent))) / 10_000_000),
      }));
  }

  /** All that stands of an item's BOM and routing on a day, phantoms opened. */
  private standing(itemId: number, at: number): unknown {
    return [
      this.operationsOn(itemId, at).map(({ no }) => no),
      this.linesOn(itemId, at).map(({ lineNo, componentId }) => [
        lineNo,
        this.item(componentId).phantom ? this.standing(componentId, at) : null,
      ]),
    ];
  }

  workOf(operation: OperationRow, size: number) {
    const centre = this.rows.centres.find(({ id }) => id === operation.centreId)!;
    const machines = Math.min(operation.parallel, centre.machines);
    const run = Math.ceil((size * Math.round(Number(operation.run) * 100)) / 100_000);
    return { centre, machines, minutes: Math.ceil((Math.round(Number(operation.setup) * 100) + run) / 100) };
  }

  /** Minute for minute, as T5 says it: the first and the last day it runs on, and the minute after its last. */
  private run(operation: OperationRow, size: number, from: number, minute: number) {
    const { centre, machines, minutes } = this.workOf(operation, size);
    if (!this.days.some((_day, at) => this.hoursOf(centre.id, at).length > 0)) throw 'no-shift';
    if (minutes === 0) return { first: from, last: from, next: minute };
    let first: number | null = null;
    for (let at = from * 1440 + minute, left = minutes; ; at += 1) {
      const day = Math.floor(at / 1440);
      if (day >= this.days.length) throw 'horizon';
      const free = this.minutesOf(centre.id, day);
      const used = Math.min(left, machines, free[at % 1440]!);
      if (used === 0) continue;
      first ??= day;
      free[at % 1440]! -= used;
      this.undo.push(() => (free[at % 1440]! += used));
      left -= used;
      if (left === 0) return { first, last: day, next: (at % 1440) + 1 };
    }
  }
}

export const small = (text: string) => Math.round(Number(text) * 100_000);

export function lot(quantity: number, minimum: string, multiple: string): number {
  const most = Math.max(quantity, small(minimum));
  const step = small(multiple);
  return step > 0 ? Math.ceil(most / step) * step : most;
}

/** Whole where it is counted: a kg is not. */
export function whole(quantity: number, { unit }: ItemRow): number {
  return unit === 'kg' ? quantity : Math.ceil(quantity / 100_000) * 100_000;
}
