import type { AgreementState, Side } from '@core/agreements';
import { dec, type Day } from '@core/kernel';

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
const MOST = Number.MAX_SAFE_INTEGER;
/** More currencies than there are. (ISO 4217) */
const CURRENCIES = 1024;
/** A running sum is put aside before it could pass what a float holds exactly. */
const SPILL = 2 ** 52;

function scaled(text: string): number {
  const value = dec(text).times(SCALE);
  const whole = Number(value.toFixed(0));
  if (!value.eq(whole) || Math.abs(whole) > MOST) throw new RangeError(`a value of ${text} cannot be summed`);
  return whole;
}

class Total {
  agreements = 0;
  /** The agreement counted last, so that one with several lines in a group is counted once. */
  last = -1;
  private readonly now = new Float64Array(AMOUNTS.length);
  private readonly aside = AMOUNTS.map(() => 0n);

  constructor(
    readonly of: number,
    readonly currency: number,
  ) {}

  add(from: Float64Array, at: number): void {
    for (let index = 0; index < AMOUNTS.length; index += 1) {
      const value = from[at + index]!;
      if (Math.abs(this.now[index]! + value) > SPILL) {
        this.aside[index]! += BigInt(this.now[index]!);
        this.now[index] = 0;
      }
      if (Math.abs(value) > SPILL) this.aside[index]! += BigInt(value);
      else this.now[index]! += value;
    }
  }

  /** About what is committed: what groups are ordered by. */
  committed(): number {
    return (Number(this.aside[0]!) + this.now[0]!) / SCALE;
  }

  amounts(): Amounts {
    const text = (index: number) =>
      dec((this.aside[index]! + BigInt(this.now[index]!)).toString())
        .div(SCALE)
        .toFixed();
    return { committed: text(0), released: text(1), shipped: text(2), invoiced: text(3) };
  }
}

const ACTIVE: ReadonlySet<AgreementState> = new Set(['in-force', 'paused', 'ended']);
const RUNNING: ReadonlySet<AgreementState> = new Set(['in-force', 'paused']);

/**
 * The agreements of a company side by side, for sums over all of them. // A4
 * Values are exact: whole thousandths within ±2^53 for each agreement and line (beyond: RangeError), sums without
 * bound. Memory is about 150 bytes for an agreement and 40 for a line.
 */
export class AgreementColumns {
  private readonly slots = new Map<number, number>();
  private readonly heads: (Omit<AgreementFigures, keyof Amounts | 'currency' | 'lines'> & { currency: number })[] = [];
  private values = new Float64Array(64);
  private readonly lineValues: Float64Array[] = [];
  private readonly lineGroups: Int32Array[] = [];
  private readonly currencies: string[] = [];

  get size(): number {
    return this.slots.size;
  }

  /** Takes an agreement in, or anew. O(its lines). */
  put({ lines, currency, committed, released, shipped, invoiced, ...head }: AgreementFigures): void {
    const slot = this.slots.get(head.id) ?? this.slots.size;
    const amounts = [committed, released, shipped, invoiced].map(scaled);
    const ofLines = Float64Array.from(lines.flatMap((line) => AMOUNTS.map((amount) => scaled(line[amount]))));
    if ((slot + 1) * AMOUNTS.length > this.values.length) {
      const wider = new Float64Array(this.values.length * 2);
      wider.set(this.values);
      this.values = wider;
    }
    this.slots.set(head.id, slot);
    this.values.set(amounts, slot * AMOUNTS.length);
    this.heads[slot] = { ...head, currency: this.currencyOf(currency) };
    this.lineValues[slot] = ofLines;
    this.lineGroups[slot] = Int32Array.from(lines.map((line) => line.groupId));
  }

  private currencyOf(currency: string): number {
    const at = this.currencies.indexOf(currency);
    return at < 0 ? this.currencies.push(currency) - 1 : at;
  }

