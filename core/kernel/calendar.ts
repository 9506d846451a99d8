import { addDays, weekdayOf, type Day } from './day';

/** Days are counted from the first day of the horizon, the work date: 0 is today. */
export type DayIndex = number;

/** A day that never comes within the horizon. */
export const NEVER: DayIndex = 0x7fffffff;

export interface CalendarRow {
  id: number;
  /** Seven of 0 and 1, Monday first. */
  week: string;
  holidays: readonly Day[];
}

/**
 * Which days of a horizon are worked, as prefix counts: the next working day, and any number of them on, cost one
 * look each. Memory 8 bytes a day.
 */
export class Calendar {
  /** Working days before each day, and in all at the end. */
  private readonly before: Int32Array;
  /** The day of each working day, in order. */
  private readonly dayOf: Int32Array;

  constructor(
    first: Day,
    readonly days: number,
    { week, holidays }: Pick<CalendarRow, 'week' | 'holidays'>,
  ) {
    const closed = new Set(holidays);
    const monday = weekdayOf(first);
    this.before = new Int32Array(days + 1);
    const worked: number[] = [];
    for (let day = 0; day < days; day += 1) {
      this.before[day] = worked.length;
      if (week[(monday + day) % 7] === '1' && !(closed.size > 0 && closed.has(addDays(first, day)))) worked.push(day);
    }
    this.before[days] = worked.length;
    this.dayOf = Int32Array.from(worked);
  }

  works(day: DayIndex): boolean {
    return day >= 0 && day < this.days && this.before[day + 1]! > this.before[day]!;
  }

  /** The first working day on or after it. O(1). */
  next(day: DayIndex): DayIndex {
    if (day >= this.days) return NEVER;
    return this.dayOf[this.before[Math.max(0, day)]!] ?? NEVER;
  }

  /** The last working day on or before it; -1 where there is none. O(1). */
  last(day: DayIndex): DayIndex {
    if (day < 0) return -1;
    return this.dayOf[this.before[Math.min(day, this.days - 1) + 1]! - 1] ?? -1;
  }

  /** So many working days after a day; none on is the first working day on or after it. O(1). */
  plus(day: DayIndex, count: number): DayIndex {
    if (day >= this.days) return NEVER;
    return this.dayOf[this.before[Math.max(0, day) + (count > 0 ? 1 : 0)]! + Math.max(0, count - 1)] ?? NEVER;
  }

  /** So many working days before a day; none back is the last working day on or before it. -1 where there is none. O(1). */
  minus(day: DayIndex, count: number): DayIndex {
    if (day < 0) return -1;
    const at = Math.min(day, this.days - 1);
    return this.dayOf[(count > 0 ? this.before[at]! : this.before[at + 1]!) - Math.max(1, count)] ?? -1;
  }

  /** Working days from one day up to, not with, another. O(1). */
  between(from: DayIndex, to: DayIndex): number {
    const at = (day: number) => this.before[Math.min(this.days, Math.max(0, day))]!;
    return at(to) - at(from);
  }
}
