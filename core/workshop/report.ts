import { currencyPlaces, dec, isDecimalText, least, most, roundHalfAway, sum, ZERO, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { averageCost } from '@core/stock';
import {
  labourCost,
  minutesFor,
  placeOf,
  plannedCosts,
  throughOf,
  usedFor,
  type PlannedCosts,
  type WorkComponent,
  type WorkGround,
} from './work-order';

export interface ReportTyped {
  /** The operation that was done; null for the order as a whole, whatever was not reported of it before. */
  operationId: number | null;
  /** Pieces that passed, and that were lost; empty for none. */
  good: string;
  scrapped: string;
  /** What was used of components where that is not as planned. */
  used: readonly { componentId: number; quantity: string }[];
  /** Minutes of operations where those are not as planned. */
  worked: readonly { operationId: number; minutes: string }[];
  /** Nothing more is to come of the order. */
  finish: boolean;
}

/** What a report writes. What came out of the order is `good`; `scrapped` is what was lost at any operation. */
export interface ReportEffects {
  good: string;
  scrapped: string;
  components: { componentId: number; itemId: number; item: string; quantity: string; cost: string }[];
  operations: { operationId: number; done: string; scrapped: string; minutes: number; cost: string }[];
  materialCost: string;
  labourCost: string;
  outputCost: string;
  scrapCost: string;
  variance: string;
  /** Of the good ones, what is held for order lines from now on, and what of their ties is let go of at the end. */
  ties: { orderLineId: number; made: string; released: string }[];
  /** What goes to the order this one is for, and what that need not expect of it any more. */
  parents: { componentId: number; made: string; released: string }[];
  forParent: string;
  parentReleased: string;
  /** What the order is reckoned to cost, where it is begun with this. */
  planned: PlannedCosts | null;
  /** Of the order as it stands after it. */
  finished: string;
  allScrapped: string;
  inWork: string;
  state: 'running' | 'finished';
}

/**
 * Work is reported: pieces that passed an operation or came of the order, good and lost; what they used and how long they
 * took, as planned where nothing else is said. Components leave at the moving average, minutes go in at their centre's
 * hour, good pieces come out at what they were reckoned to cost; what is left in work at the end is variance. Good ones
 * are held for the order's lines, the first to ship first. // W3 P3
 * Refused beyond what was ordered or passed the operation before, and above what is there and free of a component.
 */
export function decideReport(ground: WorkGround, typed: ReportTyped): Decision<ReportEffects> {
  const { order, operations } = ground;
  const refusals: Refusal[] = [];
  if (order.state !== 'firm' && order.state !== 'running') {
    return { ok: false, refusals: [refuse('work-not-firm', '', { order: order.number, state: order.state })] };
  }
  const good = piecesOf(ground, typed.good, 'good', refusals);
  const scrapped = piecesOf(ground, typed.scrapped, 'scrapped', refusals);
  const at =
    typed.operationId === null ? operations.length - 1 : operations.findIndex(({ id }) => id === typed.operationId);
  if (typed.operationId !== null && at < 0) refusals.push(refuse('unknown', 'operationId', { what: 'This operation' }));
  if (refusals.length > 0) return { ok: false, refusals };
  const passed = passing(ground, typed, { at, good, scrapped }, refusals);
  const components = usedBy(ground, typed, passed, refusals);
  const worked = workedBy(ground, typed, passed, refusals);
  const last = at === operations.length - 1;
  const out = last ? good : ZERO;
  const finished = dec(order.finished).plus(out);
  const allScrapped = dec(order.scrapped).plus(scrapped);
  const finish = typed.finish || finished.plus(allScrapped).gte(order.quantity);
  const nothing = [good, scrapped, ...components.map((each) => each.quantity)].every((each) => each.eq(0));
  if (refusals.length === 0 && nothing && worked.every(({ minutes }) => minutes === 0)) {
    const made = dec(order.finished).plus(order.scrapped).gt(0) || !dec(order.inWork).eq(0);
    if (!typed.finish) refusals.push(refuse('nothing-reported', 'good', { order: order.number }));
    else if (!made) refusals.push(refuse('nothing-made', 'finish', { order: order.number }));
  }
  return decided(refusals, () => {
    const planned = order.plannedCost === null ? plannedCosts(ground) : null;
    const whole = dec(planned?.cost ?? order.plannedCost!);
    const materialCost = sum(components.map(({ cost }) => cost));
    const labour = sum(worked.map(({ cost }) => cost));
    const outputCost = sliceOf(ground, whole, dec(order.finished), out);
    const lostAt = last ? whole : plannedThrough(ground, planned, at);
    const scrapCost = sliceOf(ground, lostAt, dec(order.scrapped), scrapped);
    const before = dec(order.inWork).plus(materialCost).plus(labour).minus(outputCost).minus(scrapCost);
    const variance = finish ? before : ZERO;
    const ties = heldFor(ground, out, finish);
    const forParent = least(out, dec(order.heldForParent));
    const parentReleased = finish ? dec(order.heldForParent).minus(forParent) : ZERO;
    return {
      good: out.toFixed(),
      scrapped: scrapped.toFixed(),
      components: components
        .filter(({ quantity }) => quantity.gt(0))
        .map(({ of, quantity, cost }) => ({
          componentId: of.id,
          itemId: of.itemId,
          item: of.item,
          quantity: quantity.toFixed(),
          cost: cost.toFixed(),
        })),
      operations: worked
        .filter(({ done, lost, minutes }) => done.plus(lost).gt(0) || minutes > 0)
        .map(({ operationId, done, lost, minutes, cost }) => ({
          operationId,
          done: done.toFixed(),
          scrapped: lost.toFixed(),
          minutes,
          cost: cost.toFixed(),
        })),
      materialCost: materialCost.toFixed(),
      labourCost: labour.toFixed(),
      outputCost: outputCost.toFixed(),
      scrapCost: scrapCost.toFixed(),
      variance: variance.toFixed(),
      ties,
      parents: sharedOut(ground, forParent, parentReleased),
      forParent: forParent.toFixed(),
      parentReleased: parentReleased.toFixed(),
      planned,
      finished: finished.toFixed(),
      allScrapped: allScrapped.toFixed(),
      inWork: before.minus(variance).toFixed(),
      state: finish ? ('finished' as const) : ('running' as const),
    };
  });
}

/** A number of pieces as it was typed; nothing where nothing was. */
function piecesOf({ order }: WorkGround, typed: string, field: 'good' | 'scrapped', refusals: Refusal[]): Dec {
  if (typed.trim() === '') return ZERO;
  if (!isDecimalText(typed, 'quantity') || dec(typed).lt(0)) {
    refusals.push(refuse('not-a-number', field, { what: 'The quantity' }));
    return ZERO;
  }
  if (order.whole && !dec(typed).mod(1).eq(0)) {
    refusals.push(refuse('whole-pieces', field, { item: order.item }));
    return ZERO;
  }
  return dec(typed);
}

/** Pieces that pass each operation or are lost at it with a report; of an order without operations one entry for all. */
interface Passing {
  done: Dec;
  lost: Dec;
}

/**
 * How many pieces pass which operation. Of one operation: no more than passed the one before it. Of the whole order: each
 * operation before the last lets pass what it has not yet. // W3
 */
function passing(
  { order, operations }: WorkGround,
  typed: ReportTyped,
  { at, good, scrapped }: { at: number; good: Dec; scrapped: Dec },
  refusals: Refusal[],
): Passing[] {
  const field = good.gt(0) ? 'good' : 'scrapped';
  const left = dec(order.quantity).minus(order.finished).minus(order.scrapped);
  const asked = good.plus(scrapped);
  if (asked.gt(left)) {
    const facts = { order: order.number, asked: asked.toFixed(), left: left.toFixed(), item: order.item };
    refusals.push(refuse('above-ordered', field, facts));
    return [];
  }
  if (operations.length === 0) return [{ done: good, lost: scrapped }];
  const passed = operations.map(() => ({ done: ZERO, lost: ZERO }));
  passed[at] = { done: good, lost: scrapped };
  for (let place = at; place > 0; place -= 1) {
    const needed = throughOf(operations[place]!).plus(passed[place]!.done).plus(passed[place]!.lost);
    const before = operations[place - 1]!;
    const missing = needed.minus(before.done);
    if (missing.lte(0)) break;
    if (typed.operationId !== null) {
      const there = dec(before.done).minus(throughOf(operations[place]!)).toFixed();
      const facts = { asked: asked.toFixed(), there, operation: before.name, order: order.number };
      refusals.push(refuse('above-passed', field, facts));
      return passed;
    }
    passed[place - 1] = { done: missing, lost: ZERO };
  }
  const first = throughOf(operations[0]!).plus(passed[0]!.done).plus(passed[0]!.lost);
  if (first.gt(order.quantity)) {
    const more = dec(order.quantity).minus(throughOf(operations[0]!));
    const facts = { order: order.number, asked: asked.toFixed(), left: more.toFixed(), item: order.item };
    refusals.push(refuse('above-ordered', field, facts));
  }
  return passed;
}

interface Used {
  of: WorkComponent;
  quantity: Dec;
  cost: Dec;
}

/** What a report uses of each component, at its cost; what is said of one holds, the others go by what passed. */
function usedBy(ground: WorkGround, typed: ReportTyped, passed: readonly Passing[], refusals: Refusal[]): Used[] {
  const { order, components, operations, currency } = ground;
  const left = new Map<number, { quantity: Dec; value: Dec; free: Dec }>();
  typed.used.forEach(({ componentId }, index) => {
    if (components.some(({ id }) => id === componentId)) return;
    refusals.push(refuse('unknown', `used.${index}.componentId`, { what: 'This component' }));
  });
  return components.map((of) => {
    const index = typed.used.findIndex(({ componentId }) => componentId === of.id);
    const said = index < 0 ? '' : typed.used[index]!.quantity.trim();
    const field = index < 0 ? 'good' : `used.${index}.quantity`;
    const nothing = { of, quantity: ZERO, cost: ZERO };
    if (said !== '' && (!isDecimalText(said, 'quantity') || dec(said).lt(0))) {
      refusals.push(refuse('not-a-number', field, { what: 'What was used' }));
      return nothing;
    }
    if (said !== '' && of.whole && !dec(said).mod(1).eq(0)) {
      refusals.push(refuse('whole-pieces', field, { item: of.item }));
      return nothing;
    }
    const quantity = said === '' ? asPlanned(order, of, operations, passed) : dec(said);
    const there = left.get(of.itemId) ?? {
      quantity: dec(of.there.onHand),
      value: dec(of.there.value),
      free: dec(of.there.onHand).minus(of.there.reserved),
    };
    if (quantity.eq(0)) return nothing;
    if (quantity.gt(there.free)) {
      const facts = {
        item: of.item,
        asked: quantity.toFixed(),
        free: most(ZERO, there.free).toFixed(),
        place: order.place,
      };
      refusals.push(refuse('component-short', field, facts));
      return nothing;
    }
    const cost = averageCost(there, quantity, currency);
    left.set(of.itemId, {
      quantity: there.quantity.minus(quantity),
      value: there.value.minus(cost),
      free: there.free.minus(quantity),
    });
    return { of, quantity, cost };
  });
}

/** What the pieces that pass a component's operation use of it, beyond what was used ahead. */
function asPlanned(
  order: WorkGround['order'],
  component: WorkComponent,
  operations: WorkGround['operations'],
  passed: readonly Passing[],
): Dec {
  const place = placeOf(component, operations);
  const more = passed[place];
  if (!more || more.done.plus(more.lost).eq(0)) return ZERO;
  const before = operations[place] ? throughOf(operations[place]) : dec(order.finished).plus(order.scrapped);
  const through = before.plus(more.done).plus(more.lost);
  if (through.gt(order.quantity)) return ZERO;
  return most(ZERO, usedFor(component, through, order).minus(component.used));
}

interface Worked {
  operationId: number;
  done: Dec;
  lost: Dec;
  minutes: number;
  cost: Dec;
}

/** What a report adds to each operation: pieces, and minutes as they were said or planned. */
function workedBy(
  { order, operations, currency }: WorkGround,
  typed: ReportTyped,
  passed: readonly Passing[],
  refusals: Refusal[],
): Worked[] {
  typed.worked.forEach(({ operationId }, index) => {
    if (operations.some(({ id }) => id === operationId)) return;
    refusals.push(refuse('unknown', `worked.${index}.operationId`, { what: 'This operation' }));
  });
  return operations.map((operation, place) => {
    const { done, lost } = passed[place] ?? { done: ZERO, lost: ZERO };
    const index = typed.worked.findIndex(({ operationId }) => operationId === operation.id);
    const said = index < 0 ? '' : typed.worked[index]!.minutes.trim();
    if (said !== '' && !/^\d{1,6}$/.test(said)) {
      refusals.push(refuse('not-minutes', `worked.${index}.minutes`, {}));
    }
    const before = throughOf(operation);
    const planned = minutesFor(operation, before.plus(done).plus(lost), order) - minutesFor(operation, before, order);
    const minutes = /^\d{1,6}$/.test(said) ? Number(said) : planned;
    return { operationId: operation.id, done, lost, minutes, cost: labourCost(minutes, operation.hourCost, currency) };
  });
}

/** The part of a cost that so many pieces of the order make, after others: slices end to end sum to the whole. */
function sliceOf({ order, currency }: WorkGround, cost: Dec, before: Dec, pieces: Dec): Dec {
  const upTo = (reached: Dec) => roundHalfAway(cost.times(reached).div(order.quantity), currencyPlaces(currency));
  return upTo(before.plus(pieces)).minus(upTo(before));
}

/** What the order is reckoned to cost up to an operation, with all that is used until then. */
function plannedThrough({ components, operations }: WorkGround, planned: PlannedCosts | null, at: number): Dec {
  const costOf = (
    all: readonly { id: number; cost: string }[] | undefined,
    each: { id: number; plannedCost: string },
  ) => dec(all?.find(({ id }) => id === each.id)?.cost ?? each.plannedCost);
  return sum([
    ...components.filter((each) => placeOf(each, operations) <= at).map((each) => costOf(planned?.components, each)),
    ...operations.slice(0, at + 1).map((each) => costOf(planned?.operations, each)),
  ]);
}

/** Good pieces for the order's lines, the first to ship first; at the end what is not made is let go of. */
function heldFor({ ties }: WorkGround, out: Dec, finish: boolean): ReportEffects['ties'] {
  let left = out;
  return ties.flatMap(({ orderLineId, quantity, made, wanted }) => {
    const owed = dec(quantity).minus(made);
    const taken = most(ZERO, least(left, least(owed, dec(wanted))));
    left = left.minus(taken);
    const released = finish ? owed.minus(taken) : ZERO;
    return taken.eq(0) && released.eq(0) ? [] : [{ orderLineId, made: taken.toFixed(), released: released.toFixed() }];
  });
}

/** What comes, and what will not come any more, among the components of the order this one is for. */
function sharedOut({ parents }: WorkGround, made: Dec, released: Dec): ReportEffects['parents'] {
  let came = made;
  let gone = released;
  return parents.flatMap(({ componentId, covered }) => {
    const took = least(came, dec(covered));
    const lost = least(gone, dec(covered).minus(took));
    came = came.minus(took);
    gone = gone.minus(lost);
    return took.plus(lost).eq(0) ? [] : [{ componentId, made: took.toFixed(), released: lost.toFixed() }];
  });
}
