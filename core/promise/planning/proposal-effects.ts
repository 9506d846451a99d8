import { addDays, daysBetween, itemAt, locationAt, type Day, type DayIndex } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import type { PlannedOrderPlan } from '../asking/accept';
import { DAY_MINUTES, dayBefore, dayOfMoment, type Run } from '../ground/capacity';
import { Ground, minutesOf, type Item } from '../ground/ground';
import { on } from '../asking/plan';
import type { PlaceProposal, PlanningRun, Proposal } from './planning';
import type { GroundRows } from '../ground/rows';
import { ONE, scaled, timesUp, unscaled, wholeUp, type Scaled } from '../ground/scaled';

/** A proposal that is taken, and the place it is asked at. */
export interface AskedProposal {
  field: string;
  proposal: Proposal;
}

/** What taking proposals writes. */
export interface ProposalEffects {
  /** Orders to be made or assembled for stock, each with the field it was asked at. */
  orders: (PlannedOrderPlan & { field: string })[];
  /** To be bought, a purchase order for each vendor. */
  purchases: {
    vendorId: number;
    locationId: number;
    lines: { field: string; itemId: number; quantity: string; dueDate: Day }[];
  }[];
  /** Planned orders that move by so many days, with their operations laid anew. */
  moved: { id: number; by: number; operations: PlannedOrderPlan['operations'] }[];
  /** Planned orders that go. */
  cancelled: number[];
  /** Lines of purchase orders that move or of which nothing more is to come. */
  changed: { purchaseId: number; lines: { field: string; lineId: number; dueDate: Day; stops: boolean }[] }[];
}

/**
 * What taking some proposals of a run does. The run is made anew on the ground as it is now, and what it does not
 * propose any more, or otherwise, is refused: nothing is placed twice. // T8 T11
 */
export function decideProposals(
  rows: GroundRows,
  now: PlanningRun,
  asked: readonly AskedProposal[],
  /** When the planned orders that are asked to move begin. */
  starts: ReadonlyMap<number, Day>,
): Decision<ProposalEffects> {
  const ground = new Ground({ ...rows, load: [], supplies: [], demands: [] });
  const refusals: Refusal[] = [];
  const standing = new Map<string, number>();
  for (const proposal of now.proposals) {
    const key = contentOf(proposal);
    standing.set(key, (standing.get(key) ?? 0) + 1);
  }
  const effects: ProposalEffects = { orders: [], purchases: [], moved: [], cancelled: [], changed: [] };
  for (const { field, proposal } of asked) {
    const key = contentOf(proposal);
    const left = standing.get(key) ?? 0;
    standing.set(key, left - 1);
    if (left > 0) add(effects, ground, { field, proposal }, starts);
    else refusals.push(refuse('plan-moved', field, {}));
  }
  return decided(refusals, () => effects);
}

/** What a proposal does, without whom it is for: two of the same do the same. */
function contentOf(proposal: Proposal): string {
  const { kind, itemId, quantity } = proposal;
  if (kind === 'place') {
    const { obtained, start, due, vendorId } = proposal;
    return JSON.stringify([kind, itemId, quantity, obtained, start, due, vendorId]);
  }
  const { source, from } = proposal;
  const to = kind === 'move' ? proposal.to : null;
  return JSON.stringify([kind, itemId, quantity, source.kind, source.id, source.lineId ?? null, from, to]);
}

function add(
  effects: ProposalEffects,
  ground: Ground,
  { field, proposal }: AskedProposal,
  starts: ReadonlyMap<number, Day>,
): void {
  if (proposal.kind === 'place') {
    if (proposal.obtained === 'buy') buy(effects, field, proposal);
    else effects.orders.push({ ...placed(ground, proposal), field });
    return;
  }
  const { kind, source } = proposal;
  if (source.kind === 'PO') {
    const dueDate = kind === 'move' ? proposal.to : proposal.from;
    const line = { field, lineId: source.lineId!, dueDate, stops: kind === 'cancel' };
    const of = effects.changed.find((each) => each.purchaseId === source.id);
    if (of) of.lines.push(line);
    else effects.changed.push({ purchaseId: source.id, lines: [line] });
  } else if (kind === 'cancel') {
    effects.cancelled.push(source.id);
  } else {
    const by = daysBetween(proposal.from, proposal.to);
    const start = ground.dayIndex(addDays(starts.get(source.id)!, by));
    const operations = source.kind === 'PL' ? [] : operationsFrom(ground, proposal.itemId, proposal.quantity, start);
    effects.moved.push({ id: source.id, by, operations });
  }
}

