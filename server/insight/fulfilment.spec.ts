import type * as z from 'zod';
import type { Fulfilment } from '@api/insight';
import { fixedTerm } from '../sample/terms';
import { placed, agreed, World, type Visitor } from '../testing/world';

type Out = z.output<typeof Fulfilment>;

describe('A4 fulfilment', () => {
  let world: World;
  let salmah: Visitor;
  let resort: { id: number; lineId: number };

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    const customer = (name: string) => world.masters.customers.get(name)!.id;
    resort = await agreed(world, salmah, {}, '100');
    await agreed(world, salmah, { customerId: customer('Kasturi Bottling') }, '10');
    await agreed(world, salmah, {
      customerId: customer('Kasturi Bottling'),
      lines: [fixedTerm(world.item('FC-20'), '1000', '8')],
    });
    const { purchaseId, purchaseLineId } = await placed(world, salmah, resort, '20');
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '5' }] });
  });
  afterAll(() => world.end());

  const read = (query: string) => salmah.get<Out>(`/api/fulfilment?${query}`);
  const rows = async (query: string) =>
    (await read(query)).rows.map((row) => [row.name, row.agreements, row.committed, row.released, row.shipped]);

  it('sums what was committed, released and shipped by customer, the largest first', async () => {
    expect(await rows('by=customer')).toEqual([
      ['Teratai Bay Resort', 1, '74000', '14800', '3700'],
      ['Kasturi Bottling', 2, '15400', '0', '0'],
    ]);
  });

  it('sums the same by agreement, and by currency', async () => {
    expect(await rows('by=currency')).toEqual([['MYR', 3, '89400', '14800', '3700']]);
    const each = await rows('by=agreement');
    expect(each.map(([, , committed]) => committed)).toEqual(['74000', '8000', '7400']);
  });

  it('is narrowed to a customer, a state, dates and a side', async () => {
    const id = world.masters.customers.get('Kasturi Bottling')!.id;
    expect(await rows(`by=customer&customerId=${id}`)).toEqual([['Kasturi Bottling', 2, '15400', '0', '0']]);
    expect(await rows('by=customer&state=paused')).toEqual([]);
    expect(await rows('by=customer&dates=passed')).toEqual([]);
    expect(await rows('by=customer&dates=running')).toHaveLength(2);
    expect(await rows('by=customer&side=buying')).toEqual([]);
  });

  it('gives the largest groups alone, and says that there are more', async () => {
    const few = await read('by=customer&rows=1');
    expect([few.rows.length, few.more]).toEqual([1, true]);
    expect((await read('by=customer&rows=2')).more).toBe(false);
  });

  it('shows an agreement’s new counters at once, and drops one that was never in force', async () => {
    await placed(world, salmah, resort, '10');
    expect((await rows('by=customer'))[0]).toEqual(['Teratai Bay Resort', 1, '74000', '22200', '3700']);
    await salmah.does('copyAgreement', { id: resort.id });
    expect((await rows('by=customer'))[0]![1]).toBe(1);
  });

  it('draws the largest agreements with how far they are', async () => {
    const { largest } = await read('by=customer');
    expect(largest[0]).toMatchObject({ document: { id: resort.id }, value: '74000', currency: 'MYR' });
    expect(largest[0]!.share).toBeCloseTo(0.05);
  });

  it('refuses what it does not know', async () => {
    expect(await read('by=moon')).toMatchObject({ status: 400 });
    expect(await read('rows=0')).toMatchObject({ status: 400 });
  });
});
