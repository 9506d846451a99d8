import { dec, least, most, sum, ZERO, type Dec } from '@core/kernel';
import { decided, type Decision, type Refusal } from '@core/refusals';
import { decideReport, type ReportEffects } from './report';
import type { There, WorkGround } from './work-order';

/** What of an order line is to go out beyond what is held for it. */
export interface ShortLine {
  lineId: number;
  short: string;
  /** Where it is refused. */
  field: string;
}

/** What is assembled in the act that ships it, by the place of the order among those that were given. */
export interface Assembled {
  at: number;
  effects: ReportEffects;
}

/**
 * Assembles what lines lack while they are shipped: of the orders made for them as much as is short, components, work and
 * output in one report each. What one order uses is not there for the next. What no order makes is left to be refused
 * where it ships. // P5
 */
export function decideAssembly(works: readonly WorkGround[], lines: readonly ShortLine[]): Decision<Assembled[]> {
  const refusals: Refusal[] = [];
  const assembled: Assembled[] = [];
  const left = new Map(lines.map(({ lineId, short }) => [lineId, dec(short)]));
  const used = new Map<number, { quantity: Dec; value: Dec }>();
  works.forEach((work, at) => {
    if (work.order.state !== 'firm' && work.order.state !== 'running') return;
    let free = dec(work.order.quantity).minus(work.order.finished).minus(work.order.scrapped);
    const taken = new Map<number, Dec>();
    for (const { orderLineId, quantity, made } of work.ties) {
      const much = least(least(left.get(orderLineId) ?? ZERO, dec(quantity).minus(made)), free);
      if (much.lte(0)) continue;
      taken.set(orderLineId, much);
      left.set(orderLineId, left.get(orderLineId)!.minus(much));
      free = free.minus(much);
    }
    if (taken.size === 0) return;
    const decision = decideReport(forThese(work, taken, used), {
      operationId: null,
      good: sum(taken.values()).toFixed(),
      scrapped: '',
      used: [],
      worked: [],
      finish: false,
    });
    if (!decision.ok) {
      const { field } = lines.find(({ lineId }) => taken.has(lineId))!;
      refusals.push(...decision.refusals.map((refusal) => ({ ...refusal, field })));
      return;
    }
    for (const { itemId, quantity, cost } of decision.effects.components) {
      const before = used.get(itemId) ?? { quantity: ZERO, value: ZERO };
      used.set(itemId, { quantity: before.quantity.plus(quantity), value: before.value.plus(cost) });
    }
    assembled.push({ at, effects: decision.effects });
  });
  return decided(refusals, () => assembled);
}

/** An order as it stands for the lines that ship: what comes out is theirs, and what others used is gone. */
function forThese(
  work: WorkGround,
  taken: ReadonlyMap<number, Dec>,
  used: ReadonlyMap<number, { quantity: Dec; value: Dec }>,
): WorkGround {
  const theirs = work.ties
    .filter(({ orderLineId }) => taken.has(orderLineId))
    .map((tie) => ({ ...tie, wanted: most(taken.get(tie.orderLineId)!, ZERO).toFixed() }));
  const others = work.ties.filter(({ orderLineId }) => !taken.has(orderLineId));
  const after = (itemId: number, there: There): There => {
    const gone = used.get(itemId);
    return gone
      ? {
          ...there,
          onHand: dec(there.onHand).minus(gone.quantity).toFixed(),
          value: dec(there.value).minus(gone.value).toFixed(),
        }
      : there;
  };
  return {
    ...work,
    ties: [...theirs, ...others],
    components: work.components.map((each) => ({ ...each, there: after(each.itemId, each.there) })),
  };
}
