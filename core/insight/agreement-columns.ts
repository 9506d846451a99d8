import type { AgreementState, Side } from '@core/agreements';
import { daysBetween, type Day } from '@core/kernel';
import { Column, keep, numberAt, textAt, WIDTH, type Amounts } from './exact';
import { Foremost } from './foremost';
import { Totals } from './totals';

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
  /** Nothing is left to release. */
  usedUp: boolean;
  lines: readonly (Amounts & { groupId: number })[];
}

/** Which agreements are asked for. */
export interface AgreementsAsked {
  side?: Side | undefined;
  state?: AgreementState | undefined;
  dates?: 'passed' | 'running' | undefined;
  customerId?: number | undefined;
  organisationId?: number | undefined;
  groupId?: number | undefined;
  currency?: string | undefined;
  left?: 'used-up' | 'some' | undefined;
}

/** What is summed by; drafts and what was cancelled promise nothing and are left out. */
export interface FulfilmentAsked extends AgreementsAsked {
  by: 'agreement' | 'customer' | 'organisation' | 'group' | 'currency';
  side: Side;
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

const STATES: readonly AgreementState[] = ['draft', 'in-force', 'paused', 'ended', 'cancelled'];
const IN_FORCE = STATES.indexOf('in-force');
const PAUSED = STATES.indexOf('paused');
const ENDED = STATES.indexOf('ended');
const NOBODY = 0;
/** Days are kept as numbers from this one on, before and after it. */
const EPOCH: Day = '2000-01-01';
const dayNumber = (day: Day) => daysBetween(EPOCH, day);
/** Questions whose sums are kept up to date. */
const STANDING = 24;

/** Sums that were asked for, kept true as agreements change. */
interface Standing {
  by: FulfilmentAsked['by'];
  fits: (slot: number) => boolean;
  totals: Totals;
}

/**
 * The agreements of a company side by side, for sums over all of them. // A4
 * Values are exact: whole thousandths within ±2^53 for each agreement and line (beyond: RangeError); sums of up to 60
 * million of them are. Memory is about 120 bytes for an agreement and 70 for a line. The sums of the last questions are
 * kept and moved by what changes, so that asking again costs as much as there are groups.
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
  private readonly usedUp = new Column(new Int32Array(64));
  /** Shipped ÷ committed. */
  private readonly fulfilled = new Column(new Float64Array(64));
  private readonly currencies: string[] = [];
  private readonly standing = new Map<string, Standing>();

  get size(): number {
    return this.slots.size;
  }

  /** Takes an agreement in, or anew. O(its lines × kept questions). */
  put(agreement: AgreementFigures): void {
    const { lines } = agreement;
    const ofLines = new Float64Array(lines.length * WIDTH);
    lines.forEach((line, index) => keep(ofLines, index * WIDTH, line));
    const groups = lines.map((line) => line.groupId);
    const own = new Float64Array(WIDTH);
    keep(own, 0, agreement);
    const slot = this.slots.get(agreement.id) ?? this.slots.size;
    if (slot < this.slots.size) for (const each of this.standing.values()) this.move(each, slot, -1);
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
    set(this.usedUp, agreement.usedUp ? 1 : 0);
    this.fulfilled.reach(slot);
    const committed = numberAt(own, 0);
    this.fulfilled.values[slot] = committed > 0 ? numberAt(own, 4) / committed : 0;
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
    for (const each of this.standing.values()) this.move(each, slot, 1);
  }

  private currencyAt(currency: string): number {
    const at = this.currencies.indexOf(currency);
    return at < 0 ? this.currencies.push(currency) - 1 : at;
  }

  /** Whether the agreement of a slot is asked for, on a day. */
  private fitting(asked: AgreementsAsked, day: Day): (slot: number) => boolean {
    const side = asked.side === undefined ? null : asked.side === 'selling' ? 0 : 1;
    const state = asked.state === undefined ? null : STATES.indexOf(asked.state);
    const today = dayNumber(day);
    const { dates, customerId, organisationId, groupId, currency } = asked;
    const usedUp = asked.left === undefined ? null : asked.left === 'used-up' ? 1 : 0;
    return (slot) => {
      if (side !== null && this.sides.values[slot] !== side) return false;
      if (state !== null && this.states.values[slot] !== state) return false;
      if (dates !== undefined) {
        const now = this.states.values[slot]!;
        if (now !== IN_FORCE && now !== PAUSED) return false;
        const passed = this.lastDays.values[slot]! < today;
        if (dates === 'passed' ? !passed : passed || this.firstDays.values[slot]! > today) return false;
      }
      // A vendor may have a customer's id.
      if (customerId !== undefined && (this.sides.values[slot] !== 0 || this.parties.values[slot] !== customerId)) {
        return false;
      }
      if (organisationId !== undefined && this.organisations.values[slot] !== organisationId) return false;
      if (currency !== undefined && this.currencies[this.currencyOf.values[slot]!] !== currency) return false;
      if (usedUp !== null && this.usedUp.values[slot] !== usedUp) return false;
      return groupId === undefined || this.covers(slot, groupId);
    };
  }

