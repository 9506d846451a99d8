import * as z from 'zod';
import type { Schema } from '@api/kit';
import { RIGHTS } from '@api/access';
import { chanceOf, type Chance } from '@core/kernel';
import { ROOMS } from '../rooms';
import { agreed, placed, World, type Visitor } from '../testing/world';

/** Texts that have broken something somewhere. */
const TEXTS = [
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
const USUAL = ['1', '2', '5', '10', '0.5', '2027-03-08', '2027-06-30', 'piece', 'x', ''];
const NUMBERS = [0, 1, 2, 3, 5, 9, -1, 1.5, 4_294_967_295, 4_294_967_296, Number.MAX_SAFE_INTEGER, 1e308];
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
function anyOf(schema: Schema, chance: Chance): unknown {
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

const ROUNDS = Number(process.env['FUZZ_ROUNDS'] ?? 6);
const FIRST_SEED = Number(process.env['FUZZ_SEED'] ?? 1);

/** Every act and every read, given what no screen sends: answered or refused, never a fault, and nothing is lost. // G3 G4 */
describe('whatever is sent', () => {
  let world: World;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    await world.serving.database.run('UPDATE role SET rights = ?', [JSON.stringify(RIGHTS)]);
    salmah = await world.visitor();
    await placed(world, salmah, await agreed(world, salmah), '5');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  it.each(ROOMS.flatMap(({ acts = [] }) => acts).map(({ endpoint }) => [endpoint.name, endpoint.input] as const))(
    '%s answers or refuses',
    async (name, input) => {
      const faults: unknown[] = [];
      for (let seed = FIRST_SEED; seed < FIRST_SEED + ROUNDS; seed += 1) {
        const sent = anyOf(input, chanceOf(seed));
        const preview = await salmah.post(`/api/acts/${name}/preview`, sent);
        const done = await salmah.raw(name, sent);
        for (const answer of [preview, done]) if (answer.status >= 500) faults.push({ seed, sent, answer });
      }
      expect(faults).toEqual([]);
    },
  );

  it('every read answers or refuses', async () => {
    const faults: unknown[] = [];
    const reads = ROOMS.flatMap(({ answers = [] }) => answers).filter(({ endpoint }) => endpoint.method === 'GET');
    for (const { endpoint } of reads) {
      for (let seed = FIRST_SEED; seed < FIRST_SEED + ROUNDS; seed += 1) {
        const chance = chanceOf(seed);
        const path = endpoint.path.replace(/:\w+/g, () =>
          encodeURIComponent(String(chance.next() < 0.5 ? chance.pick(NUMBERS) : chance.pick(TEXTS)) || '1'),
        );
        const query = new URLSearchParams();
        for (const [key, value] of Object.entries((anyOf(endpoint.query, chance) ?? {}) as Record<string, unknown>)) {
          if (value !== undefined) query.append(key, String(value));
        }
        const address = `/api${path}?${query.toString()}`;
        const response = await fetch(world.serving.address + address, { headers: { cookie: salmah.cookie } });
        const text = await response.text();
        if (response.status >= 500) faults.push({ seed, address, text });
      }
    }
    expect(reads.length).toBeGreaterThan(50);
    expect(faults).toEqual([]);
  });
});
