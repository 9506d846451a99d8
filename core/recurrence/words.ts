import { isDay, type Day } from '@core/kernel';
import { readTypedDay } from '@core/typed';

// Recurrence as people say it, into a rule and back. // RFC 5545 3.3.10

const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
const DAY_NAMES = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const MONTH_NAMES = [
  ...['january', 'february', 'march', 'april', 'may', 'june'],
  ...['july', 'august', 'september', 'october', 'november', 'december'],
];
const WORKING = 'MO,TU,WE,TH,FR';
const ORDINALS: Record<string, number> = {
  ...{ first: 1, second: 2, third: 3, fourth: 4, fifth: 5, sixth: 6, seventh: 7, eighth: 8, ninth: 9, tenth: 10 },
  ...{ last: -1, other: 2 },
};
const COUNTS: Record<string, number> = {
  ...{ one: 1, two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8, nine: 9, ten: 10, twelve: 12 },
};
const UNITS: Record<string, readonly [freq: string, times: number]> = {
  day: ['DAILY', 1],
  week: ['WEEKLY', 1],
  fortnight: ['WEEKLY', 2],
  month: ['MONTHLY', 1],
  quarter: ['MONTHLY', 3],
  year: ['YEARLY', 1],
};

interface Rule {
  FREQ: string;
  INTERVAL?: number;
  BYMONTH?: string;
  BYMONTHDAY?: string;
  BYDAY?: string;
  BYSETPOS?: string;
  COUNT?: number;
  UNTIL?: string;
}

/**
 * A recurrence as it was typed (`every second Tuesday until 30 June`, `last working day of the month`, `the 1st and 15th,
 * 10 times`, or a rule of RFC 5545 itself) as a rule without its first date; null where it cannot be read. Days without
 * a year are the next from the work date on.
 */
export function readRecurrence(typed: string, workDate: Day): string | null {
  const text = typed.trim().toLowerCase().replace(/\s+/g, ' ');
  if (text.startsWith('freq=') || text.startsWith('rrule:')) return text.replace(/^rrule:/, '').toUpperCase();
  const [said, end] = ended(text, workDate) ?? [null, null];
  const rule = said === null ? null : ruleOf(said);
  return rule && textOf({ ...rule, ...end });
}

/** What is said before `until …` or `… times`, and what that ends; null where the end cannot be read. */
function ended(text: string, workDate: Day): [said: string, end: Pick<Rule, 'COUNT' | 'UNTIL'>] | null {
  const times = /^(.*?)[, ]+(?:for )?(\w+) times$/.exec(text);
  if (times) {
    const count = COUNTS[times[2]!] ?? Number(times[2]);
    return Number.isInteger(count) && count > 0 ? [times[1]!, { COUNT: count }] : null;
  }
  const until = /^(.*?)[, ]+(?:until|till|to) (.+)$/.exec(text);
  if (!until) return [text, {}];
  const day = readDay(until[2]!, workDate);
  return day ? [until[1]!, { UNTIL: day.replaceAll('-', '') }] : null;
}

/** A day as fields read it, or `30 june 2027`. */
function readDay(text: string, workDate: Day): Day | null {
  const named = /^(\d{1,2})(?:st|nd|rd|th)? ([a-z]{3,})(?: (\d{4}))?$/.exec(text);
  const month = named && monthOf(named[2]!);
  if (!named || !month) return readTypedDay(text, workDate);
  const on = (year: number) => `${year}-${two(month)}-${two(Number(named[1]))}`;
  const year = named[3] ? Number(named[3]) : Number(workDate.slice(0, 4));
  const day = named[3] || on(year) >= workDate ? on(year) : on(year + 1);
  return isDay(day) ? day : null;
}

const two = (value: number) => String(value).padStart(2, '0');

function named(names: readonly string[], word: string): number {
  return word.length < 3 ? -1 : names.findIndex((name) => name.startsWith(word) || `${name}s` === word);
}

