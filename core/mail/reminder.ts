import { decided, refuse } from '@core/refusals';
import { amountText, dayIn, daysBetween, dec, sum, type Day, type Language } from '../kernel';
import { LETTER_WORDS, type ReminderLevel } from './letter-words';

/** An invoice that is past due. */
export interface LateItem {
  number: string;
  /** What the customer called the order. */
  reference: string;
  dueDate: Day;
  owed: string;
}

export function levelOf(late: number): ReminderLevel {
  if (late > 60) return 'last';
  return late > 30 ? 'firm' : 'friendly';
}

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
  language: Language = 'en',
): { level: ReminderLevel; subject: string; body: string } {
  const oldest = items.map(({ dueDate }) => dueDate).sort()[0]!;
  const level = levelOf(daysBetween(oldest, workDate));
  const words = LETTER_WORDS[language];
  const told = (amount: string) => `${currency} ${amountText(amount, currency)}`;
  const whole = told(sum(items.map(({ owed }) => dec(owed))).toFixed());
  const lines = items.slice(0, MOST_LINES).map(({ number, reference, dueDate, owed }) => {
    const of = reference ? words.yours(number, reference) : number;
    return words.reminder.line(of, told(owed), dayIn(dueDate, language), daysBetween(dueDate, workDate));
  });
  if (items.length > MOST_LINES) lines.push(words.more(items.length - MOST_LINES));
  return {
    level,
    subject: `${words.reminder.subject[level]}: ${words.reminder.pastDue(whole)}`,
    body: [
      words.dear(party),
      words.reminder.missing(dayIn(workDate, language)),
      lines.join('\n'),
      `${words.reminder.together(whole)} ${words.reminder.asks[level]}`,
      words.regards(from),
    ].join('\n\n'),
  };
}

/** An invoice that is past due, with whose it is. */
export interface LateInvoice extends LateItem {
  customerId: number;
  customer: string;
  email: string;
  language: Language;
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
      const { customer, email, language, currency, invoiceId, number } = items[0]!;
      return {
        customer,
        recipient: email,
        invoice: { kind: 'CI' as const, id: invoiceId, number },
        ...reminderMessage(customer, from, items, currency, workDate, language),
      };
    });
  });
}
