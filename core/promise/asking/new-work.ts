import { withOptions, type OptionGroup } from '../../catalogue';
import { addDays, dec, isDay, isDecimalText, isWholeUnit, type Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import { Ground } from '../ground/ground';
import type { GroundRows, ItemRow } from '../ground/rows';
import { answer } from './ask';
import { plannedOrders, type PlannedOrderPlan } from './accept';
import { troubleText } from './trouble';

export interface NewWorkTyped {
  /** The item at its place. */
  point: number;
  quantity: string;
  /** The day it is to be there; null for as soon as can be. */
  due: Day | null;
}

/**
 * An order of somebody's own to make something for stock, whatever is there of it: as many as they say, laid so that it
 * is there by the day or as soon as can be after it, with all that is planned for it below. // W5 T4 T5
 */
export function decideNewWork(
  rows: GroundRows,
  { point, quantity, due }: NewWorkTyped,
): Decision<{ orders: PlannedOrderPlan[]; day: Day }> {
  const refusals: Refusal[] = [];
  const item = rows.items.find(({ id }) => id === point);
  if (!item) return { ok: false, refusals: [refuse('unknown', 'itemId', { what: 'This item' })] };
  const makes = item.obtained === 'make' || item.obtained === 'assemble';
  if (!makes) refusals.push(refuse('nothing-makes', 'itemId', { item: item.number }));
  else if (!rows.components.some(({ itemId }) => itemId === point)) {
    refusals.push(refuse('no-bom', 'itemId', { item: item.number }));
  }
  refusals.push(...outOfUse(rows, item, point, 'itemId'));
  if (!isDecimalText(quantity, 'quantity')) refusals.push(refuse('not-a-number', 'quantity', { what: 'The quantity' }));
  else if (dec(quantity).lte(0)) refusals.push(refuse('not-above-zero', 'quantity', { what: 'The quantity' }));
  else if (isWholeUnit(item.unit) && !dec(quantity).mod(1).eq(0)) {
    refusals.push(refuse('whole-pieces', 'quantity', { item: item.number }));
  }
  if (due !== null && !isDay(due)) refusals.push(refuse('not-a-day', 'due', { what: 'The day' }));
  else if (due !== null && due < rows.workDate) {
    refusals.push(refuse('days-order', 'due', { what: 'The day', day: due, earliest: rows.workDate }));
  }
  if (refusals.length > 0) return { ok: false, refusals };
  const ground = new Ground(ofTheirOwn(rows, [point]));
  const found = answer(ground, { key: '', itemId: point, quantity, asked: due }, 'have');
  if (found.day === null) {
    return { ok: false, refusals: [refuse('no-promise', 'quantity', { why: troubleText(found.trouble!) })] };
  }
  return decided([], () => ({
    day: addDays(rows.workDate, found.day!),
    // Nobody in particular waits for it.
    orders: plannedOrders(ground, 0, found).map((order) =>
      order.parent === null ? { ...order, lineId: null, held: '0' } : order,
    ),
  }));
}

/** An order that nobody began, laid for another quantity or another day. */
export interface ChangedWork {
  number: string;
  state: string;
  /** Of it, what is for somebody. */
  held: string;
  /** Something was reported on it. */
  begun: boolean;
}

/**
 * Lays an order anew for another quantity or day, with what is planned below it: one that nobody began, and for no less
 * than is for somebody. // W2 L7
 */
export function decideChangedWork(
  rows: GroundRows,
  work: ChangedWork,
  typed: NewWorkTyped,
): Decision<{ orders: PlannedOrderPlan[]; day: Day }> {
  if ((work.state !== 'planned' && work.state !== 'firm') || work.begun) {
    return {
      ok: false,
      refusals: [
        work.begun || work.state === 'running'
          ? refuse('work-runs', '', { work: work.number })
          : refuse('work-not-open', '', { work: work.number, state: work.state }),
      ],
    };
  }
  const made = decideNewWork(rows, typed);
  if (!made.ok) return made;
  if (dec(typed.quantity).lt(work.held)) {
    return { ok: false, refusals: [refuse('below-tied', 'quantity', { work: work.number, held: work.held })] };
  }
  const [top, ...below] = made.effects.orders;
  return { ...made, effects: { ...made.effects, orders: [{ ...top!, held: work.held }, ...below] } };
}

/** What is to be made for an order line. */
export interface LineToMake {
  lineId: number;
  /** Where it is refused. */
  field: string;
  order: string;
  lineNo: number;
  /** The item at its place. */
  point: number;
  quantity: string;
  shipDate: Day;
  /** What is chosen for it of what its item offers; none where it is made as its item is. // W2 */
  options?: { groups: readonly OptionGroup[]; chosen: readonly number[] } | undefined;
}

/**
 * Orders that make what lines want, each for its line alone: laid so that it is there by the day the line ships or as
 * soon as can be after that, which is worth a word, with all that is planned below. // W1 W2
 */
export function decideWorkForLines(
  rows: GroundRows,
  lines: readonly LineToMake[],
): Decision<{ orders: PlannedOrderPlan[] }> {
  const alike = ofTheirOwn(
    rows,
    lines.map(({ point }) => point),
  );
  const ground = new Ground(lines.reduce(withOwnItem, alike));
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  const orders: PlannedOrderPlan[] = [];
  for (const line of lines) {
    const { lineId, field, order, lineNo, point, quantity, shipDate } = line;
    const item = rows.items.find(({ id }) => id === point);
    const number = item?.number ?? '';
    if (!item || !rows.components.some(({ itemId }) => itemId === point)) {
      refusals.push(refuse('no-bom', field, { item: number }));
      continue;
    }
    const unused = outOfUse(ground.rows, item, madeAs(line), field);
    if (unused.length > 0) {
      refusals.push(...unused);
      continue;
    }
    const found = answer(ground, { key: '', itemId: madeAs(line), quantity, asked: shipDate }, 'have');
    if (found.day === null) {
      refusals.push(refuse('no-promise', field, { why: troubleText(found.trouble!) }));
      continue;
    }
    const day = addDays(rows.workDate, found.day);
    const facts = { order, line: String(lineNo), item: number, day, shipDate };
    if (day > shipDate) warnings.push(refuse('made-late', field, facts));
    orders.push(...plannedOrders(ground, lineId, found, orders.length));
  }
  return decided(refusals, () => ({ orders }), warnings);
}

/** What stands against making an item: it, or what goes into it, is out of use. */
function outOfUse(rows: GroundRows, item: ItemRow, point: number, field: string): Refusal[] {
  if (item.outOfUse) return [refuse('item-out-of-use', field, { item: item.number })];
  return rows.components.flatMap(({ itemId, componentId }) => {
    const part = itemId === point ? rows.items.find(({ id }) => id === componentId) : undefined;
    return part?.outOfUse ? [refuse('component-out-of-use', field, { item: item.number, component: part.number })] : [];
  });
}

/** The item a line is made as: one of its own where something is chosen for it. No item has a number below zero. */
const madeAs = ({ lineId, point, options }: LineToMake) => (options ? -lineId : point);

/** The ground with what a line has its own way: as its item, but for what is chosen. // W1 W2 */
function withOwnItem(rows: GroundRows, line: LineToMake): GroundRows {
  const { point, options } = line;
  const item = rows.items.find(({ id }) => id === point);
  if (!options || !item) return rows;
  const id = madeAs(line);
  const { kept, added } = withOptions(
    rows.components.filter(({ itemId }) => itemId === point),
    options.groups,
    options.chosen,
  );
  const last = Math.max(0, ...kept.map(({ lineNo }) => lineNo));
  return {
    ...rows,
    items: [...rows.items, { ...item, id, of: point }],
    components: [
      ...rows.components,
      ...kept.map((component) => ({ ...component, itemId: id })),
      ...added.map((component, at) => ({
        ...component,
        itemId: id,
        lineNo: last + 1 + at,
        scrapPercent: '0',
        firstDay: null,
        lastDay: null,
      })),
    ],
    operations: [
      ...rows.operations,
      ...rows.operations.filter(({ itemId }) => itemId === point).map((operation) => ({ ...operation, itemId: id })),
    ],
  };
}

/** The ground on which all of some items is made anew, in the numbers that are asked for. */
function ofTheirOwn(rows: GroundRows, points: readonly number[]): GroundRows {
  const own = new Set(points);
  return {
    ...rows,
    items: rows.items.map((item) =>
      own.has(item.id)
        ? { ...item, onHand: '0', held: '0', safetyStock: '0', lotMinimum: '0', lotMultiple: '0', phantom: false }
        : item,
    ),
    supplies: rows.supplies.filter(({ itemId }) => !own.has(itemId)),
    demands: rows.demands.filter(({ itemId }) => !own.has(itemId)),
  };
}
