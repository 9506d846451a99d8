import type { OptionGroup } from '@core/catalogue';
import { dec, roundHalfAway, type Day } from '@core/kernel';
import {
  COST_NAMES,
  costPrice,
  findPrice,
  type BasePrice,
  type CostTerms,
  type PriceAsked,
  type PriceRule,
  type PriceSearch,
} from '@core/pricing';

/** What an item's prices are made of. */
export interface ItemPricing {
  /** The units it is sold in, its own among them, with how many of its own each is. */
  units: ReadonlyMap<string, string>;
  /** Prices kept for the customer, their group, and everybody. */
  rules: readonly PriceRule[];
  /** Where its list price is made of a cost: the terms, the cost known by a day, and the series' name. // R1 */
  cost: {
    terms: CostTerms;
    series: string;
    /** What one unit of the customer's currency is worth in the company's, which costs are in; null where unknown. */
    rate: string | null;
    known(day: Day): string | null;
  } | null;
  packSize: string;
  splitCharge: string;
  /** Kilograms and cubic metres of one of its own unit. */
  weight: string;
  volume: string;
  /** What may be chosen for it, priced in the customer's currency. */
  options: readonly OptionGroup[];
}

/** An item sold in its own unit, at its list price. */
export function plainPricing(unit: string): ItemPricing {
  return {
    units: new Map([[unit, '1']]),
    rules: [],
    cost: null,
    packSize: '0',
    splitCharge: '0',
    weight: '0',
    volume: '0',
    options: [],
  };
}

/**
 * What would be asked without an agreement: the customer's, their group's or the list's price, or one made of a cost in
 * the list's place. `listPrice` is that for one of the item's own unit, to 4 places. // R1
 */
export function priceWithout(
  item: { unit: string; listPrice: string; pricing: ItemPricing },
  asked: PriceAsked,
  search: PriceSearch,
): { base: BasePrice; listPrice: string } {
  const { rules, cost } = item.pricing;
  const made = cost && inCurrency(costPrice(cost.terms, cost.known(asked.day)), cost.rate);
  const list: PriceRule = {
    id: 0,
    level: 'list',
    source: made === null ? 'the list' : `${cost!.series || COST_NAMES[cost!.terms.basis]} and ${cost!.terms.margin} %`,
    currency: asked.currency,
    unit: item.unit,
    factor: '1',
    firstDay: null,
    lastDay: null,
    from: '0',
    price: made ?? item.listPrice,
  };
  const found = findPrice([...rules, list], asked, search) ?? list;
  const kind = found === list && made !== null ? 'cost' : found.level;
  return {
    base: { kind, source: found.source, price: found.price, per: found.factor },
    listPrice: roundHalfAway(dec(found.price).div(found.factor), 4).toFixed(),
  };
}

/** A price in the company's currency in another, to 4 places; null where either is not known. */
function inCurrency(price: string | null, rate: string | null): string | null {
  return price === null || rate === null ? null : roundHalfAway(dec(price).div(rate), 4).toFixed();
}
