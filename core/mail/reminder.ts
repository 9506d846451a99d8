import { amountText, dayText, daysBetween, dec, sum, type Day } from '../kernel';

/** An invoice that is past due. */
export interface LateItem {
  number: string;
  /** What the customer called the order. */
  reference: string;
  dueDate: Day;
  owed: string;
}

/** How firm a reminder is, by how long the oldest is past due. */
export type ReminderLevel = 'friendly' | 'firm' | 'last';

export function levelOf(late: number): ReminderLevel {
  if (late > 60) return 'last';
  return late > 30 ? 'firm' : 'friendly';
}

const SUBJECTS: Record<ReminderLevel, string> = {
  friendly: 'Reminder',
  firm: 'Second reminder',
  last: 'Last reminder',
};
const ASKED: Record<ReminderLevel, string> = {
  friendly: 'Perhaps it was overlooked: please pay it in the next days. If you have paid meanwhile, our thanks.',
  firm: 'Please pay it within ten days, or tell us what stands against it.',
  last: 'Please pay it within seven days. After that we shall have to hold what you have on order with us.',
};

/** Longer lists are cut; what they come to is told whole. */
const MOST_LINES = 25;

/**
 * What a customer is told of what they owe past its day, in one currency: each invoice with how long it is due, the whole,
 * and what is asked, firmer the longer it is due. Oldest first.
 */
export function reminderMessage(
  party: string,
  from: { person: string; company: string },
  items: readonly LateItem[],
  currency: string,
  workDate: Day,
): { level: ReminderLevel; subject: string; body: string } {
  const oldest = items.map(({ dueDate }) => dueDate).sort()[0]!;
  const level = levelOf(daysBetween(oldest, workDate));
  const whole = sum(items.map(({ owed }) => dec(owed))).toFixed();
  const lines = items.slice(0, MOST_LINES).map(({ number, reference, dueDate, owed }) => {
    const late = daysBetween(dueDate, workDate);
    const of = reference ? `${number} (your ${reference})` : number;
    return `${of}: ${currency} ${amountText(owed, currency)}, due ${dayText(dueDate, '')}, ${late} ${late === 1 ? 'day' : 'days'} ago`;
  });
  if (items.length > MOST_LINES) lines.push(`and ${items.length - MOST_LINES} more`);
  return {
    level,
    subject: `${SUBJECTS[level]}: ${currency} ${amountText(whole, currency)} past due`,
    body: [
      `Dear ${party},`,
      `by ${dayText(workDate, '')} we have not had your payment of:`,
      lines.join('\n'),
      `Together ${currency} ${amountText(whole, currency)}. ${ASKED[level]}`,
      `Kind regards,\n${from.person}, ${from.company}`,
    ].join('\n\n'),
  };
}
