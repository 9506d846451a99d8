// By their own files: the whole of the package is loaded by every thread that asks for it.
import { addDays as addDaysTo } from 'date-fns/addDays';
import { differenceInCalendarDays } from 'date-fns/differenceInCalendarDays';
import { format } from 'date-fns/format';
import { isValid } from 'date-fns/isValid';
import { parseISO } from 'date-fns/parseISO';

/** A plain calendar date as `YYYY-MM-DD`: no time, no zone. */
export type Day = string;

/** True for a real date from 1900 to 2199 written `YYYY-MM-DD`. */
export function isDay(text: string): boolean {
  return /^(19|20|21)\d\d-\d\d-\d\d$/.test(text) && isValid(parseISO(text));
}

export function addDays(day: Day, days: number): Day {
  return format(addDaysTo(parseISO(day), days), 'yyyy-MM-dd');
}

/** The weekday of a day, 0 for Monday. */
export function weekdayOf(day: Day): number {
  return ((daysBetween('2001-01-01', day) % 7) + 7) % 7;
}

/** Days from `from` to `to`; negative where `to` is earlier. */
export function daysBetween(from: Day, to: Day): number {
  return differenceInCalendarDays(parseISO(to), parseISO(from));
}

/** A day of the work date's year more than this many days back is written with its year, and read so. */
export const YEARLESS_DAYS_BACK = 183;

/** `Thu 11 Mar`, with the year where reading it without one would give another day. */
export function dayText(day: Day, workDate: Day): string {
  const yearless =
    isDay(workDate) && day.slice(0, 4) === workDate.slice(0, 4) && daysBetween(workDate, day) >= -YEARLESS_DAYS_BACK;
  return format(parseISO(day), yearless ? 'EEE d MMM' : 'EEE d MMM yyyy');
}

/** `March 2027`, of a month as `YYYY-MM`. */
export function monthText(month: string): string {
  return format(parseISO(`${month}-01`), 'MMMM yyyy');
}

/** `Monday 1 March`, for titles. */
export function longDayText(day: Day): string {
  return format(parseISO(day), 'EEEE d MMMM');
}
