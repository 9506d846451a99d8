import { leftOn, portionsUnder, rankOffers, type Offer as AgreementOffer, type Portion } from '@core/agreements';
import { dec, least, lineAmount, sum, ZERO, type Day, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';
import type { Offer } from './bench';

// What a purchase order comes to: how its lines are priced, what they are for, and what agreements give for it.

/** A buying agreement's line, with the vendor it is with. // A13 */
export interface BuyingOffer extends AgreementOffer {
  vendorId: number;
}

export interface BoughtItem {
  id: number;
  number: string;
  unit: string;
  groupId: number | null;
  taxCodeId: number;
  taxRate: string;
}

export interface PurchaseLinePlan {
  itemId: number;
  quantity: string;
  unitPrice: string;
  amount: string;
  agreementLineId: number | null;
  /** What of the amount counts against the agreement where that is not the whole. // A5 */
  agreedAmount: string | null;
  taxCodeId: number;
  taxRate: string;
  dueDate: Day;
  /** Why it has another price than was found, or is more than was needed; empty for neither. */
  reason: string;
  /** The order lines it is for. */
  ties: { orderLineId: number; quantity: string }[];
  /** The planned purchases it carries out, each on the first line that has some of it. // T12 */
  planned: number[];
  /** Bought beyond them, as the vendor sells no less: it goes to our stock. // L8 */
  spare: string;
}

export interface PurchasePlan {
  vendorId: number;
  /** The customer's address of a drop shipment; null for our own place. */
  shipToId: number | null;
  /** Which of our places it comes to. */
  locationId: number;
  currency: string;
  lines: PurchaseLinePlan[];
}

export interface CounterGrowth {
  agreementLineId: number;
  quantity: string;
  value: string;
}

/** What is wanted of something to buy: for an order line, or as it was planned. */
export type WantFor = { orderLineId: number; plannedId?: never } | { plannedId: number; orderLineId?: never };

/** One thing to buy: for one drop shipment, for all special orders of the item that are due on the same day, or for nobody. */
export interface Want {
  vendorId: number;
  shipToId: number | null;
  locationId: number;
  currency: string;
  item: BoughtItem;
  offer: Offer;
  dueDate: Day;
  agreementLineId: number | null | undefined;
  /** A price that was typed: it is no agreement's. */
  price?: Dec | undefined;
  /** Why it was typed, or why more is bought than is needed. */
  reason?: string | undefined;
  /** Bought beyond what it is needed for. */
  extra?: Dec | undefined;
  /** Where it was asked, for refusals. */
  field: string;
  needs: (WantFor & { quantity: Dec })[];
}

/** What this act has taken of each agreement line so far. */
export class Taken {
  private readonly byLine = new Map<number, { quantity: Dec; value: Dec }>();

  room(offer: AgreementOffer): Dec {
    const taken = this.byLine.get(offer.line.id);
    return leftOn(offer).minus((offer.agreement.basis === 'quantity' ? taken?.quantity : taken?.value) ?? ZERO);
  }

  take(offer: AgreementOffer, portion: Portion): void {
    if (portion.agreed !== null) this.count(offer.line.id, portion.quantity, portion.agreed);
  }

  /** So much more of an agreement line; below zero, so much less. */
  count(agreementLineId: number, quantity: Dec, value: Dec): void {
    const taken = this.byLine.get(agreementLineId) ?? { quantity: ZERO, value: ZERO };
    this.byLine.set(agreementLineId, { quantity: taken.quantity.plus(quantity), value: taken.value.plus(value) });
  }

  grown(): CounterGrowth[] {
    return [...this.byLine]
      .filter(([, { quantity, value }]) => !quantity.eq(0) || !value.eq(0))
      .map(([agreementLineId, { quantity, value }]) => ({
        agreementLineId,
        quantity: quantity.toFixed(),
        value: value.toFixed(),
      }));
  }
}

export interface PricedPortion extends Portion {
  agreementLineId: number | null;
}

/** The portions a quantity is bought in: at the price that was typed, by the agreement chosen, else the first that fits, else the vendor's price. // A13 A5 */
export function priceBought(
  { vendorId, item, offer, currency, agreementLineId, price, field: at }: Want,
  quantity: Dec,
  buying: readonly BuyingOffer[],
  taken: Taken,
  day: Day,
): { portions: PricedPortion[]; refused: Refusal[]; warned: Refusal[] } {
  if (price) {
    const amount = lineAmount(quantity, price, currency);
    const portion = { quantity, unitPrice: price, amount, agreed: null, agreementLineId: null };
    return { portions: [portion], refused: [], warned: [] };
  }
  const { unitPrice } = offer;
  const field = `${at}.agreementLineId`;
  const wanted = { itemId: item.id, groupId: item.groupId, quantity, listPrice: unitPrice, day, currency };
  const ranked = rankOffers(
    buying.filter((each) => each.vendorId === vendorId),
    wanted,
  );
  const chosen = agreementLineId ? ranked.find((each) => each.line.id === agreementLineId) : ranked[0];
  if (agreementLineId && !chosen) {
    return { portions: [], refused: [refuse('agreement-not-covering', field, { item: item.number })], warned: [] };
  }
  if (!chosen || agreementLineId === null) {
    const amount = lineAmount(quantity, dec(unitPrice), currency);
    const portion = { quantity, unitPrice: dec(unitPrice), amount, agreed: null, agreementLineId: null };
    return { portions: [portion], refused: [], warned: [] };
  }
  const found = portionsUnder(chosen, { ...item, listPrice: unitPrice }, quantity, taken.room(chosen), field);
  for (const portion of found.portions) taken.take(chosen, portion);
  return {
    ...found,
    portions: found.portions.map((portion) => ({
      ...portion,
      agreementLineId: portion.agreed === null ? null : chosen.line.id,
    })),
  };
}

/** Adds the bought portions to the purchase order of their vendor, currency and place, tied to what they are for. */
export function addToPlan(plans: Map<string, PurchasePlan>, want: Want, portions: readonly PricedPortion[]): void {
  const key = `${want.vendorId}|${want.currency}|${want.shipToId}|${want.locationId}`;
  const { vendorId, shipToId, locationId, currency } = want;
  const plan = plans.get(key) ?? { vendorId, shipToId, locationId, currency, lines: [] };
  const needs = want.needs.map((need) => ({ ...need }));
  const begun = new Set<number>();
  for (const portion of portions) {
    const taken = takenFrom(needs, portion.quantity);
    const planned = taken.flatMap(({ plannedId }) =>
      plannedId === undefined || begun.has(plannedId) ? [] : [plannedId],
    );
    planned.forEach((id) => begun.add(id));
    plan.lines.push({
      itemId: want.item.id,
      quantity: portion.quantity.toFixed(),
      unitPrice: portion.unitPrice.toFixed(),
      amount: portion.amount.toFixed(),
      agreementLineId: portion.agreementLineId,
      agreedAmount: portion.agreed === null || portion.agreed.eq(portion.amount) ? null : portion.agreed.toFixed(),
      taxCodeId: want.item.taxCodeId,
      taxRate: want.item.taxRate,
      dueDate: want.dueDate,
      reason: want.reason ?? '',
      ties: taken.flatMap(({ orderLineId, quantity }) =>
        orderLineId === undefined ? [] : [{ orderLineId, quantity: quantity.toFixed() }],
      ),
      planned,
      spare: portion.quantity.minus(sum(taken.map((each) => each.quantity))).toFixed(),
    });
  }
  plans.set(key, plan);
}

/** Of the needs at most that quantity, first need first; what is taken is taken off them. */
function takenFrom(needs: Want['needs'], quantity: Dec): Want['needs'] {
  let rest = quantity;
  const taken: Want['needs'] = [];
  for (const need of needs) {
    const piece = least(rest, need.quantity);
    if (piece.lte(0)) continue;
    taken.push({ ...need, quantity: piece });
    need.quantity = need.quantity.minus(piece);
    rest = rest.minus(piece);
  }
  return taken;
}
