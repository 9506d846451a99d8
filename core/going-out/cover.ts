import { dec, groupedBy, least, sum, ZERO, type Day, type Dec } from '@core/kernel';
import type { Route } from '@core/catalogue';
import type { MoveRow } from '@core/promise';

/** An open line that leaves one of our places. */
export interface GoingLine {
  id: number;
  /** Item and location as one number. */
  point: number;
  shipDate: Day;
  open: string;
  /** Of what is open, held for it at its place. // S3 L3 */
  held: string;
  /** Only a line from stock takes what is free; what is bought or made for a line is held for it when it comes. */
  route: Exclude<Route, 'drop'>;
  /** What comes for this line alone: on its ties, or made for it. */
  own: readonly Coming[];
}

/** So much of it comes on a day, with what. A day that has passed is today: it is not here yet. */
export interface Coming {
  quantity: string;
  day: Day;
  by: MoveRow['source'];
}

/** What there is for a line: `held`, `free`, `coming` in time, `late` and `missing` sum to what is open of it. */
export interface Cover {
  held: string;
  /** Free at its place once those who ship before it have taken theirs. */
  free: string;
  /** In time for its ship date, the earliest first. */
  coming: readonly Coming[];
  /** After its ship date: what would end its being short. */
  late: readonly Coming[];
  /** What nothing brings. */
  missing: string;
}

export interface GoingGround {
  workDate: Day;
  lines: readonly GoingLine[];
  /** On hand and held for nobody, by point. */
  free: ReadonlyMap<number, string>;
  /** What lines from stock and components take of what is free or comes for nobody, those of `lines` among them. */
  claims: readonly MoveRow[];
  /** What comes for nobody yet. */
  supplies: readonly MoveRow[];
}

/**
 * What is there for each line, and what comes: earlier claims are served first, out of what is free, then out of what comes
 * the soonest. // S9
 * Claims of one day are served components first, then lines by order. O(n log n) in claims, supplies and lines.
 */
export function coverLines({ workDate, lines, free, claims, supplies }: GoingGround): Map<number, Cover> {
  const covers = new Map(lines.map((line) => [line.id, ownCover(line, workDate)]));
  const others = claims
    .filter(({ source: { lineId } }) => lineId === undefined || !covers.has(lineId))
    .map(({ itemId, day, quantity, source }) => ({ point: itemId, day, quantity, lineId: source.lineId ?? 0 }));
  const own = lines
    .filter(({ route }) => route === 'stock')
    .map(({ id, point, shipDate }) => ({ point, day: shipDate, quantity: covers.get(id)!.missing, lineId: id }));
  const comes = groupedBy(supplies, ({ itemId }) => itemId);
  for (const [point, asked] of groupedBy([...others, ...own], (each) => each.point)) {
    const coming = (comes.get(point) ?? [])
      .map(({ day, quantity, source }) => ({ day: later(day, workDate), left: dec(quantity), by: source }))
      .sort((a, b) => compare(a.day, b.day));
    serve(asked, [{ day: workDate, left: dec(free.get(point) ?? '0'), by: null }, ...coming], covers);
  }
  return covers;
}

interface Claim {
  day: Day;
  quantity: string;
  /** Within a day, the lower the earlier; 0 for a component. */
  lineId: number;
}

/** What there is of an item from a day on; `by` null for what is free now. */
interface Pool {
  day: Day;
  left: Dec;
  by: MoveRow['source'] | null;
}

const compare = (a: Day, b: Day) => (a < b ? -1 : a > b ? 1 : 0);
const later = (a: Day, b: Day) => (a > b ? a : b);

/** What is held for a line and comes for it alone; the rest is missing so far. */
function ownCover({ open, held, own, shipDate }: GoingLine, workDate: Day): Cover {
  const here = least(dec(open), dec(held));
  let rest = dec(open).minus(here);
  const comes = [...own]
    .map((each) => ({ ...each, day: later(each.day, workDate) }))
    .sort((a, b) => compare(a.day, b.day))
    .flatMap((each) => {
      const quantity = least(rest, dec(each.quantity));
      rest = rest.minus(quantity);
      return quantity.gt(0) ? [{ ...each, quantity: quantity.toFixed() }] : [];
    });
  return {
    held: here.toFixed(),
    free: '0',
    coming: comes.filter(({ day }) => day <= shipDate),
    late: comes.filter(({ day }) => day > shipDate),
    missing: rest.toFixed(),
  };
}

/** Serves the claims of an item at a place, the earliest first; what lines get of it is written into their covers. */
function serve(claims: readonly Claim[], pools: Pool[], covers: Map<number, Cover>): void {
  let at = 0;
  for (const { day, quantity, lineId } of [...claims].sort((a, b) => compare(a.day, b.day) || a.lineId - b.lineId)) {
    let rest = dec(quantity);
    let free = ZERO;
    const coming: Coming[] = [];
    while (rest.gt(0) && at < pools.length) {
      const pool = pools[at]!;
      const taken = pool.left.gt(0) ? least(rest, pool.left) : ZERO;
      pool.left = pool.left.minus(taken);
      rest = rest.minus(taken);
      if (pool.by === null) free = free.plus(taken);
      else if (taken.gt(0)) coming.push({ quantity: taken.toFixed(), day: pool.day, by: pool.by });
      if (pool.left.lte(0)) at += 1;
    }
    const own = covers.get(lineId);
    if (!own) continue;
    covers.set(lineId, {
      held: own.held,
      free: free.toFixed(),
      coming: soonest([...own.coming, ...coming.filter((each) => each.day <= day)]),
      late: soonest([...own.late, ...coming.filter((each) => each.day > day)]),
      missing: rest.toFixed(),
    });
  }
}

const soonest = (coming: readonly Coming[]) => [...coming].sort((a, b) => compare(a.day, b.day));

/** How much of a line can go out now: held, free, or assembled as it goes; never more than is open. // P5 S9 */
export const goesNow = ({ held, free }: Cover, assembled: string, open: string): string =>
  least(dec(open), dec(held).plus(free).plus(assembled)).toFixed();

/** How much of a line is not there by its ship date: it comes later, or nothing brings it. // S9 */
export const isShort = ({ late, missing }: Cover): Dec => sum(late.map(({ quantity }) => dec(quantity))).plus(missing);
