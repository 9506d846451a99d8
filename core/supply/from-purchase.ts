import { dec, MAIN_LOCATION, most, ZERO, type Day } from '@core/kernel';
import {
  confirmable,
  decideConfirm,
  decideOrder,
  type ConfirmableItem,
  type CustomerStanding,
  type OrderEffects,
  type OrderGround,
} from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { PurchaseState } from '@core/stock';

export interface FromPurchaseGround {
  purchase: { number: string; state: PurchaseState; shipToId: number | null };
  /** What of the purchase's lines is for nobody, in their order. */
  loose: readonly { id: number; itemId: number; quantity: string; shipDate: Day }[];
  /** The customer it goes to; null where it comes to our place. */
  customer: (NonNullable<OrderGround['customer']> & CustomerStanding) | null;
  shipToIds: readonly number[];
  items: ReadonlyMap<number, ConfirmableItem>;
  offers: OrderGround['offers'];
  pricing: OrderGround['pricing'];
}

export interface FromPurchaseEffects extends OrderEffects {
  /** The permit each line goes out under. // S5 */
  permits: (number | null)[];
  /** Which purchase line each order line comes from, whole; in the order of the order lines. */
  purchaseLineIds: number[];
}

/** What goes straight to a customer is what their order has: nothing free is on its way. // S13 */
const withoutFree = (pricing: OrderGround['pricing']): OrderGround['pricing'] => ({
  ...pricing,
  promotions: { ...pricing.promotions, offers: pricing.promotions.offers.filter(({ kind }) => kind !== 'free') },
});

/**
 * What a drop shipment brings to a customer who ordered it nowhere, as their confirmed order, tied to it line by line. // L4
 * Priced and checked as if it had been typed; a line split at an agreement's limit is two lines of one purchase line.
 */
export function decideFromPurchase(
  ground: FromPurchaseGround,
  customerReference: string,
  workDate: Day,
): Decision<FromPurchaseEffects> {
  const { purchase, loose, customer, items, ...rest } = ground;
  const stands: Refusal[] = [];
  const facts = { purchase: purchase.number };
  if (purchase.state !== 'placed') stands.push(refuse('purchase-not-open', '', { ...facts, state: purchase.state }));
  else if (!customer) stands.push(refuse('comes-here-already', '', facts));
  else if (loose.length === 0) stands.push(refuse('nothing-loose', '', facts));
  if (stands.length > 0 || !customer) return { ok: false, refusals: stands };
  const order = decideOrder(
    { ...rest, pricing: withoutFree(rest.pricing), current: null, customer, items, locationIds: [MAIN_LOCATION] },
    {
      shipToId: purchase.shipToId,
      customerReference,
      lines: loose.map((line) => ({ ...line, id: null, route: 'drop' as const })),
    },
    workDate,
  );
  if (!order.ok) return { ok: false, refusals: order.refusals };
  const lines = confirmable(order.effects.lines, items);
  const head = { ...order.effects, number: 'The order', state: 'draft' as const };
  const confirmed = decideConfirm({ order: head, customer, lines }, workDate, {
    mayPassCredit: false,
    creditReason: '',
  });
  return decided(
    confirmed.ok ? [] : confirmed.refusals,
    () => ({
      ...order.effects,
      permits: confirmed.ok ? confirmed.effects.permits : [],
      purchaseLineIds: sourcesOf(loose, order.effects.lines),
    }),
    order.warnings,
  );
}

/** Order lines laid over the purchase lines they came from, in the same order. */
function sourcesOf(loose: FromPurchaseGround['loose'], lines: readonly { quantity: string }[]): number[] {
  const rest = loose.map((line) => ({ id: line.id, rest: dec(line.quantity) }));
  return lines.map((line) => {
    const source = rest.find((each) => each.rest.gt(0))!;
    source.rest = most(ZERO, source.rest.minus(line.quantity));
    return source.id;
  });
}
