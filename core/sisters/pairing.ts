import { dec, isDecimalText } from '@core/kernel';
import type { Transfer } from './transfer';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export interface PairableItem {
  id: number;
  number: string;
  name: string;
  unit: string;
}

/** Our item and theirs, one thing; `factor` of our units are one of theirs. */
export interface PairedItem {
  itemId: number;
  theirItemId: number;
  factor: string;
}

/**
 * Items that bear one number in both companies and are not paired yet, whatever the case of letters and marks between;
 * of numbers that are several's, none. // X1
 */
export function proposePairs(
  ours: readonly PairableItem[],
  theirs: readonly PairableItem[],
  paired: readonly PairedItem[],
): { ours: PairableItem; theirs: PairableItem }[] {
  const bare = ({ number }: PairableItem) => number.toUpperCase().replace(/[^\p{L}\p{N}]/gu, '');
  const byNumber = new Map<string, PairableItem | null>();
  for (const item of theirs) byNumber.set(bare(item), byNumber.has(bare(item)) ? null : item);
  const known = {
    ours: new Set(paired.map((each) => each.itemId)),
    theirs: new Set(paired.map((each) => each.theirItemId)),
  };
  return ours.flatMap((item) => {
    const twin = byNumber.get(bare(item));
    const several = ours.some((other) => other.id !== item.id && bare(other) === bare(item));
    return twin && !several && !known.ours.has(item.id) && !known.theirs.has(twin.id)
      ? [{ ours: item, theirs: twin }]
      : [];
  });
}

export interface PairingGround {
  paired: readonly PairedItem[];
  ours: ReadonlyMap<number, { number: string }>;
  theirs: ReadonlyMap<number, { number: string }>;
  sister: string;
}

/** Pairs items one to one, with how many of our units are one of theirs; pairs that are named again are changed. // X1 */
export function decidePairing(
  ground: PairingGround,
  typed: { pairs: readonly PairedItem[]; removed: readonly number[] },
): Decision<{ pairs: PairedItem[]; removed: number[] }> {
  const refusals: Refusal[] = [];
  if (typed.pairs.length + typed.removed.length === 0)
    refusals.push(refuse('nothing-asked', 'pairs', { what: 'a pair' }));
  const gone = new Set([...typed.removed, ...typed.pairs.map(({ itemId }) => itemId)]);
  const stay = ground.paired.filter(({ itemId }) => !gone.has(itemId));
  typed.pairs.forEach((pair, at) => {
    const field = (name: string) => `pairs.${at}.${name}`;
    if (!ground.ours.has(pair.itemId)) refusals.push(refuse('unknown', field('itemId'), { what: 'This item' }));
    if (!ground.theirs.has(pair.theirItemId))
      refusals.push(refuse('unknown', field('theirItemId'), { what: 'Their item' }));
    if (!isDecimalText(pair.factor, 'quantity'))
      refusals.push(refuse('not-a-number', field('factor'), { what: 'How many of ours' }));
    else if (dec(pair.factor).lte(0))
      refusals.push(refuse('not-above-zero', field('factor'), { what: 'How many of ours' }));
    const taken = [...stay, ...typed.pairs.slice(0, at)].find(({ theirItemId }) => theirItemId === pair.theirItemId);
    if (taken) {
      const facts = {
        theirs: ground.theirs.get(pair.theirItemId)?.number ?? '',
        ours: ground.ours.get(taken.itemId)?.number ?? '',
        sister: ground.sister,
      };
      refusals.push(refuse('paired-already', field('theirItemId'), facts));
    }
  });
  return decided(refusals, () => ({ pairs: [...typed.pairs], removed: [...typed.removed] }));
}

export interface HalfGround {
  /** The company named is ours. */
  own: boolean;
  /** Whether the customer and the vendor named are ours; none named is. */
  customer: boolean;
  vendor: boolean;
  /** Another sister that one of them is already, and which of them. */
  other: { name: string; at: 'customerId' | 'vendorId' } | null;
}

/** Our half of a pair: who a sister is among our customers and vendors, and what she pays; a share of 0 or more, in per cent. // X1 X5 */
export function decideHalf(
  { own, customer, vendor, other }: HalfGround,
  { perCent, transfer }: { perCent: string; transfer: Transfer },
): Decision<{ perCent: string }> {
  const refusals: Refusal[] = [];
  if (own) refusals.push(refuse('unknown', 'sisterId', { what: 'This company' }));
  if (!customer) refusals.push(refuse('unknown', 'customerId', { what: 'This customer' }));
  if (!vendor) refusals.push(refuse('unknown', 'vendorId', { what: 'This vendor' }));
  if (other) refusals.push(refuse('party-of-sister', other.at, { sister: other.name }));
  const typed = perCent.trim() === '' ? '0' : perCent.trim();
  if (!isDecimalText(typed, 'percent')) refusals.push(refuse('not-a-number', 'perCent', { what: 'The share' }));
  else if (dec(typed).lt(0)) refusals.push(refuse('below-zero', 'perCent', { what: 'The share' }));
  else if (transfer === 'list-less' && dec(typed).gte(100)) {
    refusals.push(refuse('share-of-all', 'perCent', {}));
  }
  return decided(refusals, () => ({ perCent: dec(typed).toFixed() }));
}
