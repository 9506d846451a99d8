import { dec, type Day, type Dec } from '@core/kernel';

/** Where a price without an agreement comes from, in the order it is looked for. // R1 */
export const PRICE_LEVELS = ['customer', 'group', 'list'] as const;
export type PriceLevel = (typeof PRICE_LEVELS)[number];

/** The first level that has a price, or the lowest price of them all: the company's setting. // R1 */
export const PRICE_SEARCHES = ['first', 'best'] as const;
export type PriceSearch = (typeof PRICE_SEARCHES)[number];

/** A price that is kept for an item: for one customer, a group of them, or everybody. */
export interface PriceRule {
  id: number;
  level: PriceLevel;
  /** Whose it is, as a person reads it: the customer's or the group's name, or the list's. */
  source: string;
  currency: string;
  /** The unit it is for, and how many of the item's own unit that is; above zero. */
  unit: string;
  factor: string;
  /** Holds from and to these days, both counted; null for always. */
  firstDay: Day | null;
  lastDay: Day | null;
  /** Holds from this many of its unit on. */
  from: string;
  /** For one of its unit. */
  price: string;
}

export interface PriceAsked {
  /** The unit it is sold in; prices for it and for the item's own unit hold. */
  unit: string;
  ownUnit: string;
  /** In the item's own unit. */
  quantity: Dec;
  day: Day;
  currency: string;
}

/** Whether a rule holds for what is asked. // R1 */
export function holds(rule: PriceRule, asked: PriceAsked): boolean {
  return (
    rule.currency === asked.currency &&
    (rule.unit === asked.unit || rule.unit === asked.ownUnit) &&
    (rule.firstDay === null || rule.firstDay <= asked.day) &&
    (rule.lastDay === null || rule.lastDay >= asked.day) &&
    asked.quantity.gte(dec(rule.from).times(rule.factor))
  );
}

/**
 * The price of what is asked: of the first level that has one, or the lowest there is. // R1
 * Within a level a price for the unit sold goes before one for the item's own, then the largest quantity break, then
 * the latest to begin, then the lowest. Null where none holds. O(rules).
 */
export function findPrice(rules: readonly PriceRule[], asked: PriceAsked, search: PriceSearch): PriceRule | null {
  let found: PriceRule | null = null;
  for (const rule of rules) {
    if (holds(rule, asked) && (found === null || before(rule, found, asked, search))) found = rule;
  }
  return found;
}

function before(a: PriceRule, b: PriceRule, asked: PriceAsked, search: PriceSearch): boolean {
  const cheaper = dec(a.price).times(b.factor).cmp(dec(b.price).times(a.factor));
  if (search === 'best' && cheaper !== 0) return cheaper < 0;
  const level = PRICE_LEVELS.indexOf(a.level) - PRICE_LEVELS.indexOf(b.level);
  if (level !== 0) return level < 0;
  if ((a.unit === asked.unit) !== (b.unit === asked.unit)) return a.unit === asked.unit;
  const reached = dec(a.from).times(a.factor).cmp(dec(b.from).times(b.factor));
  if (reached !== 0) return reached > 0;
  if (a.firstDay !== b.firstDay) return (a.firstDay ?? '') > (b.firstDay ?? '');
  return cheaper === 0 ? a.id < b.id : cheaper < 0;
}
