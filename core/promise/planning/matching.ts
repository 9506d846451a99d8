import type { DayIndex } from '../../kernel';
import type { ItemRow, MoveRow } from '../ground/rows';
import { exactly, scaled, type Scaled } from '../ground/scaled';

/** What comes or is needed, on a day, and the document behind it; null for what is only proposed. */
export interface Timed {
  day: DayIndex;
  quantity: Scaled;
  source: MoveRow['source'] | null;
  /** Of a supply: it is neither moved nor cancelled. */
  fixed?: boolean;
}

/** What keeps the safety stock full asks first of all. */
export const SAFETY: MoveRow['source'] = { kind: 'safety', id: 0, number: 'safety stock', party: '' };

/** One document, as text; its lines are one. */
export function bySource({ kind, id }: MoveRow['source']): string {
  return `${kind} ${id}`;
}

/** By day; on one day the smaller first, so that as many as can be serve somebody; what stays before what can go. */
export function inTime(a: Timed, b: Timed): number {
  const stays = ({ fixed }: Timed) => (fixed ? 0 : 1);
  const text = ({ source }: Timed) => (source ? `${bySource(source)} ${source.lineId ?? 0}` : '');
  return a.day - b.day || a.quantity - b.quantity || stays(a) - stays(b) || text(a).localeCompare(text(b));
}

type Needing<Demand> = Demand | (Timed & { source: typeof SAFETY });

/**
 * Who serves whom of an item: demand in the order of its days from what is on hand, held for nobody and above the safety stock, then from
 * what comes, in the order of its days. Both are given in that order (`inTime`). `serve` hears each piece, with null for
 * what is on hand; what nothing serves is given back. A supply that `may` not serve a demand is set aside for later
 * ones: where it may serve one, it may serve all after it. O(demands + supplies). // T11
 */
export function matched<Demand extends Timed, Supply extends Timed>(
  item: Pick<ItemRow, 'onHand' | 'held' | 'safetyStock'>,
  demands: readonly Demand[],
  supplies: readonly Supply[],
  serve: (supply: Supply | null, demand: Needing<Demand>, quantity: Scaled) => void,
  may: (supply: Supply, demand: Timed) => boolean = () => true,
): Needing<Demand>[] {
  const above = exactly(scaled(item.onHand) - scaled(item.held) - scaled(item.safetyStock));
  const all = above < 0 ? [{ day: 0, quantity: -above, source: SAFETY }, ...demands] : demands;
  let stock = Math.max(0, above);
  const rest: Needing<Demand>[] = [];
  const left = supplies.map((supply) => supply.quantity);
  const aside: number[] = [];
  let next = 0;
  for (const demand of all) {
    let needed = demand.quantity;
    const take = (from: Supply | null, most: Scaled): Scaled => {
      const taken = Math.min(most, needed);
      if (taken > 0) serve(from, demand, taken);
      needed -= taken;
      return taken;
    };
    stock -= take(null, stock);
    while (needed > 0 && aside.length > 0 && may(supplies[aside[0]!]!, demand)) {
      const [at] = aside;
      left[at!]! -= take(supplies[at!]!, left[at!]!);
      if (left[at!] === 0) aside.shift();
    }
    while (needed > 0 && next < supplies.length) {
      if (may(supplies[next]!, demand)) left[next]! -= take(supplies[next]!, left[next]!);
      else aside.push(next);
      if (left[next] === 0 || aside.at(-1) === next) next += 1;
    }
    if (needed > 0) rest.push({ ...demand, quantity: needed });
  }
  return rest;
}
