import { addDays, daysBetween, type Day, type Shift } from '../../kernel';
import { lot, Naive, small, whole } from './naive';
import { EARLY_DAYS, type Proposal } from '../planning/planning';
import type { GroundRows, ItemRow, MoveRow } from '../ground/rows';

interface Piece {
  day: number;
  quantity: number;
  /** The move behind it; -1 for what is proposed. */
  of: number;
  key: string;
  fixed?: boolean;
}

interface Supply extends Piece {
  was: number;
}

/** What a proposal does, so that two runs can be compared. */
export function inShort(proposal: Proposal): string {
  const { kind, itemId, quantity } = proposal;
  if (kind === 'place') return `place ${itemId} ${Number(quantity)} ${proposal.start} ${proposal.due}`;
  const to = kind === 'move' ? proposal.to : '';
  return `${kind} ${itemId} ${Number(quantity)} ${proposal.source.id} ${to}`;
}

/**
 * The planning run as it is told in words, with lists walked from end to end for each demand, and days one after the
 * other. Compared with the real one in tests. Quantities are whole hundred-thousandths.
 */
export function naivePlanning(rows: GroundRows, until: Day, forecast: readonly MoveRow[] = []): string[] {
  const walk = new Naive({ ...rows, supplies: [], demands: [] });
  const last = Math.min(daysBetween(rows.workDate, until), rows.horizon - 1);
  const at = (day: Day) => Math.max(0, daysBetween(rows.workDate, day));
  const dayOf = (day: number) => addDays(rows.workDate, day);
  const horizon = (day: number) => Math.min(day, rows.horizon - 1);
  const demands = [...rows.demands, ...forecast].map((move) => ({ ...piece(move, at(move.day)), itemId: move.itemId }));
  const firstWorking = walk.workingDaysOn(0, 0, rows.ownCalendarId);
  const said: string[] = [];

  const stands = ({ firstDay, lastDay }: { firstDay: Day | null; lastDay: Day | null }, day: number) =>
    (firstDay ?? '') <= dayOf(day) && (lastDay ?? '9') >= dayOf(day);
  const daysToMake = (item: ItemRow, size: number, on: number) => {
    const operations = rows.operations.filter((each) => each.itemId === item.id && stands(each, on));
    const days = operations.map((operation) => {
      const centre = rows.centres.find((each) => each.id === operation.centreId)!;
      const worked = [0, 1, 2, 3, 4, 5, 6]
        .map((weekday) => openMinutes(centre.shifts, weekday))
        .filter((each) => each > 0);
      const aDay = worked.length > 0 ? Math.min(operation.parallel, centre.machines) * Math.min(...worked) : 0;
      return aDay > 0 ? Math.ceil(walk.workOf(operation, size).minutes / aDay) : 0;
    });
    return Math.max(
      item.makeDays,
      days.reduce((sum, each) => sum + each, 0),
    );
  };
  const soonest = (item: ItemRow, size: number) => {
    if (item.obtained !== 'buy') return horizon(walk.workingDaysOn(0, daysToMake(item, size, 0), rows.ownCalendarId));
    return item.sellers[0] ? horizon(walk.boughtBy(item.sellers[0], 0)) : 0;
  };

  for (const item of parentsFirst(rows)) {
    const above = small(item.onHand) - small(item.held) - small(item.safetyStock);
    const own = demands.filter((each) => each.itemId === item.id).sort(inOrder);
    const needs = [...(above < 0 ? [{ day: 0, quantity: -above, of: -1, key: 'safety 0 0' }] : []), ...own];
    const supplies = rows.supplies
      .map((move, of) => ({ move, of }))
      .filter(({ move }) => move.itemId === item.id)
      .map(({ move, of }) => {
        const day = move.day < rows.workDate ? firstWorking : at(move.day);
        return { ...piece(move, day), of, was: day, fixed: move.fixed === true };
      });
    const none = item.obtained === 'none' || (item.obtained === 'buy' && item.sellers.length === 0);
    const [seller] = item.sellers;
    const bought = item.obtained === 'buy';
    const startFor = (size: number, by: number) => {
      if (!bought) {
        const first = walk.workingDaysBefore(by, daysToMake(item, size, by));
        const another = [...rows.components, ...rows.operations].some(
          (row) =>
            row.itemId === item.id &&
            [row.firstDay, row.lastDay && addDays(row.lastDay, 1)].some(
              (day) => day && day > rows.workDate && day > dayOf(first) && day <= dayOf(by),
            ),
        );
        return another ? walk.workingDaysBefore(by, daysToMake(item, size, Math.max(0, first))) : first;
      }
      let start = by;
      while (start >= 0 && walk.boughtBy(seller!, start) > by) start -= 1;
      return start;
    };
    let kept: Supply[] = [...supplies];
    let settled = 0;
    for (let turn = 0; turn < 50; turn += 1) {
      kept.sort(inOrder);
      const may = (supply: Supply, day: number) =>
        !supply.fixed || supply.day <= day || none || soonest(item, supply.quantity) >= supply.day;
      const { first, short } = served(Math.max(0, above), kept, needs, may);
      let changed = false;
      settled = 0;
      const serving = kept.filter((_each, index) => first[index] !== null);
      const groups = [...new Set(serving.map((each) => each.day))].map((day) => ({
        day,
        together: serving.filter((each) => each.day === day),
      }));
      for (const { day, together } of groups) {
        const free = together.filter((each) => !each.fixed);
        let to = day;
        if (free.length > 0) {
          const wanted = first[kept.indexOf(free[0]!)]!;
          const soon = Math.max(...free.map((each) => soonest(item, each.quantity)));
          if (wanted > day) to = wanted - day > EARLY_DAYS && day <= last ? wanted : day;
          else to = Math.min(day, Math.max(wanted, soon));
          to = Math.max(to, settled);
        }
        if (free.length > 0) settled = to;
        if (to !== day) changed = true;
        for (const each of free) each.day = to;
      }
      const staying = kept.filter(
        (each, index) => each.fixed || first[index] !== null || (each.of >= 0 && each.day > last),
      );
      const stable = !changed && staying.length === kept.length;
      kept = staying;
      if (!stable) continue;
      if (item.phantom) {
        // Never made by itself: what it is made of is needed in its place.
        for (const [index, need] of needs.entries()) {
          if (need.day <= last && short[index]! > 0) explode(item, short[index]!, need.day, need);
        }
        break;
      }
      // What nothing serves, in lots.
      let spare = 0;
      const placed: Supply[] = [];
      for (let day = 0; day <= last; day += 1) {
        const wanting = needs.reduce((total, need, index) => total + (need.day === day ? short[index]! : 0), 0);
        const beyond = none ? 0 : wanting - Math.min(spare, wanting);
        spare -= wanting - beyond;
        if (beyond === 0) continue;
        const size = bought
          ? lot(whole(beyond, item), seller!.minimum, seller!.multiple)
          : lot(whole(beyond, item), item.lotMinimum, item.lotMultiple);
        spare += size - beyond;
        const wanted = Math.max(day, settled);
        const there = startFor(size, wanted) >= 0 ? wanted : soonest(item, size);
        settled = there;
        placed.push({ day: there, quantity: size, of: -1, key: '', was: there, fixed: false });
      }
      if (placed.length === 0) break;
      kept.push(...placed);
    }
    for (const supply of supplies) {
      const { source, quantity } = rows.supplies[supply.of]!;
      const by = supply.day - supply.was;
      const gone = !kept.includes(supply);
      if (gone) said.push(`cancel ${item.id} ${Number(quantity)} ${source.id} `);
      else if (by !== 0) said.push(`move ${item.id} ${Number(quantity)} ${source.id} ${dayOf(supply.day)}`);
      if (source.kind !== 'PR' && source.kind !== 'AS') continue;
      for (const demand of [...demands]) {
        const of = demand.of < 0 ? null : rows.demands[demand.of]!.source;
        if (of?.kind !== source.kind || of.id !== source.id) continue;
        if (gone) demands.splice(demands.indexOf(demand), 1);
        else demand.day = Math.max(0, demand.day + by);
      }
    }
    for (const { of, day, quantity } of kept) {
      if (of >= 0) continue;
      const start = Math.max(0, startFor(quantity, day));
      said.push(`place ${item.id} ${quantity / 100_000} ${dayOf(start)} ${dayOf(day)}`);
      if (bought) continue;
      explode(item, quantity, start, { of: -1, key: `proposal ${item.id} 0` });
    }
  }
  return said.sort();

  function explode(item: ItemRow, size: number, day: number, { of, key }: Pick<Piece, 'of' | 'key'>) {
    for (const { componentId, per } of walk.linesOn(item.id, day)) {
      const component = rows.items.find(({ id }) => id === componentId)!;
      const quantity = whole(Math.ceil((size * per) / 100_000), component);
      demands.push({ itemId: componentId, day, quantity, of, key });
    }
  }

  function piece({ quantity, source }: MoveRow, day: number): Piece {
    const of = rows.demands.findIndex((move) => move.source === source);
    return { day, quantity: small(quantity), of, key: `${source.kind} ${source.id} ${source.lineId ?? 0}` };
  }
}

