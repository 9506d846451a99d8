import { dec, least, ZERO, type Day } from '@core/kernel';
import type { JournalEntry } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { InvoiceTax } from './customer-invoice';

/** A vendor's invoice as it was entered. */
export interface TakeBackGround {
  invoice: {
    id: number;
    number: string;
    vendorId: number;
    vendorNumber: string;
    purchaseId: number;
    currency: string;
    net: string;
    tax: string;
    total: string;
    /** Not paid and not set off. */
    owed: string;
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
  /** Set off against what is owed on it; the rest stands to our credit with the vendor. */
  setOff: string;
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
    setOff: least(dec(invoice.total), dec(invoice.owed)).toFixed(),
    lines: ground.lines.map((line) => ({
      ...line,
      quantity: less(line.quantity),
      net: less(line.net),
      receivedCost: less(line.receivedCost),
      agreedNet: line.agreedNet === null ? null : less(line.agreedNet),
    })),
    taxes: ground.taxes.map((tax) => ({ ...tax, base: less(tax.base), tax: less(tax.tax) })),
    entries: ground.entries.map((entry) => ({ ...entry, amount: less(entry.amount) })),
  }));
}

const less = (amount: string): string => ZERO.minus(amount).toFixed();
