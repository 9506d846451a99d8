import type { Day } from '../../kernel';
import { Ground } from '../ground/ground';
import { inTime, matched, type Timed } from './matching';
import type { GroundRows, MoveRow } from '../ground/rows';
import { scaled, unscaled } from '../ground/scaled';

/** So much of a demand is served by this: a supply, or what is on hand where it is null. */
export interface Peg {
  itemId: number;
  supply: MoveRow['source'] | null;
  /** The day the supply comes; null for what is on hand. */
  comes: Day | null;
  demand: MoveRow['source'];
  /** The day it is needed. */
  day: Day;
  quantity: string;
}

export interface Pegging {
  pegs: Peg[];
  /** What nothing serves. */
  missing: { itemId: number; demand: MoveRow['source']; day: Day; quantity: string }[];
}

/**
 * Who serves whom as things stand, item by item, in the order of their days; what is held for somebody is not among the
 * rows and known by its tie. The same matching the planning run begins with. O(moves × log moves). // T11
 */
export function pegging(rows: GroundRows, forecast: readonly MoveRow[] = []): Pegging {
  const ground = new Ground({ ...rows, supplies: [], demands: [] });
  const { workDate } = rows;
  const known = new Set(rows.items.map((item) => item.id));
  type Move = Timed & { source: MoveRow['source']; on: Day };
  const demands = new Map<number, Move[]>();
  const supplies = new Map<number, Move[]>();
  const add = (to: Map<number, Move[]>, move: MoveRow, day: number) => {
    if (!known.has(move.itemId)) return;
    const all = to.get(move.itemId) ?? [];
    if (all.length === 0) to.set(move.itemId, all);
    all.push({ day, on: move.day, quantity: scaled(move.quantity), source: move.source });
  };
  for (const move of [...rows.demands, ...forecast]) add(demands, move, ground.dayIndex(move.day));
  for (const move of rows.supplies) add(supplies, move, ground.supplyDay(move.day));
  const found: Pegging = { pegs: [], missing: [] };
  for (const item of rows.items) {
    const needed = (demands.get(item.id) ?? []).sort(inTime);
    const coming = (supplies.get(item.id) ?? []).sort(inTime);
    const dayOf = (demand: Timed) => ('on' in demand ? (demand.on as Day) : workDate);
    const rest = matched(item, needed, coming, (supply, demand, quantity) =>
      found.pegs.push({
        itemId: item.id,
        supply: supply?.source ?? null,
        comes: supply?.on ?? null,
        demand: demand.source,
        day: dayOf(demand),
        quantity: unscaled(quantity),
      }),
    );
    for (const demand of rest) {
      const quantity = unscaled(demand.quantity);
      found.missing.push({ itemId: item.id, demand: demand.source, day: dayOf(demand), quantity });
    }
  }
  return found;
}
