import { assert, NEVER, type DayIndex } from '../../kernel';
import { exactly, type Scaled } from './scaled';

/** Events of many items as columns of equal length: a supply above zero, a demand below. Days are 0 or later. */
export interface Events {
  readonly item: Int32Array;
  readonly day: Int32Array;
  readonly quantity: Float64Array;
  /** Nobody else reads the columns: they may be put in another order instead of being copied. */
  readonly own?: boolean;
}

/** One day on which a balance changes, with what stands from then on. */
export interface Step {
  day: DayIndex;
  balance: Scaled;
  /** The least balance from this day on. // T2 */
  available: Scaled;
}

/** Days of one leaf: read one after the other, for less than it costs to keep a node for each. */
const BLOCK = 8;

/**
 * The projected balance of many items, each over its own days, in a few flat arrays. // T1 T2
 * An item is a tree over blocks of its days; a node keeps the sum of what moves in it and the least running sum within
 * it, so that moving a quantity and finding the earliest day with enough from then on both cost O(log days). Throws
 * `TooMuch` where all that moves of an item is more than can be counted exactly.
 */
export class Timelines {
  private constructor(
    /** First node of each item's tree; nodes are pairs of sum and least running sum. */
    private readonly base: Int32Array,
    /** Blocks of each item, a power of two. */
    private readonly blocks: Int32Array,
    private readonly nodes: Float64Array,
    /** First place of each item among days and amounts, and how many it has. */
    private readonly first: Int32Array,
    private readonly count: Int32Array,
    private readonly amounts: Float64Array,
    /** The days, or null where a day is its own place. */
    private readonly days: Int32Array | null,
  ) {}

  private static withRoom(room: ArrayLike<number>, sparse: boolean): Timelines {
    const items = room.length;
    const base = new Int32Array(items);
    const blocks = new Int32Array(items);
    const first = new Int32Array(items);
    let nodeCount = 0;
    let most = 0;
    for (let item = 0; item < items; item += 1) {
      base[item] = nodeCount;
      first[item] = most;
      blocks[item] = powerFor(Math.ceil(room[item]! / BLOCK));
      nodeCount += blocks[item]! * 4;
      most += room[item]!;
    }
    return new Timelines(
      base,
      blocks,
      new Float64Array(nodeCount),
      first,
      Int32Array.from(room),
      new Float64Array(most),
      sparse ? new Int32Array(most) : null,
    );
  }

  /** Every day of the horizon for every item: any day may move. 12 to 16 bytes a day and item. */
  static dense(items: number, horizon: number): Timelines {
    return Timelines.withRoom(new Int32Array(items).fill(horizon), false);
  }

  /**
   * Only days on which something happens, and those `asked` about: memory grows with the events, not with the horizon.
   * What is on hand is an event of day 0. Rows are put together by item, then each item's days are marked in a map of
   * bits that is read in order: O(events + items × horizon ÷ 32).
   */
  static sparse(
    items: number,
    horizon: number,
    events: Events,
    asked?: { item: Int32Array; day: Int32Array },
  ): Timelines {
    const firstEvent = firstOfEach(items, events.item);
    const { day: eventDay, quantity: eventQuantity } = byItem(firstEvent, events);
    const firstAsk = asked ? firstOfEach(items, asked.item) : null;
    const askedDay = asked ? daysByItem(firstAsk!, asked) : null;
    const room = new Int32Array(items);
    for (let item = 0; item < items; item += 1) {
      const asks = firstAsk ? firstAsk[item + 1]! - firstAsk[item]! : 0;
      // Day 0 stands in every timeline: nothing is asked before it.
      room[item] = Math.min(horizon, firstEvent[item + 1]! - firstEvent[item]! + asks + 1);
    }
    const timelines = Timelines.withRoom(room, true);
    const amounts = new Float64Array(horizon);
    const marks = new Uint32Array(Math.ceil(horizon / 32));
    for (let item = 0; item < items; item += 1) {
      let moved = 0;
      marks[0] = 1;
      const end = firstEvent[item + 1]!;
      for (let at = firstEvent[item]!; at < end; at += 1) {
        const day = eventDay[at]!;
        const quantity = eventQuantity[at]!;
        amounts[day]! += quantity;
        moved += Math.abs(quantity);
        marks[day >> 5]! |= 1 << (day & 31);
      }
      exactly(moved);
      if (firstAsk) {
        for (let at = firstAsk[item]!; at < firstAsk[item + 1]!; at += 1) {
          const day = askedDay![at]!;
          marks[day >> 5]! |= 1 << (day & 31);
        }
      }
      timelines.fill(item, amounts, marks);
    }
    return timelines;
  }

