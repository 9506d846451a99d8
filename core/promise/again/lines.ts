import { daysBetween, type Day, type DayIndex } from '../../kernel';
import type { GroundRows, Way } from '../ground/rows';

/** An open line with what it was promised. */
export interface PromisedLine {
  lineId: number;
  itemId: number;
  quantity: string;
  /** The day asked, and the one that stands. */
  asked: Day;
  promised: Day;
  way: Way;
  /** The lower the earlier. */
  priority: number;
  ordered: Day;
}

/** A line whose day is another one now. */
export interface MovedLine {
  lineId: number;
  was: Day;
  /** Null where no day can be said. */
  is: Day | null;
  /** What sets the new day. */
  why: string;
}

/** The day found for each line, by its id, and why. */
export type FoundDays = Map<number, { is: Day | null; why: string }>;

/** What lines rank by: priority, the lower the earlier; then what was promised; then the order's date. Any whole numbers. */
export interface Ranked {
  readonly priority: Int32Array;
  readonly promised: Int32Array;
  readonly ordered: Int32Array;
}

/**
 * The places of lines in rank order, equals in the order they came: three counting sorts, O(lines + spread of the
 * days). // T9
 */
export function rankOrder({ priority, promised, ordered }: Ranked): Int32Array {
  let order = Int32Array.from({ length: priority.length }, (_, line) => line);
  for (const key of [ordered, promised, priority]) order = sortedBy(order, key);
  return order;
}

function sortedBy(order: Int32Array, key: Int32Array): Int32Array<ArrayBuffer> {
  let least = 0;
  let most = 0;
  for (let at = 0; at < key.length; at += 1) {
    const value = key[at]!;
    if (at === 0 || value < least) least = value;
    if (at === 0 || value > most) most = value;
  }
  const next = new Int32Array(most - least + 2);
  for (let at = 0; at < key.length; at += 1) next[key[at]! - least + 1]! += 1;
  for (let at = 1; at < next.length; at += 1) next[at]! += next[at - 1]!;
  const sorted = new Int32Array(order.length);
  for (let at = 0; at < order.length; at += 1) {
    const line = order[at]!;
    const bucket = key[line]! - least;
    sorted[next[bucket]!] = line;
    next[bucket]! += 1;
  }
  return sorted;
}

/** What lines are ranked by, as columns. */
export const rankOf = (rows: GroundRows, lines: readonly PromisedLine[]) => {
  const column = (of: (line: PromisedLine) => number) => Int32Array.from(lines, of);
  return {
    priority: column((line) => line.priority),
    promised: column((line) => daysBetween(rows.workDate, line.promised)),
    ordered: column((line) => daysBetween(rows.workDate, line.ordered)),
  };
};

/** Lines in the order they are asked anew: by priority and age, not by the day they lost. // T9 */
export function inAge(rows: GroundRows, lines: readonly PromisedLine[]): PromisedLine[] {
  const byId = [...lines].sort((a, b) => a.lineId - b.lineId);
  const { priority, ordered } = rankOf(rows, byId);
  return Array.from(rankOrder({ priority, ordered, promised: new Int32Array(byId.length) }), (at) => byId[at]!);
}

/** The day a line would keep: what it was promised, today where that has passed, and not before it was asked for. */
export const keptDay = (promised: DayIndex, asked: DayIndex, horizon: number): DayIndex =>
  Math.min(Math.max(promised, asked, 0), horizon - 1);
