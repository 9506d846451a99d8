/**
 * Rows as columns of numbers that grow as they come: what a hundred thousand rows hold in memory is their numbers.
 * Columns named in `wide` hold any number, the others whole ones of 32 bits.
 */
export class Columns<Name extends string> {
  private readonly arrays = new Map<Name, Int32Array | Float64Array>();
  private room: number;
  length = 0;

  constructor(
    private readonly names: readonly Name[],
    private readonly wide: readonly Name[],
    /** How many rows are looked for: room beyond what comes costs nothing until it is written to. */
    rows = 1024,
  ) {
    this.room = Math.max(16, rows);
    for (const name of names) this.arrays.set(name, this.array(name));
  }

  private array(name: Name): Int32Array | Float64Array {
    return this.wide.includes(name) ? new Float64Array(this.room) : new Int32Array(this.room);
  }

  /** One more row, its cells in the order of the names. */
  push(...cells: readonly number[]): void {
    if (this.length === this.room) this.grow();
    this.names.forEach((name, at) => (this.arrays.get(name)![this.length] = cells[at]!));
    this.length += 1;
  }

  private grow(): void {
    this.room *= 2;
    for (const name of this.names) {
      const next = this.array(name);
      next.set(this.arrays.get(name)!);
      this.arrays.set(name, next);
    }
  }

  /** A column of whole numbers, as long as there are rows; it is the column itself, not a copy. */
  whole(name: Name): Int32Array {
    return this.arrays.get(name)!.subarray(0, this.length) as Int32Array;
  }

  /** A column of any numbers. */
  any(name: Name): Float64Array {
    return this.arrays.get(name)!.subarray(0, this.length) as Float64Array;
  }
}
