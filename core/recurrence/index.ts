import * as library from 'rrule';
import { isDay, type Day } from '@core/kernel';

// Apart from the agreements: the rule reader weighs more than they do, and only a plan being typed needs it.

// The package comes as a module to the browser and as CommonJS to Node, where its names hang on the default export.
const RRule = library.RRule ?? (Reflect.get(library, 'default') as typeof library).RRule;

/** Most dates one recurrence may give: ten years of weeks. */
const MOST_DATES = 520;

export { onLastDays, readRecurrence, scarceDay } from './words';

/** What a rule of dates may say; times of day it may not. */
const PARTS =
  /^(FREQ=[A-Z]+|(INTERVAL|COUNT)=[1-9]\d{0,3}|UNTIL=\d{8}(T\d{6}Z)?|(WKST|BYMONTH|BYWEEKNO|BYYEARDAY|BYMONTHDAY|BYDAY|BYSETPOS)=[A-Z0-9+,-]+)$/;
const PERIODS = /(^|;)FREQ=(DAILY|WEEKLY|MONTHLY|YEARLY)(;|$)/;

/**
 * The dates of a recurrence rule (RFC 5545) from `from` to `until`, both included, or to its own end where that is
 * before; counted from the first date on or after `from` that fits, and given only from `since` on where that is later.
 * Null where the rule cannot be read, names times of a day, or gives more than 520 dates.
 */
export function recurrenceDays(rule: string, from: Day, until: Day, since: Day = from): Day[] | null {
  if (!isDay(from) || !isDay(until) || !PERIODS.test(rule)) return null;
  if (!rule.split(';').every((part) => PARTS.test(part))) return null;
  const midnight = (day: Day) => new Date(`${day}T00:00:00Z`);
  try {
    const { until: own, count, interval, ...each } = RRule.parseString(rule);
    const last = own && own < midnight(until) ? own : midnight(until);
    // The first date that fits begins it, as the standard wants: "every second Tuesday" begins on the first.
    const [first] = new RRule({ ...each, dtstart: midnight(from), until: last }).all((_date, at) => at < 1);
    if (!first) return [];
    const repeats = { ...each, ...(count ? { count } : {}), ...(interval ? { interval } : {}) };
    const begins = since > from ? midnight(since) : first;
    const found = new RRule({ ...repeats, dtstart: first, until: last }).between(
      begins,
      last,
      true,
      (_date, count) => count <= MOST_DATES,
    );
    return found.length > MOST_DATES ? null : found.map((date) => date.toISOString().slice(0, 10));
  } catch {
    return null;
  }
}

/** A rule in words: `every week on Tuesday`; the rule itself where it cannot be read. */
export function sayRecurrence(rule: string): string {
  try {
    return new RRule(RRule.parseString(rule)).toText();
  } catch {
    return rule;
  }
}
