import { Actor } from '../sample/actor';
import { layDesk } from '../sample/desk';
import { layOpeningStock } from '../sample/opening-stock';
import { World, WORK_DATE, type Visitor } from '../testing/world';

interface Sheet {
  net: string;
  lines: { id: number; unitPrice: string; amount: string; pricedOn: string | null; orderedAmount: string | null }[];
}

describe('R3 the price of the day a line ships', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    await layDesk(database, world.masters, WORK_DATE, 7);
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
    const rise = (item: string, price: string) => ({
      id: null,
      stamp: '',
      cells: {
        item,
        customer: 'Kasturi Bottling',
        unit: item === 'SALT-25' ? 'bag' : 'piece',
        price,
        currency: 'MYR',
        firstDay: '2027-03-05',
      },
    });
    await salmah.does('keepList', {
      list: 'prices',
      changes: [rise('SALT-25', '27.9'), rise('RO-4040', '790')],
      removed: [],
    });
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const ordered = async (lines: Record<string, unknown>[]) => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-1',
      lines: lines.map((line) => ({ id: null, shipDate: '2027-03-08', route: 'stock', ...line })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return order!.id;
  };
  const open = (id: number) => salmah.get<Sheet>(`/api/orders/${id}`);

  it('is found again for what goes out first, told before it is done, and kept for the rest', async () => {
    const id = await ordered([
      { itemId: world.item('SALT-25'), quantity: '20' },
      { itemId: world.item('SALT-25'), quantity: '10', price: '25' },
      { itemId: world.item('SALT-25'), quantity: '4' },
    ]);
    const before = await open(id);
    expect(before.lines.map((line) => line.amount)).toEqual(['558', '250', '111.6']);
    const [first, typed, later] = before.lines;
    const input = {
      orderId: id,
      lines: [
        { lineId: first!.id, quantity: '5' },
        { lineId: typed!.id, quantity: '10' },
        { lineId: later!.id, quantity: '' },
      ],
    };
    const preview = await salmah.post('/api/acts/shipLines/preview', input);
    expect((preview.body as { effects: { repriced: unknown } }).effects.repriced).toEqual([
      { orderLineId: first!.id, item: 'SALT-25', was: '27.9', is: '26.4', difference: '-30' },
    ]);
    await salmah.does('shipLines', input);
    const after = await open(id);
    expect(after.lines.map((line) => [line.amount, line.pricedOn, line.orderedAmount])).toEqual([
      ['528', WORK_DATE, '558'],
      ['250', null, null],
      ['111.6', null, null],
    ]);
    expect(after.net).toBe('889.6');
    // What follows goes at the price of the first, and its invoices sum to the line.
    const [one] = await salmah.does('invoiceCustomer', { orderId: id });
    await salmah.does('shipLines', { orderId: id, lines: [{ lineId: first!.id, quantity: '15' }] });
    const [two] = await salmah.does('invoiceCustomer', { orderId: id });
    const nets = await Promise.all(
      [one!, two!].map((made) => salmah.get<{ net: string }>(`/api/customer-invoices/${made.id}`)),
    );
    expect(nets.map((sheet) => sheet.net)).toEqual(['382', '396']);
    // Back from the item to what moved it.
    const entries = await salmah.get<{
      rows: { document: { kind: string; number: string }; quantity: string; onHand: string }[];
    }>(`/api/items/${world.item('SALT-25')}/stock-entries`);
    expect(entries.rows.map((row) => [row.document.kind, row.quantity])).toEqual([
      ['SH', '-15'],
      ['SH', '-10'],
      ['SH', '-5'],
      ['JR', entries.rows.at(-1)!.quantity],
    ]);
    const opening = Number(entries.rows.at(-1)!.quantity);
    expect(entries.rows.map((row) => opening - Number(row.onHand))).toEqual([30, 15, 5, 0]);
    expect(entries.rows.every((row) => row.document.number !== '')).toBe(true);
    const second = await salmah.get<typeof entries>(
      `/api/items/${world.item('SALT-25')}/stock-entries?rows=2&cursor=${(entries.rows as unknown as { id: number }[])[1]!.id}`,
    );
    expect(second.rows).toEqual(entries.rows.slice(2));
  });

  it('is found again where a drop shipment is received', async () => {
    const id = await ordered([{ itemId: world.item('RO-4040'), quantity: '2', route: 'drop' }]);
    expect((await open(id)).net).toBe('1580');
    const bench = await salmah.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
      `/api/bench?orderId=${id}`,
    );
    const [purchase] = await salmah.does('placePurchases', {
      lines: bench.rows.map(({ orderLineId, proposal }) => ({ orderLineId, vendorId: proposal.vendorId })),
    });
    const bought = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
    await salmah.does('receiveGoods', {
      purchaseId: purchase!.id,
      lines: [{ lineId: bought.lines[0]!.id, quantity: '2' }],
    });
    expect(await open(id)).toMatchObject({
      net: '1630',
      lines: [{ unitPrice: '815', orderedAmount: '1580', pricedOn: WORK_DATE }],
    });
  });
});
