import { dec, isWholeUnit, ZERO, type Calendar, type Dec } from '@core/kernel';
import type { RestPlan } from '../terms/terms';

/** What is left of an agreement line and in no plan, and how it counts. */
export interface RestGround {
  /** Committed, less released and planned; zero or below where nothing is. */
  left: Dec;
  restPlan: RestPlan;
  /** How likely it is, where that counts; 100 where it does not. */
  probabilityPercent: string;
  unit: string;
  /** Days from the work date to its last day; below zero once it has ended. */
  until: number;
  /** The weekday of the work date, 0 for Monday. */
  weekday: number;
}

/**
 * What is left in no plan as dated quantities that sum to it: spread evenly over our working days left, today among
 * them, each week's share on its first of them, so that it is planned for a week at a time; or all on the last day. Whole
 * units stay whole. Days are from the work date. O(days left). // A7
 */
export function restOf(
  { left, restPlan, probabilityPercent, unit, until, weekday }: RestGround,
  calendar: Calendar,
): { day: number; quantity: Dec }[] {
  const places = isWholeUnit(unit) ? 0 : 5;
  const likely = left.times(probabilityPercent).div(100).round(places, 1);
  if (restPlan === 'none' || likely.lte(0) || until < 0) return [];
  if (restPlan === 'last') return [{ day: until, quantity: likely }];
  const days: number[] = [];
  for (let day = 0; day <= Math.min(until, calendar.days - 1); day += 1) if (calendar.works(day)) days.push(day);
  // What lies beyond what is looked at has its share there.
  const beyond = Math.max(0, until - calendar.days + 1);
  const all = days.length + Math.round((beyond * days.length) / Math.max(1, calendar.days));
  if (all === 0) return [{ day: until, quantity: likely }];
  let given: Dec = ZERO;
  const weeks = new Map<number, { day: number; quantity: Dec }>();
  days.forEach((day, at) => {
    const reached = likely
      .times(at + 1)
      .div(all)
      .round(places, 1);
    const quantity = reached.minus(given);
    given = reached;
    const week = Math.floor((day + weekday) / 7);
    const there = weeks.get(week);
    if (there) there.quantity = there.quantity.plus(quantity);
    else weeks.set(week, { day, quantity });
  });
  return [...weeks.values()].filter(({ quantity }) => quantity.gt(0));
}

/** Left of a line and in no plan: never below nothing. */
export const leftInNoPlan = (committed: string, released: Dec, planned: Dec): Dec => {
  const left = dec(committed).minus(released).minus(planned);
  return left.gt(0) ? left : ZERO;
};
