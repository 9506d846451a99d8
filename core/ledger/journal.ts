import { assert, dec, ZERO, type Dec } from '@core/kernel';

/** What an account is for; each company maps these to accounts of its own. */
export const ACCOUNT_ROLES = [
  'inventory',
  'received-not-invoiced',
  'cost-of-sales',
  'receivable',
  'payable',
  'revenue',
  'output-tax',
  'input-tax',
  'price-difference',
  'stock-difference',
  'bank',
] as const;
export type AccountRole = (typeof ACCOUNT_ROLES)[number];

export interface JournalEntry {
  role: AccountRole;
  /** Above zero debits, below zero credits. */
  amount: string;
}

/** The entries of one journal: zero ones left out, the rest must sum to zero. // P3 */
export function journal(entries: readonly { role: AccountRole; amount: Dec }[]): JournalEntry[] {
  const kept = entries.filter((entry) => !entry.amount.eq(0));
  const total = kept.reduce((sum, entry) => sum.plus(entry.amount), ZERO);
  assert(total.eq(0), `a journal is ${total.toFixed()} out of balance`);
  return kept.map((entry) => ({ role: entry.role, amount: entry.amount.toFixed() }));
}

/** Goods received at cost. // P3 */
export function receiptJournal(cost: string): JournalEntry[] {
  return journal([
    { role: 'inventory', amount: dec(cost) },
    { role: 'received-not-invoiced', amount: dec(cost).neg() },
  ]);
}

/** Goods shipped at cost. // P3 */
export function shipmentJournal(cost: string): JournalEntry[] {
  return journal([
    { role: 'cost-of-sales', amount: dec(cost) },
    { role: 'inventory', amount: dec(cost).neg() },
  ]);
}

/** Customer invoice: receivable against revenue and output tax. // P3 */
export function customerInvoiceJournal(net: string, tax: string): JournalEntry[] {
  return journal([
    { role: 'receivable', amount: dec(net).plus(tax) },
    { role: 'revenue', amount: dec(net).neg() },
    { role: 'output-tax', amount: dec(tax).neg() },
  ]);
}

/**
 * Vendor invoice: what was received leaves the waiting account at its received cost; the price difference of
 * drop shipments goes to cost of sales, of everything else to price difference. // P3
 */
export function vendorInvoiceJournal(invoice: {
  received: string;
  dropDifference: string;
  stockDifference: string;
  tax: string;
}): JournalEntry[] {
  const { received, dropDifference, stockDifference, tax } = invoice;
  const total = dec(received).plus(dropDifference).plus(stockDifference).plus(tax);
  return journal([
    { role: 'received-not-invoiced', amount: dec(received) },
    { role: 'cost-of-sales', amount: dec(dropDifference) },
    { role: 'price-difference', amount: dec(stockDifference) },
    { role: 'input-tax', amount: dec(tax) },
    { role: 'payable', amount: total.neg() },
  ]);
}

/** A customer pays us, or we pay a vendor. // P3 */
export function paymentJournal(side: 'customer' | 'vendor', amount: string): JournalEntry[] {
  return side === 'customer'
    ? journal([
        { role: 'bank', amount: dec(amount) },
        { role: 'receivable', amount: dec(amount).neg() },
      ])
    : journal([
        { role: 'payable', amount: dec(amount) },
        { role: 'bank', amount: dec(amount).neg() },
      ]);
}

/** Stock adjusted up (above zero) or down by a value. // P3 */
export function adjustmentJournal(value: string): JournalEntry[] {
  return journal([
    { role: 'inventory', amount: dec(value) },
    { role: 'stock-difference', amount: dec(value).neg() },
  ]);
}
