import { addDays, daysBetween, dec, most, roundHalfAway, sum, ZERO, type Day, type Dec } from '@core/kernel';

/** Days of shipments the daily rate is taken from. // A8 */
export const RATE_DAYS = 90;
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
  /** Shipped a day over the last 90 days. */
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
 * The forecast of an agreement line: S + open releases + plan + the daily rate of the last 90 days of shipments for
 * the days after the last open release or planned call. Overdue ones count on the work date. // A8
 * O(n log n) in the number of dated quantities.
 */
export function forecastOf(ground: ForecastGround): Forecast {
  const { workDate, lastDay } = ground;
  const committed = dec(ground.committed);
  const past = cumulate(ZERO, ground.shipped);
  const shipped = past.at(-1)?.quantity ?? ZERO;
  const since = addDays(workDate, -RATE_DAYS);
  const recent = ground.shipped.filter(({ day }) => day > since && day <= workDate);
  const recently = sum(recent.map(({ quantity }) => dec(quantity)));
  const expected = [...ground.open, ...ground.planned].map((each) => ({
    ...each,
    day: each.day < workDate ? workDate : each.day,
  }));
  const steps = cumulate(shipped, expected);
  const known = steps.at(-1)?.quantity ?? shipped;
  const covered = steps.at(-1)?.day ?? workDate;
  const uncovered = Math.max(0, daysBetween(covered, lastDay));
  const atEnd = roundHalfAway(known.plus(recently.times(uncovered).div(RATE_DAYS)), PLACES);
  const coming: ForecastPoint[] = [{ day: workDate, quantity: shipped }, ...steps];
  if (lastDay > covered) coming.push({ day: lastDay, quantity: atEnd });
  return {
    rate: roundHalfAway(recently.div(RATE_DAYS), PLACES),
    past: [{ day: ground.firstDay, quantity: ZERO }, ...past],
    coming,
    atEnd,
    remainder: most(ZERO, committed.minus(atEnd)),
    runOut: runOutOf(ground, committed, { past, steps, known, covered, recently }),
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

function runOutOf(
  { lastDay }: ForecastGround,
  committed: Dec,
  curve: { past: ForecastPoint[]; steps: ForecastPoint[]; known: Dec; covered: Day; recently: Dec },
): Day | null {
  const reached = [...curve.past, ...curve.steps].find((point) => point.quantity.gte(committed));
  if (reached) return reached.day < lastDay ? reached.day : null;
  if (curve.recently.lte(0)) return null;
  const days = Number(committed.minus(curve.known).times(RATE_DAYS).div(curve.recently).round(0, 3));
  if (days >= daysBetween(curve.covered, lastDay)) return null;
  return addDays(curve.covered, days);
}

/** Left to release × probability, in value. // A8 */
export function weightedValue(left: Dec, probabilityPercent: string): Dec {
  return left.times(probabilityPercent).div(100);
}
