import { dec, least, roundHalfAway, ZERO, type Day, type Dec } from '@core/kernel';

/** What a promotion gives on a line: per cent off, so much off each, a price, or goods for nothing. // S13 */
export const PROMOTION_KINDS = ['percent', 'amount', 'price', 'free'] as const;
export type PromotionKind = (typeof PROMOTION_KINDS)[number];

/** One line of a promotion that holds for a customer, with what its budget has left. */
export interface PromotionOffer {
  id: number;
  promotion: {
    id: number;
    number: string;
    name: string;
    firstDay: Day;
    lastDay: Day;
    /** It was not stopped: one that was gives nothing new, and what an order has of it stays. */
    running: boolean;
    /** What is left to give, in the company's currency; null where there is no budget. */
    left: string | null;
  };
  /** What it is for: one item, the items of a group, or (both null) everything. */
  itemId: number | null;
  groupId: number | null;
  kind: PromotionKind;
  /** Per cent; or for one of the item's own unit, in the company's currency. Nothing for free goods. */
  value: string;
  /** From so many of the item's own unit on one line. */
  from: string;
  /** Free goods: for each so many bought, so many; of another item where one is named. */
  buy: string;
  free: string;
  freeItemId: number | null;
}

export interface PromotedLine {
  itemId: number;
  groupId: number | null;
  /** In the item's own unit. */
  quantity: Dec;
  /** What its price is of. */
  day: Day;
}

/** Whether a promotion's line is for what is bought, on its day. */
export function fits({ promotion, itemId, groupId }: PromotionOffer, line: Omit<PromotedLine, 'quantity'>): boolean {
  if (line.day < promotion.firstDay || line.day > promotion.lastDay) return false;
  if (itemId !== null) return itemId === line.itemId;
  return groupId === null || groupId === line.groupId;
}

/** What is taken off one of the item's own unit, in the order's currency, to 4 places. */
export interface PromotionOff {
  offer: PromotionOffer;
  off: Dec;
  /** The same in the company's currency: what the budget counts for each. */
  unit: Dec;
}

const PRICE_PLACES = 4;

const GIVEN_PLACES = 2;

/** What so many get of a promotion, in the company's currency, to the places its counter has. */
export const givenFor = (unit: Dec, quantity: Dec): Dec => roundHalfAway(unit.times(quantity), GIVEN_PLACES);

/**
 * What promotions take off a line, most first; of equals the older. `price` is that of one of the item's own unit, `rate`
 * what one of the order's currency is worth in the company's: without one nothing is known to be given. // S13 R1
 */
export function offsFor(
  offers: readonly PromotionOffer[],
  line: PromotedLine,
  price: Dec,
  rate: string | null,
): PromotionOff[] {
  if (rate === null || price.lte(0)) return [];
  return offers
    .filter((offer) => offer.kind !== 'free' && line.quantity.gte(offer.from) && fits(offer, line))
    .map((offer) => {
      const off = roundHalfAway(least(price, offBy(offer, price, rate)), PRICE_PLACES);
      return { offer, off, unit: roundHalfAway(off.times(rate), PRICE_PLACES) };
    })
    .filter(({ off }) => off.gt(0))
    .sort((a, b) => b.off.cmp(a.off) || a.offer.id - b.offer.id);
}

function offBy({ kind, value }: PromotionOffer, price: Dec, rate: string): Dec {
  if (kind === 'percent') return price.times(value).div(100);
  const own = dec(value).div(rate);
  return kind === 'amount' ? own : kind === 'price' ? price.minus(own) : ZERO;
}
