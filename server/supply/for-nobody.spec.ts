import { fixedTerm } from '../sample/terms';
import { agreed, World, type Visitor } from '../testing/world';
import { supplyDesk, type CandidateOut } from '../testing/supply-desk';

describe('what is bought or held ahead', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const { customer, ordered, orderOf, purchaseOf, vendor, place, receive, ship } = supplyDesk(
    () => world,
    () => salmah,
  );
  it('L4 a purchase comes first, and becomes the order of whom it goes to', async () => {
    const { shipTos } = customer('Nilam Dialysis Centre');
    const typed = {
      vendorId: vendor('V-101'),
      shipToId: shipTos[0],
      lines: [
        { itemId: world.item('RO-4040'), quantity: '5', dueDate: '2027-03-10' },
        { itemId: world.item('RO-2540'), quantity: '2', dueDate: '2027-03-15' },
      ],
    };
    const other = await salmah.refused('enterPurchase', { ...typed, vendorId: vendor('V-103') });
    expect(other.codes).toEqual(['lines.0.itemId: vendor-not-selling', 'lines.1.itemId: vendor-not-selling']);
    const [purchase] = await salmah.does('enterPurchase', typed);
    const sheet = await purchaseOf(purchase!.id);
    expect(sheet).toMatchObject({
      customer: { name: 'Nilam Dialysis Centre' },
      lines: [{ untied: '5' }, { untied: '2' }],
    });

    const asked = { purchaseId: purchase!.id, version: sheet.version, customerReference: '' };
    expect((await salmah.refused('orderFromPurchase', asked)).codes).toEqual(['customerReference: reference-required']);
    const [order] = await salmah.does('orderFromPurchase', { ...asked, customerReference: 'N-7' });
    expect(await orderOf(order!.id)).toMatchObject({
      state: 'confirmed',
      lines: [
        { tied: '5', needsPurchase: false },
        { tied: '2', needsPurchase: false },
      ],
    });
    expect((await purchaseOf(purchase!.id)).lines).toMatchObject([
      { untied: '0', ties: [{ differs: '' }] },
      { untied: '0', ties: [{ differs: '' }] },
    ]);
    const again = await salmah.refused('orderFromPurchase', { ...asked, customerReference: 'N-8' });
    expect(again.codes).toEqual(['nothing-loose']);
    const moved = await receive(purchase!.id, sheet.lines[0]!.id, '5');
    expect(moved.map((each) => each.kind)).toEqual(['RC', 'SH']);
  });

  it('L4 a purchase for our own place is for nobody, and no order can be made of it', async () => {
    const [purchase] = await salmah.does('enterPurchase', {
      vendorId: vendor('V-101'),
      shipToId: null,
      lines: [{ itemId: world.item('FC-10'), quantity: '500', dueDate: '2027-03-10' }],
    });
    const asked = { purchaseId: purchase!.id, version: 1, customerReference: 'X' };
    expect((await salmah.refused('orderFromPurchase', asked)).codes).toEqual(['comes-here-already']);
    const order = await ordered('Kolam Ceria Swim Club', { item: 'FC-10', quantity: '120', route: 'special' });
    const offered = await salmah.get<CandidateOut>(`/api/order-lines/${order.lineIds[0]}/supplies`);
    expect(offered.rows).toMatchObject([{ document: { id: purchase!.id }, fits: '120', late: false }]);
    await salmah.does('tieLine', {
      orderLineId: order.lineIds[0],
      purchaseLineId: offered.rows[0]!.lineId,
      quantity: '120',
    });
    await receive(purchase!.id, offered.rows[0]!.lineId, '500');
    expect((await orderOf(order.id)).lines[0]).toMatchObject({ reserved: '120', free: '380' });
  });

  it('L9 an item that needs approval is bought only from who is approved, everywhere', async () => {
    const order = await ordered('Kolam Ceria Swim Club', { item: 'HY-25', quantity: '8', route: 'drop' });
    const bench = await salmah.get<{ rows: { offers: { vendorId: number; approved: boolean }[]; proposal: object }[] }>(
      `/api/bench?orderId=${order.id}`,
    );
    expect(bench.rows[0]!.proposal).toMatchObject({ vendorId: vendor('V-104') });
    expect(bench.rows[0]!.offers.find((offer) => offer.vendorId === vendor('V-103'))!.approved).toBe(false);
    const placed = await salmah.refused('placePurchases', {
      lines: [{ orderLineId: order.lineIds[0], vendorId: vendor('V-103') }],
    });
    expect(placed).toMatchObject({ codes: ['lines.0.vendorId: vendor-not-approved'] });
    expect(placed.sentences[0]).toContain('buy it from Delima Chemicals');
    const entered = await salmah.refused('enterPurchase', {
      vendorId: vendor('V-103'),
      shipToId: null,
      lines: [{ itemId: world.item('HY-25'), quantity: '5', dueDate: '2027-03-10' }],
    });
    expect(entered.codes).toEqual(['lines.0.itemId: vendor-not-approved']);
    // A buying agreement does not make them approved.
    const agreement = await agreed(world, salmah, {
      side: 'buying',
      customerId: null,
      vendorId: vendor('V-103'),
      lines: [fixedTerm(world.item('HY-25'), '100', '54')],
    });
    const released = await salmah.refused('releaseAgreement', {
      agreementId: agreement.id,
      shipToId: null,
      customerReference: '',
      lines: [{ agreementLineId: agreement.lineId, quantity: '5', shipDate: '2027-03-10' }],
    });
    expect(released.codes).toEqual(['lines.0.quantity: vendor-not-approved']);
    // Approved for its group, and only from a day on.
    const { database } = world.serving;
    const approve = (firstDay: string) =>
      database.run(
        `INSERT INTO vendor_approval (company_id, vendor_id, item_group_id, first_day) VALUES (?, ?, ?, ?)`,
        [world.masters.companyId, vendor('V-103'), world.masters.groups.get('CHEM')!, firstDay],
      );
    await approve('2027-03-02');
    expect(
      (await salmah.raw('placePurchases', { lines: [{ orderLineId: order.lineIds[0], vendorId: vendor('V-103') }] }))
        .status,
    ).toBe(422);
    await approve('2027-03-01');
    await place({ orderLineId: order.lineIds[0]!, vendorId: vendor('V-103') });
  });

  it('S3 stock is held when asked or at once, by its item, and let go of for another route', async () => {
    // Ten pumps in stock, held at once for who confirms first.
    const [purchase] = await salmah.does('enterPurchase', {
      vendorId: vendor('V-101'),
      shipToId: null,
      lines: [{ itemId: world.item('FC-20'), quantity: '100', dueDate: '2027-03-10' }],
    });
    await receive(purchase!.id, (await purchaseOf(purchase!.id)).lines[0]!.id, '100');
    const supply = (orderLineId: number, route: string, reserve = '', lift = false) =>
      salmah.raw('supplyLine', { orderLineId, route, reserve, lift });
    const one = await ordered('Kolam Ceria Swim Club', { item: 'FC-20', quantity: '80', route: 'stock' });
    const two = await ordered('Kasturi Bottling', { item: 'FC-20', quantity: '50', route: 'stock' });
    expect((await orderOf(one.id)).lines[0]!.reserved).toBe('0');
    expect((await supply(one.lineIds[0]!, 'stock', '80')).status).toBe(200);
    const over = await salmah.refused('supplyLine', {
      orderLineId: two.lineIds[0],
      route: 'stock',
      reserve: '30',
      lift: false,
    });
    expect(over.codes).toEqual(['reserve: above-free']);
    // What is held is not shipped for others, and what is free is.
    const shipped = await salmah.refused('shipLines', {
      orderId: two.id,
      lines: [{ lineId: two.lineIds[0], quantity: '21' }],
    });
    expect(shipped.codes).toEqual(['lines.0.quantity: above-on-hand']);
    await ship(two.id, [two.lineIds[0]!, '20']);
    await ship(one.id, [one.lineIds[0]!, '10']);
    expect((await orderOf(one.id)).lines[0]).toMatchObject({ reserved: '70', shipped: '10' });

    await world.serving.database.run("UPDATE item SET reserving = 'always' WHERE id = ?", [world.item('FC-10')]);
    const three = await ordered('Kolam Ceria Swim Club', { item: 'FC-10', quantity: '300', route: 'stock' });
    const four = await ordered('Kasturi Bottling', { item: 'FC-10', quantity: '200', route: 'stock' });
    const held = await Promise.all([three, four].map(async ({ id }) => (await orderOf(id)).lines[0]!));
    const total = Number(held[0]!.reserved) + Number(held[1]!.reserved);
    expect([held[0]!.reserved, held[1]!.free]).toEqual(['300', '0']);
    expect(total).toBe(380);
    const line = four.lineIds[0]!;
    expect((await supply(line, 'drop')).status).toBe(422);
    expect((await supply(line, 'drop', '', true)).status).toBe(200);
    expect((await orderOf(four.id)).lines[0]).toMatchObject({ reserved: '0', free: '80', needsPurchase: true });
    // Cancelled, it lets go of everything.
    await salmah.does('cancelOrder', { id: three.id, version: (await orderOf(three.id)).version });
    expect((await orderOf(four.id)).lines[0]!.free).toBe('380');
  });

  it('S3 two people holding the last of an item: one is told what is left', async () => {
    const orders = await Promise.all(
      ['Kolam Ceria Swim Club', 'Kasturi Bottling'].map((who) =>
        ordered(who, { item: 'FC-10', quantity: '300', route: 'special' }),
      ),
    );
    const answers = await Promise.all(
      orders.map(({ lineIds }) =>
        salmah.raw('supplyLine', { orderLineId: lineIds[0], route: 'stock', reserve: '300', lift: false }),
      ),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
  });
});