const monthOf = (word: string) => named(MONTH_NAMES, word) + 1;
const weekdayOf = (word: string) => WEEKDAYS[named(DAY_NAMES, word)];

/** `2nd`, `third`, `last`; null for what is none. */
function ordinalOf(word: string): number | null {
  const digits = /^(\d{1,2})(?:st|nd|rd|th)$/.exec(word);
  return digits ? Number(digits[1]) : (ORDINALS[word] ?? null);
}

function ruleOf(said: string): Rule | null {
  const words = said
    .replace(/,| and | & /g, ' + ')
    .replace(/\b(of|in) (the|each|a) /g, 'of ')
    .replace(/\b(on|the|each) /g, '')
    .split(' ')
    .filter((word) => word !== '');
  return new Words(words).rule();
}

/** The words of a recurrence, read from the left; whatever is left over is not understood. */
class Words {
  private at = 0;

  constructor(private readonly words: readonly string[]) {}

  rule(): Rule | null {
    const rule = this.read();
    return this.at === this.words.length ? rule : null;
  }

  private read(): Rule | null {
    const adverb = /^(dai|week|month|quarter|year)ly$/.exec(this.word);
    if (adverb) {
      this.at += 1;
      return this.within(adverb[1] === 'dai' ? 'day' : adverb[1]!, 1);
    }
    if (this.take('every')) return this.every();
    return weekdayOf(this.word) ? this.weekly(1) : this.ofPeriod(1);
  }

  private get word(): string {
    return this.words[this.at] ?? '';
  }

  private take(...words: string[]): boolean {
    const there = words.every((word, ahead) => this.words[this.at + ahead] === word);
    if (there) this.at += words.length;
    return there;
  }

  /** How often: `2`, `two`, `second`; null where it says nothing of it. */
  private times(): number | null {
    const { word } = this;
    return COUNTS[word] ?? (/^\d{1,3}$/.test(word) ? Number(word) : ordinalOf(word));
  }

  /** What follows `every`: `2 weeks monday`, `second tuesday`, `weekday`, `31st`. */
  private every(): Rule | null {
    const start = this.at;
    const times = this.times();
    if (times !== null && times > 0) {
      this.at += 1;
      const weekday = weekdayOf(this.word);
      // Every second Tuesday is one a fortnight; of a month, it is the second of each.
      if (weekday && this.words[this.at + 1] !== 'of') return this.weekly(times);
    }
    const unit = this.word.replace(/s$/, '');
    if (unit in UNITS) {
      this.at += 1;
      return this.within(unit, times ?? 1);
    }
    if (times === null) return this.weekly(1);
    this.at = start;
    return this.ofPeriod(1);
  }

  /** What follows a unit of time: its days, and nothing for the day it begins on. */
  private within(unit: string, times: number): Rule | null {
    const [FREQ, factor] = UNITS[unit]!;
    const rule: Rule = { FREQ, ...(times * factor > 1 ? { INTERVAL: times * factor } : {}) };
    if (this.at === this.words.length) return rule;
    if (FREQ === 'WEEKLY') {
      const days = this.days();
      return days === null ? null : { ...rule, BYDAY: days };
    }
    if (FREQ === 'DAILY') return null;
    const inside = this.places();
    return inside && { ...rule, ...inside };
  }

  /** `monday + thursday`, `weekday`, `working day`: those days of every so many weeks. */
  private weekly(times: number): Rule | null {
    const days = this.days();
    return days === null ? null : { FREQ: 'WEEKLY', ...(times > 1 ? { INTERVAL: times } : {}), BYDAY: days };
  }

  private days(): string | null {
    if (this.working()) return WORKING;
    const days: string[] = [];
    do {
      const day = weekdayOf(this.word);
      if (!day) return null;
      days.push(day);
      this.at += 1;
    } while (this.take('+'));
    return days.join();
  }

  private working(): boolean {
    return (
      this.take('weekday') ||
      this.take('weekdays') ||
      this.take('working', 'day') ||
      this.take('working', 'days') ||
      this.take('workday')
    );
  }

