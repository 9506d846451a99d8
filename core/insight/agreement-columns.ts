import type { AgreementState, Side } from '@core/agreements';
import { dec, decimalText, type Day } from '@core/kernel';

/** What is summed of an agreement, in the order it is kept. */
export const AMOUNTS = ['committed', 'released', 'shipped', 'invoiced'] as const;
export type Amounts = Record<(typeof AMOUNTS)[number], string>;

/** What a line covers where that is no group: everything, or an item of no group. */
export const EVERYTHING = -1;
export const NO_GROUP = 0;

/** One agreement as it is summed; values in its own currency. */
export interface AgreementFigures extends Amounts {
  id: number;
  side: Side;
  state: AgreementState;
  currency: string;
  /** Its customer or, where it buys, its vendor. */
  partyId: number;
  organisationId: number | null;
  firstDay: Day;
  lastDay: Day;
  lines: readonly (Amounts & { groupId: number })[];
}

export interface FulfilmentAsked {
  by: 'agreement' | 'customer' | 'organisation' | 'group' | 'currency';
  side: Side;
  state?: AgreementState | undefined;
  dates?: 'passed' | 'running' | undefined;
  customerId?: number | undefined;
  organisationId?: number | undefined;
  groupId?: number | undefined;
  currency?: string | undefined;
}

/** Agreements of one group in one currency: how many, and their amounts. */
export interface CurrencySum extends Amounts {
  currency: string;
  agreements: number;
}

/** A group: its id (0 where sums are by currency, or nobody is named) and its sums, one for each currency in it. */
export interface GroupSum {
  of: number;
  sums: CurrencySum[];
}

/** Values are kept as whole thousandths: every currency's places fit, and sums stay whole. */
const SCALE = 1000;
/**
 * Each value is held as two floats, `high × HALF + low`, so that millions of either add up exactly without a check on
 * the way.
 */
const HALF = 2 ** 26;
const WIDTH = AMOUNTS.length * 2;
/** Writes the amounts' halves at `at`. */
function keep(into: Float64Array, at: number, amounts: Amounts): void {
  AMOUNTS.forEach((amount, index) => {
    const value = dec(amounts[amount]).times(SCALE);
    const whole = Number(value.toFixed(0));
    if (!value.eq(whole) || !Number.isSafeInteger(whole)) {
      throw new RangeError(`a value of ${amounts[amount]} cannot be summed`);
    }
    const high = Math.trunc(whole / HALF);
    into[at + index * 2] = high;
    into[at + index * 2 + 1] = whole - high * HALF;
  });
}

/** The value at `at` as plain decimal text. */
function textAt(from: Float64Array, at: number): string {
  const whole = BigInt(from[at]!) * BigInt(HALF) + BigInt(from[at + 1]!);
  const digits = (whole < 0n ? -whole : whole).toString().padStart(4, '0');
  return decimalText(`${whole < 0n ? '-' : ''}${digits.slice(0, -3)}.${digits.slice(-3)}`);
}

const numberAt = (from: Float64Array, at: number) => (from[at]! * HALF + from[at + 1]!) / SCALE;

const STATES: readonly AgreementState[] = ['draft', 'in-force', 'paused', 'ended', 'cancelled'];
const NOBODY = 0;
/** A day as a number that keeps the order of days. */
const dayNumber = (day: Day) => Number(day.replaceAll('-', ''));

/** A column that grows. */
class Column<Values extends Float64Array | Int32Array> {
  constructor(
    public values: Values,
    private readonly width = 1,
  ) {}

  /** Room for a row; columns double when they are full. */
  reach(row: number): void {
    let length = this.values.length;
    if ((row + 1) * this.width <= length) return;
    while ((row + 1) * this.width > length) length *= 2;
    const wider = new (this.values.constructor as new (length: number) => Values)(length);
    wider.set(this.values);
    this.values = wider;
  }
}

/** Sums by group and currency, side by side. Groups go from −1 (`EVERYTHING`) to `mostOf`. */
class Totals {
  /** Where each group and currency stands, plus one; 0 where it was not met. */
  private readonly at: Int32Array;
  readonly groups: number[] = [];
  readonly currencies: number[] = [];
  readonly agreements: number[] = [];
  /** The agreement counted last of each, so that one with several lines in a group is counted once. */
  private readonly last: number[] = [];
  readonly values = new Column(new Float64Array(64 * WIDTH), WIDTH);

  constructor(
    mostOf: number,
    private readonly width: number,
  ) {
    this.at = new Int32Array((mostOf + 2) * width);
  }

  add(of: number, currency: number, slot: number, from: Float64Array, start: number): void {
    const key = (of + 1) * this.width + currency;
    let at = this.at[key]! - 1;
    if (at < 0) {
      at = this.groups.push(of) - 1;
      this.at[key] = at + 1;
      this.currencies.push(currency);
      this.agreements.push(0);
      this.last.push(-1);
      this.values.reach(at);
    }
    if (this.last[at] !== slot) this.agreements[at]! += 1;
    this.last[at] = slot;
    const { values } = this.values;
    for (let to = at * WIDTH, on = start; on < start + WIDTH; to += 1, on += 1) values[to]! += from[on]!;
  }
}

