import { leftOn, overLimitOf, type Offer } from '@core/agreements';
import { dec, ZERO, type Dec } from '@core/kernel';
import type { Refusal } from '@core/refusals';
import type { OrderEffects, OrderItem, OrderLineNow } from './ground';

type Counted = Pick<OrderLineNow, 'agreementLineId' | 'itemId' | 'quantity' | 'amount' | 'agreedAmount'>;

/** Gathers what a change of an order does to each agreement line's released counters. // A4 A5 */
export class ReleasedChange {
  private readonly byLine = new Map<number, { quantity: Dec; value: Dec; field: string; item: number }>();
  constructor(private readonly offers: readonly Offer[]) {}

  take(line: Counted, field: string): void {
    this.add(line, 1, field);
  }

  giveBack(line: Counted, field: string): void {
    this.add(line, -1, field);
  }

  private add(line: Counted, sign: 1 | -1, field: string): void {
    if (line.agreementLineId === null) return;
    const sum = this.byLine.get(line.agreementLineId);
    this.byLine.set(line.agreementLineId, {
      quantity: (sum?.quantity ?? ZERO).plus(dec(line.quantity).times(sign)),
      value: (sum?.value ?? ZERO).plus(dec(line.agreedAmount ?? line.amount).times(sign)),
      field,
      item: line.itemId,
    });
  }

  /** What an order line may take of the offer after the changes gathered so far, what it holds already included. */
  room(offer: Offer, held: Counted | null): Dec {
    const byQuantity = offer.agreement.basis === 'quantity';
    const taken = this.byLine.get(offer.line.id);
    const left = leftOn(offer).minus((byQuantity ? taken?.quantity : taken?.value) ?? ZERO);
    const own = held ? dec(byQuantity ? held.quantity : (held.agreedAmount ?? held.amount)) : ZERO;
    return left.plus(own);
  }

  /** What goes beyond a limit that refuses, and beyond one that only warns. // A5 */
  overLimits(items: ReadonlyMap<number, OrderItem>): { refused: Refusal[]; warned: Refusal[] } {
    const found = { refused: [] as Refusal[], warned: [] as Refusal[] };
    for (const [id, change] of this.byLine) {
      const offer = this.offers.find((each) => each.line.id === id);
      if (!offer) continue;
      const asked = offer.agreement.basis === 'quantity' ? change.quantity : change.value;
      const left = leftOn(offer);
      if (asked.lte(0) || asked.lte(left)) continue;
      const item = items.get(change.item) ?? { number: '', unit: '' };
      const word = overLimitOf(offer.agreement, item, asked, left, change.field);
      if (offer.agreement.limitPolicy === 'refuse') found.refused.push(word);
      if (offer.agreement.limitPolicy === 'warn') found.warned.push(word);
    }
    return found;
  }

  grown(): OrderEffects['released'] {
    return [...this.byLine]
      .filter(([, change]) => !change.quantity.eq(0) || !change.value.eq(0))
      .map(([agreementLineId, change]) => ({
        agreementLineId,
        quantity: change.quantity.toFixed(),
        value: change.value.toFixed(),
      }));
  }
}