  /** The same, of agreements that promise something. */
  private summing(asked: AgreementsAsked, day: Day): (slot: number) => boolean {
    const fits = this.fitting(asked, day);
    return (slot) => this.states.values[slot]! >= IN_FORCE && this.states.values[slot]! <= ENDED && fits(slot);
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
   * else the agreements. O(groups × log most); a question not asked lately O(agreements, by group their lines) besides.
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
      if (totals.agreements[at] === 0) return;
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
    const largest = new Foremost<{ of: number; value: number; at: number[] }>(
      most,
      (a, b) => a.value > b.value || (a.value === b.value && (a.of < b.of || (a.of === b.of && a.at[0]! < b.at[0]!))),
    );
    for (const each of found.values()) largest.offer(each);
    const groups = largest.found.map(({ of, at }) => ({ of, sums: at.map((each) => this.sumAt(totals, each)) }));
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

  /** The sums of a question, kept or made. */
  private totals(asked: FulfilmentAsked, day: Day): Totals {
    const { by, side, state, dates, customerId, organisationId, groupId, currency, left } = asked;
    const key = JSON.stringify([day, by, side, state, dates, customerId, organisationId, groupId, currency, left]);
    const kept = this.standing.get(key);
    // What was asked last goes last.
    this.standing.delete(key);
    const standing = kept ?? { by, fits: this.summing(asked, day), totals: new Totals() };
    if (!kept) for (let slot = 0; slot < this.slots.size; slot += 1) this.move(standing, slot, 1);
    this.standing.set(key, standing);
    for (const eldest of this.standing.keys()) {
      if (this.standing.size <= STANDING) break;
      this.standing.delete(eldest);
    }
    return standing.totals;
  }

  /** Adds an agreement to sums it belongs to, or takes it off them. */
  private move({ by, fits, totals }: Standing, slot: number, sign: 1 | -1): void {
    if (!fits(slot)) return;
    const currency = this.currencyOf.values[slot]!;
    totals.nextAgreement();
    if (by !== 'group') {
      const of = this.columnOf(by);
      totals.add(of === null ? 0 : of[slot]!, currency, sign, this.values.values, slot * WIDTH);
      return;
    }
    const start = this.lineStarts.values[slot]!;
    const end = start + this.lineCounts.values[slot]!;
    for (let line = start; line < end; line += 1) {
      totals.add(this.lineGroups.values[line]!, currency, sign, this.lineValues.values, line * WIDTH);
    }
  }

  /** What agreements are summed by; null where all go together, or their lines apart. */
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
   * O(agreements + those that are ever among the largest × log most).
   */
  largest(asked: FulfilmentAsked, day: Day, worth: ReadonlyMap<string, number>, most: number): number[] {
    const rates = this.currencies.map((currency) => worth.get(currency));
    const largest = new Foremost<{ id: number; value: number }>(
      most,
      (a, b) => a.value > b.value || (a.value === b.value && a.id < b.id),
    );
    const fits = this.summing(asked, day);
    for (let slot = 0; slot < this.slots.size; slot += 1) {
      const rate = rates[this.currencyOf.values[slot]!];
      if (rate === undefined || !fits(slot)) continue;
      largest.offer({ id: this.ids.values[slot]!, value: numberAt(this.values.values, slot * WIDTH) * rate });
    }
    return largest.found.map((each) => each.id);
  }

  /**
   * Those furthest behind on a day first: fulfilled minus elapsed share, in millionths, equal ones by id. Goes on after
   * one that was given before; `among` leaves others out. O(agreements + those given × log most). // A8
   */
  byPace(
    asked: AgreementsAsked,
    day: Day,
    most: number,
    after: { pace: number; id: number } | null,
    among: ReadonlySet<number> | null,
  ): { id: number; pace: number }[] {
    const today = dayNumber(day);
    const fits = this.fitting(asked, day);
    const before = (a: { id: number; pace: number }, b: { id: number; pace: number }) =>
      a.pace < b.pace || (a.pace === b.pace && a.id < b.id);
    const behind = new Foremost<{ id: number; pace: number }>(most, before);
    for (let slot = 0; slot < this.slots.size; slot += 1) {
      if (!fits(slot)) continue;
      const first = this.firstDays.values[slot]!;
      const elapsed = (today - first + 1) / (this.lastDays.values[slot]! - first + 1);
      const pace = Math.round((this.fulfilled.values[slot]! - Math.min(1, Math.max(0, elapsed))) * 1e6);
      const each = { id: this.ids.values[slot]!, pace };
      if ((after && !before(after, each)) || (among && !among.has(each.id))) continue;
      behind.offer(each);
    }
    return behind.found;
  }
}
