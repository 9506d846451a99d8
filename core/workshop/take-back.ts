import { dec, least, sum, ZERO, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { WorkGround, WorkState } from './work-order';

/** A work report as it was written. */
export interface ReportNow {
  id: number;
  number: string;
  good: string;
  scrapped: string;
  materialCost: string;
  labourCost: string;
  outputCost: string;
  scrapCost: string;
  variance: string;
  finishes: boolean;
  forParent: string;
  parentReleased: string;
  /** The report it takes back itself, and the one that took it back; empty for none. */
  reverses: string;
  reversedBy: string;
  components: readonly { componentId: number; itemId: number; quantity: string; cost: string }[];
  operations: readonly { operationId: number; done: string; scrapped: string; minutes: number; cost: string }[];
  ties: readonly {
    orderLineId: number;
    order: string;
    made: string;
    released: string;
    /** What is held for the line now, and open of it and not on its way. */
    reserved: string;
    wanted: string;
  }[];
}

export interface TakenBackGround extends Pick<WorkGround, 'order' | 'operations' | 'product' | 'parents'> {
  report: ReportNow;
  /** Other reports of the order that stand. */
  others: number;
  /** The order this one is for goes on. */
  parentOpen: boolean;
  /** Of the components there, what nothing is to come for, by component. */
  uncovered: ReadonlyMap<number, string>;
}

/** What taking a report back writes; what it writes of the report itself is all of it the other way. */
export interface TakeBackEffects {
  reason: string;
  /** What the goods that came out are worth by now, and how that differs from what they came out at. */
  value: string;
  stockDifference: string;
  ties: { orderLineId: number; made: string; again: string }[];
  parents: { componentId: number; again: string }[];
  state: WorkState;
  inWork: string;
}

/**
 * Takes a work report back by another that names it: components come back at what they left at, what came out leaves
 * again, what was held for order lines is let go of, and what was let go of at the end is tied again as far as the lines
 * still want it. Refused once it was, where a later report stands on it, and where what came out is no longer here. // P1 W3
 */
export function decideTakeBackWork(ground: TakenBackGround, typed: { reason: string }): Decision<TakeBackEffects> {
  const { report, order, operations, product } = ground;
  const refusals: Refusal[] = [];
  const document = report.number;
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (report.reversedBy) refusals.push(refuse('reversed-already', '', { document, by: report.reversedBy }));
  else if (report.reverses) refusals.push(refuse('is-reversal', '', { document, of: report.reverses }));
  else if (order.state === 'finished' && !report.finishes) {
    refusals.push(refuse('work-finished', '', { document, order: order.number }));
  } else if (isBuiltOn(ground)) refusals.push(refuse('report-built-on', '', { document, order: order.number }));
  else refusals.push(...goneOf(ground));
  return decided(refusals, () => {
    const out = dec(report.outputCost);
    const whole = dec(report.good).eq(product.onHand);
    const value = whole ? dec(product.value) : least(out, dec(product.value));
    const inWork = dec(order.inWork)
      .minus(report.materialCost)
      .minus(report.labourCost)
      .plus(out)
      .plus(report.scrapCost)
      .plus(report.variance);
    const begun = ground.others > 0;
    return {
      reason: typed.reason.trim(),
      value: value.toFixed(),
      stockDifference: value.minus(out).toFixed(),
      ties: report.ties.map(({ orderLineId, made, released, wanted }) => ({
        orderLineId,
        made,
        again: least(dec(released), dec(wanted).plus(made)).toFixed(),
      })),
      parents: expectedAgain(ground),
      state:
        begun || operations.some(({ id, minutesDone }) => minutesDone > minutesOf(report, id)) ? 'running' : 'firm',
      inWork: inWork.toFixed(),
    };
  });
}

const minutesOf = ({ operations }: ReportNow, id: number) =>
  sum(operations.filter(({ operationId }) => operationId === id).map(({ minutes }) => dec(minutes))).toNumber();

/** Pieces that passed a later operation since would not have passed this one. */
function isBuiltOn({ report, operations }: TakenBackGround): boolean {
  const doneAfter = operations.map(({ id, done }) =>
    dec(done).minus(report.operations.find(({ operationId }) => operationId === id)?.done ?? '0'),
  );
  const scrappedAfter = operations.map(({ id, scrapped }) =>
    dec(scrapped).minus(report.operations.find(({ operationId }) => operationId === id)?.scrapped ?? '0'),
  );
  return doneAfter.some((done, place) => place > 0 && doneAfter[place - 1]!.lt(done.plus(scrappedAfter[place]!)));
}

/** What came out is here still, and held for whom it was held, or free. */
function goneOf({ report, order, product }: TakenBackGround): Refusal[] {
  const held = sum(report.ties.map(({ made }) => dec(made)));
  const gone = report.ties.filter(({ reserved, made }) => dec(reserved).lt(made));
  if (gone.length > 0) {
    const [tie] = gone;
    const facts = { document: report.number, item: order.item, order: tie!.order, quantity: tie!.made };
    return [refuse('made-goods-gone', '', facts)];
  }
  const free = dec(product.onHand).minus(product.reserved);
  const rest = dec(report.good).minus(held);
  if (rest.lte(free)) return [];
  const here = (free.gt(0) ? free : ZERO).toFixed();
  return [refuse('goods-gone', '', { document: report.number, item: order.item, quantity: rest.toFixed(), here })];
}

/** What the order it is for expects of it again: what it got, and what was let go of, as far as nothing else comes. */
function expectedAgain({ report, parents, parentOpen, uncovered }: TakenBackGround): TakeBackEffects['parents'] {
  if (!parentOpen) return [];
  let left: Dec = dec(report.forParent).plus(report.parentReleased);
  return parents.flatMap(({ componentId }) => {
    const again = least(left, dec(uncovered.get(componentId) ?? '0'));
    left = left.minus(again);
    return again.gt(0) ? [{ componentId, again: again.toFixed() }] : [];
  });
}
