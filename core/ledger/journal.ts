import { assert, dec, negBoth, ownOf, plusBoth, sum, ZERO, type Both, type Dec, type Exchange } from '@core/kernel';
import { sharesOf, type Goods, type Part, type Share } from './shares';

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
  'exchange-difference',
  'work-in-progress',
  'labour-absorbed',
  'scrap',
  'production-variance',
  'cash-drawer',
  'card-clearing',
  'cash-rounding',
  'drawer-difference',
  'claims-owed',
  'support-earned',
  'commission',
  'commission-owed',
  'opening-balance',
] as const;
export type AccountRole = (typeof ACCOUNT_ROLES)[number];

export interface JournalEntry {
  role: AccountRole;
  /** In the company's currency. Above zero debits, below zero credits. */
  amount: string;
  /** The same in the document's currency; null for what is only the company's: cost, and differences. // P8 */
  foreign: string | null;
  /** What of it is of which goods, where a group of items may have an account of its own. // U2 */
  shares?: readonly Share[];
  /** The account itself, where an entry is taken back from where it stands. */
  accountId?: number;
}

interface Posting {
  role: AccountRole;
  amount: Dec;
  foreign: Dec | null;
  shares?: readonly Share[];
}

const shared = (posting: Posting, by: Goods['by'], parts: readonly Part[], side: 'debit' | 'credit'): Posting =>
  parts.length === 0 ? posting : { ...posting, shares: sharesOf(by, parts, side) };

/** Goods at their cost: only the company's currency knows it. */
export const atCost = (parts: readonly { itemId: number; cost: string }[]): Part[] =>
  parts.map(({ itemId, cost }) => ({ id: itemId, worth: { amount: ZERO, own: dec(cost) } }));

const both = (role: AccountRole, { amount, own }: Both): Posting => ({ role, amount: own, foreign: amount });
const own = (role: AccountRole, amount: Dec): Posting => ({ role, amount, foreign: null });

/** The nets of order lines, in both currencies. // P8 */
export const netsOf = (lines: readonly { orderLineId: number; net: string }[], exchange: Exchange): Part[] =>
  lines.map(({ orderLineId, net }) => ({ id: orderLineId, worth: { amount: dec(net), own: ownOf(net, exchange) } }));

/** The entries of one journal: zero ones left out, the rest must sum to zero. // P3 */
export function journal(postings: readonly Posting[]): JournalEntry[] {
  const kept = postings.filter((entry) => !entry.amount.eq(0));
  const total = sum(kept.map((entry) => entry.amount));
  assert(total.eq(0), `a journal is ${total.toFixed()} out of balance`);
  return kept.map(({ role, amount, foreign, shares }) => ({
    role,
    amount: amount.toFixed(),
    foreign: foreign?.toFixed() ?? null,
    ...(shares ? { shares } : {}),
  }));
}

/** Goods received at cost; `waiting` is what of it waits for the vendor's invoice, in both currencies. // P3 P8 */
export function receiptJournal(waiting: Both): JournalEntry[] {
  return journal([own('inventory', waiting.own), both('received-not-invoiced', negBoth(waiting))]);
}

/** Goods shipped at cost. // P3 */
export function shipmentJournal(cost: string, parts: readonly Part[] = []): JournalEntry[] {
  return journal([shared(own('cost-of-sales', dec(cost)), 'item', parts, 'debit'), own('inventory', dec(cost).neg())]);
}

/**
 * A receipt taken back at its cost; goods leave the stock at `value`, and what that is less than the cost is a stock
 * difference. // P1 P3
 */
export function receiptReversalJournal(waiting: Both, value: string): JournalEntry[] {
  return journal([
    both('received-not-invoiced', waiting),
    own('inventory', dec(value).neg()),
    own('stock-difference', dec(value).minus(waiting.own)),
  ]);
}

/** Customer invoice: receivable against revenue and output tax; `parts` are the nets of its order lines. // P3 */
export function customerInvoiceJournal(net: Both, tax: Both, parts: readonly Part[] = []): JournalEntry[] {
  return journal([
    both('receivable', plusBoth(net, tax)),
    shared(both('revenue', negBoth(net)), 'order-line', parts, 'credit'),
    both('output-tax', negBoth(tax)),
  ]);
}

/**
 * Vendor invoice: what was received leaves the waiting account at its received cost; the price difference of
 * drop shipments goes to cost of sales, of everything else to price difference; what the currency moved meanwhile is an
 * exchange difference. `dropParts` are the differences of the purchase lines of drop shipments. // P3 P8
 */
