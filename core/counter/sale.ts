import { dec, isMoneyText, least, priceText, sum, ZERO, type Dec } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import { inCash } from './cash';

/** How money comes in at the till. A voucher is what is left of a credit note. */
export const TENDERS = ['cash', 'card', 'voucher', 'account'] as const;
export type Tender = (typeof TENDERS)[number];

/** What a slip comes to, and who may pay how. */
export interface SaleGround {
  currency: string;
  /** What is owed on the invoice of what is handed over, prepayments and deposits drawn; `0` where nothing is. */
  invoiced: string;
  /** What is to be paid now of what is not taken along, an order each; it is drawn when that goes. // C3 */
  deposits: readonly { orderId: number; amount: string }[];
  /** Whether there is a party one can owe as: not where nobody in particular buys. */
  mayOwe: boolean;
  /** Payments the terminal took for this slip and that are on none yet. */
  cards: readonly { id: number; amount: string }[];
  /** Credit notes of the customer with something left. */
  vouchers: readonly { creditNoteId: number; number: string; left: string }[];
}

/** How it is paid, as typed. */
export interface SaleTyped {
  /** Notes and coins that were given; empty for none. */
  cash: string;
  cardIds: readonly number[];
  /** Each with how much of it is used; empty for as much as fits. */
  vouchers: readonly { creditNoteId: number; amount: string }[];
  /** The rest of the invoice stays owed. */
  onAccount: boolean;
}

/** One payment of a slip: what of it pays the invoice, and what is a deposit. */
export interface SalePayment {
  kind: Tender;
  /** Of the invoice. */
  invoiced: string;
  deposits: { orderId: number; amount: string }[];
  /** Cash: what rounding adds (or takes, below zero), what was given and what goes back. */
  rounding: string;
  given: string;
  change: string;
  cardId: number | null;
  creditNoteId: number | null;
}

export interface SaleEffects {
  payments: SalePayment[];
  /** What comes into the drawer: cash given less change. */
  cash: string;
  change: string;
}

/** What is to pay now. // C2 */
export const dueOf = ({ invoiced, deposits }: Pick<SaleGround, 'invoiced' | 'deposits'>): Dec =>
  dec(invoiced).plus(sum(deposits.map(({ amount }) => dec(amount))));

/**
 * How a slip is paid: vouchers, then cards, then what stays on the account, then cash; wholly, or it is refused. Cash is
 * rounded to the smallest coin. Money pays the invoice first; what is over is a deposit for what is not taken along. // C2 C3
 */
export function decideSale(ground: SaleGround, typed: SaleTyped): Decision<SaleEffects> {
  const { currency } = ground;
  const refusals: Refusal[] = [];
  const vouchers = vouchersOf(ground, typed, refusals);
  const cards = cardsOf(ground, typed, refusals);
  const cash = typed.cash.trim();
  if (cash !== '' && !isMoneyText(cash, currency)) {
    refusals.push(refuse('not-a-number', 'cash', { what: `What was given in ${currency}` }));
  }
  if (refusals.length > 0) return { ok: false, refusals };
  const slip = new OpenSlip(ground);
  for (const { creditNoteId, amount } of vouchers) slip.pay('voucher', amount, { creditNoteId });
  const carded = sum(cards.map(({ amount }) => dec(amount)));
  if (carded.gt(slip.rest)) {
    const facts = { card: priceText(carded, currency), due: priceText(slip.rest, currency) };
    return { ok: false, refusals: [refuse('card-above', 'cardIds', facts)] };
  }
  for (const { id, amount } of cards) slip.pay('card', dec(amount), { cardId: id });
  if (typed.onAccount && !ground.mayOwe) refusals.push(refuse('nobody-to-owe', 'onAccount', {}));
  else if (typed.onAccount && slip.deposits.gt(0)) refusals.push(refuse('deposit-on-account', 'onAccount', {}));
  if (refusals.length > 0) return { ok: false, refusals };
  const paid = cash === '' ? null : inNotes(slip, dec(cash), typed.onAccount, currency);
  if (paid && 'code' in paid) return { ok: false, refusals: [paid] };
  if (typed.onAccount && slip.rest.gt(0)) slip.pay('account', slip.rest, {});
  else if (slip.rest.gt(0)) {
    return { ok: false, refusals: [refuse('not-paid', 'cash', { due: priceText(slip.rest, currency) })] };
  }
  const { taken, change } = paid ?? { taken: ZERO, change: ZERO };
  return {
    ok: true,
    warnings: [],
    effects: { payments: slip.payments, cash: taken.toFixed(), change: change.toFixed() },
  };
}

