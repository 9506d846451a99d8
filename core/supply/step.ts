import type { Route } from '@core/catalogue';
import { dec, type Day } from '@core/kernel';

/** The two ends of a tie, as far as they must agree. */
export interface TieEnds {
  route: Route;
  tied: string;
  /** Ordered and not cancelled on the sales line, less what its other ties hold. */
  salesQuantity: string;
  supplyQuantity: string;
  shipDate: Day;
  supplyDate: Day;
  /** What came of it: once all did, it is late no more. */
  received: string;
  sameAddress: boolean;
}

export type StepDifference = 'quantity' | 'date' | 'address';

/**
 * In what the two ends of a tie differ; none means in step. What a special order's purchase brings besides, and where
 * it comes to, is not the customer's matter. // L6
 */
export function differencesOf(ends: TieEnds): StepDifference[] {
  const differences: StepDifference[] = [];
  const tied = dec(ends.tied);
  const drop = ends.route === 'drop';
  if (!tied.eq(dec(ends.salesQuantity)) || (drop && !tied.eq(dec(ends.supplyQuantity)))) differences.push('quantity');
  if (ends.supplyDate > ends.shipDate && tied.gt(ends.received)) differences.push('date');
  if (drop && !ends.sameAddress) differences.push('address');
  return differences;
}
