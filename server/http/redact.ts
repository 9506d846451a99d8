import * as z from 'zod';
import type { Schema } from '@api/kit';
import { rightToSee } from '@api/seen-by';

const HIDES = new WeakMap<Schema, boolean>();

/** Whether anything of what that schema tells is not for everybody. */
function hides(schema: Schema): boolean {
  const known = HIDES.get(schema);
  if (known !== undefined) return known;
  const found = rightToSee(schema) !== undefined || innerOf(schema).some(hides);
  HIDES.set(schema, found);
  return found;
}

function innerOf(schema: Schema): Schema[] {
  if (schema instanceof z.ZodObject) return Object.values(schema.shape as Record<string, Schema>);
  if (schema instanceof z.ZodArray) return [schema.element as Schema];
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodOptional) return [schema.unwrap() as Schema];
  return [];
}

/** An answer without what these rights do not show: texts and lists become empty. O(answer) where anything may be. // G7 */
export function redacted(schema: Schema, answer: unknown, rights: readonly string[]): unknown {
  if (answer === null || answer === undefined || !hides(schema)) return answer;
  const right = rightToSee(schema);
  if (right !== undefined && !rights.includes(right)) return Array.isArray(answer) ? [] : '';
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodOptional) {
    return redacted(schema.unwrap() as Schema, answer, rights);
  }
  if (schema instanceof z.ZodArray) {
    return (answer as unknown[]).map((each) => redacted(schema.element as Schema, each, rights));
  }
  if (!(schema instanceof z.ZodObject)) return answer;
  const shape = schema.shape as Record<string, Schema>;
  return Object.fromEntries(
    Object.entries(answer).map(([name, value]) => [name, shape[name] ? redacted(shape[name], value, rights) : value]),
  );
}
