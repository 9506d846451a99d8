import { addDays, Calendar, type CalendarRow, type Day } from '@core/kernel';

/** Days looked through for working ones at most. */
const AHEAD = 60;

/** The first so many days that are worked, from a day on; every day where no calendar says. */
export function workingDays(from: Day, count: number, calendar: CalendarRow | null): Day[] {
  const worked = new Calendar(from, AHEAD, calendar ?? { week: '1111111', holidays: [] });
  return Array.from({ length: AHEAD }, (_, at) => at)
    .filter((at) => worked.works(at))
    .slice(0, count)
    .map((at) => addDays(from, at));
}

/** An operation that is not done, by what it was laid for and what is reported. */
export interface LaidDays {
  firstDay: Day;
  lastDay: Day;
  /** Whether anything of it is reported. */
  begun: boolean;
}

/**
 * Where an operation stands among the days that are shown: `behind` where it should be over, or begun, before today; the
 * first shown day it is worked on else; null where that is after them all. // W3
 */
export function cellOf(
  { firstDay, lastDay, begun }: LaidDays,
  today: Day,
  days: readonly Day[],
): 'behind' | Day | null {
  if (lastDay < today || (firstDay < today && !begun)) return 'behind';
  return days.find((day) => day >= firstDay && day <= lastDay) ?? days.find((day) => day >= firstDay) ?? null;
}

/** Whether what it is made for ships before it can be there, as it is laid and as it stands today. */
export const isLate = (
  { due, lastDay, shipDate }: { due: Day; lastDay: Day; shipDate: Day | null },
  today: Day,
): boolean => shipDate !== null && (shipDate < due || (lastDay < today && shipDate <= today));
