import { agreementsByLine, overWholes, type Offer } from '@core/agreements';
import { dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { OrderItem, OrderState } from './ground';
import { ReleasedChange } from './released-change';

/** A line with the last time it was closed short, where that stands. */
export interface ClosedLine {
  id: number;
  lineNo: number;
  itemId: number;
  quantity: string;
  cancelled: string;
  amount: string;
  agreedAmount: string | null;
  agreementLineId: number | null;
  /** What was given up, and what the line came to before; null where it was not closed short. */
  closing: { id: number; quantity: string; amount: string; agreedAmount: string | null; leftAmount: string } | null;
}

export interface OpenAgainGround {
  order: { number: string; state: OrderState };
  lines: readonly ClosedLine[];
  /** The agreement lines its lines hold. */
  offers: readonly Offer[];
  items: ReadonlyMap<number, OrderItem>;
}

export interface OpenAgainEffects {
  lines: { id: number; closingId: number; cancelled: string; amount: string; agreedAmount: string | null }[];
  released: { agreementLineId: number; quantity: string; value: string }[];
}

/**
 * Opens lines again that were closed short: what was given up is asked for once more, at what it came to, and taken of
 * its agreement again, within its limit; refused where the line was changed since. What was held or made for them is not. // S6 S8 A4 A5
 */
export function decideOpenAgain(ground: OpenAgainGround, lineIds: readonly number[]): Decision<OpenAgainEffects> {
  const { order, offers, items } = ground;
  const refusals: Refusal[] = [];
  if (order.state === 'draft')
    refusals.push(refuse('order-not-confirmed', '', { order: order.number, state: order.state }));
  const wanted = ground.lines.filter((line) => lineIds.includes(line.id) && line.closing !== null);
  if (wanted.length === 0) refusals.push(refuse('nothing-closed', 'lines', { order: order.number }));
  for (const { lineNo, amount, closing } of wanted) {
    if (dec(amount).eq(closing!.leftAmount)) continue;
    refusals.push(refuse('closed-line-changed', 'lines', { order: order.number, line: String(lineNo) }));
  }
  const change = new ReleasedChange(offers);
  const lines = wanted.map((line) => {
    const closing = line.closing!;
    const cancelled = dec(line.cancelled).minus(closing.quantity).toFixed();
    const { itemId, agreementLineId, agreedAmount } = line;
    const counted = { itemId, agreementLineId, agreedAmount };
    const live = (given: string) => dec(line.quantity).minus(given).toFixed();
    change.giveBack({ ...counted, quantity: live(line.cancelled), amount: line.amount }, 'lines');
    const whole = { amount: closing.amount, agreedAmount: closing.agreedAmount };
    change.take({ ...counted, ...whole, quantity: live(cancelled) }, 'lines');
    return { id: line.id, closingId: closing.id, cancelled, ...whole };
  });
  const over = change.overLimits(items);
  const whole = overWholes(agreementsByLine(offers), change.grown(), 'lines');
  refusals.push(...over.refused, ...whole.refused);
  return decided(refusals, () => ({ lines, released: change.grown() }), [...over.warned, ...whole.warned]);
}
