import type { Day } from '@core/kernel';

/** What commission is a part of, and when it is earned. // S12 */
export const COMMISSION_BASES = ['net', 'margin'] as const;
export type CommissionBase = (typeof COMMISSION_BASES)[number];
export const EARNED_AT = ['invoice', 'payment'] as const;
export type EarnedAt = (typeof EARNED_AT)[number];

/** A rate as it is kept: for one sales person, customer group or item group, or (nulls) for any. */
export interface CommissionRate {
  id: number;
  personId: number | null;
  priceGroupId: number | null;
  itemGroupId: number | null;
  perCent: string;
  of: CommissionBase;
  at: EarnedAt;
  firstDay: Day | null;
  lastDay: Day | null;
}

/** What a rate is looked for. */
export interface RateAsked {
  personId: number;
  priceGroupId: number | null;
  itemGroupId: number | null;
  /** The invoice's day. */
  day: Day;
}

const holds = (rate: CommissionRate, asked: RateAsked): boolean =>
  (rate.personId === null || rate.personId === asked.personId) &&
  (rate.priceGroupId === null || rate.priceGroupId === asked.priceGroupId) &&
  (rate.itemGroupId === null || rate.itemGroupId === asked.itemGroupId) &&
  (rate.firstDay === null || rate.firstDay <= asked.day) &&
  (rate.lastDay === null || rate.lastDay >= asked.day);

/** How closely a rate is meant: the person's own first, then that of the goods, then that of the customers. */
const closeness = (rate: CommissionRate): number =>
  (rate.personId === null ? 0 : 4) + (rate.itemGroupId === null ? 0 : 2) + (rate.priceGroupId === null ? 0 : 1);

/** The rate of a line for one person: the closest, of equals the latest to begin, then the older; null where none holds. */
export function rateFor(rates: readonly CommissionRate[], asked: RateAsked): CommissionRate | null {
  let found: CommissionRate | null = null;
  for (const rate of rates) if (holds(rate, asked) && (found === null || before(rate, found))) found = rate;
  return found;
}

function before(a: CommissionRate, b: CommissionRate): boolean {
  const closer = closeness(a) - closeness(b);
  if (closer !== 0) return closer > 0;
  if (a.firstDay !== b.firstDay) return (a.firstDay ?? '') > (b.firstDay ?? '');
  return a.id < b.id;
}