  /** The tree of an item from the amounts of marked days, which are wiped for the next. */
  private fill(item: number, amounts: Float64Array, marks: Uint32Array): void {
    const days = this.days!;
    const start = this.first[item]!;
    let place = start;
    for (let word = 0; word < marks.length; word += 1) {
      let bits = marks[word]!;
      marks[word] = 0;
      while (bits !== 0) {
        const day = (word << 5) + 31 - Math.clz32(bits & -bits);
        bits &= bits - 1;
        days[place] = day;
        this.amounts[place] = amounts[day]!;
        amounts[day] = 0;
        place += 1;
      }
    }
    this.count[item] = place - start;
    const base = this.base[item]!;
    const size = this.blocks[item]!;
    for (let block = 0; block * BLOCK < place - start; block += 1) this.sumBlock(item, block);
    for (let node = size - 1; node > 0; node -= 1) this.join(base, node);
  }

  private sumBlock(item: number, block: number): void {
    const { amounts } = this;
    const from = this.first[item]! + block * BLOCK;
    const to = Math.min(from + BLOCK, this.first[item]! + this.count[item]!);
    let sum = amounts[from]!;
    let low = sum;
    for (let place = from + 1; place < to; place += 1) {
      sum += amounts[place]!;
      if (sum < low) low = sum;
    }
    const at = this.base[item]! + (this.blocks[item]! + block) * 2;
    this.nodes[at] = sum;
    this.nodes[at + 1] = low;
  }

  private join(base: number, node: number): void {
    const { nodes } = this;
    const at = base + node * 2;
    const left = base + node * 4;
    const sum = nodes[left]!;
    const low = sum + nodes[left + 3]!;
    nodes[at] = sum + nodes[left + 2]!;
    nodes[at + 1] = nodes[left + 1]! < low ? nodes[left + 1]! : low;
  }

  /** The last place, from the item's first, on or before the day. O(1) dense, else O(log days). */
  private placeOf(item: number, day: DayIndex): number {
    const { days } = this;
    const count = this.count[item]!;
    if (days === null) return day < count ? day : count - 1;
    const start = this.first[item]!;
    let low = start;
    let high = start + count - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (days[middle]! <= day) low = middle;
      else high = middle - 1;
    }
    return low - start;
  }

  private dayAt(item: number, place: number): DayIndex {
    return this.days === null ? place : this.days[this.first[item]! + place]!;
  }

  /** Moves the balance from a day on: more for a supply, less for a demand. O(log days). */
  add(item: number, day: DayIndex, quantity: Scaled): void {
    const place = this.placeOf(item, day);
    assert(this.days === null ? day < this.count[item]! : this.dayAt(item, place) === day, 'a day that has no place');
    const at = this.first[item]! + place;
    this.amounts[at] = exactly(this.amounts[at]! + quantity);
    const block = Math.floor(place / BLOCK);
    this.sumBlock(item, block);
    const base = this.base[item]!;
    for (let node = (this.blocks[item]! + block) >> 1; node > 0; node >>= 1) this.join(base, node);
    exactly(this.nodes[base + 2]!);
  }

  /**
   * The first day from `from` on that the quantity is there and stays there; NEVER where there is none. // T2
   * O(log days).
   */
  earliest(item: number, from: DayIndex, quantity: Scaled): DayIndex {
    const { nodes, amounts } = this;
    const base = this.base[item]!;
    if (nodes[base + 2]! < quantity) return NEVER;
    if (nodes[base + 3]! >= quantity) return from;
    const size = this.blocks[item]!;
    // Down to the last block that has less: right wherever the right half dips below, counting what lies left of it.
    let node = 1;
    let before = 0;
    while (node < size) {
      const left = base + node * 4;
      const right = before + nodes[left]!;
      if (right + nodes[left + 3]! < quantity) {
        before = right;
        node = node * 2 + 1;
      } else {
        node *= 2;
      }
    }
    const start = this.first[item]!;
    const from0 = start + (node - size) * BLOCK;
    const to = Math.min(from0 + BLOCK, start + this.count[item]!);
    let last = from0;
    for (let place = from0; place < to; place += 1) {
      before += amounts[place]!;
      if (before < quantity) last = place;
    }
    const day = this.dayAt(item, last - start + 1);
    return day > from ? day : from;
  }

  /** What is available on a day: the least balance from it on. O(log days). // T2 */
  available(item: number, day: DayIndex): Scaled {
    const { nodes, amounts } = this;
    const base = this.base[item]!;
    const place = this.placeOf(item, day);
    const block = Math.floor(place / BLOCK);
    const start = this.first[item]!;
    const to = Math.min(start + (block + 1) * BLOCK, start + this.count[item]!);
    let seen = 0;
    let low = Infinity;
    for (let at = start + block * BLOCK; at < to; at += 1) {
      seen += amounts[at]!;
      if (at >= start + place && seen < low) low = seen;
    }
    // Up from the block: a right sibling follows what was seen, a left one stands before it.
    let before = 0;
    for (let node = this.blocks[item]! + block; node > 1; node >>= 1) {
      const pair = base + (node >> 1) * 4;
      if (node % 2 === 0) {
        const right = seen + nodes[pair + 3]!;
        if (right < low) low = right;
        seen += nodes[pair + 2]!;
      } else {
        // What lies left raises or lowers all that was seen.
        before += nodes[pair]!;
      }
    }
    return before + low;
  }

  /** The balance at the end of a day. O(log days). // T1 */
  balance(item: number, day: DayIndex): Scaled {
    const { nodes, amounts } = this;
    const base = this.base[item]!;
    const place = this.placeOf(item, day);
    const block = Math.floor(place / BLOCK);
    const start = this.first[item]!;
    let sum = 0;
    for (let at = start + block * BLOCK; at <= start + place; at += 1) sum += amounts[at]!;
    for (let node = this.blocks[item]! + block; node > 1; node >>= 1) {
      if (node % 2 === 1) sum += nodes[base + (node >> 1) * 4]!;
    }
    return sum;
  }

  /** The days on which the balance changes, day 0 always among them. O(days). */
  steps(item: number): Step[] {
    const start = this.first[item]!;
    const steps: Step[] = [];
    let balance = 0;
    for (let place = 0; place < this.count[item]!; place += 1) {
      const amount = this.amounts[start + place]!;
      balance += amount;
      if (place === 0 || amount !== 0) steps.push({ day: this.dayAt(item, place), balance, available: balance });
    }
    for (let at = steps.length - 2; at >= 0; at -= 1) {
      steps[at]!.available = Math.min(steps[at]!.balance, steps[at + 1]!.available);
    }
    return steps;
  }

  /** Bytes held. */
  get bytes(): number {
    return [this.base, this.blocks, this.nodes, this.first, this.count, this.amounts, this.days].reduce(
      (sum, array) => sum + (array?.byteLength ?? 0),
      0,
    );
  }
}

