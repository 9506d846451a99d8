import { addDays, daysBetween, dec, most, roundHalfAway, ZERO, type Day } from '@core/kernel';

/** What is known of how somebody buys an item. */
export interface BoughtBefore {
  /** How often, from the first day to the last. */
  times: number;
  firstDay: Day;
  lastDay: Day;
  /** Of all times together, and of the last, in one unit. */
  quantity: string;
  lastQuantity: string;
  /** Ordered and still to come. */
  open: string;
}

export interface Proposal {
  /** Days between two times, and when the next is to be. */
  every: number;
  dueOn: Day;
  /** How much, less what is still to come; null where it is not due yet or enough comes. */
  quantity: string | null;
}

/** Times that make a rhythm, and how many days ahead what is due is proposed. */
const LEAST_TIMES = 3;
const AHEAD_DAYS = 3;

/**
 * What is proposed of an item by how it was bought before: after as many days as usual as much as usual, whole where the
 * last was whole, less what is still to come. Null where it was bought too seldom to tell. O(1).
 */
export function proposalOf(before: BoughtBefore, workDate: Day): Proposal | null {
  const { times, firstDay, lastDay, quantity, lastQuantity, open } = before;
  const days = daysBetween(firstDay, lastDay);
  if (times < LEAST_TIMES || days <= 0) return null;
  const every = Math.max(1, Math.round(days / (times - 1)));
  const dueOn = addDays(lastDay, every);
  const whole = dec(lastQuantity).mod(1).eq(0);
  const usual = roundHalfAway(dec(quantity).div(times), whole ? 0 : 2);
  const wanted = most(ZERO, usual.minus(open));
  const due = daysBetween(workDate, dueOn) <= AHEAD_DAYS;
  return { every, dueOn, quantity: due && wanted.gt(0) ? wanted.toFixed() : null };
}
