import { addDays, dec, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A line of ours as a sister would hold for it. */
export interface HoldLine {
  id: number;
  lineNo: number;
  item: string;
  /** What is open of it and bought of nobody yet, in our unit. */
  open: string;
  /** The sister it would be bought of; null where its vendor is none, or none of this installation. */
  sister: {
    id: number;
    name: string;
    /** How many days she holds; 0 where she does not. */
    holdDays: number;
    /** Her work date. */
    workDate: Day;
    /** Whether we are among her customers. */
    knowsUs: boolean;
  } | null;
  /** Her item, and how many of our units are one of hers; null where none is paired. */
  theirs: { itemId: number; factor: string } | null;
  /** From when she could ship it; null where she cannot say. */
  first: Day | null;
  /** Until when she holds for it already. */
  heldUntil: Day | null;
}

export interface HeldAtSister {
  sisterId: number;
  lineId: number;
  itemId: number;
  /** In her unit. */
  quantity: string;
  day: Day;
  until: Day;
}

/**
 * Lines of an order that are bought of a sister are held there until a day of hers, each from when she could ship it: what
 * she makes and has is promised to them meanwhile. // T8 X4
 */
export function decideHold(
  { order, lines }: { order: { number: string; state: string }; lines: readonly HoldLine[] },
  { lineIds }: { lineIds: readonly number[] },
): Decision<{ held: HeldAtSister[] }> {
  const refusals: Refusal[] = [];
  if (order.state !== 'draft' && order.state !== 'confirmed')
    refusals.push(refuse('order-not-open', '', { order: order.number, state: order.state }));
  if (lineIds.length === 0) refusals.push(refuse('nothing-asked', 'lineIds', { what: 'a line' }));
  const held: HeldAtSister[] = [];
  lineIds.forEach((id, at) => {
    const field = `lineIds.${at}`;
    const line = lines.find((each) => each.id === id);
    if (!line) return refusals.push(refuse('unknown', field, { what: 'This line' }));
    const stands = againstHolding(line, field);
    if (stands) return refusals.push(stands);
    const { sister, theirs, first, open } = line;
    return held.push({
      sisterId: sister!.id,
      lineId: id,
      itemId: theirs!.itemId,
      quantity: dec(dec(open).div(theirs!.factor).toFixed(5)).toFixed(),
      day: first!,
      until: addDays(sister!.workDate, sister!.holdDays),
    });
  });
  return decided(refusals, () => ({ held }));
}

/** Lets go what is held, once: of which the day is over, it lapses. // X4 */
export function decideLetGo(
  { state, number, untilDay }: { state: string; number: string; untilDay: Day },
  workDate: Day,
): Decision<{ state: 'lapsed' | 'let-go' }> {
  return decided(state === 'held' ? [] : [refuse('hold-over', '', { order: number })], () => ({
    state: untilDay < workDate ? ('lapsed' as const) : ('let-go' as const),
  }));
}

function againstHolding(
  { lineNo, item, open, sister, theirs, first, heldUntil }: HoldLine,
  field: string,
): Refusal | null {
  const line = String(lineNo);
  if (!sister || dec(open).lte(0)) return refuse('not-of-sister', field, { line, item });
  const facts = { line, item, sister: sister.name };
  if (heldUntil !== null) return refuse('held-already', field, { ...facts, until: heldUntil });
  if (sister.holdDays === 0) return refuse('holds-nothing', field, facts);
  if (!sister.knowsUs) return refuse('unknown-to-sister', field, facts);
  if (theirs === null) return refuse('item-unpaired', field, { item, sister: sister.name });
  return first === null ? refuse('sister-cannot-say', field, facts) : null;
}
