import { currencyPlaces, dec, isDecimalText, least, priceText, roundHalfAway, sum, ZERO, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
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
  const money = (amount: Dec | string) => priceText(amount, currency);
  const vouchers = vouchersOf(ground, typed, refusals);
  const cards = cardsOf(ground, typed, refusals);
  const cash = typed.cash.trim() === '' ? null : typed.cash.trim();
  if (cash !== null && !isMoney(cash, currency)) {
    refusals.push(refuse('not-a-number', 'cash', { what: `What was given in ${currency}` }));
  }
  return decided(refusals, () => null).ok ? paid() : { ok: false, refusals };

  function paid(): Decision<SaleEffects> {
    let invoiced = dec(ground.invoiced).minus(sum(vouchers.map(({ amount }) => amount)));
    const waiting = ground.deposits.map(({ orderId, amount }) => ({ orderId, left: dec(amount) }));
    const depositsLeft = () => sum(waiting.map(({ left }) => left));
    const payments: SalePayment[] = vouchers.map(({ creditNoteId, amount }) => ({
      ...none('voucher'),
      invoiced: amount.toFixed(),
      creditNoteId,
    }));
    /** Money for the invoice, then for what is not taken along. */
    const payIn = (amount: Dec) => {
      const first = least(amount, invoiced);
      invoiced = invoiced.minus(first);
      let rest = amount.minus(first);
      const deposits = waiting.flatMap((each) => {
        const part = least(rest, each.left);
        rest = rest.minus(part);
        each.left = each.left.minus(part);
        return part.gt(0) ? [{ orderId: each.orderId, amount: part.toFixed() }] : [];
      });
      return { invoiced: first.toFixed(), deposits };
    };
    const carded = sum(cards.map(({ amount }) => dec(amount)));
    if (carded.gt(invoiced.plus(depositsLeft()))) {
      const due = money(invoiced.plus(depositsLeft()));
      return { ok: false, refusals: [refuse('card-above', 'cardIds', { card: money(carded), due })] };
    }
    for (const card of cards) payments.push({ ...none('card'), ...payIn(dec(card.amount)), cardId: card.id });
    const rest = () => invoiced.plus(depositsLeft());
    if (typed.onAccount) {
      if (!ground.mayOwe) return { ok: false, refusals: [refuse('nobody-to-owe', 'onAccount', {})] };
      if (depositsLeft().gt(0)) return { ok: false, refusals: [refuse('deposit-on-account', 'onAccount', {})] };
    }
    let change = ZERO;
    let taken = ZERO;
    if (cash !== null && dec(cash).gt(0)) {
      if (rest().lte(0)) {
        return { ok: false, refusals: [refuse('nothing-to-pay', 'cash', {})] };
      }
      // On account, cash may be less than the rest; what it is less stays owed.
      const part = typed.onAccount && dec(cash).lt(inCash(rest(), currency)) ? dec(cash) : rest();
      const rounded = inCash(part, currency);
      if (dec(cash).lt(rounded)) {
        const facts = { due: money(rounded), given: money(cash), short: money(rounded.minus(cash)) };
        return { ok: false, refusals: [refuse('cash-short', 'cash', facts)] };
      }
      change = dec(cash).minus(rounded);
      if (!change.eq(inCash(change, currency))) {
        return {
          ok: false,
          refusals: [refuse('no-such-change', 'cash', { given: money(cash), change: money(change) })],
        };
      }
      taken = rounded;
      payments.push({
        ...none('cash'),
        ...payIn(part),
        rounding: rounded.minus(part).toFixed(),
        given: dec(cash).toFixed(),
        change: change.toFixed(),
      });
    }
    if (typed.onAccount && invoiced.gt(0)) payments.push({ ...none('account'), invoiced: invoiced.toFixed() });
    else if (rest().gt(0) && !(cash !== null && inCash(rest(), currency).eq(0))) {
      return { ok: false, refusals: [refuse('not-paid', 'cash', { due: money(rest()) })] };
    } else if (rest().gt(0)) {
      // Less than half the smallest coin: it is rounded away, in cash of nothing.
      const left = rest();
      payments.push({ ...none('cash'), ...payIn(left), rounding: left.neg().toFixed() });
    }
    return { ok: true, warnings: [], effects: { payments, cash: taken.toFixed(), change: change.toFixed() } };
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

const isMoney = (text: string, currency: string) =>
  isDecimalText(text, 'price') &&
  !text.startsWith('-') &&
  dec(text).eq(roundHalfAway(dec(text), currencyPlaces(currency)));

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
    if (text !== '' && (!isMoney(text, ground.currency) || dec(text).lte(0))) {
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
