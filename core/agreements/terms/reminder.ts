import { addDays, isDecimalText, dec, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { elapsedShare, pace } from '../ending/progress';

/** By days before the last day, by per cent shipped, or by a pace of so many points or less. // A9 */
export const REMINDER_KINDS = ['days', 'fulfilled', 'pace'] as const;
export type ReminderKind = (typeof REMINDER_KINDS)[number];

export interface Reminder {
  kind: ReminderKind;
  /** Days (0 to 3650), per cent (0 to 100), or points of pace (−100 to 100). */
  at: string;
}

const BOUNDS: Record<ReminderKind, [least: number, most: number]> = {
  days: [0, 3650],
  fulfilled: [0, 100],
  pace: [-100, 100],
};

/** Reminders as typed: each a number within its bounds, none twice. // A9 */
export function reminderRefusals(reminders: readonly Reminder[]): Refusal[] {
  const field = 'reminders';
  const seen = new Set<string>();
  return reminders.flatMap(({ kind, at }) => {
    const [least, most] = BOUNDS[kind];
    const readable = isDecimalText(at, 'percent') || isDecimalText(at, 'quantity');
    if (!readable || dec(at).lt(least) || dec(at).gt(most) || (kind === 'days' && !/^\d+$/.test(at))) {
      return [refuse('not-a-reminder', field, { at })];
    }
    const twice = seen.has(`${kind} ${dec(at).toFixed()}`);
    seen.add(`${kind} ${dec(at).toFixed()}`);
    return twice ? [refuse('reminder-twice', field, { at })] : [];
  });
}

export interface ReminderGround {
  firstDay: Day;
  lastDay: Day;
  /** Shipped ÷ committed, 0 to 1. */
  fulfilled: number;
}

/** The day a reminder by days fires; null for the others, which wait for what happens. */
export function reminderDay({ kind, at }: Reminder, lastDay: Day): Day | null {
  return kind === 'days' ? addDays(lastDay, -Number(at)) : null;
}

/** True once the reminder's moment has come. Pace is looked at from the first day to the last. // A9 */
export function isDue(reminder: Reminder, ground: ReminderGround, workDate: Day): boolean {
  const at = Number(reminder.at);
  switch (reminder.kind) {
    case 'days':
      return workDate >= reminderDay(reminder, ground.lastDay)!;
    case 'fulfilled':
      return points(ground.fulfilled) >= at;
    case 'pace': {
      if (workDate < ground.firstDay || workDate > ground.lastDay) return false;
      const elapsed = elapsedShare(ground.firstDay, ground.lastDay, workDate);
      return points(pace(ground.fulfilled, elapsed)) <= at;
    }
  }
}

/** A share in points of a hundred, freed of what floats leave behind: a bound is reached when it is. */
const points = (share: number) => Math.round(share * 1e8) / 1e6;

/** A reminder in words: `30 days before its end`. */
export function reminderWords({ kind, at }: Reminder): string {
  if (kind === 'days') return at === '1' ? '1 day before its end' : `${at} days before its end`;
  return kind === 'fulfilled' ? `${at} % taken` : `pace at ${at.replace('-', '−')} points or less`;
}

/** Somebody saw to a reminder that fired; null where none of it waits. // A9 */
export function decideHandled(
  fired: { id: number } | null,
  reminder: Reminder,
): Decision<{ id: number; words: string }> {
  const what = 'A reminder that fired and waits';
  return decided(fired ? [] : [refuse('not-found', '', { what })], () => ({
    id: fired!.id,
    words: reminderWords(reminder),
  }));
}
