import { fixedTerm } from '../../demo/terms';
import { agreed, World, type Visitor } from '../testing/world';

interface OrderOut {
  version: number;
  state: string;
  lines: { id: number; tied: string; reserved: string; shipped: string; needsPurchase: boolean; free: string }[];
}
interface PurchaseOut {
  version: number;
  customer: { name: string } | null;
  lines: {
    id: number;
    quantity: string;
    received: string;
    untied: string;
    ties: { id: number; quantity: string; received: string; differs: string }[];
  }[];
}
interface CandidateOut {
  rows: { lineId: number; fits: string; late: boolean; document: { id: number; number: string } }[];
}

describe('special orders and ties', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const customer = (name: string) => world.masters.customers.get(name)!;
  /** A confirmed order of one customer; its lines' ids. */
  async function ordered(
    who: string,
    ...lines: { item: string; quantity: string; route: string; shipDate?: string }[]
  ): Promise<{ id: number; lineIds: number[] }> {
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: customer(who).id,
      shipToId: customer(who).shipTos[0],
      customerReference: 'R-1',
      lines: lines.map(({ item, quantity, route, shipDate }) => ({
        id: null,
        itemId: world.item(item),
        quantity,
        route,
        shipDate: shipDate ?? '2027-03-20',
      })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return { id: order!.id, lineIds: (await orderOf(order!.id)).lines.map((line) => line.id) };
  }
  const orderOf = (id: number) => salmah.get<OrderOut>(`/api/orders/${id}`);
  const purchaseOf = (id: number) => salmah.get<PurchaseOut>(`/api/purchases/${id}`);
  const vendor = (number: string) => world.masters.vendors.get(number)!;
  const place = (...lines: { orderLineId: number; vendorId: number; quantity?: string }[]) =>
    salmah.does('placePurchases', { lines });
  const receive = (purchaseId: number, lineId: number, quantity: string) =>
    salmah.does('receiveGoods', { purchaseId, lines: [{ lineId, quantity }] });
  const ship = (orderId: number, ...lines: [number, string][]) =>
    salmah.does('shipLines', { orderId, lines: lines.map(([lineId, quantity]) => ({ lineId, quantity })) });

  it('L3 two orders of a customer go together, each with its shipment, in one act', async () => {
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
    expect(made.map((each) => each.kind)).toEqual(['SH', 'SH']);
    expect((await orderOf(first.id)).lines[0]).toMatchObject({ shipped: '2', reserved: '0' });
    expect((await orderOf(second.id)).lines[0]).toMatchObject({ shipped: '3', reserved: '0' });
  });

  it('L3 L8 is bought to our place with what the vendor sells, held on receipt, and ships in parts', async () => {
    const order = await ordered('Kolam Ceria Swim Club', { item: 'PM-15', quantity: '7', route: 'special' });
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
  });

  it('S3 what is held for an order is not shipped for another', async () => {
    const special = await ordered('Kolam Ceria Swim Club', { item: 'VA-50A', quantity: '5', route: 'special' });
    const [purchase] = await place({ orderLineId: special.lineIds[0]!, vendorId: vendor('V-102') });
    await receive(purchase!.id, (await purchaseOf(purchase!.id)).lines[0]!.id, '5');
    const held = await orderOf(special.id);
    expect(held.lines[0]).toMatchObject({ reserved: '5', free: '0' });
    // Closing the line short lets go of what was held for it.
    await salmah.does('closeShort', { id: special.id, version: held.version, lineIds: [special.lineIds[0]] });
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
    expect(over.codes).toEqual(['lines.0.quantity: above-open']);
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
