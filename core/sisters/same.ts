import { dec, ZERO, type Dec } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import { standsAgainst, type OfferNow } from './take';

/** So much of an item of ours. */
export interface ThingLine {
  lineId: number;
  itemId: number | null;
  quantity: string;
}

function byItem(lines: readonly ThingLine[]): Map<number, Dec> {
  const found = new Map<number, Dec>();
  for (const { itemId, quantity } of lines) {
    if (itemId !== null) found.set(itemId, (found.get(itemId) ?? ZERO).plus(quantity));
  }
  return found;
}

/** Whether two documents tell of the same things in the same quantities. Nothing is the same as nothing. // X3 */
export function looksSame(theirs: readonly ThingLine[], ours: readonly ThingLine[]): boolean {
  if (theirs.length === 0 || theirs.some(({ itemId }) => itemId === null)) return false;
  const [a, b] = [byItem(theirs), byItem(ours)];
  return a.size === b.size && [...a].every(([itemId, quantity]) => b.get(itemId)?.eq(quantity) ?? false);
}

export interface SameGround {
  offer: OfferNow;
  theirs: readonly (ThingLine & { factor: string })[];
  /** Our document, and whether a sister's is one with it already. */
  document: { number: string; open: boolean; joined: boolean };
  ours: readonly ThingLine[];
}

/**
 * Says that a sister's document is one of ours that stands already: line is paired with line, and nothing is made. Refused
 * where they do not tell of the same things, or ours is one with another already. // X3
 */
export function decideSame(
  ground: SameGround,
  typed: { revision: number },
): Decision<{ pairs: { theirLineId: number; ourLineId: number; factor: string }[] }> {
  const { offer, theirs, document, ours } = ground;
  const facts = { number: offer.number, sister: offer.sister, document: document.number };
  const refusals: Refusal[] = [];
  const stands = standsAgainst(offer, typed.revision);
  if (stands) return { ok: false, refusals: [stands] };
  if (offer.state === 'taken' || offer.state === 'folded') refusals.push(refuse('offer-taken', '', facts));
  if (document.joined) refusals.push(refuse('same-joined', '', facts));
  else if (!document.open) refusals.push(refuse('same-not-open', '', facts));
  else if (!looksSame(theirs, ours)) refusals.push(refuse('not-the-same', '', facts));
  if (refusals.length > 0) return { ok: false, refusals };
  const left = [...ours];
  const pairs = theirs.map((line) => {
    const exact = left.findIndex(({ itemId, quantity }) => itemId === line.itemId && dec(quantity).eq(line.quantity));
    const at = exact >= 0 ? exact : left.findIndex(({ itemId }) => itemId === line.itemId);
    const found = at >= 0 ? left.splice(at, 1)[0]! : ours.find(({ itemId }) => itemId === line.itemId)!;
    return { theirLineId: line.lineId, ourLineId: found.lineId, factor: line.factor };
  });
  return { ok: true, effects: { pairs }, warnings: [] };
}
