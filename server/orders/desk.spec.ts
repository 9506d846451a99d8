import { Actor } from '../sample/actor';
import { layDesk } from '../sample/desk';
import { layOpeningStock } from '../sample/opening-stock';
import { dec, sum } from '@core/kernel';
import { World, WORK_DATE, type Visitor } from '../testing/world';

interface Sheet {
  net: string;
  lines: {
    id: number;
    quantity: string;
    unitPrice: string;
    amount: string;
    sold: { unit: string; factor: string; price: string | null; reason: string; discount: string };
    buildUp: { kind: string; source: string; amount: string }[];
  }[];
}

describe('the order desk: units, prices, credit and permits', () => {
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
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const customer = (name: string) => world.masters.customers.get(name)!;
  const order = (name: string, lines: Record<string, unknown>[], change: Record<string, unknown> = {}) => ({
    id: null,
    version: null,
    customerId: customer(name).id,
    shipToId: customer(name).shipTos[0],
    customerReference: 'R-1',
    lines: lines.map((line) => ({ id: null, shipDate: '2027-03-08', route: 'stock', ...line })),
    ...change,
  });
  const open = (id: number) => salmah.get<Sheet>(`/api/orders/${id}`);
  const steps = (sheet: Sheet) => sheet.lines.map((line) => line.buildUp.map((step) => `${step.kind} ${step.amount}`));

  it('S1 shares its commission, and tells of two who share it at once one', async () => {
    const [made] = await salmah.does(
      'saveOrder',
      order('Kasturi Bottling', [{ itemId: world.item('FC-10'), quantity: '25' }]),
    );
    const { rows } = await salmah.get<{ rows: { id: number; name: string }[] }>('/api/people');
    const [one, other] = rows.map(({ id }) => id);
    const by = (...perCents: string[]) => ({
      id: made!.id,
      was: [],
      shares: perCents.map((perCent, index) => ({ personId: [one, other][index], perCent })),
    });
    expect((await salmah.refused('shareCommission', by('60', '30'))).codes).toEqual(['shares-not-whole']);
    const answers = await Promise.all([by('60', '40'), by('100')].map((input) => salmah.raw('shareCommission', input)));
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    const sheet = await salmah.get<{ commission: { perCent: string }[]; version: number; salesOrganisation: string }>(
      `/api/orders/${made!.id}`,
    );
    expect([['60', '40'], ['100']]).toContainEqual(sheet.commission.map((share) => share.perCent));
    expect([sheet.version, sheet.salesOrganisation === '']).toEqual([1, false]);
  });

  it('R1 takes a list price to the customer’s currency, and none where no rate is known', async () => {
    const { database } = world.serving;
    await database.run("UPDATE customer SET contracted_only = FALSE WHERE name = 'Selat Cruise Lines'");
    const line = { itemId: world.item('RO-4040'), quantity: '2', route: 'drop' };
    const [made] = await salmah.does('saveOrder', order('Selat Cruise Lines', [line]));
    // 815 at 3.41 for one of theirs.
    expect((await open(made!.id)).lines[0]).toMatchObject({ unitPrice: '239.0029', amount: '478.01' });
    await database.run("DELETE FROM exchange_rate WHERE currency = 'SGD'");
    const preview = await salmah.post('/api/acts/saveOrder/preview', order('Selat Cruise Lines', [line]));
    const { warnings } = preview.body as { warnings: { code: string }[] };
    expect(warnings.map((word) => word.code)).toContain('price-missing');
    await database.run(
      "INSERT INTO exchange_rate (company_id, currency, day, rate) VALUES (?, 'SGD', '2020-01-01', '3.41')",
      [world.masters.companyId],
    );
  });

  it('R1 R2 R4 prices each line from its own source, and keeps the steps', async () => {
    const [made] = await salmah.does(
      'saveOrder',
      order('Rumah Hijau Growers', [
        { itemId: world.item('FC-10'), quantity: '4', unit: 'box' },
        { itemId: world.item('FC-10'), quantity: '30' },
        { itemId: world.item('SALT-25'), quantity: '2', unit: 'pallet' },
        { itemId: world.item('GAC-25'), quantity: '10' },
        { itemId: world.item('PM-15'), quantity: '5', discount: '4' },
        { itemId: world.item('PM-15'), quantity: '1', price: '1200' },
      ]),
    );
    const sheet = await open(made!.id);
    const [{ value }] = (await world.serving.database.rows<{ value: string }>(
      'SELECT value FROM market_value WHERE day <= ? ORDER BY day DESC LIMIT 1',
      [WORK_DATE],
    )) as [{ value: string }];
    // (market × 0.025 + 14.50) and 32 %, for ten.
    const carbon = dec(value).times('0.025').plus('14.5').times('1.32').round(4).times(10).round(2);
    expect(steps(sheet)).toEqual([
      // 4 boxes at 145; 22 kg at 0.32.
      ['list 580', 'freight 7.04'],
      ['list 183', 'split-pack 3.05', 'freight 2.11'],
      // 80 bags at the growers' price; 2 tonnes at 0.21.
      ['group 2152', 'freight 420'],
      [`cost ${carbon.toFixed()}`, 'freight 80'],
      // From five on; freight; 4 % off both.
      ['list 6450', 'freight 4.64', 'discount -258.19'],
      ['list 1340', 'freight 0.93', 'typed -140.93'],
    ]);
    for (const line of sheet.lines) {
      expect(sum(line.buildUp.map((step) => dec(step.amount))).toFixed()).toBe(line.amount);
    }
    expect(sheet.lines[0]).toMatchObject({ quantity: '100', sold: { unit: 'box', factor: '25' } });
    expect(sheet.lines[5]!.sold).toMatchObject({ price: '1200' });
    expect(sheet.lines[5]!.buildUp[2]).toMatchObject({ source: 'Salmah' });
  });

  it('R3 takes the price of the ship date where the customer’s terms say so', async () => {
    const { database } = world.serving;
    await database.run(
      `INSERT INTO price_rule (company_id, item_id, currency, unit, first_day, from_quantity, price)
       VALUES (?, ?, 'MYR', 'piece', '2027-04-01', 0, 11)`,
      [world.masters.companyId, world.item('FC-20')],
    );
    const priceFor = async (name: string, shipDate: string) => {
      const [made] = await salmah.does(
        'saveOrder',
        order(name, [{ itemId: world.item('FC-20'), quantity: '25', shipDate }]),
      );
      return (await open(made!.id)).lines[0]!.unitPrice;
    };
    expect(await priceFor('Kasturi Bottling', '2027-04-02')).toBe('11');
    expect(await priceFor('Kasturi Bottling', '2027-03-31')).toBe('9.8');
    expect(await priceFor('Sinar Laut Ferries', '2027-04-02')).toBe('9.8');
  });

  it('keeps a draft’s prices while nothing that makes them changes', async () => {
    const [made] = await salmah.does(
      'saveOrder',
      order('Kasturi Bottling', [{ itemId: world.item('VA-50A'), quantity: '2', route: 'drop' }]),
    );
    await world.serving.database.run('UPDATE item SET list_price = 1300 WHERE number = ?', ['VA-50A']);
    const [line] = (await open(made!.id)).lines;
    const again = (quantity: string, version: number) =>
      salmah.does('saveOrder', {
        ...order('Kasturi Bottling', [{ itemId: world.item('VA-50A'), quantity, route: 'drop' }], {
          id: made!.id,
          version,
        }),
        lines: [{ id: line!.id, itemId: world.item('VA-50A'), quantity, shipDate: '2027-03-08', route: 'drop' }],
      });
    await again('2', 1);
    expect((await open(made!.id)).lines[0]!.unitPrice).toBe('1180');
    await again('3', 2);
    expect((await open(made!.id)).lines[0]!.unitPrice).toBe('1300');
    await world.serving.database.run('UPDATE item SET list_price = 1180 WHERE number = ?', ['VA-50A']);
  });

  it('ships and invoices a line charged as a whole in parts that sum to it, to the cent', async () => {
    const [made] = await salmah.does(
      'saveOrder',
      order('Sinar Laut Ferries', [{ itemId: world.item('FC-10'), quantity: '37', discount: '3' }]),
    );
    await salmah.does('confirmOrder', { id: made!.id, version: 1 });
    const [line] = (await open(made!.id)).lines;
    const nets: string[] = [];
    for (const quantity of ['7', '11', '12']) {
      await salmah.does('shipLines', { orderId: made!.id, lines: [{ lineId: line!.id, quantity }] });
      const [invoice] = await salmah.does('invoiceCustomer', { orderId: made!.id });
      nets.push((await salmah.get<{ net: string }>(`/api/customer-invoices/${invoice!.id}`)).net);
    }
    const version = (await salmah.get<{ version: number }>(`/api/orders/${made!.id}`)).version;
    // What was not shipped is given up: the line keeps what the parts came to.
    await salmah.does('closeShort', { id: made!.id, version, lineIds: [line!.id], reason: 'not wanted' });
    const closed = await open(made!.id);
    expect(sum(nets.map((net) => dec(net))).toFixed()).toBe(closed.lines[0]!.amount);
    expect(sum(closed.lines[0]!.buildUp.map((step) => dec(step.amount))).toFixed()).toBe(closed.lines[0]!.amount);
  });

  it('S2 says while it is typed what would stand against confirming', async () => {
    const answer = await salmah.raw(
      'saveOrder/preview',
      order('Kolam Ceria Swim Club', [
        { itemId: world.item('HY-25'), quantity: '4', route: 'drop', shipDate: '2027-03-20' },
      ]),
    );
    const { warnings, effects } = answer.body as {
      warnings: { field: string; code: string }[];
      effects: { lines: { steps: unknown[] }[] };
    };
    expect(warnings.map((word) => `${word.field}: ${word.code}`)).toEqual(['lines.0.itemId: permit-missing']);
    expect(effects.lines[0]!.steps).toHaveLength(1);
  });

  it('S5 attaches the permit that is valid on the ship date, and refuses without one', async () => {
    const typed = (shipDate: string) =>
      order('Kolam Ceria Swim Club', [{ itemId: world.item('HY-25'), quantity: '4', route: 'drop', shipDate }]);
    const [late] = await salmah.does('saveOrder', typed('2027-03-14'));
    const refused = await salmah.refused('confirmOrder', { id: late!.id, version: 1 });
    expect(refused.sentences).toEqual([
      'Kolam Ceria Swim Club has no handling permit valid on Sun 14 Mar 2027, which HY-25 needs; ask them for it.',
    ]);
    const [early] = await salmah.does('saveOrder', typed('2027-03-13'));
    await salmah.does('confirmOrder', { id: early!.id, version: 1 });
    const rows = await world.serving.database.rows<{ number: string }>(
      'SELECT p.number FROM sales_order_line l JOIN permit p ON p.id = l.permit_id WHERE l.order_id = ?',
      [early!.id],
    );
    expect(rows).toEqual([{ number: 'HP-4471' }]);
  });

  it('S4 holds the credit limit, also of two orders at once, and lets who may pass it with a reason', async () => {
    // Bukit Jati may owe 25,000: one of these fits, with tax, and two do not.
    const typed = order('Bukit Jati Golf Links', [{ itemId: world.item('VA-50A'), quantity: '13', route: 'drop' }]);
    const made = await Promise.all([1, 2].map(async () => (await salmah.does('saveOrder', typed))[0]!.id));
    const answers = await Promise.all(made.map((id) => salmah.raw('confirmOrder', { id, version: 1 })));
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    const left = made[answers.findIndex((answer) => answer.status === 422)]!;
    const desk = await salmah.get<{ onOrder: string; creditLimit: string; openCount: number }>(
      `/api/customers/${customer('Bukit Jati Golf Links').id}/desk`,
    );
    expect(desk).toMatchObject({ onOrder: '16260.4', creditLimit: '25000', openCount: 2 });
    expect((await salmah.refused('confirmOrder', { id: left, version: 1, creditReason: 'trust me' })).codes).toEqual([
      'creditReason: over-credit',
    ]);
    const rashid = await world.visitor('rashid');
    expect((await rashid.refused('confirmOrder', { id: left, version: 1 })).codes).toEqual([
      'creditReason: over-credit-why',
    ]);
    await rashid.does('confirmOrder', { id: left, version: 1, creditReason: 'paid on Friday' });
    const [kept] = await world.serving.database.rows('SELECT credit_reason FROM sales_order WHERE id = ?', [left]);
    expect(kept).toEqual({ creditReason: 'paid on Friday' });
  });

  it('finds what a customer usually buys, what is on the shelf, and items by the customer’s own number', async () => {
    const id = customer('Nilam Dialysis Centre').id;
    const bought = async (shipDate: string, lines: Record<string, unknown>[]) => {
      const [made] = await salmah.does(
        'saveOrder',
        order(
          'Nilam Dialysis Centre',
          lines.map((line) => ({ shipDate, ...line })),
        ),
      );
      await salmah.does('confirmOrder', { id: made!.id, version: 1 });
      return made!.id;
    };
    await bought('2027-03-08', [{ itemId: world.item('FC-10'), quantity: '50' }]);
    await bought('2027-03-09', [
      { itemId: world.item('FC-10'), quantity: '3', unit: 'box' },
      { itemId: world.item('PM-15'), quantity: '1' },
    ]);
    const cancelled = await bought('2027-03-10', [{ itemId: world.item('FC-20'), quantity: '25' }]);
    await salmah.does('cancelOrder', { id: cancelled, version: 2 });
    const basket = await salmah.get<{
      rows: {
        item: { number: string };
        times: number;
        lastQuantity: string;
        unit: string;
        lastPrice: string;
        free: string;
      }[];
    }>(`/api/customers/${id}/basket?days=90`);
    expect(basket.rows.map((row) => [row.item.number, row.times, row.lastQuantity, row.unit])).toEqual([
      ['FC-10', 2, '75', 'box'],
      ['PM-15', 1, '1', 'piece'],
    ]);
    expect(basket.rows[0]).toMatchObject({ lastPrice: '6.1', free: '23970' });
    await world.serving.database.run('UPDATE sales_order SET order_date = ? WHERE customer_id = ?', ['2026-06-01', id]);
    expect((await salmah.get<typeof basket>(`/api/customers/${id}/basket?days=90`)).rows).toEqual([]);

    const shelf = await salmah.get<{ rows: { item: { number: string }; free: string }[] }>('/api/shelf?q=cartridge');
    expect(shelf.rows.map((row) => [row.item.number, row.free])).toEqual([
      ['FC-10', '23970'],
      ['FC-20', '18000'],
    ]);

    const teratai = customer('Teratai Bay Resort').id;
    const numbers = encodeURIComponent('tbr-f10\nRO-4040\nNOBODY-1');
    const named = await salmah.get<{ rows: { asked: string; item: { number: string; theirNumber: string } }[] }>(
      `/api/items/named?customerId=${teratai}&numbers=${numbers}`,
    );
    expect(named.rows.map((row) => [row.asked, row.item.number, row.item.theirNumber])).toEqual([
      ['tbr-f10', 'FC-10', 'TBR-F10'],
      ['RO-4040', 'RO-4040', 'TBR-MEM-40'],
    ]);
    const found = await salmah.get<{ rows: { number: string }[] }>(`/api/items?q=TBR-MEM&customerId=${teratai}`);
    expect(found.rows.map((row) => row.number)).toEqual(['RO-4040']);
  });

  it('finds what a vendor usually brings', async () => {
    const vendorId = world.masters.vendors.get('V-104')!;
    await salmah.does('enterPurchase', {
      vendorId,
      shipToId: null,
      lines: [{ itemId: world.item('GAC-25'), quantity: '40', dueDate: '2027-03-12' }],
    });
    const basket = await salmah.get<{ rows: { item: { number: string }; lastQuantity: string }[] }>(
      `/api/vendors/${vendorId}/basket`,
    );
    expect(basket.rows.map((row) => [row.item.number, row.lastQuantity])).toEqual([['GAC-25', '40']]);
  });
});
