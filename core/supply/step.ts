import { dec, type Day } from '@core/kernel';

/** The two ends of a tie, as far as they must agree. */
export interface TieEnds {
  tied: string;
  /** Ordered and not cancelled on the sales line, less what its other ties hold. */
  salesQuantity: string;
  supplyQuantity: string;
  shipDate: Day;
  supplyDate: Day;
  sameAddress: boolean;
}

export type StepDifference = 'quantity' | 'date' | 'address';

/** In what a drop shipment's two ends differ; none means in step. // L6 */
export function differencesOf(ends: TieEnds): StepDifference[] {
  const differences: StepDifference[] = [];
  const tied = dec(ends.tied);
  if (!tied.eq(dec(ends.salesQuantity)) || !tied.eq(dec(ends.supplyQuantity))) {
    differences.push('quantity');
  }
  if (ends.supplyDate > ends.shipDate) differences.push('date');
  if (!ends.sameAddress) differences.push('address');
  return differences;
}
