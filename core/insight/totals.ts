import { Column, WIDTH } from './exact';

/** More currencies than there are. */
const CURRENCIES = 4096;

/** Sums by group and currency, side by side; groups from −1 (`EVERYTHING`) on. */
export class Totals {
  private readonly at = new Map<number, number>();
  readonly groups: number[] = [];
  readonly currencies: number[] = [];
  readonly agreements: number[] = [];
  /** The stroke that counted an agreement last, so that one with several lines in a group is counted once. */
  private readonly last: number[] = [];
  private stroke = 0;
  readonly values = new Column(new Float64Array(64 * WIDTH), WIDTH);

  /** What is added next is of another agreement. */
  nextAgreement(): void {
    this.stroke += 1;
  }

  /** Adds the amounts kept from `start` (`sign` −1: takes them off again) to a group's sums in a currency. O(1). */
  add(of: number, currency: number, sign: 1 | -1, from: Float64Array, start: number): void {
    const key = (of + 1) * CURRENCIES + currency;
    let at = this.at.get(key);
    if (at === undefined) {
      at = this.groups.push(of) - 1;
      this.at.set(key, at);
      this.currencies.push(currency);
      this.agreements.push(0);
      this.last.push(0);
      this.values.reach(at);
    }
    if (this.last[at] !== this.stroke) this.agreements[at]! += sign;
    this.last[at] = this.stroke;
    const { values } = this.values;
    for (let to = at * WIDTH, on = start; on < start + WIDTH; to += 1, on += 1) values[to]! += sign * from[on]!;
  }
}