  /** Drafts and what was cancelled promise nothing: they are left out. */
  private counts(slot: number, asked: FulfilmentAsked, day: Day): boolean {
    const head = this.heads[slot]!;
    if (head.side !== asked.side || !ACTIVE.has(head.state)) return false;
    if (asked.state !== undefined && head.state !== asked.state) return false;
    if (asked.dates !== undefined) {
      if (!RUNNING.has(head.state)) return false;
      const passed = head.lastDay < day;
      if (asked.dates === 'passed' ? !passed : passed || head.firstDay > day) return false;
    }
    if (asked.customerId !== undefined && (head.side !== 'selling' || head.partyId !== asked.customerId)) return false;
    if (asked.organisationId !== undefined && head.organisationId !== asked.organisationId) return false;
    if (asked.currency !== undefined && this.currencies[head.currency] !== asked.currency) return false;
    return asked.groupId === undefined || this.lineGroups[slot]!.includes(asked.groupId);
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
    const rates = this.currencies.map((currency) => worth.get(currency));
    const unrated = new Set<string>();
    const found = new Map<number, { of: number; value: number; totals: Total[] }>();
    for (const [key, total] of totals) {
      const rate = rates[total.currency];
      if (rate === undefined) unrated.add(this.currencies[total.currency]!);
      if (together && rate === undefined) continue;
      const at = together ? total.of : key;
      let group = found.get(at);
      if (!group) found.set(at, (group = { of: total.of, value: 0, totals: [] }));
      group.value += total.committed() * (together ? rate! : 1);
      group.totals.push(total);
    }
    const groups = [...found.values()]
      .sort((a, b) => b.value - a.value || a.of - b.of)
      .slice(0, most)
      .map(({ of, totals }) => ({
        of,
        sums: totals.map((total) => ({
          currency: this.currencies[total.currency]!,
          agreements: total.agreements,
          ...total.amounts(),
        })),
      }));
    return { groups, unrated: [...unrated].sort() };
  }

  /** Totals by group and currency, in the order first met. */
  private totals(asked: FulfilmentAsked, day: Day): Map<number, Total> {
    const totals = new Map<number, Total>();
    const totalOf = (of: number, currency: number) => {
      const key = of * CURRENCIES + currency;
      let total = totals.get(key);
      if (!total) totals.set(key, (total = new Total(of, currency)));
      return total;
    };
    for (let slot = 0; slot < this.heads.length; slot += 1) {
      if (!this.counts(slot, asked, day)) continue;
      const head = this.heads[slot]!;
      if (asked.by !== 'group') {
        const total = totalOf(groupOf(head, asked.by), head.currency);
        total.agreements += 1;
        total.add(this.values, slot * AMOUNTS.length);
        continue;
      }
      const groups = this.lineGroups[slot]!;
      for (let line = 0; line < groups.length; line += 1) {
        const total = totalOf(groups[line]!, head.currency);
        if (total.last !== slot) total.agreements += 1;
        total.last = slot;
        total.add(this.lineValues[slot]!, line * AMOUNTS.length);
      }
    }
    return totals;
  }

  /** The largest by committed value, as `worth` of its currency makes it, largest first; equal ones by id. O(agreements). */
  largest(asked: FulfilmentAsked, day: Day, worth: ReadonlyMap<string, number>, most: number): number[] {
    const found: { id: number; value: number }[] = [];
    for (let slot = 0; slot < this.heads.length; slot += 1) {
      const { id, currency } = this.heads[slot]!;
      const rate = worth.get(this.currencies[currency]!);
      if (rate === undefined || !this.counts(slot, asked, day)) continue;
      const value = this.values[slot * AMOUNTS.length]! * rate;
      if (found.length === most && value < found.at(-1)!.value) continue;
      found.push({ id, value });
      found.sort((a, b) => b.value - a.value || a.id - b.id);
      found.length = Math.min(found.length, most);
    }
    return found.map((each) => each.id);
  }
}

function groupOf(
  head: { id: number; partyId: number; organisationId: number | null },
  by: Exclude<FulfilmentAsked['by'], 'group'>,
): number {
  switch (by) {
    case 'agreement':
      return head.id;
    case 'customer':
      return head.partyId;
    case 'organisation':
      return head.organisationId ?? 0;
    case 'currency':
      return 0;
  }
}