function powerFor(count: number): number {
  return 1 << Math.max(0, 32 - Math.clz32(count - 1));
}

/** Where the rows of each item begin when they stand one item after the other; the last is their number. */
function firstOfEach(items: number, item: Int32Array): Int32Array {
  const first = new Int32Array(items + 1);
  for (let row = 0; row < item.length; row += 1) first[item[row]! + 1]! += 1;
  for (let at = 0; at < items; at += 1) first[at + 1]! += first[at]!;
  return first;
}

/** Days and quantities, one item after the other, so that each item's are read in one run: copied, or put in place. */
function byItem(first: Int32Array, events: Events): { day: Int32Array; quantity: Float64Array } {
  const { item, day, quantity } = events;
  const next = first.slice();
  if (events.own) {
    // Each row is swapped to where it belongs, until one comes that belongs here. O(events).
    for (let of = 0; of < first.length - 1; of += 1) {
      for (let at = next[of]!; at < first[of + 1]!; at = next[of]!) {
        for (let belongs = item[at]!; belongs !== of; belongs = item[at]!) swap(events, at, next[belongs]!++);
        next[of] = at + 1;
      }
    }
    return { day, quantity };
  }
  const days = new Int32Array(item.length);
  const quantities = new Float64Array(item.length);
  for (let row = 0; row < item.length; row += 1) {
    const of = item[row]!;
    const at = next[of]!;
    next[of] = at + 1;
    days[at] = day[row]!;
    quantities[at] = quantity[row]!;
  }
  return { day: days, quantity: quantities };
}

function swap({ item, day, quantity }: Events, a: number, b: number): void {
  const [itemOfA, dayOfA, quantityOfA] = [item[a]!, day[a]!, quantity[a]!];
  item[a] = item[b]!;
  day[a] = day[b]!;
  quantity[a] = quantity[b]!;
  item[b] = itemOfA;
  day[b] = dayOfA;
  quantity[b] = quantityOfA;
}

function daysByItem(first: Int32Array, { item, day }: { item: Int32Array; day: Int32Array }): Int32Array {
  const next = first.slice();
  const days = new Int32Array(item.length);
  for (let row = 0; row < item.length; row += 1) {
    const of = item[row]!;
    days[next[of]!] = day[row]!;
    next[of]! += 1;
  }
  return days;
}
