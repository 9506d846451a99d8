import { dec, isWholeUnit, sameText, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { countIn, decidePattern, NUMBER_LENGTH, numberBy } from './pattern';
import type { SerialPlace } from './serial';

/** An item that is to be kept by number, or is. */
export interface KeepGround {
  item: { number: string; unit: string };
  /** We keep it, buy it or make it: it is no service. */
  goods: boolean;
  /** The count of the next number it makes; null where it is not kept by number yet. */
  next: number | null;
  /** What of it is at our places. */
  onHand: string;
  /** A running order that makes or uses it; empty for none. */
  running: string;
  /** Numbers it has. */
  numbers: readonly string[];
}

/**
 * Keeps an item by number from now on, or changes how its numbers are made: the count goes on after the highest that the
 * pattern could have made. Refused for what is no whole piece or not kept, and where some without a number are here or
 * under way. // P6
 */
export function decideKeep(
  { item, goods, next, onHand, running, numbers }: KeepGround,
  typed: { pattern: string },
  day: Day,
): Decision<{ pattern: string; next: number; nextNumber: string }> {
  const decision = decidePattern(typed.pattern);
  const refusals: Refusal[] = decision.ok ? [] : [...decision.refusals];
  const facts = { item: item.number };
  if (!goods) refusals.push(refuse('not-kept', '', facts));
  else if (!isWholeUnit(item.unit)) refusals.push(refuse('number-whole', '', { ...facts, unit: item.unit }));
  else if (next === null && !dec(onHand).eq(0)) refusals.push(refuse('number-stock', '', { ...facts, onHand }));
  else if (next === null && running) refusals.push(refuse('number-running', '', { ...facts, what: running }));
  return decided(refusals, () => {
    const { pattern } = (decision as { effects: { pattern: string } }).effects;
    const counts = numbers.flatMap((number) => countIn(pattern, number) ?? []);
    const count = counts.reduce((most, each) => Math.max(most, each + 1), next ?? 1);
    return { pattern, next: count, nextNumber: pattern === '' ? '' : numberBy(pattern, count, day) };
  });
}

/** A piece whose number is to be written anew. */
export interface CorrectGround {
  serial: { number: string; item: string };
  /** Another piece of the item has the number that was typed. */
  taken: { place: SerialPlace; at: string; order: string } | null;
}

/** A mistyped number is written as it is: refused where another piece of the item has it. // P6 */
export function decideCorrect(
  { serial, taken }: CorrectGround,
  typed: { was: string; number: string; reason: string },
): Decision<{ number: string; reason: string }> {
  const number = typed.number.trim();
  const refusals: Refusal[] = [];
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (typed.was !== serial.number) refusals.push(refuse('number-changed', '', { was: typed.was, is: serial.number }));
  if (number === '' || number.length > NUMBER_LENGTH) {
    refusals.push(refuse('not-a-serial', 'number', { most: String(NUMBER_LENGTH) }));
  } else if (number === serial.number) refusals.push(refuse('number-same', 'number', { number }));
  else if (taken && sameText(number) !== sameText(serial.number)) {
    const { place, at, order } = taken;
    refusals.push(refuse('number-exists', 'number', { number, item: serial.item, is: place, at, order }));
  }
  return decided(refusals, () => ({ number, reason: typed.reason.trim() }));
}

/** A used piece, and the products of its order. */
export interface PartGround {
  serial: { number: string; place: SerialPlace };
  /** The order it was used in. */
  work: string;
  products: readonly { id: number; number: string }[];
}

/** Says which product of its order a used piece is part of; null for none. // P6 */
export function decidePart(
  { serial, work, products }: PartGround,
  { productId }: { productId: number | null },
): Decision<{ product: string }> {
  const product = products.find(({ id }) => id === productId);
  const refusals: Refusal[] = [];
  if (serial.place !== 'used') refusals.push(refuse('number-not-part', '', { number: serial.number }));
  else if (productId !== null && !product) {
    refusals.push(refuse('number-not-product', 'productId', { work }));
  }
  return decided(refusals, () => ({ product: product?.number ?? '' }));
}
