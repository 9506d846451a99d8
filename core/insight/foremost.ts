/**
 * The first `most` of many in an order, without sorting all of them. `before` says whether one stands before another;
 * no two are equal in it. O(all + those that are ever among the first × log most), at worst all × log most.
 */
export class Foremost<Each> {
  readonly found: Each[] = [];
  constructor(
    private readonly most: number,
    private readonly before: (one: Each, other: Each) => boolean,
  ) {}

  offer(each: Each): void {
    const { found, most, before } = this;
    if (most === 0 || (found.length === most && !before(each, found[most - 1]!))) return;
    let low = 0;
    let high = found.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (before(found[middle]!, each)) low = middle + 1;
      else high = middle;
    }
    if (found.length === most) found.pop();
    found.splice(low, 0, each);
  }
}
