import { dec, roundHalfAway } from '@core/kernel';

/** What a sister pays: what anybody would, so much less than the list, or so much above what it cost. // X5 */
export const TRANSFERS = ['ordinary', 'list-less', 'cost-plus'] as const;
export type Transfer = (typeof TRANSFERS)[number];

/**
 * The price of one of an item's unit for a sister, at 4 places; null where it is the ordinary one, or where what it is
 * reckoned from is not known (no cost, no list price). // X5
 */
export function transferPrice(
  { transfer, perCent }: { transfer: Transfer; perCent: string },
  { list, cost }: { list: string; cost: string | null },
): string | null {
  const base = transfer === 'list-less' ? list : transfer === 'cost-plus' ? cost : null;
  if (base === null || dec(base).lte(0)) return null;
  const share = dec('100')
    .plus(transfer === 'list-less' ? dec(perCent).neg() : perCent)
    .div(100);
  return roundHalfAway(dec(base).times(share), 4).toFixed();
}
