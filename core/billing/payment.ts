import {
  carriedOf,
  dec,
  isDay,
  known,
  ownOf,
  priceText,
  type Day,
  type ExchangeOf,
  type OwedInBoth,
} from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { amountRefusals } from './prepayment';

export interface PaymentGround {
  side: 'customer' | 'vendor';
  /** The open item being settled. */
  openItemId: number;
  partyId: number;
  invoice: string;
  currency: string;
  owed: OwedInBoth;
  /** What its currency was worth on the day it is paid. // P8 */
  exchange: ExchangeOf;
}

export interface PaymentEffects {
  side: 'customer' | 'vendor';
  openItemId: number;
  partyId: number;
  currency: string;
  paidOn: Day;
  amount: string;
  rate: string;
  /** What was paid in the company's currency, and what of the open item in it that settles. // P8 */
  own: { currency: string; paid: string; settled: string };
}

/** A payment of one invoice, all or part, never more than is owed on it. // P3 */
export function decidePayment(
  ground: PaymentGround,
  typed: { amount: string; paidOn: Day | null },
): Decision<PaymentEffects> {
  const refusals: Refusal[] = [];
  const found = amountRefusals(typed.amount, ground.currency);
  refusals.push(...found);
  const owed = dec(ground.owed.amount).minus(ground.owed.settled);
  if (found.length === 0 && dec(typed.amount).gt(owed)) {
    refusals.push(
      refuse('above-owed', 'amount', {
        invoice: ground.invoice,
        asked: priceText(typed.amount, ground.currency),
        owed: priceText(owed, ground.currency),
      }),
    );
  }
  if (typed.paidOn === null || !isDay(typed.paidOn)) {
    refusals.push(refuse('not-a-day', 'paidOn', { what: 'The day paid' }));
  } else refusals.push(...rateRefusals(ground.exchange, 'paidOn'));
  return decided(refusals, () => ({
    side: ground.side,
    openItemId: ground.openItemId,
    partyId: ground.partyId,
    currency: ground.currency,
    paidOn: typed.paidOn!,
    amount: typed.amount,
    rate: ground.exchange.rate!,
    own: {
      currency: ground.exchange.own,
      paid: ownOf(typed.amount, known(ground.exchange)).toFixed(),
      settled: carriedOf(ground.owed, typed.amount, ground.exchange.own).toFixed(),
    },
  }));
}
