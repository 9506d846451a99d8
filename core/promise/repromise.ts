import { NEVER } from './calendar';
import { Timelines, type Events } from './timelines';

/** Open lines of items that are promised by what is there, as columns of equal length. Days are from the work date. */
export interface OpenLines {
  readonly item: Int32Array;
  /** Hundred-thousandths. */
  readonly quantity: Float64Array;
  /** The day asked, today for what has passed. */
  readonly asked: Int32Array;
  /** Rank: priority, the lower the earlier; then what was promised; then the order's date. Any whole numbers. */
  readonly priority: Int32Array;
  readonly promised: Int32Array;
  readonly ordered: Int32Array;
}

/**
 * The places of lines in rank order, equals in the order they came: three counting sorts, O(lines + spread of the
 * days). // T9
 */
export function rankOrder({
  priority,
  promised,
  ordered,
}: Pick<OpenLines, 'priority' | 'promised' | 'ordered'>): Int32Array {
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

/** How far a run is; answering false stops it. */
export type Progress = (done: number, all: number) => boolean;

/** Lines between two reports. */
const STRIDE = 4096;

/**
 * The day each open line can have, all of them asked in rank order, each taking what it is given; NEVER where there is
 * not enough in the horizon. `events` are without the lines' own demand. Null where the run was stopped. // T9
 * O(events + lines × log days) in time; in memory the events' days once as a tree.
 */
export function repromiseAvailable(
  items: number,
  horizon: number,
  events: Events,
  lines: OpenLines,
  progress: Progress = () => true,
): Int32Array | null {
  const timelines = Timelines.sparse(items, horizon, events, { item: lines.item, day: lines.asked });
  const order = rankOrder(lines);
  const days = new Int32Array(order.length);
  for (let at = 0; at < order.length; at += 1) {
    if (at % STRIDE === 0 && !progress(at, order.length)) return null;
    const line = order[at]!;
    const item = lines.item[line]!;
    const quantity = lines.quantity[line]!;
    const day = timelines.earliest(item, lines.asked[line]!, quantity);
    if (day !== NEVER) timelines.add(item, day, -quantity);
    days[line] = day;
  }
  progress(order.length, order.length);
  return days;
}
