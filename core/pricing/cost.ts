import { dec, roundHalfAway } from '@core/kernel';

/** What a cost-based price stands on: the moving average, the last purchase, or a market series. // R1 */
export const COST_BASES = ['average', 'last', 'series'] as const;
export type CostBasis = (typeof COST_BASES)[number];

export const COST_NAMES: Record<CostBasis, string> = {
  average: 'average cost',
  last: 'last purchase price',
  series: 'market price',
};

export interface CostTerms {
  basis: CostBasis;
  /** Added to the cost, for one of the item's own unit. */
  surcharge: string;
  /** Per cent on top of both. */
  margin: string;
  /** A market series' value is taken × factor + offset; both are left alone for other costs. */
  factor: string;
  offset: string;
}

/** (cost + surcharge) × (1 + margin), to 4 places half away from zero; null where no cost is known. // R1 */
export function costPrice(terms: CostTerms, cost: string | null): string | null {
  if (cost === null) return null;
  const taken = terms.basis === 'series' ? dec(cost).times(terms.factor).plus(terms.offset) : dec(cost);
  const price = taken.plus(terms.surcharge).times(dec(terms.margin).plus(100)).div(100);
  return price.lte(0) ? null : roundHalfAway(price, 4).toFixed();
}
