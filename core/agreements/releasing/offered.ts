import { currencyPlaces, lineAmount, most, roundHalfAway, ZERO, type Day, type Dec } from '@core/kernel';
import { agreedPrice, type PriceTerm } from '../terms/price';
import { leftUnderLimit } from '../ending/progress';
import type { AgreementState, Basis, LimitPolicy } from '../terms/terms';
import { leftOnWhole, type WholeLimit } from './whole-limit';

/** An agreement as far as pricing and limits see it. */
export interface OfferingAgreement {
  id: number;
  number: string;
  basis: Basis;
  state: AgreementState;
  firstDay: Day;
  lastDay: Day;
  currency: string;
  /** 1 is asked first, 9 last. */
  priority: number;
  limitPolicy: LimitPolicy;
  tolerancePercent: string;
  /** A limit on the whole besides the lines; null or left out for none. // A5 */
  whole?: WholeLimit | null;
  /** Goods that are free by a promotion count as called off. // S13 */
  freeGoodsCount?: boolean;
}

/** A line of an agreement as far as pricing and limits see it. Neither item nor group: it covers everything. // A1 */
export interface OfferedLine extends PriceTerm {
  id: number;
  lineNo: number;
  itemId: number | null;
  groupId: number | null;
  /** `0` on a line that commits to an amount. */
  committed: string;
  committedValue: string;
  released: string;
  releasedValue: string;
  leastRelease: string;
  releaseMultiple: string;
}

export interface Offer {
  agreement: OfferingAgreement;
  line: OfferedLine;
}

/** What is to be priced. */
export interface Wanted {
  itemId: number;
  groupId: number | null;
  quantity: Dec;
  /** The price that would apply without any agreement. */
  listPrice: string;
  day: Day;
  currency: string;
}

/** True where the line covers the item: itself, its group, or everything. // A1 */
export function covers(line: Pick<OfferedLine, 'itemId' | 'groupId'>, itemId: number, groupId: number | null): boolean {
  if (line.itemId !== null) return line.itemId === itemId;
  return line.groupId === null || line.groupId === groupId;
}

/** Left under the line's widened limit: in units, or to the cent in value; below zero once passed. // A5 */
export function leftOn({ agreement, line }: Offer): Dec {
  if (agreement.basis === 'quantity') return leftUnderLimit(line.committed, line.released, agreement.tolerancePercent);
  const left = leftUnderLimit(line.committedValue, line.releasedValue, agreement.tolerancePercent);
  return left.round(currencyPlaces(agreement.currency), 0);
}

/** Whether an offer fits what is wanted at all: in force, in its period, its currency, its items, something left. // A13 */
export function fits(offer: Offer, wanted: Wanted): boolean {
  const { agreement, line } = offer;
  return (
    agreement.state === 'in-force' &&
    agreement.firstDay <= wanted.day &&
    wanted.day <= agreement.lastDay &&
    agreement.currency === wanted.currency &&
    covers(line, wanted.itemId, wanted.groupId) &&
    leftOn(offer).gt(0) &&
    (!agreement.whole || leftOnWhole(agreement.whole, agreement.tolerancePercent).gt(0))
  );
}

/**
 * The offers that fit, best first: by priority, then an item's own line before its group's before one for everything,
 * then the lowest resulting price, then the earliest end. Ends at the line's id, so row order does not matter. // A13
 */
export function rankOffers(offers: readonly Offer[], wanted: Wanted): Offer[] {
  const breadth = ({ line }: Offer) => (line.itemId !== null ? 0 : line.groupId !== null ? 1 : 2);
  const price = ({ line }: Offer) => agreedPrice(line, wanted.quantity, wanted.listPrice);
  return offers
    .filter((offer) => fits(offer, wanted))
    .sort(
      (a, b) =>
        a.agreement.priority - b.agreement.priority ||
        breadth(a) - breadth(b) ||
        price(a).cmp(price(b)) ||
        a.agreement.lastDay.localeCompare(b.agreement.lastDay) ||
        a.line.id - b.line.id,
    );
}

/** What so many of an item would cost without any agreement. // R1 R2 */
export type PriceWithout = (quantity: Dec) => { unitPrice: Dec; amount: Dec };

/** One order line's worth of what was asked. */
export interface Portion {
  quantity: Dec;
  unitPrice: Dec;
  amount: Dec;
  /** What of the amount counts against the agreement; null where the portion is not under it. */
  agreed: Dec | null;
}

/**
 * What an asked quantity becomes under an agreement that splits at its limit. // A5
 * By quantity: what fits at the agreed price, the rest as a portion of its own at the price without it.
 * By value: one portion; its amount is what is left of the value, to the cent, and the rest of the quantity at the
 * price without the agreement. The portions always hold the whole quantity. `without` says what so many would cost then,
 * with all that is put on a price (freight, packs); the list price where it says nothing. // R2
 */
export function splitAtLimit(
  asked: { quantity: Dec; price: Dec; listPrice: Dec; without?: PriceWithout | undefined },
  left: Dec,
  { basis, currency }: Pick<OfferingAgreement, 'basis' | 'currency'>,
): Portion[] {
  const { quantity, price, listPrice } = asked;
  const without =
    asked.without ?? ((part: Dec) => ({ unitPrice: listPrice, amount: lineAmount(part, listPrice, currency) }));
  const outside = (part: Dec): Portion => ({ quantity: part, ...without(part), agreed: null });
  const under = (part: Dec): Portion => {
    const amount = lineAmount(part, price, currency);
    return { quantity: part, unitPrice: price, amount, agreed: amount };
  };
  const room = most(ZERO, left);
  const inside = basis === 'quantity' ? quantity.lte(room) : lineAmount(quantity, price, currency).lte(room);
  if (inside) return [under(quantity)];
  if (room.eq(0)) return [outside(quantity)];
  if (basis === 'quantity') return [under(room), outside(quantity.minus(room))];
  const beyond = most(ZERO, quantity.minus(room.div(price)));
  const amount = beyond.gt(0) ? room.plus(without(beyond).amount) : room;
  return [{ quantity, unitPrice: roundHalfAway(amount.div(quantity), 4), amount, agreed: room }];
}
