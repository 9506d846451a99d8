import * as z from 'zod';
import type { Schema } from '@api/kit';
import type { Chance } from '@core/kernel';

/** Texts that have broken something somewhere. */
export const TEXTS = [
  '',
  ' ',
  '0',
  '-1',
  '1.5',
  '1e5',
  'NaN',
  'Infinity',
  '1,000.00',
  '0.00000001',
  '99999999999999999999',
  '9999999999999.99999',
  "'; DROP TABLE item; --",
  '=SUM(A1)',
  '<b>x</b>',
  '%',
  '_',
  '\\',
  'x'.repeat(61),
  'x'.repeat(5000),
  'Hôtels',
  '１２',
  'ß',
  '\u200b',
  '2027-03-08',
  '2027-02-30',
  '0000-00-00',
  '9999-12-31',
  '10000-01-01',
  'fri',
  'piece',
  'toString',
  '__proto__',
];
const USUAL = ['1', '2', '5', '10', '0.5', '2027-03', '2027-03-08', '2027-06-30', 'piece', 'x', ''];
export const NUMBERS = [0, 1, 2, 3, 5, 9, -1, 1.5, 4_294_967_295, 4_294_967_296, Number.MAX_SAFE_INTEGER, 1e308];
const OTHERS = [null, true, false, {}, [], '1', 1];

interface Def {
  innerType?: Schema;
  in?: Schema;
  options?: Schema[];
  values?: unknown[];
  keyType?: Schema;
  valueType?: Schema;
}

/** Something a schema may or may not take: mostly of the right kind, now and then of any other. */
export function anyOf(schema: Schema, chance: Chance): unknown {
  if (chance.next() < 0.01) return chance.pick(OTHERS);
  if (schema instanceof z.ZodObject) {
    return Object.fromEntries(
      Object.entries(schema.shape as Record<string, Schema>).map(([name, inner]) => [name, anyOf(inner, chance)]),
    );
  }
  if (schema instanceof z.ZodArray) {
    return Array.from({ length: Math.floor(chance.next() * 4) }, () => anyOf(schema.element as Schema, chance));
  }
  if (schema instanceof z.ZodNullable) return chance.next() < 0.3 ? null : anyOf(schema.unwrap() as Schema, chance);
  if (schema instanceof z.ZodOptional)
    return chance.next() < 0.4 ? undefined : anyOf(schema.unwrap() as Schema, chance);
  if (schema instanceof z.ZodEnum) return chance.pick(schema.options);
  if (schema instanceof z.ZodBoolean) return chance.next() < 0.5;
  // Mostly what may be there: a document of one of the first ids, a text of a few letters.
  if (schema instanceof z.ZodNumber) return chance.next() < 0.85 ? chance.whole(1, 6) : chance.pick(NUMBERS);
  if (schema instanceof z.ZodString) return chance.pick(chance.next() < 0.6 ? USUAL : TEXTS);
  const { innerType, in: piped, options, values, valueType } = schema.def as Def;
  if (values) return chance.pick(values);
  if (options) return anyOf(chance.pick(options), chance);
  if (valueType) return Object.fromEntries([1, 2].map(() => [chance.pick(TEXTS), anyOf(valueType, chance)]));
  return innerType || piped ? anyOf((innerType ?? piped)!, chance) : chance.pick(OTHERS);
}