/**
 * The agreements of a company side by side, for sums over all of them. // A4
 * Values are exact: whole thousandths within ±2^53 for each agreement and line (beyond: RangeError); sums of up to 60
 * million of them are. Memory is about 100 bytes for an agreement and 70 for a line.
 */
export class AgreementColumns {
  private readonly slots = new Map<number, number>();
  private readonly ids = new Column(new Int32Array(64));
  private readonly sides = new Column(new Int32Array(64));
  private readonly states = new Column(new Int32Array(64));
  private readonly currencyOf = new Column(new Int32Array(64));
  private readonly parties = new Column(new Int32Array(64));
  private readonly organisations = new Column(new Int32Array(64));
  private readonly firstDays = new Column(new Int32Array(64));
  private readonly lastDays = new Column(new Int32Array(64));
  private readonly values = new Column(new Float64Array(64 * WIDTH), WIDTH);
  /** An agreement's lines stand together in the columns of lines: where they begin, and how many they are. */
  private readonly lineStarts = new Column(new Int32Array(64));
  private readonly lineCounts = new Column(new Int32Array(64));
  private readonly lineGroups = new Column(new Int32Array(256));
  private readonly lineValues = new Column(new Float64Array(256 * WIDTH), WIDTH);
  private linesKept = 0;
  private readonly currencies: string[] = [];
  /** The largest id that anything is summed by. */
  private mostOf = 0;

  get size(): number {
    return this.slots.size;
  }

  /** Takes an agreement in, or anew. O(its lines). */
  put(agreement: AgreementFigures): void {
    const { lines } = agreement;
    const ofLines = new Float64Array(lines.length * WIDTH);
    lines.forEach((line, index) => keep(ofLines, index * WIDTH, line));
    const groups = lines.map((line) => line.groupId);
    const own = new Float64Array(WIDTH);
    keep(own, 0, agreement);
    const slot = this.slots.get(agreement.id) ?? this.slots.size;
    const set = (column: Column<Int32Array>, value: number) => {
      column.reach(slot);
      column.values[slot] = value;
    };
    set(this.ids, agreement.id);
    set(this.sides, agreement.side === 'selling' ? 0 : 1);
    set(this.states, STATES.indexOf(agreement.state));
    set(this.currencyOf, this.currencyAt(agreement.currency));
    set(this.parties, agreement.partyId);
    set(this.organisations, agreement.organisationId ?? NOBODY);
    set(this.firstDays, dayNumber(agreement.firstDay));
    set(this.lastDays, dayNumber(agreement.lastDay));
    this.values.reach(slot);
    this.values.values.set(own, slot * WIDTH);
    const known = this.slots.has(agreement.id) && this.lineCounts.values[slot] === lines.length;
    // Lines that became more or fewer move to the end; the place they had stays empty.
    const start = known ? this.lineStarts.values[slot]! : this.linesKept;
    if (!known) this.linesKept += lines.length;
    set(this.lineStarts, start);
    set(this.lineCounts, lines.length);
    this.lineGroups.reach(start + lines.length);
    this.lineValues.reach(start + lines.length);
    this.lineGroups.values.set(groups, start);
    this.lineValues.values.set(ofLines, start * WIDTH);
    this.slots.set(agreement.id, slot);
    this.mostOf = Math.max(this.mostOf, agreement.id, agreement.partyId, agreement.organisationId ?? 0, ...groups);
  }

  private currencyAt(currency: string): number {
    const at = this.currencies.indexOf(currency);
    return at < 0 ? this.currencies.push(currency) - 1 : at;
  }

  /** Slots of what is asked for. Drafts and what was cancelled promise nothing: they are left out. O(agreements). */
  private slotsOf(asked: FulfilmentAsked, day: Day): number[] {
    const side = asked.side === 'selling' ? 0 : 1;
    const inForce = STATES.indexOf('in-force');
    const least = asked.state === undefined ? inForce : STATES.indexOf(asked.state);
    const most = asked.state === undefined ? STATES.indexOf('ended') : least;
    const paused = STATES.indexOf('paused');
    const today = dayNumber(day);
    const currency = asked.currency === undefined ? -1 : this.currencies.indexOf(asked.currency);
    if (asked.currency !== undefined && currency < 0) return [];
    if (asked.customerId !== undefined && asked.side !== 'selling') return [];
    const found: number[] = [];
    for (let slot = 0; slot < this.slots.size; slot += 1) {
      const state = this.states.values[slot]!;
      if (this.sides.values[slot] !== side || state < least || state > most) continue;
      if (asked.dates !== undefined) {
        if (state > paused) continue;
        const passed = this.lastDays.values[slot]! < today;
        if (asked.dates === 'passed' ? !passed : passed || this.firstDays.values[slot]! > today) continue;
      }
      if (asked.customerId !== undefined && this.parties.values[slot] !== asked.customerId) continue;
      if (asked.organisationId !== undefined && this.organisations.values[slot] !== asked.organisationId) continue;
      if (currency >= 0 && this.currencyOf.values[slot] !== currency) continue;
      if (asked.groupId !== undefined && !this.covers(slot, asked.groupId)) continue;
      found.push(slot);
    }
    return found;
  }

