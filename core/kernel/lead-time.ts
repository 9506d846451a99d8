import type { Calendar, DayIndex } from './calendar';

export interface LeadTime {
  /** The vendor's, in the vendor's working days. */
  readonly days: number;
  readonly vendorCalendar: Calendar;
  /** Receiving and safety days, in ours. */
  readonly ownDays: number;
  readonly ownCalendar: Calendar;
}

/**
 * The day goods ordered on a day are there: ordered on the vendor's first working day from then on, received on our
 * first one from when they come. O(1). // T3
 */
export function boughtBy(ordered: DayIndex, { days, vendorCalendar, ownDays, ownCalendar }: LeadTime): DayIndex {
  const sent = vendorCalendar.plus(vendorCalendar.next(ordered), days);
  return ownCalendar.plus(ownCalendar.next(sent), ownDays);
}

/** The last day on which goods can be ordered to be there by a day; -1 where that was before today. O(log days). // T3 T6 */
export function orderBy(needed: DayIndex, leadTime: LeadTime): DayIndex {
  let low = -1;
  let high = Math.min(needed, leadTime.ownCalendar.days - 1);
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (boughtBy(middle, leadTime) <= needed) low = middle;
    else high = middle - 1;
  }
  return low;
}
