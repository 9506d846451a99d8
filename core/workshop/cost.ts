import { dec, sum, ZERO, type Dec } from '@core/kernel';

/** What is known of an item's cost, and what it is made of, for one of it. */
export interface CostedItem {
  id: number;
  /** The moving average, else what it was last bought at; null where neither is known. */
  known: string | null;
  parts: readonly { itemId: number; quantity: string }[];
  /** Minutes at centres, with what an hour there is reckoned at: the run of one piece. */
  work: readonly { minutes: string; hourCost: string }[];
}

/**
 * What one of each item is reckoned at: what is known of it, else its parts and its work, all the way down. An item that
 * goes round in a circle, or of which nothing is known, adds nothing. Each item is reckoned once. // W1
 */
export function expectedCosts(items: readonly CostedItem[]): Map<number, Dec> {
  const byId = new Map(items.map((item) => [item.id, item]));
  const found = new Map<number, Dec>();
  const within = new Set<number>();
  const costOf = (id: number): Dec => {
    const kept = found.get(id);
    if (kept) return kept;
    const item = byId.get(id);
    if (!item || within.has(id)) return ZERO;
    if (item.known !== null) {
      found.set(id, dec(item.known));
      return dec(item.known);
    }
    within.add(id);
    const cost = sum([
      ...item.parts.map(({ itemId, quantity }) => costOf(itemId).times(quantity)),
      ...item.work.map(({ minutes, hourCost }) => dec(minutes).times(hourCost).div(60)),
    ]);
    within.delete(id);
    found.set(id, cost);
    return cost;
  };
  for (const { id } of items) costOf(id);
  return found;
}
