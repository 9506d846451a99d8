import { dec, isDecimalText, isDay, isMoneyText, known, ownOf, type Day, type ExchangeOf } from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import type { AgreementState, Side } from '@core/agreements';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export interface PrepaymentGround {
  agreement: {
    id: number;
    number: string;
    state: AgreementState;
    side: Side;
    customerId: number | null;
    currency: string;
  };
  lineIds: readonly number[];
  /** What its currency was worth on the day it is taken. // P8 */
  exchange: ExchangeOf;
}

export interface PrepaymentEffects {
  agreementId: number;
  agreementLineId: number | null;
  customerId: number;
  currency: string;
  takenOn: Day;
  amount: string;
  rate: string;
  /** In the company's currency. // P8 */
  own: { currency: string; amount: string };
}

/** Money a customer pays ahead against an agreement in force, or one of its lines. // A12 */
export function decidePrepayment(
  { agreement, lineIds, exchange }: PrepaymentGround,
  typed: { agreementLineId: number | null; amount: string; takenOn: Day | null },
): Decision<PrepaymentEffects> {
  const refusals: Refusal[] = [];
  if (agreement.side === 'buying') refusals.push(refuse('prepaid-by-vendor', '', {}));
  if (agreement.state !== 'in-force' && agreement.state !== 'paused') {
    const facts = { agreement: agreement.number, state: agreement.state, needed: 'in-force' };
    refusals.push(refuse('agreement-not-so', '', facts));
  }
  if (typed.agreementLineId !== null && !lineIds.includes(typed.agreementLineId)) {
    refusals.push(refuse('unknown', 'agreementLineId', { what: 'This agreement line' }));
  }
  refusals.push(...amountRefusals(typed.amount, agreement.currency));
  if (typed.takenOn === null || !isDay(typed.takenOn)) {
    refusals.push(refuse('not-a-day', 'takenOn', { what: 'The day taken' }));
  } else refusals.push(...rateRefusals(exchange, 'takenOn'));
  return decided(refusals, () => ({
    agreementId: agreement.id,
    agreementLineId: typed.agreementLineId,
    customerId: agreement.customerId!,
    currency: agreement.currency,
    takenOn: typed.takenOn!,
    amount: dec(typed.amount).toFixed(),
    rate: exchange.rate!,
    own: { currency: exchange.own, amount: ownOf(typed.amount, known(exchange)).toFixed() },
  }));
}

/** An amount of money as typed: above zero and in the currency's places. */
export function amountRefusals(amount: string, currency: string): Refusal[] {
  const what = 'The amount';
  if (!isDecimalText(amount, 'price')) return [refuse('not-a-number', 'amount', { what })];
  if (dec(amount).lte(0)) return [refuse('not-above-zero', 'amount', { what })];
  return isMoneyText(amount, currency) ? [] : [refuse('not-a-number', 'amount', { what: `${what} in ${currency}` })];
}
