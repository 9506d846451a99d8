import { dec, isDay, priceText, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { amountRefusals } from './prepayment';

export interface PaymentGround {
  side: 'customer' | 'vendor';
  /** The open item being settled. */
  openItemId: number;
  partyId: number;
  invoice: string;
  currency: string;
  owed: string;
}

export interface PaymentEffects {
  side: 'customer' | 'vendor';
  openItemId: number;
  partyId: number;
  currency: string;
  paidOn: Day;
  amount: string;
}

/** A payment of one invoice, all or part, never more than is owed on it. // P3 */
export function decidePayment(
  ground: PaymentGround,
  typed: { amount: string; paidOn: Day | null },
): Decision<PaymentEffects> {
  const refusals: Refusal[] = [];
  const found = amountRefusals(typed.amount, ground.currency);
  refusals.push(...found);
  if (found.length === 0 && dec(typed.amount).gt(ground.owed)) {
    refusals.push(
      refuse('above-owed', 'amount', {
        invoice: ground.invoice,
        asked: priceText(typed.amount, ground.currency),
        owed: priceText(ground.owed, ground.currency),
      }),
    );
  }
  if (typed.paidOn === null || !isDay(typed.paidOn)) {
    refusals.push(refuse('not-a-day', 'paidOn', { what: 'The day paid' }));
  }
  return decided(refusals, () => ({
    side: ground.side,
    openItemId: ground.openItemId,
    partyId: ground.partyId,
    currency: ground.currency,
    paidOn: typed.paidOn!,
    amount: typed.amount,
  }));
}
