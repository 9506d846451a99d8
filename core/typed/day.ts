import { format } from 'date-fns/format';
import { isValid } from 'date-fns/isValid';
import { parse } from 'date-fns/parse';
import { parseISO } from 'date-fns/parseISO';
import { addDays, daysBetween, isDay, YEARLESS_DAYS_BACK, type Day } from '@core/kernel';

const WEEKDAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];

/**
 * A date as people type it, read against the work date:
 * `11/3` and `11 mar` (this year's, or next year's where that is more than half a year back), `11/3/27`, `2027-03-11`,
 * `+5` and `-2` (days from the work date), `fri` (the next such weekday after the work date), `today`.
 * Null where it is none of these.
 */
export function readTypedDay(typed: string, workDate: Day): Day | null {
  const text = typed.trim().toLowerCase();
  if (text === '') return null;
  if (text === 'today' || text === '.') return workDate;
  if (isDay(text)) return text;
  const shift = /^([+-])(\d{1,4})$/.exec(text);
  if (shift) return addDays(workDate, (shift[1] === '-' ? -1 : 1) * Number(shift[2]));
  const weekday = WEEKDAYS.findIndex((name) => text.length >= 2 && text.length <= 3 && name.startsWith(text));
  if (weekday >= 0) {
    const ahead = (weekday - parseISO(workDate).getDay() + 7) % 7;
    return addDays(workDate, ahead === 0 ? 7 : ahead);
  }
  return withYear(text, workDate) ?? withoutYear(text, workDate);
}

function withYear(text: string, workDate: Day): Day | null {
  for (const pattern of ['d/M/yyyy', 'd/M/yy', 'd.M.yyyy', 'd.M.yy', 'd MMM yyyy', 'EEE d MMM yyyy']) {
    const found = tryPattern(text, pattern, workDate);
    if (found && isDay(found)) return found;
  }
  return null;
}

function withoutYear(text: string, workDate: Day): Day | null {
  for (const pattern of ['d/M', 'd.M', 'd MMM', 'EEE d MMM']) {
    const thisYear = tryPattern(text, pattern, workDate);
    if (!thisYear) continue;
    if (daysBetween(workDate, thisYear) >= -YEARLESS_DAYS_BACK) return thisYear;
    const nextYear = `${Number(workDate.slice(0, 4)) + 1}${thisYear.slice(4)}`;
    return isDay(nextYear) ? nextYear : null;
  }
  return null;
}

function tryPattern(text: string, pattern: string, workDate: Day): Day | null {
  // The weekday of a year-less date need not fit the work date's year: read without it.
  const bare = pattern.startsWith('EEE ') ? text.replace(/^[a-z]{3} /, '') : text;
  if (pattern.startsWith('EEE ') && bare === text) return null;
  const found = parse(bare, pattern.replace('EEE ', ''), parseISO(workDate));
  return isValid(found) ? format(found, 'yyyy-MM-dd') : null;
}