export function vendorInvoiceJournal(invoice: {
  received: Both;
  dropDifference: Both;
  dropParts?: readonly Part[];
  stockDifference: Both;
  net: Both;
  tax: Both;
}): JournalEntry[] {
  const { dropParts = [], received, dropDifference, stockDifference, net, tax } = invoice;
  const priced = sum([received.own, dropDifference.own, stockDifference.own]);
  return journal([
    both('received-not-invoiced', received),
    shared(both('cost-of-sales', dropDifference), 'purchase-line', dropParts, 'debit'),
    both('price-difference', stockDifference),
    own('exchange-difference', net.own.minus(priced)),
    both('input-tax', tax),
    both('payable', negBoth(plusBoth(net, tax))),
  ]);
}

/** By what money comes and goes, and the account it stands on. */
export const MONEY = { bank: 'bank', cash: 'cash-drawer', card: 'card-clearing' } as const;
export type Means = keyof typeof MONEY;

/** What comes in by some means where cash is rounded by `rounding`: that stands on an account of its own. // C2 P3 */
const moneyIn = (means: Means, { amount, own: paid }: Both, rounding: Dec): Posting[] => [
  both(MONEY[means], { amount: amount.plus(rounding), own: paid.plus(rounding) }),
  own('cash-rounding', rounding.neg()),
];

/**
 * A customer pays us (or, below zero, is paid back), or we pay a vendor; `settled` is what the item paid was carried at.
 * Cash may be rounded: only in the company's own currency. // P3 P8 C2
 */
export function paymentJournal(
  side: 'customer' | 'vendor',
  paid: Both,
  settled: Dec,
  means: Means = 'bank',
  rounding: Dec = ZERO,
): JournalEntry[] {
  const item = { amount: paid.amount, own: settled };
  const difference = paid.own.minus(settled);
  return side === 'customer'
    ? journal([
        ...moneyIn(means, paid, rounding),
        both('receivable', negBoth(item)),
        own('exchange-difference', difference.neg()),
      ])
    : journal([both('payable', item), both(MONEY[means], negBoth(paid)), own('exchange-difference', difference)]);
}

/** Money put into a drawer from the bank, or (below zero) taken there. // C4 P3 */
export function drawerMoveJournal(amount: Dec): JournalEntry[] {
  return journal([own('cash-drawer', amount), own('bank', amount.neg())]);
}

/** A drawer closed: what was counted goes to the bank, what it is less or more than it should be is a difference. // C4 P3 */
export function drawerClosedJournal(counted: Dec, expected: Dec): JournalEntry[] {
  return journal([
    own('bank', counted),
    own('cash-drawer', expected.neg()),
    own('drawer-difference', expected.minus(counted)),
  ]);
}

/** Stock adjusted up (above zero) or down by a value. // P3 */
export function adjustmentJournal(value: string): JournalEntry[] {
  return journal([own('inventory', dec(value)), own('stock-difference', dec(value).neg())]);
}

/** What a customer owed, or a vendor was owed, before it came here; below zero where that is taken back. // U3 P3 */
export function openingItemJournal(side: 'customer' | 'vendor', owed: Both): JournalEntry[] {
  const item = both(side === 'customer' ? 'receivable' : 'payable', side === 'customer' ? owed : negBoth(owed));
  return journal([item, both('opening-balance', side === 'customer' ? negBoth(owed) : owed)]);
}

/** Stock a company had before it came here, against the opening balance. // U3 P3 */
export function openingJournal(value: string): JournalEntry[] {
  return journal([own('inventory', dec(value)), own('opening-balance', dec(value).neg())]);
}

/** What a work report moves: what went into work in progress, what came out of it, what was lost and what is left over. */
export interface WorkMoved {
  materialCost: string;
  labourCost: string;
  outputCost: string;
  scrapCost: string;
  variance: string;
}

/** Work reported: components and labour into work in progress, pieces out of it, and at the end what is left. // P3 W3 */
export function workJournal(moved: WorkMoved): JournalEntry[] {
  const [material, labour, output] = [dec(moved.materialCost), dec(moved.labourCost), dec(moved.outputCost)];
  return journal([
    own('work-in-progress', material.plus(labour)),
    own('inventory', material.neg()),
    own('labour-absorbed', labour.neg()),
    own('inventory', output),
    own('scrap', dec(moved.scrapCost)),
    own('production-variance', dec(moved.variance)),
    own('work-in-progress', output.plus(moved.scrapCost).plus(moved.variance).neg()),
  ]);
}

/** A work report taken back; what came out leaves the stock at `value`, the rest is a stock difference. // P1 P3 */
export function workReversalJournal(moved: WorkMoved, value: string): JournalEntry[] {
  const [material, labour, output] = [dec(moved.materialCost), dec(moved.labourCost), dec(moved.outputCost)];
  return journal([
    own('work-in-progress', output.plus(moved.scrapCost).plus(moved.variance)),
    own('inventory', dec(value).neg()),
    own('stock-difference', dec(value).minus(output)),
    own('scrap', dec(moved.scrapCost).neg()),
    own('production-variance', dec(moved.variance).neg()),
    own('inventory', material),
    own('labour-absorbed', labour),
    own('work-in-progress', material.plus(labour).neg()),
  ]);
}

