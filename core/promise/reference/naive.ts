import { addDays } from '../../kernel';
import type { GroundRows, ItemRow, OperationRow, SellerRow } from '../ground/rows';

/** A day on which it is there, and whether it was made for it: what is made goes on the day after. */
interface Planned {
  day: number;
  made: boolean;
}

interface Used {
  itemId: number;
  /** For one, in hundred-thousandths. */
  per: number;
  operationNo: number | null;
}

/**
 * The same answers by walking day by day and operation by operation, with nothing clever: what the real ones are
 * compared with in tests, and raced against in the bench. Quantities are whole hundred-thousandths; a day that never
 * comes is Infinity; where there is no plan a word is thrown.
 */
export class Naive {
  private readonly balances = new Map<number, number[]>();
  private readonly free = new Map<number, number[]>();
  private readonly days: string[] = [];
  private undo: (() => void)[] = [];

  constructor(private readonly rows: GroundRows) {
    for (let day = rows.workDate; this.days.length < rows.horizon; day = addDays(day, 1)) this.days.push(day);
    for (const item of rows.items) {
      this.balances.set(
        item.id,
        this.days.map(() => small(item.onHand) - small(item.safetyStock)),
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
    for (const centre of rows.centres) {
      const loads = rows.load.filter((load) => load.centreId === centre.id);
      this.free.set(
        centre.id,
        this.days.map((day, at) => {
          const whole = this.works(at, centre.calendarId) ? centre.machines * centre.shift : 0;
          const taken = loads.filter((load) => load.day === day);
          return Math.max(0, whole - taken.reduce((sum, load) => sum + load.minutes, 0));
        }),
      );
    }
    this.undo = [];
  }

  private works(at: number, calendarId: number): boolean {
    const { week, holidays } = this.rows.calendars.find(({ id }) => id === calendarId)!;
    const weekday = (new Date(`${this.days[at]}T00:00:00Z`).getUTCDay() + 6) % 7;
    return week[weekday] === '1' && !holidays.includes(this.days[at]!);
  }

  private nextWorking(from: number, calendarId: number): number {
    for (let at = from; at < this.days.length; at += 1) if (this.works(at, calendarId)) return at;
    return Infinity;
  }

  workingDaysOn(from: number, count: number, calendarId: number): number {
    if (count === 0) return this.nextWorking(from, calendarId);
    let at = from;
    for (let left = count; left > 0; left -= 1) at = this.nextWorking(at + 1, calendarId);
    return at;
  }

  boughtBy(seller: SellerRow, ordered: number): number {
    const sent = this.workingDaysOn(ordered, seller.leadDays, seller.calendarId);
    return this.workingDaysOn(sent, this.rows.receivingDays + this.rows.safetyDays, this.rows.ownCalendarId);
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

  private give(centreId: number, day: number, minutes: number): void {
    const free = this.free.get(centreId)!;
    free[day]! -= minutes;
    this.undo.push(() => (free[day]! += minutes));
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

  /** The day something must be begun so that it is there by a day, or the word; nothing of it is kept. */
  begunBy(itemId: number, quantity: number, by: number, mode: 'have' | 'nothing'): number | string {
    const mark = this.undo.length;
    try {
      return this.planBy(itemId, quantity, by, mode);
    } catch (word) {
      if (typeof word !== 'string') throw word;
      return word;
    } finally {
      this.backTo(mark);
    }
  }

  private planBy(itemId: number, quantity: number, by: number, mode: 'have' | 'nothing'): number {
    if (by < 0) throw 'before-today';
    const free = mode === 'have' ? Math.min(quantity, Math.max(0, this.available(itemId, by))) : 0;
    if (free > 0) this.move(itemId, by, -free);
    if (free === quantity) return by;
    const item = this.rows.items.find(({ id }) => id === itemId)!;
    const start = this.anewBy(item, quantity - free, by, mode);
    return free > 0 ? Math.min(by, start) : start;
  }

  private anewBy(item: ItemRow, quantity: number, by: number, mode: 'have' | 'nothing'): number {
    if (item.obtained === 'none') throw 'no-way';
    if (item.obtained === 'buy') {
      const [seller] = item.sellers;
      if (!seller) throw 'nobody-sells';
      let ordered = by;
      while (ordered >= 0 && this.boughtBy(seller, ordered) > by) ordered -= 1;
      if (ordered < 0) throw 'before-today';
      const more = lot(quantity, seller.minimum, seller.multiple) - quantity;
      this.move(item.id, this.boughtBy(seller, ordered), more);
      return ordered;
    }
    const size = lot(quantity, item.lotMinimum, item.lotMultiple);
    const operations = this.rows.operations.filter(({ itemId }) => itemId === item.id).sort((a, b) => a.no - b.no);
    const begun: number[] = [];
    let [day, kept, end] = [by, 0, by];
    for (const operation of [...operations].reverse()) {
      const [first, clock, last] = this.runBy(operation, size, day, kept);
      if (begun.length === 0) end = last;
      begun.unshift(first);
      [day, kept] = [first, clock];
    }
    const start = begun[0] ?? this.workingDaysBefore(by, item.makeDays);
    if (start < 0) throw 'before-today';
    let earliest = start;
    for (const used of this.usedIn(item.id, by)) {
      const place = Math.max(
        0,
        operations.findIndex((operation) => operation.no === used.operationNo),
      );
      const at = begun[place] ?? start;
      const made = this.rows.items.find(({ id }) => id === used.itemId)!.obtained !== 'buy';
      const needed = Math.ceil((size * used.per) / 100_000);
      earliest = Math.min(earliest, this.planBy(used.itemId, needed, made ? at - 1 : at, mode));
    }
    this.move(item.id, end, size - quantity);
    return earliest;
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
    const item = this.rows.items.find(({ id }) => id === itemId)!;
    if (mode === 'nothing') return this.anew(item, quantity, from, mode);
    const free = this.earliest(itemId, from, quantity);
    if (free > from) {
      const mark = this.undo.length;
      try {
        const now = Math.min(quantity, Math.max(0, this.available(itemId, from)));
        if (now > 0) this.move(itemId, from, -now);
        const planned = this.anew(item, quantity - now, from, mode);
        if (planned.day < free) return planned;
      } catch (word) {
        if (free === Infinity) throw word;
      }
      this.backTo(mark);
    }
    this.move(itemId, free, -quantity);
    return { day: free, made: false };
  }

  private anew(item: ItemRow, quantity: number, from: number, mode: 'have' | 'nothing'): Planned {
    if (item.obtained === 'none') throw 'no-way';
    if (item.obtained === 'buy') {
      const [seller] = item.sellers;
      if (!seller) throw 'nobody-sells';
      const day = this.boughtBy(seller, from);
      if (day === Infinity) throw 'horizon';
      this.move(item.id, day, lot(quantity, seller.minimum, seller.multiple) - quantity);
      return { day, made: false };
    }
    const size = lot(quantity, item.lotMinimum, item.lotMultiple);
    const operations = this.rows.operations.filter(({ itemId }) => itemId === item.id).sort((a, b) => a.no - b.no);
    const there = operations.map(() => from);
    let latest = from;
    for (const used of this.usedIn(item.id, from)) {
      const { day, made } = this.plan(used.itemId, Math.ceil((size * used.per) / 100_000), from, mode);
      const at = made ? day + 1 : day;
      latest = Math.max(latest, at);
      const place = Math.max(
        0,
        operations.findIndex((operation) => operation.no === used.operationNo),
      );
      if (operations.length > 0) there[place] = Math.max(there[place]!, at);
    }
    let [day, clock] = [from, 0];
    for (const [place, operation] of operations.entries()) {
      if (there[place]! > day) [day, clock] = [there[place]!, 0];
      [day, clock] = this.run(operation, size, day, clock);
    }
    if (operations.length === 0) day = this.workingDaysOn(latest, item.makeDays, this.rows.ownCalendarId);
    if (day >= this.days.length) throw 'horizon';
    this.move(item.id, day, size - quantity);
    return { day, made: true };
  }

  /** What goes into an item on a day, phantoms opened. */
  usedIn(itemId: number, from: number): Used[] {
    const day = this.days[from]!;
    return this.rows.components
      .filter((line) => line.itemId === itemId)
      .filter((line) => (line.firstDay ?? day) <= day && (line.lastDay ?? day) >= day)
      .sort((a, b) => a.lineNo - b.lineNo)
      .flatMap((line): Used[] => {
        const per = Math.ceil((small(line.quantity) * (10_000_000 + small(line.scrapPercent))) / 10_000_000);
        const component = this.rows.items.find(({ id }) => id === line.componentId)!;
        if (!component.phantom) return [{ itemId: line.componentId, per, operationNo: line.operationNo }];
        return this.usedIn(line.componentId, from).map((inner) => ({
          itemId: inner.itemId,
          per: Math.ceil((per * inner.per) / 100_000),
          operationNo: line.operationNo,
        }));
      });
  }

  workOf(operation: OperationRow, size: number) {
    const centre = this.rows.centres.find(({ id }) => id === operation.centreId)!;
    const machines = Math.min(operation.parallel, centre.machines);
    if (machines * centre.shift === 0 || this.nextWorking(0, centre.calendarId) === Infinity) throw 'no-shift';
    const run = Math.ceil((size * Math.round(Number(operation.run) * 100)) / 100_000);
    return { centre, machines, minutes: Math.ceil((Math.round(Number(operation.setup) * 100) + run) / 100) };
  }

  /** Backward from a day of whose shift so many minutes must be kept: first day, minutes kept of it, last day. */
  private runBy(operation: OperationRow, size: number, by: number, keep: number): [number, number, number] {
    const { centre, machines, minutes } = this.workOf(operation, size);
    if (minutes === 0) return [by, keep, by];
    const used: number[] = [];
    let [day, kept, left] = [by, keep, minutes];
    for (;;) {
      if (day < 0) throw 'before-today';
      const now = Math.min(left, this.free.get(centre.id)![day]!, machines * (centre.shift - kept));
      if (now > 0) {
        this.give(centre.id, day, now);
        used.push(day);
        left -= now;
        kept += Math.ceil(now / machines);
      }
      if (left === 0) return [day, kept, used[0]!];
      [day, kept] = [day - 1, 0];
    }
  }

  /** Minute for minute as T5 says it, a day at a time. */
  private run(operation: OperationRow, size: number, from: number, gone: number): [number, number] {
    const { centre, machines, minutes } = this.workOf(operation, size);
    let left = minutes;
    let [day, clock] = [from, gone];
    while (left > 0) {
      if (day >= this.days.length) throw 'horizon';
      const used = Math.min(left, this.free.get(centre.id)![day]!, machines * (centre.shift - clock));
      if (used > 0) {
        this.give(centre.id, day, used);
        left -= used;
        clock += Math.ceil(used / machines);
      }
      if (left > 0) [day, clock] = [day + 1, 0];
    }
    return [day, clock];
  }
}

export const small = (text: string) => Math.round(Number(text) * 100_000);

export function lot(quantity: number, minimum: string, multiple: string): number {
  const most = Math.max(quantity, small(minimum));
  const step = small(multiple);
  return step > 0 ? Math.ceil(most / step) * step : most;
}
