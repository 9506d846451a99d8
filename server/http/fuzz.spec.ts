import { RIGHTS } from '@api/access';
import { chanceOf } from '@core/kernel';
import { ROOMS } from '../rooms';
import { anyOf, NUMBERS, TEXTS } from '../testing/any-input';
import { agreed, placed, World, type Visitor } from '../testing/world';

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
