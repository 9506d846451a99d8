import { dec, most, roundUpTo, ZERO, type Day, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** What goes into one of an item that is made, phantoms opened up. */
export interface PartOfOne {
  /** The item that is made. */
  itemId: number;
  partId: number;
  part: string;
  /** The option it goes in by; null where it goes in anyhow. */
  optionId: number | null;
  /** For one, scrap in it. */
  quantity: string;
  whole: boolean;
  /** On hand where it is made and held for nobody. */
  free: string;
  /** When the next of it comes; null where nothing does. */
  comesOn: Day | null;
}

/** An order line that is made to order. */
export interface MadeLine {
  itemId: number;
  item: string;
  quantity: string;
  /** What is chosen for it, and the components that stay out for that. */
  optionIds: readonly number[];
  replaced: readonly number[];
  /** Where it is said. */
  field: string;
}

/**
 * What lines that are made take of their parts beyond what is free of them, each a word at its line: what one line takes
 * is gone for the next. O(lines × parts of one). // W1 S2
 */
export function missingParts(lines: readonly MadeLine[], parts: readonly PartOfOne[]): Refusal[] {
  const taken = new Map<number, Dec>();
  return lines.flatMap((line) =>
    neededOf(line, parts).flatMap(({ part, needed }) => {
      const before = taken.get(part.partId) ?? ZERO;
      taken.set(part.partId, before.plus(needed));
      const free = most(ZERO, dec(part.free).minus(before));
      if (needed.lte(free)) return [];
      const facts = {
        item: line.item,
        part: part.part,
        needed: needed.toFixed(),
        free: free.toFixed(),
        comesOn: part.comesOn ?? '',
      };
      return [refuse('parts-short', line.field, facts)];
    }),
  );
}

/** What a line takes of each part, rounded up to what can be taken; a part that goes in twice is one. */
function neededOf({ itemId, quantity, optionIds, replaced }: MadeLine, parts: readonly PartOfOne[]) {
  const byPart = new Map<number, { part: PartOfOne; needed: Dec }>();
  for (const part of parts) {
    const goesIn = part.optionId === null ? !replaced.includes(part.partId) : optionIds.includes(part.optionId);
    if (part.itemId !== itemId || !goesIn) continue;
    const needed = roundUpTo(dec(part.quantity).times(quantity), dec(part.whole ? '1' : '0.00001'));
    byPart.set(part.partId, { part, needed: needed.plus(byPart.get(part.partId)?.needed ?? ZERO) });
  }
  return [...byPart.values()];
}