/** Goods carried between two of our places: out of stock there and into stock here, by journal lines of one account. // P3 */
export function betweenJournal(value: string): JournalEntry[] {
  return journal([own('inventory', dec(value)), own('inventory', dec(value).neg())]);
}

/** A credit note: revenue and output tax taken back, the receivable lessened; `parts` are the nets of its order lines. // P3 */
export function creditNoteJournal(net: Both, tax: Both, parts: readonly Part[] = []): JournalEntry[] {
  return journal([
    shared(both('revenue', net), 'order-line', parts, 'debit'),
    both('output-tax', tax),
    both('receivable', negBoth(plusBoth(net, tax))),
  ]);
}

/**
 * What setting a credit off against an invoice leaves, where both were not carried at one rate: `invoice` and `credit`
 * are what they were carried at. Nothing where they are the same. // P8
 */
export function setOffJournal(side: 'customer' | 'vendor', invoice: Dec, credit: Dec): JournalEntry[] {
  const left = side === 'customer' ? credit.minus(invoice) : invoice.minus(credit);
  return journal([
    both(side === 'customer' ? 'receivable' : 'payable', { amount: ZERO, own: left }),
    own('exchange-difference', left.neg()),
  ]);
}

/** Goods that came back from a customer, at what they cost. // P3 */
export function returnJournal(cost: string, parts: readonly Part[] = []): JournalEntry[] {
  return journal([own('inventory', dec(cost)), shared(own('cost-of-sales', dec(cost).neg()), 'item', parts, 'credit')]);
}

/** A change in what is owed of a rebate; below zero where it falls. // P3 A10 */
export function rebateAccrualJournal(accrued: Both): JournalEntry[] {
  return journal([both('rebates-given', accrued), both('rebates-owed', negBoth(accrued))]);
}

/** A rebate settled into a credit note; `carried` is what it was owed at. // P3 P8 A10 */
export function rebateSettlementJournal(credited: Both, carried: Dec): JournalEntry[] {
  return journal([
    both('rebates-owed', { amount: credited.amount, own: carried }),
    both('receivable', negBoth(credited)),
    own('exchange-difference', credited.own.minus(carried)),
  ]);
}

/** A settled rebate claimed back by an invoice; `carried` is what it was settled beyond. // P3 P8 A10 */
export function rebateClaimJournal(claimed: Both, carried: Dec): JournalEntry[] {
  return journal([
    both('receivable', claimed),
    both('rebates-owed', negBoth({ amount: claimed.amount, own: carried })),
    own('exchange-difference', carried.minus(claimed.own)),
  ]);
}

/** Money taken ahead. // P3 A12 C2 */
export function prepaymentJournal(taken: Both, means: Means = 'bank', rounding: Dec = ZERO): JournalEntry[] {
  return journal([...moneyIn(means, taken, rounding), both('customer-prepayments', negBoth(taken))]);
}

/** Money taken ahead, paid back; `carried` is what it was taken at. Cash may be rounded as in a payment. // P3 P8 A12 C2 */
export function prepaymentReturnJournal(
  paid: Both,
  carried: Dec,
  means: Means = 'bank',
  rounding: Dec = ZERO,
): JournalEntry[] {
  return journal([
    both('customer-prepayments', { amount: paid.amount, own: carried }),
    ...moneyIn(means, negBoth(paid), rounding),
    own('exchange-difference', paid.own.minus(carried)),
  ]);
}

/** What an invoice draws from prepayments; `carried` is what they were taken at. // P3 P8 A12 */
export function drawJournal(settled: Both, carried: Dec): JournalEntry[] {
  return journal([
    both('customer-prepayments', { amount: settled.amount, own: carried }),
    both('receivable', negBoth(settled)),
    own('exchange-difference', settled.own.minus(carried)),
  ]);
}

/** What a sales person earned, as a statement says it; less than nothing is taken back. // S12 */
export function commissionJournal(amount: string): JournalEntry[] {
  return journal([own('commission', dec(amount)), own('commission-owed', dec(amount).neg())]);
}

/** A statement is paid out of the bank. // S12 */
export function commissionPaidJournal(amount: string): JournalEntry[] {
  return journal([own('commission-owed', dec(amount)), own('bank', dec(amount).neg())]);
}

/** What a vendor owes us for what we sold; below zero where it came back. // S13 */
export function supportJournal(amount: string): JournalEntry[] {
  return journal([own('claims-owed', dec(amount)), own('support-earned', dec(amount).neg())]);
}

/** What became of a claim: it lessens what we owe the vendor, is paid into the bank, or is given up. // S13 */
export function claimJournal(how: 'invoice' | 'paid' | 'lost', amount: string): JournalEntry[] {
  const role = ({ invoice: 'payable', paid: 'bank', lost: 'support-earned' } as const)[how];
  return journal([own(role, dec(amount)), own('claims-owed', dec(amount).neg())]);
}
