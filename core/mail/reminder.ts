import { decided, refuse } from '@core/refusals';
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

/** An invoice that is past due, with whose it is. */
export interface LateInvoice extends LateItem {
  customerId: number;
  customer: string;
  email: string;
  invoiceId: number;
  currency: string;
}

export interface RemindersGround {
  /** By customer, currency and due day. */
  late: readonly LateInvoice[];
  /** Customers of whom a message about an invoice waits to be sent. */
  drafted: ReadonlySet<number>;
  from: { person: string; company: string };
}

/** A reminder for each customer and currency with something past due, about its oldest invoice; none while one waits. */
export function decideReminders(
  { late, drafted, from }: RemindersGround,
  customerIds: readonly number[],
  workDate: Day,
) {
  const refusals = customerIds.flatMap((id, at) => {
    const field = `customerIds.${at}`;
    const own = late.find(({ customerId }) => customerId === id);
    if (!own) return [refuse('nothing-past-due', field, {})];
    return drafted.has(id) ? [refuse('reminder-waits', field, { customer: own.customer })] : [];
  });
  return decided(refusals, () => {
    const groups = new Map<string, LateInvoice[]>();
    for (const each of late) {
      const key = `${each.customerId} ${each.currency}`;
      groups.set(key, [...(groups.get(key) ?? []), each]);
    }
    return [...groups.values()].map((items) => {
      const { customer, email, currency, invoiceId, number } = items[0]!;
      return {
        customer,
        recipient: email,
        invoice: { kind: 'CI' as const, id: invoiceId, number },
        ...reminderMessage(customer, from, items, currency, workDate),
      };
    });
  });
}