/**
 * Takes what was given in notes and coins: the rest of the slip, rounded to the smallest coin; on account, less may be given.
 * What comes into the drawer, and what goes back; or why it does not fit. // C2
 */
function inNotes(
  slip: OpenSlip,
  given: Dec,
  onAccount: boolean,
  currency: string,
): Refusal | { taken: Dec; change: Dec } {
  if (slip.rest.lte(0)) return given.gt(0) ? refuse('nothing-to-pay', 'cash', {}) : { taken: ZERO, change: ZERO };
  const part = onAccount && given.lt(inCash(slip.rest, currency)) ? given : slip.rest;
  const taken = inCash(part, currency);
  const change = given.minus(taken);
  const money = (amount: Dec) => priceText(amount, currency);
  if (change.lt(0)) {
    return refuse('cash-short', 'cash', { due: money(taken), given: money(given), short: money(change.neg()) });
  }
  if (!change.eq(inCash(change, currency))) {
    return refuse('no-such-change', 'cash', { given: money(given), change: money(change) });
  }
  if (part.gt(0)) {
    const facts = { rounding: taken.minus(part).toFixed(), given: given.toFixed(), change: change.toFixed() };
    slip.pay('cash', part, facts);
  }
  return { taken, change };
}

/** What is left to pay of a slip while it is paid: the invoice first, then each deposit. */
class OpenSlip {
  readonly payments: SalePayment[] = [];
  private invoiced: Dec;
  private readonly waiting: { orderId: number; left: Dec }[];

  constructor({ invoiced, deposits }: Pick<SaleGround, 'invoiced' | 'deposits'>) {
    this.invoiced = dec(invoiced);
    this.waiting = deposits.map(({ orderId, amount }) => ({ orderId, left: dec(amount) }));
  }

  get deposits(): Dec {
    return sum(this.waiting.map(({ left }) => left));
  }

  get rest(): Dec {
    return this.invoiced.plus(this.deposits);
  }

  pay(kind: Tender, amount: Dec, more: Partial<SalePayment>): void {
    const invoiced = least(amount, this.invoiced);
    this.invoiced = this.invoiced.minus(invoiced);
    let rest = amount.minus(invoiced);
    const deposits = this.waiting.flatMap((each) => {
      const part = least(rest, each.left);
      rest = rest.minus(part);
      each.left = each.left.minus(part);
      return part.gt(0) ? [{ orderId: each.orderId, amount: part.toFixed() }] : [];
    });
    this.payments.push({ ...none(kind), invoiced: invoiced.toFixed(), deposits, ...more });
  }
}

const none = (kind: Tender): SalePayment => ({
  kind,
  invoiced: '0',
  deposits: [],
  rounding: '0',
  given: '0',
  change: '0',
  cardId: null,
  creditNoteId: null,
});

/** What of each credit note is used: no more than is left of it, nor than is owed on the invoice. */
function vouchersOf(ground: SaleGround, typed: SaleTyped, refusals: Refusal[]) {
  let owed = dec(ground.invoiced);
  return typed.vouchers.flatMap(({ creditNoteId, amount: asked }, at) => {
    const field = `vouchers.${at}.amount`;
    const voucher = ground.vouchers.find((each) => each.creditNoteId === creditNoteId);
    if (!voucher) {
      refusals.push(refuse('unknown', field, { what: 'This credit note' }));
      return [];
    }
    const text = asked.trim();
    if (text !== '' && (!isMoneyText(text, ground.currency) || dec(text).lte(0))) {
      refusals.push(refuse('not-a-number', field, { what: 'The amount' }));
      return [];
    }
    const most = least(dec(voucher.left), owed);
    const amount = text === '' ? most : dec(text);
    if (amount.gt(most)) {
      const facts = { voucher: voucher.number, most: priceText(most, ground.currency) };
      refusals.push(refuse('voucher-above', field, facts));
      return [];
    }
    owed = owed.minus(amount);
    return amount.gt(0) ? [{ creditNoteId, amount }] : [];
  });
}

function cardsOf(ground: SaleGround, typed: SaleTyped, refusals: Refusal[]) {
  return typed.cardIds.flatMap((id, at) => {
    const card = ground.cards.find((each) => each.id === id);
    if (!card) refusals.push(refuse('card-not-taken', `cardIds.${at}`, {}));
    return card ? [card] : [];
  });
}
