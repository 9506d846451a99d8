import { layDesk } from '../sample/desk';
import { layOpeningStock } from '../sample/opening-stock';
import { Actor } from '../sample/actor';
import { WORK_DATE, World, type Visitor } from '../testing/world';

interface Sheet {
  version: number;
  state: string;
  used: string;
  budget: string | null;
  lines: { id: number; given: string; worth: string }[];
  brought: {
    customer: { name: string };
    orders: number;
    net: string;
    gave: string;
    netInvoiced: string;
    gaveInvoiced: string;
  }[];
  orders: { document: { id: number } }[];
}
interface OrderSheet {
  version: number;
  net: string;
  lines: {
    id: number;
    quantity: string;
    cancelled: string;
    amount: string;
    promotion: { number: string; free: boolean } | null;
    sold: { reason: string };
  }[];
}

describe('S13 promotions', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    const actor = new Actor(
      world.serving.database,
      world.masters.companyId,
      world.masters.people.get('joko')!,
      'stock',
    );
    await layOpeningStock(world.serving.database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => {
    await world.serving.database.run("UPDATE promotion SET state = 'stopped'");
    expect(await world.verify()).toEqual([]);
  });

  const customer = (name: string) => world.masters.customers.get(name)!;
  const gives = (change: Record<string, unknown> = {}) => ({
    id: null,
    itemId: world.item('FC-10'),
    groupId: null,
    kind: 'amount',
    value: '1',
    from: '',
    buy: '',
    free: '',
    freeItemId: null,
    ...change,
  });
  const promotion = (lines: Record<string, unknown>[], change: Record<string, unknown> = {}) => ({
    id: null,
    version: null,
    name: 'Cartridge weeks',
    customerId: null,
    priceGroupId: null,
    firstDay: WORK_DATE,
    lastDay: '2027-03-31',
    budget: '',
    lines,
    ...change,
  });
  const promote = async (lines: Record<string, unknown>[], change: Record<string, unknown> = {}) => {
    const [made] = await salmah.does('savePromotion', promotion(lines, change));
    return made!.id;
  };
  const open = (id: number) => salmah.get<Sheet>(`/api/promotions/${id}`);
  const order = (quantity: string, change: Record<string, unknown> = {}, name = 'Kasturi Bottling') => ({
    id: null,
    version: null,
    customerId: customer(name).id,
    shipToId: customer(name).shipTos[0],
    customerReference: 'R-1',
    lines: [{ id: null, itemId: world.item('FC-10'), quantity, shipDate: '2027-03-08', route: 'stock' }],
    ...change,
  });
  const sheetOf = (id: number) => salmah.get<OrderSheet>(`/api/orders/${id}`);
  const lineOf = async (id: number) => {
    const { lines } = await sheetOf(id);
    return lines.map(
      ({
        id: lineId,
        quantity,
        shipDate,
        route,
      }: OrderSheet['lines'][number] & { shipDate?: string; route?: string }) => ({
        id: lineId,
        itemId: world.item('FC-10'),
        quantity,
        shipDate: shipDate!,
        route: route!,
      }),
    );
  };

  it('takes off, counts its budget with every order, and stops with it', async () => {
    const id = await promote([gives()], { budget: '30' });
    const [first] = await salmah.does('saveOrder', order('20'));
    expect((await sheetOf(first!.id)).lines[0]).toMatchObject({ promotion: { free: false }, amount: '112.2' });
    expect(await open(id)).toMatchObject({ used: '20', lines: [{ given: '20', worth: '20' }] });
    const [second] = await salmah.does('saveOrder', order('11'));
    expect((await sheetOf(second!.id)).lines[0]!.promotion).toBeNull();
    const [third] = await salmah.does('saveOrder', order('10'));
    expect((await sheetOf(third!.id)).lines[0]!.promotion).not.toBeNull();
    expect(await open(id)).toMatchObject({ used: '30' });
    const { rows } = await salmah.get<{ rows: { document: { id: number }; state: string }[] }>('/api/promotions');
    expect(rows.find(({ document }) => document.id === id)).toMatchObject({ state: 'used up' });
    // What is given up of an order can be given again.
    await salmah.does('confirmOrder', { id: first!.id, version: 1 });
    await salmah.does('cancelOrder', { id: first!.id, version: 2, reason: 'They closed', supplies: [] });
    expect(await open(id)).toMatchObject({ used: '10', orders: [{ document: { id: third!.id } }] });
    // The budget may be raised, and lowered to what is given.
    const { version, lines } = await open(id);
    const again = (budget: string) => promotion([gives({ id: lines[0]!.id })], { id, version, budget });
    expect((await salmah.refused('savePromotion', again('9'))).codes).toEqual(['budget: budget-below-used']);
    await salmah.does('savePromotion', again('10'));
    expect((await salmah.refused('savePromotion', again('50'))).codes).toEqual(['stale']);
  });

  it('is never passed by two at once', async () => {
    const id = await promote([gives()], { budget: '50' });
    const made = await Promise.all(Array.from({ length: 8 }, () => salmah.does('saveOrder', order('15'))));
    const sheets = await Promise.all(made.map(([one]) => sheetOf(one!.id)));
    expect(sheets.filter(({ lines }) => lines[0]!.promotion !== null)).toHaveLength(3);
    expect(await open(id)).toMatchObject({ used: '45' });
  });

  it('gives goods for nothing as lines of their own, which ship, are invoiced at nothing, and go with what earned them', async () => {
    const id = await promote([gives({ kind: 'free', value: '', buy: '10', free: '1' })]);
    const [made] = await salmah.does('saveOrder', order('25'));
    let sheet = await sheetOf(made!.id);
    expect(sheet.lines.map(({ quantity, amount }) => [quantity, amount])).toEqual([
      ['25', '152.5'],
      ['2', '0'],
    ]);
    expect(sheet.lines[1]).toMatchObject({
      promotion: { free: true },
      sold: { reason: expect.stringMatching(/^free with PM-/) as string },
    });
    const typed = await lineOf(made!.id);
    await salmah.does(
      'saveOrder',
      order('', { id: made!.id, version: 1, lines: [{ ...typed[0]!, quantity: '30' }, typed[1]!] }),
    );
    sheet = await sheetOf(made!.id);
    expect(sheet.lines.map(({ quantity }) => quantity)).toEqual(['30', '3']);
    expect(await open(id)).toMatchObject({ used: '18.3', lines: [{ given: '3' }] });
    await salmah.does('confirmOrder', { id: made!.id, version: sheet.version });
    await salmah.does('shipLines', {
      orderId: made!.id,
      lines: sheet.lines.map(({ id: lineId, quantity }) => ({ lineId, quantity })),
    });
    await salmah.does('invoiceCustomer', { orderId: made!.id });
    expect((await open(id)).brought).toEqual([
      {
        customer: expect.objectContaining({ name: 'Kasturi Bottling' }) as unknown,
        orders: 1,
        net: '186.05',
        gave: '18.3',
        netInvoiced: '186.05',
        gaveInvoiced: '18.3',
      },
    ]);
  });

  it('of a confirmed order grows with it, and gives back what is closed short', async () => {
    const id = await promote([gives({ kind: 'free', value: '', buy: '10', free: '1' })], { budget: '12.2' });
    const [made] = await salmah.does('saveOrder', order('10'));
    await salmah.does('confirmOrder', { id: made!.id, version: 1 });
    const typed = await lineOf(made!.id);
    const change = (quantity: string, version: number) => ({
      id: made!.id,
      version,
      shipToId: customer('Kasturi Bottling').shipTos[0],
      customerReference: 'R-1',
      reason: 'They want more',
      lines: [{ ...typed[0]!, quantity }, typed[1]!],
    });
    await salmah.does('changeOrder', change('20', 2));
    expect((await sheetOf(made!.id)).lines.map(({ quantity }) => quantity)).toEqual(['20', '2']);
    expect(await open(id)).toMatchObject({ used: '12.2' });
    const { version } = await sheetOf(made!.id);
    expect((await salmah.refused('changeOrder', change('9', version))).codes).toEqual(['lines: free-line-left']);
    await salmah.does('closeShort', { id: made!.id, version, lineIds: [typed[1]!.id], reason: 'Not wanted' });
    expect(await open(id)).toMatchObject({ used: '0' });
    await salmah.does('changeOrder', change('9', version + 1));
    // Another takes what was given back; what was closed short cannot be opened again beyond the budget.
    await salmah.does('saveOrder', order('20', {}, 'Padi Emas Food Works'));
    expect(
      (await salmah.refused('openAgain', { id: made!.id, version: version + 2, lineIds: [typed[1]!.id] })).codes,
    ).toEqual(['promotion-spent']);
  });

  it('is for its customers, its days, and who may keep it', async () => {
    await promote([gives()], { customerId: customer('Padi Emas Food Works').id });
    const [other] = await salmah.does('saveOrder', order('5'));
    expect((await sheetOf(other!.id)).lines[0]!.promotion).toBeNull();
    const [theirs] = await salmah.does('saveOrder', order('5', {}, 'Padi Emas Food Works'));
    expect((await sheetOf(theirs!.id)).lines[0]!.promotion).not.toBeNull();
    const id = await promote([gives({ value: '2' })], { firstDay: '2027-03-20' });
    const [before] = await salmah.does('saveOrder', order('5'));
    expect((await sheetOf(before!.id)).lines[0]!.promotion).toBeNull();
    expect((await salmah.refused('setPromotion', { id, version: 1, state: 'stopped', reason: '' })).codes).toEqual([
      'reason: required',
    ]);
    await salmah.does('setPromotion', { id, version: 1, state: 'stopped', reason: 'Not now' });
    expect(await open(id)).toMatchObject({ state: 'stopped', version: 2 });
    const joko = await world.visitor('joko');
    expect((await joko.refused('savePromotion', promotion([gives()]))).codes).toEqual(['no-right']);
  });
});
