import { addDays, daysBetween, dec, most, roundHalfAway, sum, ZERO, type Day, type Dec } from '@core/kernel';

/** Most days of shipments the daily rate is taken from. // A8 */
const RATE_DAYS = 90;

/** The days the daily rate is taken from: the last 90, or those the term has run; one at least. // A8 */
export const rateDays = (firstDay: Day, workDate: Day): number =>
  Math.min(RATE_DAYS, Math.max(1, daysBetween(firstDay, workDate) + 1));

/** Places a forecast is rounded to for showing; it is an estimate. */
const PLACES = 5;

interface Dated {
  day: Day;
  quantity: string;
}

export interface ForecastGround {
  committed: string;
  firstDay: Day;
  lastDay: Day;
  workDate: Day;
  /** Everything shipped on the line so far. */
  shipped: readonly Dated[];
  /** Released and not shipped, by ship date. */
  open: readonly Dated[];
  /** Planned and used up by no release. // A7 */
  planned: readonly Dated[];
}

export interface ForecastPoint {
  day: Day;
  /** Cumulative quantity at the end of that day. */
  quantity: Dec;
}

export interface Forecast {
  /** Shipped a day over the last 90 days, or those the term has run. */
  rate: Dec;
  /** What has happened: a point for each day with a shipment, from the first day to the work date. */
  past: ForecastPoint[];
  /** What is expected from the work date to the last day: open releases, the plan, then the daily rate. */
  coming: ForecastPoint[];
  /** Expected on the last day. */
  atEnd: Dec;
  /** C − forecast, never below zero. */
  remainder: Dec;
  /** The first day the forecast reaches C, where that is before the last day; null otherwise. */
  runOut: Day | null;
}

/**
 * The forecast of an agreement line: S + open releases + plan + the daily rate for the days that neither covers. The rate
 * is that of the last 90 days of shipments, or of the days the term has run where those are fewer. A release or a planned
 * call covers the days before it for as long as its quantity lasts at that rate, back to the one before; so one that is
 * far off does not silence the rate. Overdue ones count on the work date. // A8
 * O(n log n) in the number of dated quantities.
 */
export function forecastOf(ground: ForecastGround): Forecast {
  const { firstDay, workDate, lastDay } = ground;
  const committed = dec(ground.committed);
  const past = cumulate(ZERO, ground.shipped);
  const shipped = past.at(-1)?.quantity ?? ZERO;
  const ran = rateDays(firstDay, workDate);
  const since = addDays(workDate, -ran);
  const recent = ground.shipped.filter(({ day }) => day > since && day <= workDate);
  const recently = sum(recent.map(({ quantity }) => dec(quantity)));
  const expected = [...ground.open, ...ground.planned].map((each) => ({
    ...each,
    day: each.day < workDate ? workDate : each.day,
  }));
  const coming: ForecastPoint[] = [{ day: workDate, quantity: shipped }];
  let known = shipped;
  let day = workDate;
  let uncovered = 0;
  const reached = () => known.plus(recently.times(uncovered).div(ran));
  const atRate = (days: number) => {
    if (days <= 0 || recently.lte(0)) return;
    uncovered += days;
    coming.push({ day: addDays(day, days), quantity: roundHalfAway(reached(), PLACES) });
  };
  for (const step of cumulate(shipped, expected)) {
    const gap = Math.max(0, daysBetween(day, step.day < lastDay ? step.day : lastDay));
    const lasts = recently.gt(0) ? Number(step.quantity.minus(known).times(ran).div(recently).round(0, 3)) : gap;
    atRate(gap - Math.min(gap, lasts));
    known = step.quantity;
    day = step.day;
    coming.push({ day, quantity: roundHalfAway(reached(), PLACES) });
  }
  if (lastDay > day) {
    atRate(daysBetween(day, lastDay));
    if (coming.at(-1)!.day < lastDay) coming.push({ day: lastDay, quantity: coming.at(-1)!.quantity });
  }
  const atEnd = roundHalfAway(reached(), PLACES);
  return {
    rate: roundHalfAway(recently.div(ran), PLACES),
    past: [{ day: firstDay, quantity: ZERO }, ...past],
    coming,
    atEnd,
    remainder: most(ZERO, committed.minus(atEnd)),
    runOut: runOutOf(ground, committed, { past, coming, perDay: recently.div(ran) }),
  };
}

/** Cumulative quantities by day, from `from` on; several of one day are one point. */
function cumulate(from: Dec, dated: readonly Dated[]): ForecastPoint[] {
  const byDay = new Map<Day, Dec>();
  for (const { day, quantity } of dated) byDay.set(day, (byDay.get(day) ?? ZERO).plus(quantity));
  let reached = from;
  return [...byDay]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([day, quantity]) => {
      reached = reached.plus(quantity);
      return { day, quantity: reached };
    });
}

/** The first day that much is reached: in what happened, at a step, or between two of them at the daily rate. */
function runOutOf(
  { lastDay }: ForecastGround,
  committed: Dec,
  { past, coming, perDay }: { past: ForecastPoint[]; coming: ForecastPoint[]; perDay: Dec },
): Day | null {
  const before = (day: Day) => (day < lastDay ? day : null);
  const happened = past.find((point) => point.quantity.gte(committed));
  if (happened) return before(happened.day);
  const at = coming.findIndex((point) => point.quantity.gte(committed));
  if (at < 0) return null;
  const [from, to] = [coming[at - 1], coming[at]!];
  if (!from || perDay.lte(0)) return before(to.day);
  const days = Number(committed.minus(from.quantity).div(perDay).round(0, 3));
  return before(days < daysBetween(from.day, to.day) ? addDays(from.day, days) : to.day);
}

/** Left to release × probability, in value. // A8 */
export function weightedValue(left: Dec, probabilityPercent: string): Dec {
  return left.times(probabilityPercent).div(100);
}
