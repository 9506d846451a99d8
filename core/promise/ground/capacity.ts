import { NEVER, type Calendar, type DayIndex, type Shift } from '../../kernel';

export const DAY_MINUTES = 1440;

/** A moment: minutes from the start of the work date. */
export type Moment = number;

export const dayOfMoment = (moment: Moment): DayIndex => Math.floor(moment / DAY_MINUTES);
/** The day of the last minute before a moment. */
export const dayBefore = (moment: Moment): DayIndex => Math.floor((moment - 1) / DAY_MINUTES);

/** A stretch of a day on some machines: from a minute of it up to, not with, another. */
export interface Stretch {
  from: number;
  until: number;
  machines: number;
}

export interface Slice extends Stretch {
  day: DayIndex;
}

/** When an operation runs. */
export interface Run {
  /** Its first minute, and the one after its last. */
  start: Moment;
  end: Moment;
  slices: Slice[];
}

/** What one day of a centre is made of, besides its shifts. */
export interface DayOf {
  /** Hours worked besides the shifts, on any day. */
  overtime: readonly { from: number; until: number }[];
  /** Machines that are out all day. */
  out: number;
  /** Taken already. */
  taken: readonly Stretch[];
}

/** The free machines of a day as steps: from each minute on so many, until the next; never changed once it is made. */
export interface DaySteps {
  readonly at: readonly number[];
  readonly free: readonly number[];
  /** Machine minutes of the day for so many side by side, from none to all. */
  readonly sums: readonly number[];
}

/**
 * The free machines of one work centre, minute by minute: a step function kept as a list of steps for each day, with
 * its sums, and a tree of 32 branches over the days that have any, so that a centre booked out for months costs two
 * looks. A day is replaced when something is taken of it, so giving back is putting the old one in its place. Days
 * alike share one list. Memory 4 bytes a day, and the steps of days that are not alike. // T5
 */
export class Centre {
  private readonly days: DaySteps[];
  /** Whether it is ever worked within the horizon, whatever is taken of it. */
  readonly everWorked: boolean = false;
  /** Machine minutes of the shortest day of a week that is worked, for so many side by side; none where none is. */
  private readonly leastDay: readonly number[];
  /** A bit for each day with free minutes, and a bit for each word with any bit. */
  private readonly words: Uint32Array;
  private readonly over: Uint32Array;

  /** `weekdays` says the weekday of day 0, 0 for Monday; `daysOf` what is not as every week. */
  constructor(
    readonly machines: number,
    shifts: readonly Shift[],
    calendar: Calendar,
    firstWeekday: number,
    daysOf: ReadonlyMap<DayIndex, DayOf> = new Map(),
  ) {
    const { days } = calendar;
    const closed = stepsOf(machines, [], PLAIN);
    const usual = Array.from({ length: 7 }, (_, weekday) => {
      const hours = shifts.filter(({ week }) => week[weekday] === '1');
      return { hours, steps: stepsOf(machines, hours, PLAIN) };
    });
    this.leastDay = usual.reduce(
      (least, { steps: { sums } }) =>
        sums[1]! > 0 ? sums.map((sum, side) => Math.min(sum, least[side] ?? sum)) : least,
      [] as readonly number[],
    );
    this.days = new Array<DaySteps>(days);
    this.words = new Uint32Array(Math.ceil(days / 32));
    this.over = new Uint32Array(Math.ceil(this.words.length / 32));
    for (let day = 0; day < days; day += 1) {
      const { hours, steps } = usual[(firstWeekday + day) % 7]!;
      const own = daysOf.get(day);
      const works = calendar.works(day);
      if (machines > 0 && ((works && hours.length > 0) || (own && own.overtime.length > 0))) this.everWorked = true;
      this.put(day, own ? stepsOf(machines, works ? hours : [], own) : works ? steps : closed);
    }
  }

  /** Machine minutes of the shortest working day, on up to so many side by side; 0 where it is never worked. */
  dayLong(parallel: number): number {
    return this.leastDay[Math.min(parallel, this.machines)] ?? 0;
  }

  /** Machine minutes that are free on a day. */
  freeOn(day: DayIndex): number {
    return this.days[day]!.sums.at(-1)!;
  }

  /** Puts a day's steps in place of those it has. O(1). */
  put(day: DayIndex, steps: DaySteps): void {
    this.days[day] = steps;
    const word = day >> 5;
    if (steps.sums.at(-1)! > 0) {
      this.words[word]! |= 1 << (day & 31);
      this.over[word >> 5]! |= 1 << (word & 31);
    } else {
      this.words[word]! &= ~(1 << (day & 31));
      if (this.words[word] === 0) this.over[word >> 5]! &= ~(1 << (word & 31));
    }
  }

  /** The first day on or after it with free minutes. O(log32 days). */
  nextFree(day: DayIndex): DayIndex {
    if (day >= this.days.length) return NEVER;
    let word = day >> 5;
    let bits = this.words[word]! & (-1 << (day & 31));
    if (bits === 0) {
      word = nextSet(this.over, word + 1);
      if (word < 0) return NEVER;
      bits = this.words[word]!;
    }
    return (word << 5) + lowest(bits);
  }

  /** Takes one stretch of a day, where all of it has so many machines free; the steps before are told. O(steps). */
  hold(day: DayIndex, stretch: Stretch, changed: (before: DaySteps) => void): boolean {
    const before = this.days[day]!;
    const steps = heldFrom(before, stretch, this.machines);
    if (!steps) return false;
    changed(before);
    this.put(day, steps);
    return true;
  }

