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
  'rebates-given',
  'rebates-owed',
  'customer-prepayments',
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

/**
 * A receipt taken back at its cost; goods leave the stock at `value`, and what that is less than the cost is a stock
 * difference. // P1 P3
 */
export function receiptReversalJournal(cost: string, value: string): JournalEntry[] {
  return journal([
    { role: 'received-not-invoiced', amount: dec(cost) },
    { role: 'inventory', amount: dec(value).neg() },
    { role: 'stock-difference', amount: dec(value).minus(cost) },
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

/** Goods carried between two of our places: out of stock there and into stock here, by journal lines of one account. // P3 */
export function betweenJournal(value: string): JournalEntry[] {
  return journal([
    { role: 'inventory', amount: dec(value) },
    { role: 'inventory', amount: dec(value).neg() },
  ]);
}

/** A credit note: revenue and output tax taken back, the receivable lessened. // P3 */
export function creditNoteJournal(net: string, tax: string): JournalEntry[] {
  return journal([
    { role: 'revenue', amount: dec(net) },
    { role: 'output-tax', amount: dec(tax) },
    { role: 'receivable', amount: dec(net).plus(tax).neg() },
  ]);
}

/** Goods that came back from a customer, at what they cost. // P3 */
export function returnJournal(cost: string): JournalEntry[] {
  return journal([
    { role: 'inventory', amount: dec(cost) },
    { role: 'cost-of-sales', amount: dec(cost).neg() },
  ]);
}

/** A change in what is owed of a rebate; below zero where it falls. // P3 A10 */
export function rebateAccrualJournal(accrued: string): JournalEntry[] {
  return journal([
    { role: 'rebates-given', amount: dec(accrued) },
    { role: 'rebates-owed', amount: dec(accrued).neg() },
  ]);
}

/** A rebate settled into a credit note. // P3 A10 */
export function rebateSettlementJournal(amount: string): JournalEntry[] {
  return journal([
    { role: 'rebates-owed', amount: dec(amount) },
    { role: 'receivable', amount: dec(amount).neg() },
  ]);
}

/** A settled rebate claimed back by an invoice. // P3 A10 */
export function rebateClaimJournal(amount: string): JournalEntry[] {
  return journal([
    { role: 'receivable', amount: dec(amount) },
    { role: 'rebates-owed', amount: dec(amount).neg() },
  ]);
}

/** Money taken ahead (above zero), or paid back (below). // P3 A12 */
export function prepaymentJournal(amount: string): JournalEntry[] {
  return journal([
    { role: 'bank', amount: dec(amount) },
    { role: 'customer-prepayments', amount: dec(amount).neg() },
  ]);
}

/** What an invoice draws from prepayments. // P3 A12 */
export function drawJournal(amount: string): JournalEntry[] {
  return journal([
    { role: 'customer-prepayments', amount: dec(amount) },
    { role: 'receivable', amount: dec(amount).neg() },
  ]);
}