function buy(effects: ProposalEffects, field: string, { itemId, quantity, due, vendorId }: PlaceProposal): void {
  const line = { field, itemId: itemAt(itemId), quantity, dueDate: due };
  const locationId = locationAt(itemId);
  const of = effects.purchases.find((each) => each.vendorId === vendorId && each.locationId === locationId);
  if (of) of.lines.push(line);
  else effects.purchases.push({ vendorId: vendorId!, locationId, lines: [line] });
}

function placed(ground: Ground, { itemId, obtained, quantity, start, due, own = [] }: PlaceProposal): PlannedOrderPlan {
  const item = ground.items[ground.at(itemId)]!;
  const from = ground.dayIndex(start);
  const of = scaled(quantity);
  return {
    parent: null,
    lineId: null,
    own: false,
    kind: obtained,
    itemId,
    quantity,
    held: '0',
    start,
    due,
    vendorId: null,
    components: componentsFrom(ground, item, of, from, sumByItem(own)).map((each) => ({
      ...each,
      covered: '0',
      neededOn: start,
    })),
    operations: operationsFrom(ground, itemId, quantity, from),
  };
}

function sumByItem(pieces: readonly { itemId: number; quantity: string }[]): Map<number, Scaled> {
  const sums = new Map<number, Scaled>();
  for (const { itemId, quantity } of pieces) sums.set(itemId, (sums.get(itemId) ?? 0) + scaled(quantity));
  return sums;
}

/** What goes into a lot that starts on a day: of a phantom what the run found there of it, and for the rest what it is made of. */
function componentsFrom(
  ground: Ground,
  item: Item,
  lot: Scaled,
  from: DayIndex,
  own: Map<number, Scaled>,
  /** The operation a phantom is used at, with all that goes into it. */
  within?: number | null,
): { itemId: number; quantity: string; operationNo: number | null }[] {
  return item.components
    .filter((component) => on(component, from))
    .flatMap((component) => {
      const inner = ground.items[component.item]!;
      const needed = wholeUp(timesUp(lot, component.per, ONE), inner);
      const left = own.get(inner.row.id) ?? 0;
      const there = inner.row.phantom ? Math.min(needed, left) : needed;
      if (inner.row.phantom) own.set(inner.row.id, left - there);
      const operationNo = within === undefined ? (item.operations[component.operation]?.no ?? null) : within;
      return [
        ...(there > 0 ? [{ itemId: inner.row.id, quantity: unscaled(there), operationNo }] : []),
        ...(there < needed ? componentsFrom(ground, inner, needed - there, from, own, operationNo) : []),
      ];
    });
}

/**
 * The operations of an order one after the other from a day, each its whole days on its centre, whoever else is there:
 * what the planning run reckons with, so the ground has nothing taken of its centres. Nothing stays taken. Days beyond
 * the horizon hold nothing. // T11
 */
export function operationsFrom(
  ground: Ground,
  itemId: number,
  quantity: string,
  from: DayIndex,
): PlannedOrderPlan['operations'] {
  const dayOf = (index: DayIndex) => addDays(ground.rows.workDate, index);
  const mark = ground.mark();
  let day = from;
  const laid = ground.items[ground.at(itemId)]!.operations.filter((operation) => on(operation, from)).map(
    (operation) => {
      const { no, name, centre, parallel } = operation;
      const minutes = minutesOf(operation, scaled(quantity));
      const { start, end, slices } = ground.run(centre, minutes, parallel, day * DAY_MINUTES) ?? NOWHERE;
      const first = slices.length > 0 ? dayOfMoment(start) : day;
      const last = slices.length > 0 ? dayBefore(end) : day;
      if (slices.length > 0) day = last + 1;
      return {
        no,
        name,
        centreId: ground.centreRows[centre]!.id,
        minutes,
        firstDay: dayOf(first),
        lastDay: dayOf(last),
        load: slices.map((slice) => ({ ...slice, day: dayOf(slice.day) })),
      };
    },
  );
  ground.backTo(mark);
  return laid;
}

const NOWHERE: Run = { start: 0, end: 0, slices: [] };
