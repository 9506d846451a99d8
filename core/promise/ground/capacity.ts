import { type Calendar, NEVER, type DayIndex } from './calendar';

/** What an operation takes of a work centre on one day. */
export interface Slice {
  day: DayIndex;
  minutes: number;
}

/** When an operation runs. */
export interface Run {
  firstDay: DayIndex;
  lastDay: DayIndex;
  /** Minutes of the last day's shift gone when it stops (planned backward: of the first day's left when it starts). */
  clock: number;
  slices: Slice[];
}

/** An order's place in time: a day and the minutes of its shift that are gone for it. */
export interface Clock {
  day: DayIndex;
  minutes: number;
}

/**
 * The free minutes of one work centre by day, and which days have any as a tree of 32 branches, so that a centre booked
 * out for months costs two looks instead of a walk. // T5
 */
export class Centre {
  /** Free machine minutes of each day. */
  readonly free: Float64Array;
  /** A bit for each day with free minutes, and a bit for each word with any bit. */
  private readonly words: Uint32Array;
  private readonly over: Uint32Array;

  constructor(
    readonly machines: number,
    /** Minutes of a shift on a working day. */
    readonly shift: number,
    readonly calendar: Calendar,
    /** Minutes taken already, by day; none for days beyond. */
    taken?: ArrayLike<number>,
  ) {
    const { days } = calendar;
    this.free = new Float64Array(days);
    this.words = new Uint32Array(Math.ceil(days / 32));
    this.over = new Uint32Array(Math.ceil(this.words.length / 32));
    for (let day = 0; day < days; day += 1) {
      if (calendar.works(day)) this.set(day, Math.max(0, machines * shift - (taken?.[day] ?? 0)));
    }
  }

  private set(day: DayIndex, minutes: number): void {
    this.free[day] = minutes;
    const word = day >> 5;
    if (minutes > 0) {
      this.words[word]! |= 1 << (day & 31);
      this.over[word >> 5]! |= 1 << (word & 31);
    } else {
      this.words[word]! &= ~(1 << (day & 31));
      if (this.words[word] === 0) this.over[word >> 5]! &= ~(1 << (word & 31));
    }
  }

  /** Takes minutes of a day, or gives them back where they are below zero. */
  take(day: DayIndex, minutes: number): void {
    this.set(day, this.free[day]! - minutes);
  }

  /** The first day on or after it with free minutes. O(log32 days). */
  nextFree(day: DayIndex): DayIndex {
    if (day >= this.free.length) return NEVER;
    let word = day >> 5;
    let bits = this.words[word]! & (-1 << (day & 31));
    if (bits === 0) {
      word = nextSet(this.over, word + 1);
      if (word < 0) return NEVER;
      bits = this.words[word]!;
    }
    return (word << 5) + lowest(bits);
  }

  /** The last day on or before it with free minutes; -1 where there is none. O(log32 days). */
  lastFree(day: DayIndex): DayIndex {
    if (day < 0) return -1;
    const at = Math.min(day, this.free.length - 1);
    let word = at >> 5;
    let bits = this.words[word]! & (-1 >>> (31 - (at & 31)));
    if (bits === 0) {
      word = lastSet(this.over, word - 1);
      if (word < 0) return -1;
      bits = this.words[word]!;
    }
    return (word << 5) + 31 - Math.clz32(bits);
  }

  /**
   * Runs so many minutes from a clock on, on up to so many machines side by side, and takes them: on a day the free
   * minutes, and not more than the machines do in what is left of the shift. Null, and nothing taken, where the horizon
   * ends before. O(days it runs on). // T5
   */
  forward(minutes: number, machines: number, from: Clock): Run | null {
    const side = Math.min(machines, this.machines);
    const slices: Slice[] = [];
    let left = minutes;
    let { day, minutes: gone } = from;
    while (left > 0) {
      const next = this.nextFree(day);
      if (next === NEVER) return this.giveBack(slices);
      if (next > day) gone = 0;
      day = next;
      const used = Math.min(left, this.free[day]!, side * (this.shift - gone));
      if (used > 0) {
        this.take(day, used);
        slices.push({ day, minutes: used });
        left -= used;
        gone += Math.ceil(used / side);
      }
      if (left > 0) {
        day += 1;
        gone = 0;
      }
    }
    return runOf(slices, from, gone);
  }

  /** The same mirrored: to be done by a clock, whose minutes are those of the day's shift that must be kept after it. // T6 */
  backward(minutes: number, machines: number, by: Clock): Run | null {
    const side = Math.min(machines, this.machines);
    const slices: Slice[] = [];
    let left = minutes;
    let { day, minutes: kept } = by;
    while (left > 0) {
      const last = this.lastFree(day);
      if (last < 0) return this.giveBack(slices);
      if (last < day) kept = 0;
      day = last;
      const used = Math.min(left, this.free[day]!, side * (this.shift - kept));
      if (used > 0) {
        this.take(day, used);
        slices.unshift({ day, minutes: used });
        left -= used;
        kept += Math.ceil(used / side);
      }
      if (left > 0) {
        day -= 1;
        kept = 0;
      }
    }
    return runOf(slices, by, kept);
  }

  private giveBack(slices: readonly Slice[]): null {
    for (const { day, minutes } of slices) this.take(day, -minutes);
    return null;
  }
}

function runOf(slices: Slice[], at: Clock, clock: number): Run {
  const firstDay = slices[0]?.day ?? at.day;
  const lastDay = slices.at(-1)?.day ?? at.day;
  return { firstDay, lastDay, clock: slices.length > 0 ? clock : at.minutes, slices };
}

/** The place of the lowest bit set, of a word that has one. */
function lowest(bits: number): number {
  return 31 - Math.clz32(bits & -bits);
}

function nextSet(words: Uint32Array, from: number): number {
  let word = from >> 5;
  if (word >= words.length) return -1;
  let bits = words[word]! & (-1 << (from & 31));
  while (bits === 0) {
    word += 1;
    if (word >= words.length) return -1;
    bits = words[word]!;
  }
  return (word << 5) + lowest(bits);
}

function lastSet(words: Uint32Array, from: number): number {
  if (from < 0) return -1;
  let word = from >> 5;
  let bits = words[word]! & (-1 >>> (31 - (from & 31)));
  while (bits === 0) {
    word -= 1;
    if (word < 0) return -1;
    bits = words[word]!;
  }
  return (word << 5) + 31 - Math.clz32(bits);
}
