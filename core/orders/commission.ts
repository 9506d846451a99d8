import { dec, isDecimalText, sum } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { OrderState } from './ground';

export interface CommissionGround {
  order: { number: string; state: OrderState };
  /** Who works in the company. */
  people: readonly { id: number; name: string }[];
  /** As it is shared now. */
  now: readonly { personId: number; perCent: string }[];
}

export interface CommissionTyped {
  shares: readonly { personId: number | null; perCent: string }[];
  /** As it was shared when it was typed over. // G2 */
  was: readonly { personId: number; perCent: string }[];
}

export interface CommissionEffects {
  /** Sums to 100; none where nobody gets any. */
  shares: { personId: number; perCent: string }[];
}

/** Who gets the commission of an order, by share: all of it, or none. // S1 */
export function decideCommission(
  { order, people, now }: CommissionGround,
  typed: CommissionTyped,
): Decision<CommissionEffects> {
  const refusals: Refusal[] = [];
  if (order.state === 'cancelled') {
    refusals.push(refuse('order-not-confirmed', '', { order: order.number, state: order.state }));
  }
  if (said(now) !== said(typed.was)) refusals.push(refuse('commission-changed', '', { order: order.number }));
  const seen = new Set<number>();
  typed.shares.forEach(({ personId, perCent }, index) => {
    const at = (field: string) => `shares.${index}.${field}`;
    const person = people.find((each) => each.id === personId);
    if (!person) refusals.push(refuse('required', at('personId'), { what: 'The sales person' }));
    else if (seen.has(person.id)) refusals.push(refuse('named-twice', at('personId'), { name: person.name }));
    if (person) seen.add(person.id);
    if (!isDecimalText(perCent, 'percent') || dec(perCent).lte(0) || dec(perCent).gt(100)) {
      refusals.push(refuse('not-a-percent', at('perCent'), { what: 'The share' }));
    }
  });
  if (refusals.length === 0 && typed.shares.length > 0) {
    const whole = sum(typed.shares.map((share) => dec(share.perCent)));
    if (!whole.eq(100)) refusals.push(refuse('shares-not-whole', '', { sum: whole.toFixed() }));
  }
  return decided(refusals, () => ({
    shares: typed.shares.map(({ personId, perCent }) => ({ personId: personId!, perCent: dec(perCent).toFixed() })),
  }));
}

const said = (shares: CommissionTyped['was']) =>
  shares
    .map(({ personId, perCent }) => `${personId}: ${dec(perCent).toFixed()}`)
    .sort()
    .join();
