import * as library from 'rrule';
import { isDay, type Day } from '@core/kernel';

// Apart from the agreements: the rule reader weighs more than they do, and only a plan being typed needs it.

// The package comes as a module to the browser and as CommonJS to Node, where its names hang on the default export.
const RRule = library.RRule ?? (Reflect.get(library, 'default') as typeof library).RRule;

/** Most dates one recurrence may give: ten years of weeks. */
const MOST_DATES = 520;

/**
 * The dates of a recurrence rule (RFC 5545) from `from` to `until`, both included, `from` being its first.
 * Null where the rule cannot be read or gives more than 520 dates.
 */
export function recurrenceDays(rule: string, from: Day, until: Day): Day[] | null {
  if (!isDay(from) || !isDay(until) || /DTSTART|UNTIL|COUNT/i.test(rule)) return null;
  const midnight = (day: Day) => new Date(`${day}T00:00:00Z`);
  try {
    const { freq, ...options } = RRule.parseString(rule);
    if (freq === undefined) return null;
    const found = new RRule({ ...options, freq, dtstart: midnight(from), until: midnight(until) }).all(
      (_date, count) => count <= MOST_DATES,
    );
    return found.length > MOST_DATES ? null : found.map((date) => date.toISOString().slice(0, 10));
  } catch {
    return null;
  }
}
