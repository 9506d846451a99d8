import { numbersAtLast, takeNumbers } from './numbers';
import { World } from '../testing/world';

/** Numbers of documents: in their order, without gaps where an act is rolled back, however they are taken. */
describe('numbers', () => {
  let world: World;
  beforeAll(async () => (world = await World.make()));
  afterAll(() => world.end());

  /** Two numbers of a kind and one of another, in the act's last trip. */
  async function atLast(): Promise<string[]> {
    const { companyId } = world.masters;
    const { statements, number } = numbersAtLast(companyId, { CI: 2, VI: 1 });
    const pieces = [number('CI'), number('VI'), number('CI')];
    return world.serving.database.transaction(async (tx) => {
      const answers = await tx.batch([
        ...statements,
        { sql: `SELECT ${pieces.map((piece, at) => `${piece.sql} AS n${at}`).join(', ')}`, values: [], rows: true },
      ]);
      return Object.values((answers.at(-1) as Record<string, string>[])[0]!);
    });
  }
  const taken = (fail = false) =>
    world.serving.database.transaction(async (tx) => {
      const number = await takeNumbers(tx, world.masters.companyId, { CI: 1, VI: 2 });
      const numbers = [number('CI'), number('VI'), number('VI')];
      if (fail) throw new Error('no');
      return numbers;
    });

  it('begin at one, and go on in either way of taking them', async () => {
    expect(await atLast()).toEqual(['CI-0001', 'VI-0001', 'CI-0002']);
    expect(await taken()).toEqual(['CI-0003', 'VI-0002', 'VI-0003']);
    await expect(taken(true)).rejects.toThrow('no');
    expect(await atLast()).toEqual(['CI-0004', 'VI-0004', 'CI-0005']);
  });

  it('grow a digit where four are not enough', async () => {
    await world.serving.database.run("UPDATE number_series SET next_serial = 9999 WHERE kind IN ('CI', 'VI')");
    expect(await atLast()).toEqual(['CI-9999', 'VI-9999', 'CI-10000']);
    expect(await taken()).toEqual(['CI-10001', 'VI-10000', 'VI-10001']);
  });

  it('bear what their company writes before them, either way', async () => {
    await world.serving.database.run("UPDATE number_series SET prefix = 'INV/', next_serial = 7 WHERE kind = 'CI'");
    expect(await atLast()).toEqual(['INV/0007', 'VI-10002', 'INV/0008']);
    expect((await taken())[0]).toBe('INV/0009');
  });

  it('are each given once to acts that take them at once', async () => {
    const all = (await Promise.all(Array.from({ length: 8 }, () => taken()))).flat();
    expect(new Set(all).size).toBe(all.length);
  });

  it('that were not asked for are not given', () => {
    const { number } = numbersAtLast(world.masters.companyId, { CI: 1 });
    number('CI');
    expect(() => number('CI')).toThrow('no CI number was asked for');
    expect(() => number('VI')).toThrow('no VI number was asked for');
  });
});