  /** `last friday of month`, `1st + 15th of every 2 months`, `1 march + 1 september`. */
  private ofPeriod(times: number): Rule | null {
    const inside = this.places();
    if (!inside) return null;
    if (inside.BYMONTH) return { FREQ: 'YEARLY', ...inside };
    if (this.at === this.words.length) return { FREQ: 'MONTHLY', ...inside };
    if (!this.take('of')) return null;
    this.take('every');
    const count = this.times();
    if (count !== null && count > 0) this.at += 1;
    const unit = this.word.replace(/s$/, '');
    const month = monthOf(this.word);
    this.at += 1;
    if (month > 0) return { FREQ: 'YEARLY', ...inside, BYMONTH: String(month) };
    if (unit !== 'month' && unit !== 'quarter') return null;
    const every = (count ?? times) * UNITS[unit]![1];
    return { FREQ: 'MONTHLY', ...(every > 1 ? { INTERVAL: every } : {}), ...inside };
  }

  /** Days of a month or a year: by number, by weekday, the last; all of one kind. */
  private places(): Omit<Rule, 'FREQ'> | null {
    const monthDays: number[] = [];
    const weekdays: string[] = [];
    const months = new Set<number>();
    let positions: number[] = [];
    do {
      const plain = /^\d{1,2}$/.exec(this.word);
      const first = plain && monthOf(this.words[this.at + 1] ?? '') > 0 ? Number(plain[0]) : ordinalOf(this.word);
      if (first === null || first === 0) return null;
      this.at += 1;
      // The second last is counted from the end.
      const place = first > 0 && this.take('last') ? -first : first;
      const weekday = weekdayOf(this.word);
      const month = monthOf(this.word);
      if (weekday) {
        this.at += 1;
        weekdays.push(`${place}${weekday}`);
      } else if (this.working()) positions.push(place);
      else {
        if (month > 0) {
          this.at += 1;
          months.add(month);
        } else this.take('day');
        monthDays.push(place);
      }
    } while (this.take('+'));
    const kinds = [monthDays, weekdays, positions].filter((each) => each.length > 0);
    if (kinds.length !== 1 || monthDays.some((day) => Math.abs(day) > 31)) return null;
    // Of several dates in a year the days must be the same: a rule names months and days apart.
    if (months.size > 0 && (new Set(monthDays).size > 1 || months.size !== monthDays.length)) return null;
    if (positions.length > 0) {
      positions = positions.filter((place) => Math.abs(place) <= 23);
      return positions.length > 0 ? { BYDAY: WORKING, BYSETPOS: positions.join() } : null;
    }
    if (weekdays.length > 0) {
      return weekdays.every((each) => Math.abs(parseInt(each, 10)) <= 5) ? { BYDAY: weekdays.join() } : null;
    }
    return {
      ...(months.size > 0 ? { BYMONTH: [...months].join() } : {}),
      BYMONTHDAY: [...new Set(monthDays)].join(),
    };
  }
}

const textOf = (rule: Rule): string =>
  Object.entries(rule)
    .map(([name, value]) => `${name}=${value}`)
    .join(';');

/**
 * The day of the month that a rule names and some months do not have, 29 to 31; where it names none, that of its first
 * date. Null where every month has it.
 */
export function scarceDay(rule: string, from: Day): number | null {
  if (!/FREQ=MONTHLY/.test(rule) || /BYDAY|BYSETPOS/.test(rule)) return null;
  const days = /BYMONTHDAY=([^;]+)/.exec(rule)?.[1]!.split(',').map(Number) ?? [Number(from.slice(8))];
  return days.length === 1 && days[0]! > 28 ? days[0]! : null;
}

/** The same rule with the last day of the months that have no such day. */
export function onLastDays(rule: string, day: number): string {
  const days = Array.from({ length: day - 27 }, (_, more) => 28 + more).join();
  const without = rule.replace(/;BYMONTHDAY=[^;]+/, '');
  return `${without};BYMONTHDAY=${days};BYSETPOS=-1`;
}
