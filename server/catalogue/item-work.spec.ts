import { agreed, placed, releaseOf, World, type Visitor } from '../testing/world';

describe('an item as a desk', () => {
  let world: World;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());

  interface Work {
    onOrder: { order: { id: number }; open: string; lineNo: number }[];
    coming: { purchase: { id: number }; open: string; straight: boolean }[];
    buyers: { customer: { name: string }; times: number; quantity: string; lastPrice: string }[];
    usedIn: { item: { number: string }; quantity: string }[];
  }
  const work = (item: string) => salmah.get<Work>(`/api/items/${world.item(item)}/work`);

  it('tells who has it on order, who brings it and who bought it; drafts count for nothing', async () => {
    const agreement = await agreed(world, salmah);
    const ids = await placed(world, salmah, agreement, '12');
    await salmah.does('releaseAgreement', releaseOf(world, agreement, '5'));
    await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '4' }],
    });
    const { onOrder, coming, buyers } = await work('RO-4040');
    expect(onOrder).toMatchObject([{ order: { id: ids.orderId }, lineNo: 1, open: '8' }]);
    expect(coming).toMatchObject([{ purchase: { id: ids.purchaseId }, open: '8', straight: true }]);
    expect(buyers).toMatchObject([
      { customer: { name: 'Teratai Bay Resort' }, times: 1, quantity: '12', lastPrice: '740' },
    ]);
    const [enteredWith] = (await salmah.get<{ rows: { id: number }[] }>('/api/vendors?q=V-101')).rows;
    await salmah.does('enterPurchase', {
      vendorId: enteredWith!.id,
      shipToId: null,
      lines: [{ itemId: world.item('RO-4040'), quantity: '3', dueDate: '2027-03-10' }],
    });
    expect((await work('RO-4040')).coming[0]).toMatchObject({ open: '3', straight: false });
  });

  it('tells what it goes into, as that is made today', async () => {
    await world.withWorks();
    const { usedIn, onOrder, buyers } = await work('PM-15');
    expect(usedIn.map(({ item, quantity }) => `${quantity} in ${item.number}`)).toEqual(['2 in SK-D2', '4 in SK-D4']);
    expect([onOrder, buyers]).toEqual([[], []]);
  });
});
