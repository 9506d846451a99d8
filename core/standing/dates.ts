import { addDays, type Day } from '@core/kernel';
import { recurrenceDays } from '@core/recurrence';

/** What becomes of a date on which we are closed. // S7 */
export const CLOSED_RULES = ['skip', 'before', 'after'] as const;
export type ClosedRule = (typeof CLOSED_RULES)[number];

/** What a standing order says from a day on. */
export interface StandingTerm {
  id: number;
  fromDay: Day;
  /** RFC 5545, without times of day. */
  rule: string;
}

export interface StandingPlan {
  firstDay: Day;
  /** Null where it has no end. */
  lastDay: Day | null;
  closed: ClosedRule;
  /** By the day from which each holds, the earliest first. */
  terms: readonly StandingTerm[];
  /** Dates about which something was said or done already, by date. */
  said: ReadonlyMap<Day, Said>;
}

/** What was said or done about a date: skipped by hand, made into an order, or refused with why. */
export interface Said {
  state: 'skipped' | 'made' | 'refused';
  orderId: number | null;
  why: string;
}

/** One date of a standing order: the date of its rule, when it ships, or why it does not. */
export interface StandingDate {
  day: Day;
  termId: number;
  /** Null where it is skipped. */
  shipDay: Day | null;
  /** Why it is skipped or moved; empty where it is neither. */
  why: string;
  said: Said | null;
}

/** Days one looks for an open day before or after a closed one. */
const MOST_MOVED = 31;

/**
 * The dates of a standing order from `from` to `until`, both included, with what becomes of each: skipped by hand, on a day
 * we are closed skipped or moved. `closed` says why we are closed on a day, null where we are open. Each term counts from
 * its own first day, until the next. Null where a rule gives more than 520 dates between. // S7
 */
export function standingDates(
  plan: StandingPlan,
  closed: (day: Day) => string | null,
  from: Day,
  until: Day,
): StandingDate[] | null {
  const last = plan.lastDay !== null && plan.lastDay < until ? plan.lastDay : until;
  const dates: StandingDate[] = [];
  for (const [at, term] of plan.terms.entries()) {
    const next = plan.terms[at + 1];
    const begins = term.fromDay < plan.firstDay ? plan.firstDay : term.fromDay;
    const ends = next && addDays(next.fromDay, -1) < last ? addDays(next.fromDay, -1) : last;
    if (ends < begins || ends < from) continue;
    const days = recurrenceDays(term.rule, begins, ends, from);
    if (days === null) return null;
    for (const day of days) {
      const said = plan.said.get(day) ?? null;
      dates.push({ day, termId: term.id, said, ...shipping(day, plan.closed, closed, said) });
    }
  }
  return dates;
}

function shipping(
  day: Day,
  rule: ClosedRule,
  closed: (day: Day) => string | null,
  said: Said | null,
): Pick<StandingDate, 'shipDay' | 'why'> {
  if (said?.state === 'skipped') return { shipDay: null, why: said.why };
  const why = closed(day);
  if (why === null) return { shipDay: day, why: '' };
  if (rule === 'skip') return { shipDay: null, why };
  const step = rule === 'before' ? -1 : 1;
  for (let moved = 1; moved <= MOST_MOVED; moved += 1) {
    const shipDay = addDays(day, step * moved);
    if (closed(shipDay) === null) return { shipDay, why };
  }
  return { shipDay: null, why };
}

/** Whether a date waits to be made: it ships, and nothing was made of it. One that was refused waits for a person. */
export const waitsToBeMade = ({ shipDay, said }: StandingDate): boolean => shipDay !== null && said === null;

/**
 * What of a standing order is to be made next, and on which day: of the dates that wait the first to ship, so many days
 * ahead of it; null where none waits within the dates looked at.
 */
export function nextDue(dates: readonly StandingDate[], aheadDays: number): { day: Day; on: Day } | null {
  let next: { day: Day; on: Day } | null = null;
  for (const date of dates) {
    if (!waitsToBeMade(date)) continue;
    const on = addDays(date.shipDay!, -aheadDays);
    if (next === null || on < next.on) next = { day: date.day, on };
  }
  return next;
}

/** Most dates shown of what is being typed. */
const FIRST_SHOWN = 12;

/** The first dates of what is being typed, within a year. Cost: one rule over a year. */
export function firstDates(
  plan: Omit<StandingPlan, 'terms'>,
  { from, rule }: { from: Day; rule: string },
  closed: (day: Day) => string | null,
): Pick<StandingDate, 'day' | 'shipDay' | 'why'>[] {
  const dates = standingDates({ ...plan, terms: [{ id: 0, fromDay: from, rule }] }, closed, from, yearOn(from)) ?? [];
  return dates.slice(0, FIRST_SHOWN).map(({ day, shipDay, why }) => ({ day, shipDay, why }));
}

/** The same day of the next year; the last of February for a leap day. */
export const yearOn = (day: Day): Day => `${Number(day.slice(0, 4)) + 1}${day.slice(4)}`.replace(/-02-29$/, '-02-28');

/** Why a company is closed on a day: a holiday by its name, a day of the week that is not worked; null where it is open. */
export function closedBy(
  week: string,
  holidays: ReadonlyMap<Day, string>,
  weekdayOf: (day: Day) => number,
): (day: Day) => string | null {
  const names = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
  return (day) => holidays.get(day) ?? (week[weekdayOf(day)] === '1' ? null : `closed on ${names[weekdayOf(day)]}`);
}
