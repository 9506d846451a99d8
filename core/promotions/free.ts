import { dec, groupedBy, least, most, sum, ZERO, type Dec } from '@core/kernel';
import type { PromotionBudgets } from './budget';
import { fits, givenFor, type PromotedLine, type PromotionOffer } from './offer';

/** Goods an order gets for nothing by one line of a promotion. */
export interface FreeGoods<Line extends PromotedLine> {
  offer: PromotionOffer;
  itemId: number;
  quantity: Dec;
  /** What one of them is worth in the company's currency. */
  unit: Dec;
  /** The last of the lines that earn them. */
  by: Line;
  /** Earned, and beyond what the budget had left. */
  beyond: Dec;
}

/**
 * What lines earn in free goods: for each so many bought so many, by whole turns, as far as the budget goes. A line earns
 * by one promotion: the one that is worth most, of equals the older. `worth` is what one of an item is worth in the
 * company's currency; null where that is not known. Takes what it gives from the budgets. O(lines × offers). // S13
 */
export function freeGoods<Line extends PromotedLine>(
  offers: readonly PromotionOffer[],
  lines: readonly Line[],
  worth: (itemId: number, line: Line) => Dec | null,
  budgets: PromotionBudgets,
): FreeGoods<Line>[] {
  const given: FreeGoods<Line>[] = [];
  const earning = new Set(lines);
  const ranked = offers
    .filter(({ kind }) => kind === 'free')
    .flatMap((offer) => earnedBy(offer, lines, worth))
    .sort((a, b) => b.total.cmp(a.total) || a.offer.id - b.offer.id);
  for (const { offer, itemId, unit, own } of ranked) {
    const left = own.filter((line) => earning.has(line));
    const turns = turnsOf(offer, left);
    if (turns.lte(0)) continue;
    const room = budgets.left(offer);
    const each = givenFor(unit, dec(offer.free));
    const may = room === null || each.eq(0) ? turns : wholes(most(ZERO, room), each);
    const made = least(turns, may);
    // What has nothing to give leaves the lines to the next.
    if (made.gt(0)) for (const line of left) earning.delete(line);
    const quantity = made.times(offer.free);
    budgets.take(offer.promotion.id, givenFor(unit, quantity));
    given.push({ offer, itemId, quantity, unit, by: left.at(-1)!, beyond: turns.times(offer.free).minus(quantity) });
  }
  return given;
}

const DOWN = 0;
const wholes = (of: Dec, by: Dec): Dec => of.div(by).round(0, DOWN);

const turnsOf = (offer: PromotionOffer, lines: readonly PromotedLine[]): Dec =>
  wholes(sum(lines.map(({ quantity }) => quantity)), dec(offer.buy));

/** What an offer would give by all lines it is for: goods of the same item by item, those of another by all together. */
function earnedBy<Line extends PromotedLine>(
  offer: PromotionOffer,
  lines: readonly Line[],
  worth: (itemId: number, line: Line) => Dec | null,
) {
  const all = lines.filter((line) => fits(offer, line));
  const parts = offer.freeItemId === null ? [...groupedBy(all, ({ itemId }) => itemId).values()] : [all];
  return parts.flatMap((own) => {
    const turns = turnsOf(offer, own);
    if (turns.lte(0)) return [];
    const itemId = offer.freeItemId ?? own[0]!.itemId;
    const unit = worth(itemId, own.at(-1)!);
    return unit === null ? [] : [{ offer, itemId, unit, own, total: turns.times(offer.free).times(unit) }];
  });
}
