import { fixedTerm, PLAIN_HEAD } from '../../sample/terms';
import { agreed, placed, releaseOf, World, type Visitor } from '../../testing/world';

describe('which agreement applies, by value, and from vendors', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const teratai = () => world.masters.customers.get('Teratai Bay Resort')!;
  const order = (lines: Record<string, unknown>[], change: Record<string, unknown> = {}) => ({
    id: null,
    version: null,
    customerId: teratai().id,
    shipToId: teratai().shipTos[0],
    customerReference: 'TBR-1',
    lines: lines.map((line) => ({ id: null, shipDate: '2027-03-20', route: 'drop', ...line })),
    ...change,
  });
  const linesOf = async (id: number) =>
    (
      await salmah.get<{
        lines: { id: number; quantity: string; unitPrice: string; amount: string; agreement: { id: number } | null }[];
      }>(`/api/orders/${id}`)
    ).lines;
  const released = async (id: number) =>
    (await salmah.get<{ values: { released: string } }>(`/api/agreements/${id}`)).values.released;

  it('A3 R1 a release takes its discount off what the customer would pay without it, as an order line does', async () => {
    const itemId = world.item('SALT-25');
    const line = { ...fixedTerm(itemId, '500', '0'), priceKind: 'discount', priceValue: '10' };
    const agreement = await agreed(world, salmah, { lines: [line], limitPolicy: 'split' });
    const rule = (from: number, price: number) =>
      world.serving.database.run(
        `INSERT INTO price_rule (company_id, item_id, customer_id, currency, unit, from_quantity, price)
         VALUES (?, ?, ?, 'MYR', 'bag', ?, ?)`,
        [world.masters.companyId, itemId, teratai().id, from, price],
      );
    await rule(0, 20);
    await rule(100, 18);
    const prices = async (quantities: readonly string[]) => {
      const release = {
        agreementId: agreement.id,
        shipToId: teratai().shipTos[0],
        customerReference: 'TBR-9',
        lines: quantities.map((quantity) => ({
          agreementLineId: agreement.lineId,
          quantity,
          shipDate: '2027-03-20',
        })),
      };
      const [made] = await salmah.does('releaseAgreement', release);
      return (await linesOf(made!.id)).map(({ quantity, unitPrice }) => [quantity, unitPrice]);
    };
    expect(await prices(['10'])).toEqual([['10', '18']]);
    const [plain] = await salmah.does(
      'saveOrder',
      order([{ itemId, quantity: '10', agreementLineId: agreement.lineId }]),
    );
    expect((await linesOf(plain!.id)).map(({ unitPrice }) => unitPrice)).toEqual(['18']);
    // Sixty and sixty are more than a hundred.
    expect(await prices(['60', '60'])).toEqual([
      ['60', '16.2'],
      ['60', '16.2'],
    ]);
    // What is beyond the limit costs what it would without the agreement.
    expect(await prices(['400'])).toEqual([
      ['360', '16.2'],
      ['40', '18'],
    ]);
    await world.serving.database.run('DELETE FROM price_rule WHERE customer_id = ?', [teratai().id]);
  });

  it('A13 the offers shown come off what the customer pays without them, best first, as the order takes them', async () => {
    const itemId = world.item('SALT-25');
    const line = (change: Record<string, unknown>) => ({ ...fixedTerm(itemId, '500', '17'), ...change });
    const fixed = await agreed(world, salmah, { lines: [line({})] });
    const tenth = await agreed(world, salmah, { lines: [line({ priceKind: 'discount', priceValue: '10' })] });
    const offered = async () => {
      const asked = { customerId: teratai().id, lines: [{ itemId, quantity: '5', shipDate: '2027-03-20' }] };
      const { body } = await salmah.post('/api/price-offers', asked);
      const [found] = (body as { lines: { listPrice: string; offers: Record<string, unknown>[] }[] }).lines;
      return [found!.listPrice, found!.offers.map((each) => [each['agreementLineId'], each['unitPrice']])];
    };
    const taken = async () => {
      const [made] = await salmah.does('saveOrder', order([{ itemId, quantity: '5' }]));
      const [sold] = await linesOf(made!.id);
      await salmah.does('cancelOrder', { id: made!.id, version: 1 });
      return [sold!.agreement!.id, sold!.unitPrice];
    };
    const [list] = await offered();
    expect(Number(list)).toBeGreaterThan(17 / 0.9);
    expect(await taken()).toEqual([fixed.id, '17']);
    // The customer's own price is below the list: ten per cent off it is the better now.
    await world.serving.database.run(
      `INSERT INTO price_rule (company_id, item_id, customer_id, currency, unit, from_quantity, price)
       VALUES (?, ?, ?, 'MYR', 'bag', 0, 18)`,
      [world.masters.companyId, itemId, teratai().id],
    );
    expect(await offered()).toEqual([
      '18',
      [
        [tenth.lineId, '16.2'],
        [fixed.lineId, '17'],
      ],
    ]);
    expect(await taken()).toEqual([tenth.id, '16.2']);
    await world.serving.database.run('DELETE FROM price_rule WHERE customer_id = ?', [teratai().id]);
    for (const { id } of [fixed, tenth]) await salmah.does('pauseAgreement', { id, version: 2, pause: true });
  });

  it('A13 a plain order line takes the first that fits and names it; the others and none can be chosen', async () => {
    const first = await agreed(world, salmah, { priority: '2' });
    const second = await agreed(world, salmah, {
      priority: '3',
      lines: [fixedTerm(world.item('RO-4040'), '50', '720')],
    });
    const asked = { itemId: world.item('RO-4040'), quantity: '3' };
    const nothing = { itemId: world.item('SALT-25') };
    const answer = await salmah.post('/api/price-offers', { customerId: teratai().id, lines: [nothing, asked] });
    const [none, some] = (
      answer.body as { lines: { offers: { agreement: { id: number }; unitPrice: string; left: string }[] }[] }
    ).lines;
    expect(none!.offers).toEqual([]);
    expect(some!.offers.map((offer) => [offer.agreement.id, offer.unitPrice, offer.left])).toEqual([
      [first.id, '740', '100'],
      [second.id, '720', '50'],
    ]);
    const itemId = world.item('RO-4040');
    const [made] = await salmah.does(
      'saveOrder',
      order([
        { itemId, quantity: '3' },
        { itemId, quantity: '2', agreementLineId: second.lineId },
        { itemId, quantity: '1', agreementLineId: null },
      ]),
    );
    const lines = await linesOf(made!.id);
    expect(lines.map((line) => [line.unitPrice, line.agreement?.id ?? null])).toEqual([
      ['740', first.id],
      ['720', second.id],
      ['815', null],
    ]);
    expect([await released(first.id), await released(second.id)]).toEqual(['2220', '1440']);
    // Changed on the draft: to another agreement, and to none.
    await salmah.does('saveOrder', {
      ...order([], { id: made!.id, version: 1 }),
      lines: lines.map((line, index) => ({
        id: line.id,
        itemId,
        quantity: line.quantity,
        shipDate: '2027-03-20',
        route: 'drop',
        agreementLineId: index === 0 ? null : first.lineId,
      })),
    });
    expect((await linesOf(made!.id)).map((line) => line.unitPrice)).toEqual(['815', '740', '740']);
    expect([await released(first.id), await released(second.id)]).toEqual(['2220', '0']);
    await salmah.does('cancelOrder', { id: made!.id, version: 2 });
    expect(await released(first.id)).toBe('0');
    for (const { id } of [first, second]) await salmah.does('pauseAgreement', { id, version: 2, pause: true });
  });

  it('A14 a customer held to contracted items gets a clear refusal on anything else', async () => {
    const agreement = await agreed(world, salmah);
    await world.serving.database.run('UPDATE customer SET contracted_only = TRUE WHERE id = ?', [teratai().id]);
    try {
      const refused = await salmah.refused('saveOrder', order([{ itemId: world.item('VA-50A'), quantity: '1' }]));
      expect(refused.codes).toEqual(['lines.0.agreementLineId: only-contracted']);
      expect(refused.sentences[0]).toContain('buys only what an agreement prices, and none in force covers VA-50A');
      await salmah.does('saveOrder', order([{ itemId: world.item('RO-4040'), quantity: '1' }]));
    } finally {
      await world.serving.database.run('UPDATE customer SET contracted_only = FALSE WHERE id = ?', [teratai().id]);
    }
    await salmah.does('pauseAgreement', { id: agreement.id, version: 2, pause: true });
  });

  const byValue = (limitPolicy: string, committed = '4000') =>
    agreed(world, salmah, {
      basis: 'value',
      limitPolicy,
      lines: [
        {
          ...fixedTerm(0, committed, '10'),
          itemId: null,
          groupId: world.masters.groups.get('MEMB')!,
          priceKind: 'discount',
        },
      ],
    });
  const ofGroup = (agreement: { id: number; lineId: number }, quantity: string) =>
    releaseOf(world, agreement, '', {
      lines: [{ agreementLineId: agreement.lineId, itemId: world.item('RO-4040'), quantity, shipDate: '2027-03-12' }],
    });

  it('A1 A5 by value the discount holds until the value is used up, to the cent, inside one line', async () => {
    const agreement = await byValue('split');
    // 733.50 each: 4,000 pays for 5.4533… of 8; the rest go at 815.
    const [made] = await salmah.does('releaseAgreement', ofGroup(agreement, '8'));
    expect(await linesOf(made!.id)).toMatchObject([{ quantity: '8', amount: '6075.56', unitPrice: '759.445' }]);
    expect(await released(agreement.id)).toBe('4000');
    // Moved and invoiced in parts, the parts sum to the line and to what is under the agreement.
    await salmah.does('confirmOrder', { id: made!.id, version: 1 });
    const bench = await salmah.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
      `/api/bench?orderId=${made!.id}`,
    );
    const [purchase] = await salmah.does('placePurchases', {
      lines: bench.rows.map((row) => ({ orderLineId: row.orderLineId, vendorId: row.proposal.vendorId })),
    });
    const sheet = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
    for (const quantity of ['3', '5']) {
      await salmah.does('receiveGoods', {
        purchaseId: purchase!.id,
        lines: [{ lineId: sheet.lines[0]!.id, quantity }],
      });
      await salmah.does('invoiceCustomer', { orderId: made!.id });
    }
    const { values } = await salmah.get<{ values: Record<string, string> }>(`/api/agreements/${agreement.id}`);
    expect(values).toMatchObject({ shipped: '4000', invoiced: '4000' });
    const { rows } = await salmah.get<{ rows: { source: { id: number }; total: string }[] }>(
      '/api/invoices?side=customer',
    );
    const net = rows.filter((row) => row.source.id === made!.id).map((row) => Number(row.total) / 1.06);
    expect(net.reduce((sum, each) => sum + each, 0)).toBeCloseTo(6075.56, 2);
    await salmah.does('pauseAgreement', { id: agreement.id, version: 2, pause: true });
  });

  it('A5 by value under refuse: 16 people at once never take more than is left', async () => {
    const agreement = await byValue('refuse', '7335');
    const answers = await Promise.all(
      Array.from({ length: 16 }, () => salmah.raw('releaseAgreement', ofGroup(agreement, '1'))),
    );
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(10);
    expect(await released(agreement.id)).toBe('7335');
    const refused = await salmah.refused('releaseAgreement', ofGroup(agreement, '1'));
    expect(refused.sentences[0]).toContain('Nothing of the value is left on AG-');
    await salmah.does('pauseAgreement', { id: agreement.id, version: 2, pause: true });
  });

  it('A5 a limit on the whole holds over all lines and documents, by 16 people at once', async () => {
    const lines = ['RO-4040', 'RO-2540'].map((number) => fixedTerm(world.item(number), '100', '740'));
    const agreement = await agreed(world, salmah, { wholeLimit: '7400', lines });
    type Whole = { wholeLimit: string; wholeLeft: string; lines: { id: number }[] };
    const sheet = () => salmah.get<Whole>(`/api/agreements/${agreement.id}`);
    const second = (await sheet()).lines[1]!.id;
    const release = (lineIds: number[], quantity = '1') =>
      releaseOf(world, agreement, '', {
        lines: lineIds.map((agreementLineId) => ({ agreementLineId, quantity, shipDate: '2027-03-12' })),
      });
    const answers = await Promise.all(
      Array.from({ length: 16 }, (_, index) =>
        salmah.raw('releaseAgreement', release([index % 2 ? second : agreement.lineId])),
      ),
    );
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(10);
    expect(await sheet()).toMatchObject({ wholeLimit: '7400', wholeLeft: '0' });
    const refused = await salmah.refused('releaseAgreement', release([second]));
    expect(refused.codes).toEqual(['lines: above-whole']);
    // What is used up prices nothing new by itself.
    const [plain] = await salmah.does('saveOrder', order([{ itemId: world.item('RO-4040'), quantity: '1' }]));
    expect((await linesOf(plain!.id))[0]!.agreement).toBeNull();
    // Revised, there is room again: for two more together, not for three.
    const sheetNow = await salmah.get<{ version: number }>(`/api/agreements/${agreement.id}`);
    const revise = (wholeLimit: string) => ({
      ...PLAIN_HEAD,
      id: agreement.id,
      version: sheetNow.version,
      customerId: teratai().id,
      title: 'Membranes',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      signedOn: '2026-12-20',
      lines: lines.map((line, index) => ({ ...line, id: index === 0 ? agreement.lineId : second })),
      wholeLimit,
      reason: 'Two more',
      reprice: false,
    });
    await salmah.does('reviseAgreement', revise('8880'));
    expect(await salmah.refused('releaseAgreement', release([agreement.lineId, second], '1.5'))).toMatchObject({
      codes: ['lines: above-whole'],
    });
    await salmah.does('releaseAgreement', release([agreement.lineId, second]));
    expect((await sheet()).wholeLeft).toBe('0');
    await salmah.does('pauseAgreement', { id: agreement.id, version: sheetNow.version + 1, pause: true });
  });

  it('A5 a limit on the whole by weight counts each line by what its item weighs', async () => {
    const lines = ['RO-4040', 'RO-2540'].map((number) => fixedTerm(world.item(number), '100', '740'));
    const weigh = (number: string, weight: string) =>
      world.serving.database.run('UPDATE item SET weight = ? WHERE id = ?', [weight, world.item(number)]);
    await weigh('RO-4040', '3.6');
    await weigh('RO-2540', '1.8');
    const agreement = await agreed(world, salmah, { wholeLimit: '36 kg', lines });
    const sheet = () => salmah.get<{ wholeLeft: string; lines: { id: number }[] }>(`/api/agreements/${agreement.id}`);
    const second = (await sheet()).lines[1]!.id;
    await salmah.does('releaseAgreement', releaseOf(world, agreement, '5'));
    expect((await sheet()).wholeLeft).toBe('18');
    const more = (quantity: string) =>
      releaseOf(world, agreement, '', { lines: [{ agreementLineId: second, quantity, shipDate: '2027-03-12' }] });
    const refused = await salmah.refused('releaseAgreement', more('11'));
    expect(refused.sentences[0]).toMatch(/^19.8 kg is more than the 18 kg left of the whole of AG-/);
    await salmah.does('releaseAgreement', more('10'));
    expect((await sheet()).wholeLeft).toBe('0');
    // A file may say it too.
    const rows = [
      'agreement,party,last day,whole limit,item,committed,price',
      'A,C-201,2027-12-31,36 kg,RO-4040,100,740',
    ];
    const content = Buffer.from(rows.join('\n')).toString('base64');
    const [brought] = await salmah.does('bringInAgreements', { name: 'kg.csv', content, goodOnly: false });
    expect(await salmah.get(`/api/agreements/${brought!.id}`)).toMatchObject({ wholeLimit: '36 kg', wholeLeft: '36' });
    const { codes } = await salmah.refused('saveAgreement', {
      ...PLAIN_HEAD,
      customerId: teratai().id,
      title: 'Two units',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      wholeLimit: '5 pallet',
      lines,
    });
    expect(codes).toEqual(['wholeLimit: whole-unit-not-shared']);
  });

  it('A1 A6 a buying agreement is released as a purchase order, received into stock and invoiced', async () => {
    const [made] = await salmah.does('saveAgreement', {
      ...PLAIN_HEAD,
      side: 'buying',
      vendorId: world.masters.vendors.get('V-101')!,
      customerId: null,
      title: 'Cartridges',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      lines: [fixedTerm(world.item('FC-20'), '1000', '4.5', { breaks: [{ from: '500', value: '4.4' }] })],
    });
    const id = made!.id;
    await salmah.does('putInForce', { id, version: 1 });
    const sheet = () =>
      salmah.get<{ lines: { id: number; released: string; shipped: string; invoiced: string }[] }>(
        `/api/agreements/${id}`,
      );
    const lineId = (await sheet()).lines[0]!.id;
    const [purchase] = await salmah.does('releaseAgreement', {
      agreementId: id,
      shipToId: null,
      customerReference: '',
      lines: [{ agreementLineId: lineId, quantity: '600', shipDate: '2027-03-15' }],
    });
    expect(purchase!.kind).toBe('PO');
    const po = await salmah.get<{ lines: { id: number; unitPrice: string; agreement: { id: number } }[] }>(
      `/api/purchases/${purchase!.id}`,
    );
    expect(po.lines).toMatchObject([{ unitPrice: '4.4', agreement: { id } }]);
    const onHand = async () => (await salmah.get<{ onHand: string }>(`/api/items/${world.item('FC-20')}`)).onHand;
    const before = Number(await onHand());
    await salmah.does('receiveGoods', {
      purchaseId: purchase!.id,
      lines: [{ lineId: po.lines[0]!.id, quantity: '400' }],
    });
    expect(Number(await onHand())).toBe(before + 400);
    await salmah.does('enterVendorInvoice', {
      purchaseId: purchase!.id,
      vendorNumber: 'AR-77',
      invoiceDate: '2027-03-01',
      lines: [{ purchaseLineId: po.lines[0]!.id, quantity: '300', unitPrice: '4.4' }],
    });
    expect((await sheet()).lines[0]).toMatchObject({ released: '600', shipped: '400', invoiced: '300' });
    const progress = await salmah.get<{ shipped: string; open: string }>(`/api/agreement-lines/${lineId}/progress`);
    expect(progress).toMatchObject({ shipped: '400', open: '200' });
    const over = await salmah.refused('releaseAgreement', {
      agreementId: id,
      shipToId: null,
      customerReference: '',
      lines: [{ agreementLineId: lineId, quantity: '401', shipDate: '2027-03-15' }],
    });
    expect(over.codes).toEqual(['lines.0.quantity: above-limit']);
  });

  it('A13 a drop shipment is bought under the buying agreement that fits, or without it', async () => {
    const selling = await agreed(world, salmah);
    const [made] = await salmah.does('saveAgreement', {
      ...PLAIN_HEAD,
      side: 'buying',
      vendorId: world.masters.vendors.get('V-101')!,
      customerId: null,
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      lines: [fixedTerm(world.item('RO-4040'), '10', '600')],
    });
    await salmah.does('putInForce', { id: made!.id, version: 1 });
    const { purchaseId, purchaseLineId } = await placed(world, salmah, selling, '7');
    const po = await salmah.get<{ lines: { unitPrice: string }[] }>(`/api/purchases/${purchaseId}`);
    expect(po.lines.map((line) => line.unitPrice)).toEqual(['600']);
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '7' }] });
    expect(await salmah.get(`/api/agreements/${made!.id}`)).toMatchObject({
      values: { released: '4200', shipped: '4200' },
    });
    // 3 are left: 5 are refused under it, and bought without it.
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, selling, '5'));
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { rows } = await salmah.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
      `/api/bench?orderId=${order!.id}`,
    );
    const choice = { orderLineId: rows[0]!.orderLineId, vendorId: rows[0]!.proposal.vendorId };
    expect((await salmah.refused('placePurchases', { lines: [choice] })).codes).toEqual([
      'lines.0.agreementLineId: above-limit',
    ]);
    await salmah.does('placePurchases', { lines: [{ ...choice, agreementLineId: null }] });
  });
});
