import { layRates } from '../sample/commission';
import { KEPT_LISTS } from '@core/lists';
import { layCounter } from '../sample/counter';
import { layDesk } from '../sample/desk';
import { layWorks } from '../sample/works';
import { World, WORK_DATE, type Visitor } from '../testing/world';

interface Row {
  id: number;
  stamp: string;
  cells: Record<string, string>;
}

describe('lists that are kept', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    await layWorks(world.serving.database, world.masters, WORK_DATE);
    await layCounter(world.serving.database, world.masters, WORK_DATE);
    await layRates(world.serving.database, world.masters);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());

  const rows = async (list: string, query = '') =>
    (await salmah.get<{ rows: Row[]; next: string | null }>(`/api/lists/${list}${query}`)).rows;
  const keep = (list: string, change: { changes?: unknown[]; removed?: unknown[] }) => ({
    list,
    changes: [],
    removed: [],
    ...change,
  });
  const typedOver = (row: Row, cells: Record<string, string>) => ({
    id: row.id,
    stamp: row.stamp,
    cells: { ...row.cells, ...cells },
  });

  it('opens each of them, and what is kept as it is seen is the same afterwards', async () => {
    for (const { name, grows } of KEPT_LISTS) {
      const [first] = await rows(name, '?rows=1');
      if (!first) throw new Error(`the demo lays nothing for ${name}`);
      const answer = await salmah.raw('keepList', keep(name, { changes: [typedOver(first, {})] }));
      expect([name, answer]).toEqual([name, expect.objectContaining({ status: 200 })]);
      const after = (await rows(name)).find((row) => row.id === first.id);
      expect([name, after]).toEqual([name, first]);
      if (grows) {
        const page = await salmah.get<{ rows: Row[]; next: string | null }>(`/api/lists/${name}?rows=1`);
        const all = await rows(name);
        expect([name, page.next !== null]).toEqual([name, all.length > 1]);
      }
    }
  });

  it('R1 a price that is added prices the next line, and is found by item, customer and words', async () => {
    const price = { item: 'PM-15', customer: 'Sinar Laut Ferries', unit: 'piece', price: '1111', currency: 'MYR' };
    await salmah.does('keepList', keep('prices', { changes: [{ id: null, stamp: '', cells: price }] }));
    const { id, shipTos } = world.masters.customers.get('Sinar Laut Ferries')!;
    const [made] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'R-1',
      lines: [{ id: null, itemId: world.item('PM-15'), quantity: '1', shipDate: '2027-03-08', route: 'stock' }],
    });
    const sheet = await salmah.get<{ lines: { unitPrice: string; buildUp: { kind: string; source: string }[] }[] }>(
      `/api/orders/${made!.id}`,
    );
    expect(sheet.lines[0]).toMatchObject({
      unitPrice: '1111',
      buildUp: [{ kind: 'customer', source: 'Sinar Laut Ferries' }],
    });
    const found = await rows('prices', '?q=sinar');
    expect(found.map((row) => row.cells['price'])).toEqual(['1111']);
    expect((await rows('prices'))[0]).toEqual(found[0]);
  });

  it('refuses at the cell, and then nothing of it is written', async () => {
    const before = await rows('freight');
    const cells = (zone: string, perKilogram: string) => ({
      id: null,
      stamp: '',
      cells: { zone, from: '0', perKilogram },
    });
    const answer = await salmah.refused(
      'keepList',
      keep('freight', { changes: [cells('islands', '0.9'), cells('valley', '0.2'), cells('', 'dear')] }),
    );
    expect(answer.codes).toEqual([
      'changes.2.zone: required',
      'changes.2.perKilogram: not-a-number',
      'changes.1: row-twice',
    ]);
    expect(await rows('freight')).toEqual(before);
  });

  it('tells names apart as the database does', async () => {
    const added = (...codes: string[]) => ({
      list: 'permit-types',
      changes: codes.map((code) => ({ id: null, stamp: '', cells: { name: code } })),
      removed: [],
    });
    for (const [one, other] of [
      ['Hotels', 'Hôtels'],
      ['12', '１２'],
      ['MASSE', 'Maße'],
    ] as const) {
      expect((await salmah.refused('keepList', added(one, other))).codes).toEqual(['changes.1: row-twice']);
      await salmah.does('keepList', added(one));
      expect((await salmah.refused('keepList', added(other))).codes).toEqual(['changes.0: row-twice']);
    }
  });

  it('lets rows trade what tells them apart', async () => {
    const [one, other] = (await rows('freight')).filter((row) => row.cells['zone'] === 'valley');
    await salmah.does(
      'keepList',
      keep('freight', {
        changes: [typedOver(one!, { from: other!.cells['from']! }), typedOver(other!, { from: one!.cells['from']! })],
      }),
    );
    const after = await rows('freight');
    expect(after.find((row) => row.id === one!.id)?.cells['from']).toBe(other!.cells['from']);
    expect(after.find((row) => row.id === other!.id)?.cells['from']).toBe(one!.cells['from']);
  });

  it('G2 of two who change the same row, one is told', async () => {
    const [row] = await rows('customers', '?q=golf');
    const rashid = await world.visitor('rashid');
    const by = (creditLimit: string) => keep('customers', { changes: [typedOver(row!, { creditLimit })] });
    const answers = await Promise.all([rashid.raw('keepList', by('26000')), rashid.raw('keepList', by('27000'))]);
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    const [now] = await rows('customers', '?q=golf');
    expect(['26000', '27000']).toContain(now!.cells['creditLimit']);
  });

  it('keeps what is in use, and lets go of what is not', async () => {
    const [used] = (await rows('price-groups')).filter((row) => row.cells['name'] === 'Growers');
    const { id, stamp } = used!;
    expect((await salmah.refused('keepList', keep('price-groups', { removed: [{ id, stamp }] }))).codes).toEqual([
      'removed.0: row-in-use',
    ]);
    await salmah.does(
      'keepList',
      keep('price-groups', { changes: [{ id: null, stamp: '', cells: { name: 'Hotels' } }] }),
    );
    const [fresh] = (await rows('price-groups')).filter((row) => row.cells['name'] === 'Hotels');
    await salmah.does('keepList', keep('price-groups', { removed: [{ id: fresh!.id, stamp: fresh!.stamp }] }));
    expect((await rows('price-groups')).map((row) => row.cells['name'])).not.toContain('Hotels');
  });

  it('is for those who may, and finds what a cell may name', async () => {
    const joko = await world.visitor('joko');
    const [row] = await rows('vendors');
    const wider = keep('vendors', { changes: [typedOver(row!, { tolerance: '9' })] });
    expect((await joko.refused('keepList', wider)).codes).toEqual(['no-right']);
    const names = async (target: string, q: string) =>
      (await salmah.get<{ rows: { number: string; name: string }[] }>(`/api/named/${target}?q=${q}`)).rows;
    expect((await names('price-group', 'grow')).map((each) => each.name)).toEqual(['Growers']);
    expect((await names('currency', 'my')).map((each) => each.number)).toEqual(['MYR']);
    expect((await names('item', 'fc-')).map((each) => each.number)).toEqual(['FC-10', 'FC-20']);
  });

  it('R2 allowances lessen the invoice, its tax and what is owed, and verify finds nothing', async () => {
    const allow = (cells: Record<string, string>) => ({ id: null, stamp: '', cells });
    await salmah.does(
      'keepList',
      keep('allowances', {
        changes: [
          allow({ measure: 'weight', from: '10', perCent: '2' }),
          allow({
            measure: 'amount',
            customer: 'Nilam Dialysis Centre',
            from: '1000',
            currency: 'MYR',
            perCent: '1.5',
          }),
        ],
      }),
    );
    const { id: customerId, shipTos } = world.masters.customers.get('Nilam Dialysis Centre')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: 'R-2',
      lines: [
        { id: null, itemId: world.item('RO-4040'), quantity: '4', shipDate: WORK_DATE, route: 'drop', price: '500' },
        { id: null, itemId: world.item('FC-10'), quantity: '25', shipDate: WORK_DATE, route: 'drop', price: '7.77' },
      ],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const bench = await salmah.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
      `/api/bench?orderId=${order!.id}`,
    );
    const purchases = await salmah.does('placePurchases', {
      lines: bench.rows.map(({ orderLineId, proposal }) => ({ orderLineId, vendorId: proposal.vendorId })),
    });
    for (const purchase of purchases) {
      const bought = await salmah.get<{ lines: { id: number; quantity: string }[] }>(`/api/purchases/${purchase.id}`);
      await salmah.does('receiveGoods', {
        purchaseId: purchase.id,
        lines: bought.lines.map((line) => ({ lineId: line.id, quantity: line.quantity })),
      });
    }
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: order!.id });
    const made = await salmah.get<{
      net: string;
      total: string;
      owed: string;
      allowances: { measure: string; amount: string }[];
      lines: { id: number; net: string; allowance: string }[];
    }>(`/api/customer-invoices/${invoice!.id}`);
    // 2194.25: 2 % by weight is 43.89 (43.885), 1.5 % by amount 32.91 (32.91375).
    expect(made.allowances.map(({ measure, amount }) => [measure, amount])).toEqual([
      ['weight', '43.89'],
      ['amount', '32.91'],
    ]);
    expect(made.net).toBe('2117.45');
    expect(made.owed).toBe(made.total);
    expect(made.lines.map((line) => line.allowance)).toEqual(['70', '6.8']);
    expect(await world.verify()).toEqual([]);
    // A right price of one line is allowed what the wrong one was; then the rest comes back.
    await salmah.does('creditInvoice', {
      invoiceId: invoice!.id,
      kind: 'price',
      reason: 'Agreed 480',
      lines: [{ invoiceLineId: made.lines[0]!.id, quantity: '', unitPrice: '480' }],
    });
    await salmah.does('creditInvoice', {
      invoiceId: invoice!.id,
      kind: 'return',
      reason: 'All came back',
      lines: made.lines.map((line, index) => ({ invoiceLineId: line.id, quantity: ['4', '25'][index], unitPrice: '' })),
    });
    expect((await salmah.get<{ owed: string }>(`/api/customer-invoices/${invoice!.id}`)).owed).toBe('0');
    expect(await world.verify()).toEqual([]);
  });

  it('refuses a BOM line that closes a circle, with its path', async () => {
    const refused = await salmah.refused('keepList', {
      list: 'boms',
      changes: [{ id: null, stamp: '', cells: { item: 'PLATE-8', line: '1', component: 'FV-900', quantity: '1' } }],
      removed: [],
    });
    expect(refused.codes).toEqual(['changes.0.component: bom-circle']);
    expect(refused.sentences[0]).toContain('PLATE-8 → FV-900 → FV-SHELL9 → PLATE-8');
  });
});
