import { format } from 'date-fns/format';
import type { Day } from '@core/kernel';

/** The only place the server takes the time from; tests hand in their own. */
export interface Clock {
  now(): Date;
}

export const systemClock: Clock = { now: () => new Date() };

/** The calendar's day in a zone (IANA), or in the machine's where none is said. // U1 */
export function today(clock: Clock, timeZone: string | null = null): Day {
  if (timeZone === null) return format(clock.now(), 'yyyy-MM-dd');
  let days = DAYS.get(timeZone);
  // Sweden writes its days as ISO 8601 does.
  if (!days) DAYS.set(timeZone, (days = new Intl.DateTimeFormat('sv-SE', { timeZone })));
  return days.format(clock.now());
}

const DAYS = new Map<string, Intl.DateTimeFormat>();
