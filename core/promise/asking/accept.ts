import { addDays, type Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import { answer, type Answer, type Ask } from './ask';
import type { Stretch } from '../ground/capacity';
import { Ground } from '../ground/ground';
import type { Need, NewOrder } from './plan';
import type { GroundRows, Way } from '../ground/rows';
import { unscaled } from '../ground/scaled';
import { troubleText } from './trouble';

/** A line whose promise is taken: what was asked, the way, and the day that was seen. */
export interface Acceptance {
  ask: Ask;
  lineId: number;
  way: Way;
  day: Day;
}

/** An order to be planned, its parent before it. Quantities as text, days as days. */
export interface PlannedOrderPlan {
  /** Its place in the list, and that of the order it is for; null where it is for the line itself. */
  parent: number | null;
  /** The sales line it is planned for in the end; null for our stock. */
  lineId: number | null;
  kind: 'make' | 'assemble' | 'buy';
  itemId: number;
  /** It is made of other parts than the item is. */
  own: boolean;
  quantity: string;
  /** Of the quantity, what is for the parent or the line; the rest is for anybody. */
  held: string;
  start: Day;
  due: Day;
  vendorId: number | null;
  /** Each used at an operation; at the first where it names none. */
  components: { itemId: number; quantity: string; covered: string; neededOn: Day; operationNo: number | null }[];
  operations: {
    no: number;
    name: string;
    centreId: number;
    minutes: number;
    firstDay: Day;
    lastDay: Day;
    load: (Stretch & { day: Day })[];
  }[];
}

export interface AcceptEffects {
  lines: { lineId: number; day: Day; way: Way }[];
  orders: PlannedOrderPlan[];
}

/**
 * What accepting writes: the day of each line, and every order that was planned for it, level by level. The lines are
 * asked again in their order on the ground as it is now; where a day is another than the one seen, nothing is accepted
 * and the new day is told. // T8
 */
export function decideAccept(rows: GroundRows, lines: readonly Acceptance[]): Decision<AcceptEffects> {
  const ground = new Ground(rows);
  const refusals: Refusal[] = [];
  const effects: AcceptEffects = { lines: [], orders: [] };
  for (const [index, line] of lines.entries()) {
    const found = answer(ground, line.ask, line.way);
    const field = `lines.${index}.day`;
    if (found.day === null) {
      refusals.push(refuse('no-promise', field, { why: troubleText(found.trouble!) }));
      continue;
    }
    const day = addDays(rows.workDate, found.day);
    if (day !== line.day) refusals.push(refuse('promise-moved', field, { was: line.day, is: day }));
    effects.lines.push({ lineId: line.lineId, day, way: line.way });
    effects.orders.push(...plannedOrders(ground, line.lineId, found, effects.orders.length));
  }
  return decided(refusals, () => effects);
}

/** The orders of a plan, parents before what is for them. `from` is the place of the first. */
export function plannedOrders(ground: Ground, lineId: number, { need }: Answer, from = 0): PlannedOrderPlan[] {
  const orders: PlannedOrderPlan[] = [];
  const dayOf = (index: number) => addDays(ground.rows.workDate, index);
  const add = (of: Need, parent: number | null): void => {
    const item = ground.items[of.item]!;
    for (const part of of.parts) {
      if (part.kind === 'free') continue;
      const place = from + orders.length;
      const bought = part.kind === 'buy';
      orders.push({
        parent,
        lineId,
        kind: bought ? 'buy' : item.row.obtained === 'assemble' ? 'assemble' : 'make',
        itemId: item.row.of ?? item.row.id,
        own: item.row.of !== undefined,
        quantity: unscaled(part.lot),
        held: unscaled(part.quantity),
        start: dayOf(bought ? part.ordered : part.start),
        due: dayOf(part.day),
        vendorId: bought ? item.sellers[part.seller]!.vendorId : null,
        components: bought ? [] : componentsOf(ground, of.item, part),
        operations: bought ? [] : operationsOf(ground, of.item, part),
      });
      if (!bought) for (const below of part.needs) add(below, place);
    }
  };
  if (need) add(need, null);
  return orders;
}

function componentsOf(ground: Ground, item: number, order: NewOrder): PlannedOrderPlan['components'] {
  const atOperation = (place: number) => {
    const run = order.operations[place];
    return run ? ground.items[item]!.operations[run.operation]!.no : null;
  };
  return order.needs.map((need, index) => ({
    operationNo: atOperation(order.neededAt[index]!),
    itemId: ground.items[need.item]!.row.id,
    quantity: unscaled(need.quantity),
    covered: unscaled(need.parts.reduce((sum, part) => sum + (part.kind === 'free' ? 0 : part.quantity), 0)),
    neededOn: addDays(
      ground.rows.workDate,
      order.operations[order.neededAt[index]!]?.firstDay ?? Math.max(order.start, need.day),
    ),
  }));
}

function operationsOf(ground: Ground, item: number, order: NewOrder): PlannedOrderPlan['operations'] {
  const dayOf = (index: number) => addDays(ground.rows.workDate, index);
  return order.operations.map((run) => {
    const { no, name } = ground.items[item]!.operations[run.operation]!;
    return {
      no,
      name,
      centreId: ground.centreRows[run.centre]!.id,
      minutes: run.minutes,
      firstDay: dayOf(run.firstDay),
      lastDay: dayOf(run.lastDay),
      load: run.slices.map((slice) => ({ ...slice, day: dayOf(slice.day) })),
    };
  });
}
