import { sameText } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** What stands against the numbers that were typed for so many pieces: one told twice, more or fewer of them; null for nothing. */
export function manyFault(
  item: string,
  { quantity, typed, field }: { quantity: string; typed: readonly string[]; field: string },
): Refusal | null {
  const texts = typed.map((number) => sameText(number.trim()));
  const twice = typed.find((_number, at) => texts.indexOf(texts[at]!) < at);
  if (twice !== undefined) return refuse('number-twice', field, { number: twice.trim() });
  if (texts.length === Number(quantity)) return null;
  return refuse('numbers-not-as-many', field, { item, quantity, numbers: String(texts.length) });
}
