import type { DayIndex } from './calendar';
import type { ItemRow, MoveRow } from './rows';
import { exactly, scaled, type Scaled } from './scaled';

/** What comes or is needed, on a day, and the document behind it; null for what is only proposed. */
export interface Timed {
  day: DayIndex;
  quantity: Scaled;
  source: MoveRow['source'] | null;
}

/** What keeps the safety stock full asks first of all. */
export const SAFETY: MoveRow['source'] = { kind: 'safety', id: 0, number: 'safety stock', party: '' };

/** One document, as text; its lines are one. */
export function bySource({ kind, id }: MoveRow['source']): string {
  return `${kind} ${id}`;
}

/** By day; on one day the smaller first, so that as many as can be serve somebody. */
export function inTime(a: Timed, b: Timed): number {
  const text = ({ source }: Timed) => (source ? `${bySource(source)} ${source.lineId ?? 0}` : '');
  return a.day - b.day || a.quantity - b.quantity || text(a).localeCompare(text(b));
}

/**
 * Who serves whom of an item: demand in the order of its days from what is on hand above the safety stock, then from
 * what comes, in the order of its days. Both are given in that order (`inTime`). `serve` hears each piece, with null for
 * what is on hand; what nothing serves is given back. O(demands + supplies). // T11
 */
export function matched<Demand extends Timed, Supply extends Timed>(
  item: Pick<ItemRow, 'onHand' | 'safetyStock'>,
  demands: readonly Demand[],
  supplies: readonly Supply[],
  serve: (supply: Supply | null, demand: Demand | (Timed & { source: typeof SAFETY }), quantity: Scaled) => void,
): (Demand | (Timed & { source: typeof SAFETY }))[] {
  const above = exactly(scaled(item.onHand) - scaled(item.safetyStock));
  const all = above < 0 ? [{ day: 0, quantity: -above, source: SAFETY }, ...demands] : demands;
  let stock = Math.max(0, above);
  const rest: (Demand | (Timed & { source: typeof SAFETY }))[] = [];
  let at = 0;
  let left = supplies[0]?.quantity ?? 0;
  for (const demand of all) {
    const fromStock = Math.min(stock, demand.quantity);
    if (fromStock > 0) serve(null, demand, fromStock);
    stock -= fromStock;
    let needed = demand.quantity - fromStock;
    while (needed > 0 && at < supplies.length) {
      const taken = Math.min(left, needed);
      if (taken > 0) serve(supplies[at]!, demand, taken);
      needed -= taken;
      left -= taken;
      if (left > 0) continue;
      at += 1;
      left = supplies[at]?.quantity ?? 0;
    }
    if (needed > 0) rest.push({ ...demand, quantity: needed });
  }
  return rest;
}
