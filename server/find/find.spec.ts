import { World, type Visitor } from '../testing/world';

describe('finding', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());

  const found = async (words: string) =>
    (
      await salmah.get<{ rows: { kind: string; number: string; name: string }[] }>(
        `/api/find?q=${encodeURIComponent(words)}`,
      )
    ).rows;

  it('looks for each word, in any order, in number, name and what else a kind is known by', async () => {
    const named = async (words: string) => (await found(words)).map(({ kind, name }) => `${kind} ${name}`);
    expect(await named('resort teratai')).toEqual(['customer Teratai Bay Resort']);
    expect(await named('teratai kasturi')).toEqual([]);
    expect(await named('5550 2208')).toEqual(['customer Kasturi Bottling']);
    expect(await named('1101 arus')).toEqual(['vendor Arus Membrane Supply']);
    // By who rings, too: their name or their own number.
    expect(await named('rohani')).toEqual(['customer Teratai Bay Resort']);
    expect(await named('013-5550 3102')).toEqual(['customer Teratai Bay Resort']);
    expect(await named('wahid')).toEqual(['vendor Garam Murni Salt']);
    expect(await named('40 membrane ro-')).toEqual(expect.arrayContaining(['item Membrane, 4 × 40 in']));
  });

  it('takes a sign of the search for itself, and asks for two letters at least', async () => {
    expect(await found('100% teratai')).toEqual([]);
    expect(await found('_eratai')).toEqual([]);
    expect(await found('t')).toEqual([]);
    expect(await found('   ')).toEqual([]);
  });
});