  private covers(slot: number, groupId: number): boolean {
    const start = this.lineStarts.values[slot]!;
    const end = start + this.lineCounts.values[slot]!;
    for (let line = start; line < end; line += 1) if (this.lineGroups.values[line] === groupId) return true;
    return false;
  }

  /**
   * The `most` largest groups of what is asked for on a day, by committed value as `worth` of each currency makes it,
   * equal ones by id. `together` puts the currencies of a group into one; else each stands for itself, by its own
   * value. Currencies without a worth are named, and left out of what is put together. By group the lines are summed,
   * else the agreements. O(agreements, by group their lines, and groups × log groups).
   */
  groups(
    asked: FulfilmentAsked,
    day: Day,
    worth: ReadonlyMap<string, number>,
    together: boolean,
    most: number,
  ): { groups: GroupSum[]; unrated: string[] } {
    const totals = this.totals(asked, day);
    const { values } = totals.values;
    const rates = this.currencies.map((currency) => worth.get(currency));
    const unrated = new Set<string>();
    const found = new Map<number, { of: number; value: number; at: number[] }>();
    totals.groups.forEach((of, at) => {
      const currency = totals.currencies[at]!;
      const rate = rates[currency];
      if (rate === undefined) unrated.add(this.currencies[currency]!);
      if (together && rate === undefined) return;
      const value = numberAt(values, at * WIDTH) * (together ? rate! : 1);
      const group = together ? found.get(of) : undefined;
      if (group) {
        group.value += value;
        group.at.push(at);
      } else found.set(together ? of : at, { of, value, at: [at] });
    });
    const groups = [...found.values()]
      .sort((a, b) => b.value - a.value || a.of - b.of)
      .slice(0, most)
      .map(({ of, at }) => ({ of, sums: at.map((each) => this.sumAt(totals, each)) }));
    return { groups, unrated: [...unrated].sort() };
  }

  private sumAt({ currencies, agreements, values }: Totals, at: number): CurrencySum {
    const text = (index: number) => textAt(values.values, at * WIDTH + index * 2);
    return {
      currency: this.currencies[currencies[at]!]!,
      agreements: agreements[at]!,
      committed: text(0),
      released: text(1),
      shipped: text(2),
      invoiced: text(3),
    };
  }

  private totals(asked: FulfilmentAsked, day: Day): Totals {
    const totals = new Totals(this.mostOf, Math.max(1, this.currencies.length));
    const of = this.columnOf(asked.by);
    const starts = this.lineStarts.values;
    const counts = this.lineCounts.values;
    const groups = this.lineGroups.values;
    const lines = this.lineValues.values;
    for (const slot of this.slotsOf(asked, day)) {
      const currency = this.currencyOf.values[slot]!;
      if (asked.by !== 'group') {
        totals.add(of === null ? 0 : of[slot]!, currency, slot, this.values.values, slot * WIDTH);
        continue;
      }
      const start = starts[slot]!;
      const end = start + counts[slot]!;
      for (let line = start; line < end; line += 1) totals.add(groups[line]!, currency, slot, lines, line * WIDTH);
    }
    return totals;
  }

  private columnOf(by: FulfilmentAsked['by']): Int32Array | null {
    switch (by) {
      case 'agreement':
        return this.ids.values;
      case 'customer':
        return this.parties.values;
      case 'organisation':
        return this.organisations.values;
      case 'currency':
      case 'group':
        return null;
    }
  }

  /**
   * The largest by committed value, as `worth` of its currency makes it, largest first; equal ones by id.
   * O(agreements + those that are ever among the largest × most).
   */
  largest(asked: FulfilmentAsked, day: Day, worth: ReadonlyMap<string, number>, most: number): number[] {
    const found: { id: number; value: number }[] = [];
    const rates = this.currencies.map((currency) => worth.get(currency));
    for (const slot of this.slotsOf(asked, day)) {
      const rate = rates[this.currencyOf.values[slot]!];
      if (rate === undefined) continue;
      const id = this.ids.values[slot]!;
      const value = numberAt(this.values.values, slot * WIDTH) * rate;
      let at = found.length;
      if (at === most && found[at - 1]!.value > value) continue;
      while (at > 0 && (found[at - 1]!.value < value || (found[at - 1]!.value === value && found[at - 1]!.id > id))) {
        at -= 1;
      }
      if (at >= most) continue;
      found.splice(at, 0, { id, value });
      if (found.length > most) found.pop();
    }
    return found.map((each) => each.id);
  }
}
