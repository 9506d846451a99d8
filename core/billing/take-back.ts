import { carriedOf, dec, least, ZERO, type Day, type OwedInBoth } from '@core/kernel';
import type { JournalEntry } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { type InvoiceTax, type OwnTotals } from './customer-invoice';

/** A vendor's invoice as it was entered. */
export interface TakeBackGround {
  invoice: {
    id: number;
    number: string;
    vendorId: number;
    vendorNumber: string;
    /** Null where it opened the books. // U3 */
    purchaseId: number | null;
    currency: string;
    net: string;
    tax: string;
    total: string;
    /** The company's currency, and what it was entered at in it. // P8 */
    own: OwnTotals & { currency: string };
    rate: string;
    /** What is owed of it, less what was paid and set off. */
    owed: OwedInBoth;
  };
  /** The invoice it takes back itself, and the one that took it back; null for neither. */
  reverses: string | null;
  reversedBy: string | null;
  lines: readonly {
    receiptLineId: number;
    purchaseLineId: number;
    agreementLineId: number | null;
    quantity: string;
    unitPrice: string;
    net: string;
    receivedCost: string;
    receivedValue: string;
    priceDifference: string;
    agreedNet: string | null;
    taxCodeId: number;
    taxRate: string;
  }[];
  taxes: readonly InvoiceTax[];
  /** What it posted. */
  entries: readonly JournalEntry[];
}

export interface TakeBackEffects extends Omit<TakeBackGround, 'invoice' | 'reverses' | 'reversedBy'> {
  invoice: TakeBackGround['invoice'];
  reason: string;
  day: Day;
  net: string;
  tax: string;
  total: string;
  own: OwnTotals;
  /** Set off against what is owed on it, with what that is carried at on both; the rest stands to our credit. */
  setOff: SetOff;
}

/** An amount of a credit set off against an invoice, and what each of them is carried at for it. // P8 */
export interface SetOff {
  amount: string;
  ownInvoice: string;
  ownCredit: string;
}

/** Sets a credit off against an invoice, as far as both go. */
export function setOffOf(invoice: OwedInBoth, credit: { amount: string; own: string }, own: string): SetOff {
  const amount = least(dec(credit.amount), dec(invoice.amount).minus(invoice.settled));
  const whole = { amount: credit.amount, settled: '0', ownAmount: credit.own, ownSettled: '0' };
  return {
    amount: amount.toFixed(),
    ownInvoice: carriedOf(invoice, amount, own).toFixed(),
    ownCredit: carriedOf(whole, amount, own).toFixed(),
  };
}

/**
 * Takes a vendor's invoice back whole, by an invoice over as much below zero that names it: what it was for is to be
 * invoiced again, also under the same number of theirs. Refused for one that was taken back, or takes back. // P1 P3
 */
export function decideTakeBack(ground: TakeBackGround, reason: string, day: Day): Decision<TakeBackEffects> {
  const { invoice, reverses, reversedBy } = ground;
  const refusals: Refusal[] = [];
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (reversedBy) refusals.push(refuse('reversed-already', '', { document: invoice.number, by: reversedBy }));
  if (reverses) refusals.push(refuse('takes-back', '', { document: invoice.number, of: reverses }));
  return decided(refusals, () => ({
    invoice,
    reason: reason.trim(),
    day,
    net: less(invoice.net),
    tax: less(invoice.tax),
    total: less(invoice.total),
    own: { net: less(invoice.own.net), tax: less(invoice.own.tax), total: less(invoice.own.total) },
    setOff: setOffOf(invoice.owed, { amount: invoice.total, own: invoice.own.total }, invoice.own.currency),
    lines: ground.lines.map((line) => ({
      ...line,
      quantity: less(line.quantity),
      net: less(line.net),
      receivedCost: less(line.receivedCost),
      receivedValue: less(line.receivedValue),
      priceDifference: less(line.priceDifference),
      agreedNet: line.agreedNet === null ? null : less(line.agreedNet),
    })),
    taxes: ground.taxes.map((tax) => ({ ...tax, base: less(tax.base), tax: less(tax.tax) })),
    entries: ground.entries.map((entry) => ({
      ...entry,
      amount: less(entry.amount),
      foreign: entry.foreign === null ? null : less(entry.foreign),
    })),
  }));
}

const less = (amount: string): string => ZERO.minus(amount).toFixed();
