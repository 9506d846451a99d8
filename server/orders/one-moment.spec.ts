import { World, type Visitor } from '../testing/world';

/** The sheet of an order is read in many queries while others save it. */
describe('G2 an order as it is shown', () => {
  let world: World;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());

  it('has the lines of its version, and never those of the one before under a newer version', async () => {
    const customerId = world.masters.customers.get('Teratai Bay Resort')!.id;
    const saved = (id: number | null, version: number | null, lineId: number | null) => ({
      id,
      version,
      customerId,
      shipToId: null,
      customerReference: '',
      lines: [
        {
          id: lineId,
          itemId: world.item('SALT-25'),
          quantity: String((version ?? 0) + 1),
          shipDate: '2027-03-11',
          route: 'stock',
        },
      ],
    });
    const [order] = await salmah.does('saveOrder', saved(null, null, null));
    const open = () =>
      salmah.get<{ version: number; lines: { id: number; quantity: string }[] }>(`/api/orders/${order!.id}`);
    const lineId = (await open()).lines[0]!.id;
    let saving = true;
    const seen: string[] = [];
    const reading = Array.from({ length: 4 }, async () => {
      while (saving) {
        const { version, lines } = await open();
        seen.push(`${version} ${lines[0]!.quantity}`);
      }
    });
    for (let version = 1; version < 30; version += 1) await salmah.does('saveOrder', saved(order!.id, version, lineId));
    saving = false;
    await Promise.all(reading);
    expect(seen.length).toBeGreaterThan(30);
    expect(seen.filter((each) => each.split(' ')[0] !== each.split(' ')[1])).toEqual([]);
  });
});
