import type { Offer as AgreementOffer } from '@core/agreements';
import { addDays, daysBetween, dec, isDay, isDecimalText, least, most, ZERO, type Day } from '@core/kernel';
import { decideChange, type ChangeEffects, type ChangeGround, type ChangeTyped, type Confirmer } from '@core/orders';
import type { Decision, Refusal } from '@core/refusals';
import { decidePairs } from './pair';
import type { Pair, PairChange, PairEffects } from './pair-state';

/** A line of an order as it was typed anew: its quantity and day may be anything yet. */
export interface LineAlong {
  id: number;
  quantity: string;
  shipDate: string;
  /** Its place among what was typed, where refusals are shown. */
  typedAt: number;
}

/**
 * What was bought for an order moves along with a change of it. // S8 L7
 * More of a line is bought more with what is due last of it; less is bought less, what is due last first, never below
 * what came; what is still to come is due by as many days sooner or later, today at the soonest; and what goes straight
 * to the customer goes where the order goes. `offers` are those of the vendors; the order's own end is decided with the
 * order. Refusals stand at the order's fields.
 */
export function decideAlong(
  pairs: readonly Pair[],
  typed: { shipToId: number | null; lines: readonly LineAlong[] },
  offers: readonly AgreementOffer[],
  workDate: Day,
): { changes: PairChange[]; decision: Decision<PairEffects> } {
  const changes = changesAlong(pairs, typed, workDate);
  if (changes.length === 0) return { changes, decision: { ok: true, effects: NOTHING, warnings: [] } };
  // What the order itself is worth and takes of its agreements is not decided here.
  const bare = pairs.map((pair) => ({ ...pair, sales: { ...pair.sales, agreedAmount: null, agreementLineId: null } }));
  const decision = decidePairs(bare, changes, offers, workDate);
  const at = (refusal: Refusal): Refusal => ({
    ...refusal,
    field: fieldOf(refusal.field, pairs, changes, typed.lines),
  });
  return {
    changes,
    decision: decision.ok
      ? { ...decision, warnings: decision.warnings.map(at) }
      : { ...decision, refusals: decision.refusals.map(at) },
  };
}

export interface ChangeAlongGround extends ChangeGround {
  /** What is on its way for the order, where it is asked to move along; else nothing. */
  pairs: readonly Pair[];
  /** The vendors' agreements that price it. */
  buying: readonly AgreementOffer[];
}

/** Changes a confirmed order, and with it what was bought for it: what stands against either stands against both. // S8 L7 */
export function decideChangeAlong(
  ground: ChangeAlongGround,
  typed: ChangeTyped,
  workDate: Day,
  by: Confirmer,
): Decision<ChangeEffects & { along: PairEffects }> {
  const alone = decideChange(ground, typed, workDate, by);
  const { effects: seen } = alone;
  if (!seen) return alone as Decision<ChangeEffects & { along: PairEffects }>;
  const lines = seen.lines.flatMap(({ id, ...line }) => (id === null ? [] : [{ id, ...line }]));
  const { decision } = decideAlong(ground.pairs, { shipToId: seen.shipToId, lines }, ground.buying, workDate);
  const along = decision.effects ?? NOTHING;
  const tiedBy = new Map(along.sales.map(({ id, tiedBy }) => [id, tiedBy]));
  const current = {
    ...ground.current,
    lines: ground.current.lines.map((line) => ({
      ...line,
      tied: dec(line.tied)
        .plus(tiedBy.get(line.id) ?? '0')
        .toFixed(),
      // What goes to another address with its order is not on its way to the old one.
      onTheWay: along.purchases.length > 0 ? '0' : line.onTheWay,
    })),
  };
  const changed = ground.pairs.length === 0 ? alone : decideChange({ ...ground, current }, typed, workDate, by);
  const effects = changed.effects && { ...changed.effects, along };
  const against = decision.ok ? [] : decision.refusals;
  // Where it cannot move along, that is said instead of what would be without it.
  const own = (changed.ok ? [] : changed.refusals).filter(
    ({ code, field }) => !TIED.includes(code) || !against.some((refusal) => refusal.field === field),
  );
  const refusals = [...own, ...against];
  const once = [...new Map(refusals.map((refusal) => [`${refusal.field} ${refusal.code}`, refusal])).values()];
  if (once.length > 0 || !changed.ok) return { ok: false, refusals: once, ...(effects && { effects }) };
  return {
    ok: true,
    effects: { ...changed.effects, along },
    warnings: [...changed.warnings, ...(decision.ok ? decision.warnings : [])],
  };
}

