import { format } from 'date-fns/format';
import type { Day } from '@core/kernel';

/** The only place the server takes the time from; tests hand in their own. */
export interface Clock {
  now(): Date;
}

export const systemClock: Clock = { now: () => new Date() };

/** The calendar's day of the machine's zone. */
export function today(clock: Clock): Day {
  return format(clock.now(), 'yyyy-MM-dd');
}
