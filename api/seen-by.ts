import * as z from 'zod';
import type { Schema } from './kit';

const SEEN_BY = new WeakMap<Schema, string>();

/** The right a part of an answer is shown to; undefined where whoever gets the answer sees it. */
export const rightToSee = (schema: Schema) => SEEN_BY.get(schema);

/** A text that only who has that right is told; everybody else gets an empty one. // G7 */
export function seenBy<S extends z.ZodType<string>>(right: string, text: S) {
  const told = z.union([text, z.literal('')]);
  SEEN_BY.set(told, right);
  return told;
}

/** A list that only who has that right is told; everybody else gets an empty one. // G7 */
export function listSeenBy<S extends Schema>(right: string, list: z.ZodArray<S>) {
  SEEN_BY.set(list, right);
  return list;
}