/** What stands against an order's end of a tie alone. */
const TIED: readonly string[] = ['below-supply-tied', 'ship-to-tied'];

const NOTHING: PairEffects = {
  ties: [],
  sales: [],
  supply: [],
  orders: [],
  purchases: [],
  released: [],
  shown: [],
  leftOut: [],
};

/** What is to become of each tie whose line is another; those that came wholly stay. */
function changesAlong(
  pairs: readonly Pair[],
  typed: { shipToId: number | null; lines: readonly LineAlong[] },
  workDate: Day,
): PairChange[] {
  const coming = pairs.filter((pair) => dec(pair.received).lt(pair.quantity));
  const changes = new Map<number, PairChange>();
  const change = (pair: Pair, more: Partial<PairChange>) => {
    const { tieId, quantity, order, sales, supply } = pair;
    const was = { quantity, shipDate: sales.shipDate, dueDate: supply.dueDate, shipToId: order.shipToId };
    changes.set(tieId, { tieId, was, ...changes.get(tieId), ...more });
  };
  for (const line of typed.lines) {
    const own = coming.filter(({ sales }) => sales.id === line.id);
    const [first] = own;
    if (!first) continue;
    for (const [pair, quantity] of quantitiesAlong(own, line.quantity)) change(pair, { quantity });
    if (!isDay(line.shipDate) || line.shipDate === first.sales.shipDate) continue;
    const by = daysBetween(first.sales.shipDate, line.shipDate);
    for (const pair of own) {
      const due = addDays(pair.supply.dueDate, by);
      change(pair, { shipDate: line.shipDate, dueDate: due < workDate ? workDate : due });
    }
  }
  const straight = coming.find(({ sales }) => sales.route === 'drop');
  if (straight && typed.shipToId !== null && typed.shipToId !== straight.order.shipToId) {
    change(straight, { shipToId: typed.shipToId });
  }
  return [...changes.values()];
}

/**
 * What each tie of a line is for from now on, where that is another. None is for nothing: what a line wants nothing of any
 * more is parted from it or cancelled by name.
 */
function quantitiesAlong(own: readonly Pair[], typed: string): [Pair, string][] {
  const { quantity, tied } = own[0]!.sales;
  if (!isDecimalText(typed, 'quantity')) return [];
  const lastFirst = [...own].sort((a, b) => (a.supply.dueDate < b.supply.dueDate ? 1 : -1));
  const by = dec(typed).minus(quantity);
  if (by.gt(0)) return [[lastFirst[0]!, dec(lastFirst[0]!.quantity).plus(by).toFixed()]];
  let less = most(ZERO, dec(tied).minus(typed));
  return lastFirst.flatMap((pair): [Pair, string][] => {
    const given = least(less, dec(pair.quantity).minus(pair.received));
    const left = dec(pair.quantity).minus(given);
    if (given.lte(0) || left.lte(0)) return [];
    less = less.minus(given);
    return [[pair, left.toFixed()]];
  });
}

function fieldOf(
  field: string,
  pairs: readonly Pair[],
  changes: readonly PairChange[],
  lines: readonly LineAlong[],
): string {
  const found = /^pairs\.(\d+)\.?(\w*)$/.exec(field);
  if (!found) return field;
  if (found[2] === 'shipToId') return 'shipToId';
  const pair = pairs.find(({ tieId }) => tieId === changes[Number(found[1])]!.tieId)!;
  const line = lines.find(({ id }) => id === pair.sales.id);
  const what = found[2] === 'dueDate' || found[2] === 'shipDate' ? 'shipDate' : 'quantity';
  return line ? `lines.${line.typedAt}.${what}` : '';
}
