import { addDays, dec, isDay, isDecimalText, isWholeUnit, type Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import { Ground } from '../ground/ground';
import type { GroundRows } from '../ground/rows';
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
  const ground = new Ground(ofItsOwn(rows, point));
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

/** The ground on which all of an item is made anew, in the number that is asked for. */
function ofItsOwn(rows: GroundRows, point: number): GroundRows {
  return {
    ...rows,
    items: rows.items.map((item) =>
      item.id === point
        ? { ...item, onHand: '0', held: '0', safetyStock: '0', lotMinimum: '0', lotMultiple: '0', phantom: false }
        : item,
    ),
    supplies: rows.supplies.filter(({ itemId }) => itemId !== point),
    demands: rows.demands.filter(({ itemId }) => itemId !== point),
  };
}
