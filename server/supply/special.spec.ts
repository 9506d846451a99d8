import { World, type Visitor } from '../testing/world';
import { supplyDesk, type CandidateOut } from '../testing/supply-desk';

describe('special orders and ties', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const { ordered, orderOf, purchaseOf, vendor, place, receive, ship } = supplyDesk(
    () => world,
    () => salmah,
  );
  it('L3 S9 two orders of a customer go together with one shipment, in one act', async () => {
    const who = 'Padi Emas Food Works';
    const [first, second] = [
      await ordered(who, { item: 'VA-50A', quantity: '2', route: 'special' }),
      await ordered(who, { item: 'VA-50A', quantity: '3', route: 'special' }),
    ];
    const elsewhere = await ordered('Kolam Ceria Swim Club', { item: 'VA-50A', quantity: '1', route: 'special' });
    const lineIds = [first, second, elsewhere].map((each) => each.lineIds[0]!);
    const [purchase] = await place(...lineIds.map((orderLineId) => ({ orderLineId, vendorId: vendor('V-102') })));
    const { lines } = await purchaseOf(purchase!.id);
    await receive(purchase!.id, lines[0]!.id, '6');
    const waiting = await salmah.get<{
      orders: { order: { id: number }; lines: { id: number; open: string; held: string }[] }[];
    }>(`/api/orders/${first.id}/also-waiting`);
    expect(waiting.orders.map((each) => [each.order.id, each.lines[0]!.open, each.lines[0]!.held])).toEqual([
      [second.id, '3', '3'],
    ]);
    const asked = (other: { id: number; lineIds: number[] }, quantity: string) => ({
      orderId: first.id,
      lines: [{ lineId: first.lineIds[0], quantity: '2' }],
      others: [{ orderId: other.id, lines: [{ lineId: other.lineIds[0], quantity }] }],
    });
    expect((await salmah.refused('shipLines', asked(elsewhere, '1'))).codes).toEqual(['others.0: not-the-same-way']);
    expect((await salmah.refused('shipLines', asked(second, '4'))).codes).toEqual([
      'others.0.lines.0.quantity: above-open',
    ]);
    expect((await orderOf(first.id)).lines[0]).toMatchObject({ shipped: '0' });
    const made = await salmah.does('shipLines', asked(second, '3'));
    expect(made.map((each) => each.kind)).toEqual(['SH']);
    expect((await orderOf(first.id)).lines[0]).toMatchObject({ shipped: '2', reserved: '0' });
    expect((await orderOf(second.id)).lines[0]).toMatchObject({ shipped: '3', reserved: '0' });
  });

  it('L3 L8 is bought to our place with what the vendor sells, held on receipt, and ships in parts', async () => {
    const order = await ordered('Kolam Ceria Swim Club', {
      ...{ item: 'PM-15', quantity: '7', route: 'special' },
      shipDate: '2027-03-24',
    });
    const [purchase] = await place({ orderLineId: order.lineIds[0]!, vendorId: vendor('V-105') });
    const sheet = await purchaseOf(purchase!.id);
    expect(sheet.customer).toBeNull();
    expect(sheet.lines).toMatchObject([{ quantity: '10', untied: '3', ties: [{ quantity: '7', differs: '' }] }]);

    const line = sheet.lines[0]!.id;
    const early = await salmah.refused('shipLines', {
      orderId: order.id,
      lines: [{ lineId: order.lineIds[0], quantity: '1' }],
    });
    expect(early.codes).toEqual(['lines.0.quantity: not-here-yet']);
    expect((await receive(purchase!.id, line, '4')).map((each) => each.kind)).toEqual(['RC']);
    expect((await orderOf(order.id)).lines[0]).toMatchObject({ reserved: '4', shipped: '0', tied: '7' });
    await ship(order.id, [order.lineIds[0]!, '3']);
    await receive(purchase!.id, line, '6');
    const after = (await orderOf(order.id)).lines[0]!;
    expect(after).toMatchObject({ reserved: '4', shipped: '3' });
    // What the vendor sold beyond the need is free stock.
    expect(after.free).toBe('3');
    await ship(order.id, [order.lineIds[0]!, '4']);
    expect((await orderOf(order.id)).lines[0]).toMatchObject({ reserved: '0', shipped: '7' });
    const thread = await salmah.get<{ strands: string[]; beads: { stage: string; part: unknown }[] }>(
      `/api/threads/${order.lineIds[0]}`,
    );
    expect(thread.strands).toEqual(['3', '1', '3']);
    expect(thread.beads.filter((bead) => bead.stage === 'received').every((bead) => bead.part !== null)).toBe(true);
  });

  it('L1 several lines share a purchase, and one line may have several', async () => {
    const one = await ordered('Kolam Ceria Swim Club', { item: 'PM-15', quantity: '4', route: 'special' });
    const two = await ordered('Kasturi Bottling', { item: 'PM-15', quantity: '9', route: 'special' });
    const made = await place(
      { orderLineId: one.lineIds[0]!, vendorId: vendor('V-105') },
      { orderLineId: two.lineIds[0]!, vendorId: vendor('V-105'), quantity: '6' },
    );
    expect(made).toHaveLength(1);
    const first = await purchaseOf(made[0]!.id);
    expect(first.lines).toMatchObject([{ quantity: '10', untied: '0', ties: [{ quantity: '4' }, { quantity: '6' }] }]);
    expect((await orderOf(two.id)).lines[0]).toMatchObject({ tied: '6', needsPurchase: true });
    const [rest] = await place({ orderLineId: two.lineIds[0]!, vendorId: vendor('V-105') });
    expect((await orderOf(two.id)).lines[0]).toMatchObject({ tied: '9', needsPurchase: false });
    expect((await purchaseOf(rest!.id)).lines).toMatchObject([{ quantity: '5', untied: '2' }]);
    // Served in the order they ship.
    await receive(made[0]!.id, first.lines[0]!.id, '5');
    const here = await Promise.all([one, two].map(async ({ id }) => (await orderOf(id)).lines[0]!.reserved));
    expect(here).toEqual(['4', '1']);
    // Pegging knows for whom what came is held, and for whom the rest comes. (T11)
    const { up } = await salmah.get<{ up: { number: string; quantity: string; day: string | null; held: boolean }[] }>(
      `/api/pegging/PO/${made[0]!.id}`,
    );
    const held = up.filter((row) => row.held).map((row) => [row.number, row.quantity, row.day === null]);
    const numbers = await Promise.all([one, two].map(async ({ id }) => (await orderOf(id)).number));
    expect(held).toEqual([
      [numbers[1], '5', false],
      [numbers[0], '4', true],
      [numbers[1], '1', true],
    ]);
  });

  it('S3 what is held for an order is not shipped for another', async () => {
    const special = await ordered('Kolam Ceria Swim Club', { item: 'VA-50A', quantity: '5', route: 'special' });
    const [purchase] = await place({ orderLineId: special.lineIds[0]!, vendorId: vendor('V-102') });
    await receive(purchase!.id, (await purchaseOf(purchase!.id)).lines[0]!.id, '5');
    const held = await orderOf(special.id);
    expect(held.lines[0]).toMatchObject({ reserved: '5', free: '0' });
    // Closing the line short lets go of what was held for it.
    await salmah.does('closeShort', {
      id: special.id,
      version: held.version,
      lineIds: [special.lineIds[0]],
      reason: 'not wanted',
    });
    expect((await orderOf(special.id)).lines[0]).toMatchObject({ reserved: '0', free: '5' });
  });

  it('L10 takes more than ordered within the vendor’s tolerance, and no more', async () => {
    const order = await ordered('Kolam Ceria Swim Club', { item: 'SALT-25', quantity: '100', route: 'special' });
    const [purchase] = await place({ orderLineId: order.lineIds[0]!, vendorId: vendor('V-103') });
    const line = (await purchaseOf(purchase!.id)).lines[0]!.id;
    const over = await salmah.refused('receiveGoods', {
      purchaseId: purchase!.id,
      lines: [{ lineId: line, quantity: '105.1' }],
    });
    expect(over.codes).toEqual(['lines.0.quantity: above-tolerance']);
    await receive(purchase!.id, line, '105');
    expect((await orderOf(order.id)).lines[0]).toMatchObject({ reserved: '100' });
  });

  it('L4 L5 is untied while nothing came, hangs loose, and is tied again to what fits', async () => {
    const first = await ordered('Nilam Dialysis Centre', { item: 'RO-4040', quantity: '6', route: 'drop' });
    const [purchase] = await place({ orderLineId: first.lineIds[0]!, vendorId: vendor('V-101') });
    const bought = (await purchaseOf(purchase!.id)).lines[0]!;
    await salmah.does('untie', { tieIds: [bought.ties[0]!.id] });
    expect((await orderOf(first.id)).lines[0]).toMatchObject({ tied: '0', needsPurchase: true });
    expect((await purchaseOf(purchase!.id)).lines[0]).toMatchObject({ untied: '6', ties: [] });
    // Loose, it cannot be received: it would go to a customer for nothing.
    const loose = await salmah.refused('receiveGoods', {
      purchaseId: purchase!.id,
      lines: [{ lineId: bought.id, quantity: '1' }],
    });
    expect(loose.codes).toEqual(['lines.0.quantity: loose-purchase']);

    const elsewhere = await ordered('Padi Emas Food Works', { item: 'RO-4040', quantity: '6', route: 'drop' });
    const same = await ordered('Nilam Dialysis Centre', { item: 'RO-4040', quantity: '4', route: 'drop' });
    const offered = await salmah.get<CandidateOut>(`/api/purchase-lines/${bought.id}/sales`);
    const ids = offered.rows.map((row) => row.lineId);
    expect(ids).toEqual(expect.arrayContaining([first.lineIds[0], same.lineIds[0]]));
    expect(ids).not.toContain(elsewhere.lineIds[0]);
    const refused = await salmah.refused('tieLine', {
      orderLineId: elsewhere.lineIds[0],
      purchaseLineId: bought.id,
      quantity: '6',
    });
    expect(refused.codes).toEqual(['purchaseLineId: tie-other-address']);
    await salmah.does('tieLine', { orderLineId: same.lineIds[0], purchaseLineId: bought.id, quantity: '4' });
    const back = await salmah.get<CandidateOut>(`/api/order-lines/${first.lineIds[0]}/supplies`);
    expect(back.rows.find((row) => row.lineId === bought.id)).toMatchObject({ fits: '2' });
    await receive(purchase!.id, bought.id, '4');
    const tie = (await purchaseOf(purchase!.id)).lines[0]!.ties[0]!;
    expect((await salmah.refused('untie', { tieIds: [tie.id] })).codes).toEqual(['tie-received']);
    expect((await salmah.refused('untie', { tieIds: [tie.id, 999_999] })).status).toBe(404);
  });

  it('L4 of one drop shipment, what is for somebody is received and what is for nobody is not', async () => {
    const who = 'Nilam Dialysis Centre';
    const [first, second] = [
      await ordered(who, { item: 'RO-4040', quantity: '6', route: 'drop' }),
      await ordered(
        who,
        { item: 'RO-4040', quantity: '2', route: 'drop' },
        { item: 'RO-2540', quantity: '3', route: 'drop' },
      ),
    ];
    const vendorId = vendor('V-101');
    const lineIds = [...second.lineIds, ...first.lineIds];
    const [purchase] = await place(...lineIds.map((orderLineId) => ({ orderLineId, vendorId })));
    const { lines } = await purchaseOf(purchase!.id);
    const [six, two, loose] = ['6', '2', '3'].map((quantity) => lines.find((line) => line.quantity === quantity)!);
    await salmah.does('untie', { tieIds: [loose!.ties[0]!.id] });
    const asked = (quantity: string) => ({
      purchaseId: purchase!.id,
      lines: [
        { lineId: six!.id, quantity: '6' },
        { lineId: two!.id, quantity: '2' },
        { lineId: loose!.id, quantity },
      ],
    });
    expect((await salmah.refused('receiveGoods', asked('1'))).codes).toEqual(['lines.2.quantity: loose-purchase']);
    expect((await orderOf(first.id)).lines[0]).toMatchObject({ shipped: '0' });
    const made = await salmah.does('receiveGoods', asked(''));
    // A receipt, and a shipment for each order.
    expect(made.map((document) => document.kind)).toEqual(['RC', 'SH', 'SH']);
    expect((await orderOf(first.id)).lines[0]).toMatchObject({ shipped: '6' });
    expect((await orderOf(second.id)).lines.map((line) => line.shipped)).toEqual(['2', '0']);
  });

  it('L4 a loose drop shipment comes to our stock on purpose', async () => {
    const order = await ordered('Nilam Dialysis Centre', { item: 'RO-2540', quantity: '3', route: 'drop' });
    const [purchase] = await place({ orderLineId: order.lineIds[0]!, vendorId: vendor('V-101') });
    const before = await purchaseOf(purchase!.id);
    const tied = await salmah.refused('purchaseToStock', { id: purchase!.id, version: before.version });
    expect(tied.codes).toEqual(['still-tied']);
    await salmah.does('untie', { tieIds: [before.lines[0]!.ties[0]!.id] });
    await salmah.does('purchaseToStock', { id: purchase!.id, version: before.version });
    await receive(purchase!.id, before.lines[0]!.id, '3');
    expect((await orderOf(order.id)).lines[0]).toMatchObject({ free: '3', reserved: '0', needsPurchase: true });
    // Now it is there, the drop shipment's line cannot be tied to it: it goes another way.
    const offered = await salmah.get<CandidateOut>(`/api/order-lines/${order.lineIds[0]}/supplies`);
    expect(offered.rows.map((row) => row.document.id)).not.toContain(purchase!.id);
  });

  it('L1 two people tying the last of a purchase: one is told what is left', async () => {
    const one = await ordered('Nilam Dialysis Centre', { item: 'VA-50A', quantity: '4', route: 'drop' });
    const two = await ordered('Nilam Dialysis Centre', { item: 'VA-50A', quantity: '4', route: 'drop' });
    const [purchase] = await place({ orderLineId: one.lineIds[0]!, vendorId: vendor('V-102') });
    const line = (await purchaseOf(purchase!.id)).lines[0]!;
    await salmah.does('untie', { tieIds: [line.ties[0]!.id] });
    const answers = await Promise.all(
      [one, two].map((order) =>
        salmah.raw('tieLine', { orderLineId: order.lineIds[0], purchaseLineId: line.id, quantity: '3' }),
      ),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    expect((await purchaseOf(purchase!.id)).lines[0]).toMatchObject({ untied: '1' });
  });
});
