import { dec, ZERO, type Dec } from '@core/kernel';
import type { BasePrice } from '@core/pricing';
import {
  givenFor,
  offsFor,
  type PromotedLine,
  type PromotionBudgets,
  type PromotionOff,
  type PromotionOffer,
} from '@core/promotions';
import { refuse, type Refusal } from '@core/refusals';
import type { HeldPromotion, OrderGround, OrderLineNow } from './ground';

/** A promotion as a price's step names it. */
export const promotedBy = ({ promotion }: PromotionOffer): string => `${promotion.number} ${promotion.name}`.trim();

/** What an order's line has of a promotion can be given anew once the line is decided anew. */
export function giveBackPromotion(budgets: PromotionBudgets, now: OrderLineNow): void {
  if (now.promotion) budgets.giveBack(now.promotion.promotionId, heldAmount(now));
}

/** What is counted of a line that is alive, in the company's currency. */
function heldAmount({
  quantity,
  cancelled,
  promotion,
}: Pick<OrderLineNow, 'quantity' | 'cancelled' | 'promotion'>): Dec {
  return givenFor(dec(promotion?.unit ?? '0'), dec(quantity).minus(cancelled ?? '0'));
}

/**
 * What a promotion takes off a line: the most there is whose budget has as much left, wholly or not at all. One that would
 * give more and is used up is worth a word. // S13
 */
export function promote(
  { pricing }: OrderGround,
  line: PromotedLine & { without: BasePrice },
  budgets: PromotionBudgets,
  { field, warnings }: { field: string; warnings: Refusal[] },
): (PromotionOff & { held: HeldPromotion }) | null {
  const { offers, rate } = pricing.promotions;
  const price = dec(line.without.price).div(line.without.per);
  for (const found of offsFor(offers, line, price, rate)) {
    const { offer, unit } = found;
    if (budgets.takeIf(offer, givenFor(unit, line.quantity))) {
      const held = { promotionId: offer.promotion.id, lineId: offer.id, unit: unit.toFixed(), free: false };
      return { ...found, held };
    }
    if (offer.promotion.running) warnings.push(usedUp(offer, budgets, field));
  }
  return null;
}

/** A promotion whose budget has too little left, in words. */
export const usedUp = (offer: PromotionOffer, budgets: PromotionBudgets, field: string): Refusal =>
  refuse('promotion-used-up', field, {
    promotion: promotedBy(offer),
    left: (budgets.left(offer) ?? ZERO).toFixed(2),
  });
