import { dec, ZERO, type Dec } from '@core/kernel';
import type { PromotionOffer } from './offer';

/** What is left to give of promotions while an order's lines are decided, one after the other. // S13 */
export class PromotionBudgets {
  private readonly given = new Map<number, Dec>();

  /** What an order had of a promotion and is decided anew can be given again. */
  giveBack(promotionId: number, amount: Dec): void {
    this.take(promotionId, ZERO.minus(amount));
  }

  take(promotionId: number, amount: Dec): void {
    this.given.set(promotionId, (this.given.get(promotionId) ?? ZERO).plus(amount));
  }

  /** What can still be given; null where there is no end. */
  left({ promotion }: PromotionOffer): Dec | null {
    if (promotion.running && promotion.left === null) return null;
    return dec(promotion.running ? promotion.left! : '0').minus(this.given.get(promotion.id) ?? ZERO);
  }

  /** Takes so much where that is left. */
  takeIf(offer: PromotionOffer, amount: Dec): boolean {
    const left = this.left(offer);
    if (left !== null && amount.gt(left)) return false;
    this.take(offer.promotion.id, amount);
    return true;
  }
}