/** Minutes of a weekday that any of the shifts covers. */
function openMinutes(shifts: readonly Shift[], weekday: number): number {
  const minutes = new Set<number>();
  for (const { week, from, until } of shifts) {
    for (let minute = from; week[weekday] === '1' && minute < until; minute += 1) minutes.add(minute);
  }
  return minutes.size;
}

/** The day of the first demand each supply serves, null for none; and what of each demand nothing serves. */
function served(
  stock: number,
  supplies: readonly Supply[],
  needs: readonly Piece[],
  may: (supply: Supply, day: number) => boolean,
) {
  const left = supplies.map((supply) => supply.quantity);
  const first: (number | null)[] = supplies.map(() => null);
  let there = stock;
  const short = needs.map((need) => {
    let open = need.quantity - Math.min(there, need.quantity);
    there -= need.quantity - open;
    for (const [index, supply] of supplies.entries()) {
      const taken = may(supply, need.day) ? Math.min(left[index]!, open) : 0;
      if (taken > 0) first[index] ??= need.day;
      left[index]! -= taken;
      open -= taken;
    }
    return open;
  });
  return { first, short };
}

/** Items, what they go into before them. */
function parentsFirst(rows: GroundRows): ItemRow[] {
  const depth = (id: number): number =>
    Math.max(0, ...rows.components.filter((line) => line.componentId === id).map((line) => 1 + depth(line.itemId)));
  return [...rows.items].sort((a, b) => depth(a.id) - depth(b.id));
}

function inOrder(a: Piece, b: Piece): number {
  const stays = ({ fixed }: Piece) => (fixed ? 0 : 1);
  return a.day - b.day || a.quantity - b.quantity || stays(a) - stays(b) || a.key.localeCompare(b.key);
}
