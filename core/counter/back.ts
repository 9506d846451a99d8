import { addDays, dec, least, priceText, sum, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { inCash } from './cash';
import { drawerRefusals, type TillNow } from './drawer';
import type { Tender } from './sale';

export interface BackGround {
  till: TillNow;
  slip: { number: string; soldOn: Day; invoiced: boolean };
  /** For how many days goods are taken back. */
  days: number;
}

/** Whether goods of a slip are taken back at the till at all. // C5 */
export function backRefusals({ till, slip, days }: BackGround, workDate: Day): Refusal[] {
  const refusals = drawerRefusals(till);
  if (!slip.invoiced) refusals.push(refuse('slip-of-nothing', '', { slip: slip.number }));
  const last = addDays(slip.soldOn, days);
  if (workDate > last) refusals.push(refuse('too-late-back', '', { slip: slip.number, last }));
  return refusals;
}

/** What a slip was paid by and not paid back yet. */
export interface PaidBy {
  kind: Tender;
  amount: string;
  /** The payment of the terminal it goes back by. */
  cardId: number | null;
}

export interface BackPayment {
  kind: 'cash' | 'card';
  amount: string;
  rounding: string;
  cardId: number | null;
}

/**
 * What goes back of a credit note to what the slip was paid by: cards first, each no more than it paid, then cash; the rest
 * stands to the customer's credit, as what was paid by voucher, on account or ahead did. // C5
 */
export function decidePayBack(
  till: TillNow,
  credit: Dec,
  paid: readonly PaidBy[],
): Decision<{ payments: BackPayment[]; cash: string; left: string }> {
  const { currency } = till;
  let left = credit;
  const payments = paid
    .filter(({ kind }) => kind === 'card')
    .flatMap(({ amount, cardId }): BackPayment[] => {
      const part = least(left, dec(amount));
      left = left.minus(part);
      return part.gt(0) ? [{ kind: 'card', amount: part.toFixed(), rounding: '0', cardId }] : [];
    });
  const cash = least(left, sum(paid.filter(({ kind }) => kind === 'cash').map(({ amount }) => dec(amount))));
  const out = cash.gt(0) ? inCash(cash, currency) : ZERO;
  if (cash.gt(0)) {
    payments.push({ kind: 'cash', amount: cash.toFixed(), rounding: out.minus(cash).toFixed(), cardId: null });
  }
  left = left.minus(cash);
  const refusals = out.gt(till.drawer?.cash ?? '0') ? [notInDrawer(till, out)] : [];
  return decided(refusals, () => ({ payments, cash: out.toFixed(), left: left.toFixed() }));
}

/** What is left of a deposit goes back out of a drawer, once, as it can be paid in cash. // C2 */
export function decideDepositBack(
  till: TillNow,
  deposit: { number: string; left: string },
): Decision<{ left: Dec; cash: Dec; rounding: Dec }> {
  const refusals = drawerRefusals(till);
  const left = dec(deposit.left);
  const cash = inCash(left, till.currency);
  if (left.lte(0)) refusals.push(refuse('deposit-used', '', { deposit: deposit.number }));
  if (till.drawer && cash.gt(till.drawer.cash)) refusals.push(notInDrawer(till, cash));
  return decided(refusals, () => ({ left, cash, rounding: left.minus(cash) }));
}

const notInDrawer = ({ drawer, currency }: TillNow, asked: Dec) =>
  refuse('not-in-drawer', '', {
    drawer: drawer?.number ?? '',
    asked: priceText(asked, currency),
    cash: priceText(drawer?.cash ?? '0', currency),
  });