  /**
   * Runs so many machine minutes from a moment on: at each minute on as many machines as are free, up to so many side
   * by side, breaking off where none is; and takes them. Null where the horizon ends before; what was taken until then
   * is told to `changed` like all of it, with the steps the day had. O(days it runs on × steps of a day). // T5
   */
  forward(
    minutes: number,
    parallel: number,
    from: Moment,
    changed: (day: DayIndex, before: DaySteps) => void,
  ): Run | null {
    const side = Math.min(parallel, this.machines);
    const slices: Slice[] = [];
    let left = minutes;
    let day = dayOfMoment(from);
    let start = from - day * DAY_MINUTES;
    while (left > 0) {
      const next = this.nextFree(day);
      if (next === NEVER) return null;
      if (next > day) start = 0;
      day = next;
      const before = this.days[day]!;
      const found = takenFrom(before, side, left, start, this.machines);
      if (found.minutes > 0) {
        changed(day, before);
        this.put(day, found.steps);
        for (const stretch of found.stretches) slices.push({ day, ...stretch });
        left -= found.minutes;
      }
      if (left > 0) {
        day += 1;
        start = 0;
      }
    }
    const [first, last] = [slices[0], slices.at(-1)];
    return {
      start: first ? first.day * DAY_MINUTES + first.from : from,
      end: last ? last.day * DAY_MINUTES + last.until : from,
      slices,
    };
  }
}

const PLAIN: DayOf = { overtime: [], out: 0, taken: [] };

/** A list of steps that joins neighbours alike, and its sums. */
class Steps {
  private readonly at: number[] = [];
  private readonly free: number[] = [];
  private readonly sums: number[];

  constructor(private readonly machines: number) {
    this.sums = new Array<number>(machines + 1).fill(0);
  }

  add(from: number, until: number, free: number): void {
    if (until <= from) return;
    for (let side = 1; side <= this.machines; side += 1) {
      this.sums[side]! += (until - from) * (free < side ? free : side);
    }
    if (this.at.length > 0 && this.free.at(-1) === free) return;
    this.at.push(from);
    this.free.push(free);
  }

  done(): DaySteps {
    return { at: this.at, free: this.free, sums: this.sums };
  }
}

/** A day as steps: its machines in its hours, less what is out and taken; never below none. */
function stepsOf(
  machines: number,
  hours: readonly { from: number; until: number }[],
  { overtime, out, taken }: DayOf,
): DaySteps {
  const worked = [...hours, ...overtime];
  const edges = [...new Set([0, ...[...worked, ...taken].flatMap(({ from, until }) => [from, until])])]
    .filter((minute) => minute >= 0 && minute < DAY_MINUTES)
    .sort((a, b) => a - b);
  const steps = new Steps(machines);
  for (const [place, minute] of edges.entries()) {
    const covers = ({ from, until }: { from: number; until: number }) => from <= minute && minute < until;
    const busy = taken.filter(covers).reduce((sum, stretch) => sum + stretch.machines, 0);
    const free = worked.some(covers) ? Math.max(0, machines - out - busy) : 0;
    steps.add(minute, edges[place + 1] ?? DAY_MINUTES, free);
  }
  return steps.done();
}

/** What of a day is taken from a minute on, up to so many machine minutes, and the day without it. O(steps). */
function takenFrom(
  { at, free }: DaySteps,
  side: number,
  most: number,
  start: number,
  machines: number,
): { minutes: number; stretches: Stretch[]; steps: DaySteps } {
  const steps = new Steps(machines);
  const stretches: Stretch[] = [];
  let left = most;
  for (let place = 0; place < at.length; place += 1) {
    const until = at[place + 1] ?? DAY_MINUTES;
    const there = free[place]!;
    let from = at[place]!;
    if (there > 0 && until > start && left > 0) {
      if (from < start) {
        steps.add(from, start, there);
        from = start;
      }
      const used = there < side ? there : side;
      const take = (length: number, on: number) => {
        steps.add(from, from + length, there - on);
        const last = stretches.at(-1);
        if (last?.until === from && last.machines === on) last.until = from + length;
        else stretches.push({ from, until: from + length, machines: on });
        left -= length * on;
        from += length;
      };
      // Whole minutes on all of them, then one on what is left.
      const whole = Math.min(until - from, Math.floor(left / used));
      if (whole > 0) take(whole, used);
      if (left > 0 && left < used && from < until) take(1, left);
    }
    steps.add(from, until, there);
  }
  return { minutes: most - left, stretches, steps: steps.done() };
}

/** A day without a stretch of it; null where it has not so many machines free all the while. O(steps). */
function heldFrom({ at, free }: DaySteps, { from, until, machines: on }: Stretch, machines: number): DaySteps | null {
  const steps = new Steps(machines);
  for (let place = 0; place < at.length; place += 1) {
    const start = at[place]!;
    const end = at[place + 1] ?? DAY_MINUTES;
    const there = free[place]!;
    const [first, last] = [Math.max(start, from), Math.min(end, until)];
    if (first >= last) {
      steps.add(start, end, there);
      continue;
    }
    if (there < on) return null;
    steps.add(start, first, there);
    steps.add(first, last, there - on);
    steps.add(last, end, there);
  }
  return steps.done();
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
