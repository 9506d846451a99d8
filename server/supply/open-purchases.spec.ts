import { World, type Visitor } from '../testing/world';

describe('U3 what was on order before Kampong', () => {
  let world: World;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const line = (change: Record<string, string> = {}) => ({
    vendor: 'V-101',
    number: 'OLD-PO-88',
    item: 'RO-4040',
    quantity: '12',
    price: '599.5',
    due: '2027-03-20',
    place: '',
    ...change,
  });
  interface Purchase {
    openedAs: string | null;
    net: string;
    lines: { id: number; quantity: string; unitPrice: string }[];
  }

  it('is placed, found by its old number, and received; the same file again changes nothing', async () => {
    const lines = [line(), line({ item: 'RO-2540', quantity: '4', price: '' }), line({ number: 'OLD-PO-89' })];
    const made = await salmah.does('openPurchases', { lines });
    expect(made).toHaveLength(2);
    const sheet = await salmah.get<Purchase>(`/api/purchases/${made[0]!.id}`);
    expect(sheet).toMatchObject({ openedAs: 'OLD-PO-88', lines: [{ unitPrice: '599.5' }, { quantity: '4' }] });
    expect(JSON.stringify(await salmah.get('/api/find?q=OLD-PO-88'))).toContain(made[0]!.number);
    expect(await salmah.does('openPurchases', { lines })).toEqual([]);
    const received = [{ lineId: sheet.lines[0]!.id, quantity: '12' }];
    await salmah.does('receiveGoods', { purchaseId: made[0]!.id, lines: received });
    expect(await salmah.does('openPurchases', { lines })).toEqual([]);
  });

  it('is placed once by two people at once', async () => {
    const lines = [line({ number: 'OLD-PO-90' })];
    const both = await Promise.all([1, 2].map(() => salmah.raw('openPurchases', { lines })));
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const [count] = await world.serving.database.rows<{ n: number }>(
      "SELECT COUNT(*) AS n FROM purchase_order WHERE opened_as = 'OLD-PO-90'",
    );
    expect(count!.n).toBe(1);
  });
});
