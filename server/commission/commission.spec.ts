import { layDesk } from '../sample/desk';
import { layOpeningStock } from '../sample/opening-stock';
import { Actor } from '../sample/actor';
import { WORK_DATE, World, type Visitor } from '../testing/world';

interface Sheet {
  all: boolean;
  people: { id: number; name: string; open: string }[];
  person: { id: number; name: string };
  open: { amount: string; share: string; base: string; invoice: { id: number } }[];
  openCount: number;
  openAmount: string;
  statements: { document: { id: number }; state: string; amount: string }[];
}

describe('S12 commission', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;
  let people: Map<string, number>;

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
    joko = await world.visitor('joko');
    const { rows } = await salmah.get<{ rows: { id: number; name: string }[] }>('/api/people');
    people = new Map(rows.map(({ id, name }) => [name, id]));
    await keep([
      { of: 'net', at: 'invoice', perCent: '5' },
      { person: 'Devan', of: 'margin', at: 'payment', perCent: '10' },
    ]);
  });
  afterAll(() => world.end());
  afterEach(async () => {
    await count();
    expect(await world.verify()).toEqual([]);
  });

  const keep = (rows: Record<string, string>[]) =>
    salmah.does('keepList', {
      list: 'commission-rates',
      changes: rows.map((cells) => ({ id: null, stamp: '', cells })),
      removed: [],
    });
  const count = (since: string | null = null) => salmah.does('countCommission', { since });
  const of = (name: string, visitor = salmah) => visitor.get<Sheet>(`/api/commission?person=${people.get(name)!}`);
  const customer = () => world.masters.customers.get('Kasturi Bottling')!;
  const sold = async (
    shares: [string, string][],
    quantity = '100',
  ): Promise<{ orderId: number; invoiceId: number }> => {
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: customer().id,
      shipToId: customer().shipTos[0],
      customerReference: 'R-1',
      lines: [{ id: null, itemId: world.item('SALT-25'), quantity, shipDate: '2027-03-08', route: 'stock' }],
    });
    await salmah.does('shareCommission', {
      id: order!.id,
      was: [],
      shares: shares.map(([name, perCent]) => ({ personId: people.get(name)!, perCent })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    await salmah.does('shipLines', { orderId: order!.id, lines: [{ lineId: lines[0]!.id, quantity }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: order!.id });
    return { orderId: order!.id, invoiceId: invoice!.id };
  };
  const invoiceOf = (id: number) =>
    salmah.get<{ net: string; total: string; openItemId: number; lines: { id: number; quantity: string }[] }>(
      `/api/customer-invoices/${id}`,
    );

  it('is earned with the invoice by its shares, taken back by a credit note, and goes over with the shares', async () => {
    const { orderId, invoiceId } = await sold([
      ['Rashid', '60'],
      ['Salmah', '40'],
    ]);
    await count();
    const { net, lines } = await invoiceOf(invoiceId);
    const whole = Number(net) * 0.05;
    const [rashid, own] = [await of('Rashid'), await of('Salmah')];
    expect(Number(rashid.openAmount) + Number(own.openAmount)).toBeCloseTo(whole, 2);
    expect(rashid).toMatchObject({ openCount: 1, open: [{ share: '60', base: net, invoice: { id: invoiceId } }] });
    await count();
    expect((await of('Rashid')).openCount).toBe(1);
    await salmah.does('creditInvoice', {
      invoiceId,
      kind: 'return',
      reason: 'Wet bags',
      lines: [{ invoiceLineId: lines[0]!.id, quantity: '50', unitPrice: '' }],
    });
    await count();
    expect(Number((await of('Rashid')).openAmount)).toBeCloseTo((whole * 0.6) / 2, 1);
    await salmah.does('shareCommission', {
      id: orderId,
      was: [
        { personId: people.get('Rashid')!, perCent: '60' },
        { personId: people.get('Salmah')!, perCent: '40' },
      ],
      shares: [{ personId: people.get('Salmah')!, perCent: '100' }],
    });
    await count();
    expect((await of('Rashid')).openAmount).toBe('0');
    expect(Number((await of('Salmah')).openAmount)).toBeCloseTo(whole / 2, 2);
  });

  it('of the margin is earned as the invoice is paid', async () => {
    const { invoiceId } = await sold([['Devan', '100']]);
    await count();
    expect((await of('Devan')).openCount).toBe(0);
    const { openItemId, total } = await invoiceOf(invoiceId);
    const pay = (amount: string) => salmah.does('recordPayment', { openItemId, amount, paidOn: WORK_DATE });
    const half = (Number(total) / 2).toFixed(2);
    await pay(half);
    await count();
    const first = Number((await of('Devan')).openAmount);
    expect(first).toBeGreaterThan(0);
    await pay((Number(total) - Number(half)).toFixed(2));
    await count();
    expect(Number((await of('Devan')).openAmount)).toBeCloseTo(first * 2, 1);
  });

  it('goes on a statement once, is paid once, and is seen by who earned it', async () => {
    await sold([['Joko', '100']]);
    await count();
    const personId = people.get('Joko')!;
    const answers = await Promise.all([1, 2].map(() => salmah.raw('makeStatement', { personId, until: WORK_DATE })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    const mine = await joko.get<Sheet>('/api/commission');
    expect(mine).toMatchObject({ all: false, people: [], openCount: 0, statements: [{ state: 'made' }] });
    const { id } = mine.statements[0]!.document;
    expect(await joko.get(`/api/commission/statements/${id}`)).toMatchObject({ lines: [{ share: '100' }] });
    await salmah.does('takeBackStatement', { id, version: 1, reason: 'Too early' });
    expect((await of('Joko')).openCount).toBe(1);
    const [again] = await salmah.does('makeStatement', { personId, until: WORK_DATE });
    const paid = await Promise.all([1, 2].map(() => salmah.raw('payStatement', { id: again!.id, version: 1 })));
    expect(paid.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await salmah.refused('takeBackStatement', { id: again!.id, version: 2, reason: 'x' })).codes).toEqual([
      'statement-not-open',
    ]);
    // What is credited after it is taken back on the next.
    const devan = await world.visitor('devan');
    for (const path of [`/api/commission?person=${personId}`, `/api/commission/statements/${id}`]) {
      const answer = await fetch(`${world.serving.address}${path}`, { headers: { cookie: devan.cookie } });
      expect(answer.status).toBe(404);
    }
    expect((await joko.refused('makeStatement', { personId, until: WORK_DATE })).codes).toEqual(['no-right']);
  });

  it('is of who sells to the customer, where nobody shares it otherwise', async () => {
    const [row] = (
      await salmah.get<{ rows: { id: number; stamp: string; cells: Record<string, string> }[] }>(
        '/api/lists/customers?q=Kasturi',
      )
    ).rows;
    const changes = (name: string) => [{ id: row!.id, stamp: row!.stamp, cells: { ...row!.cells, salesPerson: name } }];
    expect(
      (await salmah.refused('keepList', { list: 'customers', changes: changes('Nobody Here'), removed: [] })).codes,
    ).toHaveLength(1);
    await salmah.does('keepList', { list: 'customers', changes: changes('Rashid'), removed: [] });
    const before = (await of('Rashid')).openCount;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: customer().id,
      shipToId: customer().shipTos[0],
      customerReference: 'R-1',
      lines: [{ id: null, itemId: world.item('SALT-25'), quantity: '4', shipDate: '2027-03-08', route: 'stock' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines, commission } = await salmah.get<{ lines: { id: number }[]; commission: { perCent: string }[] }>(
      `/api/orders/${order!.id}`,
    );
    expect(commission.map(({ perCent }) => perCent)).toEqual(['100']);
    await salmah.does('shipLines', { orderId: order!.id, lines: [{ lineId: lines[0]!.id, quantity: '4' }] });
    await salmah.does('invoiceCustomer', { orderId: order!.id });
    await count();
    expect((await of('Rashid')).openCount).toBe(before + 1);
    await world.serving.database.run('UPDATE customer SET sales_person_id = NULL');
  });

  it('of invoices before there was a rate is reckoned since a day', async () => {
    await world.serving.database.run('DELETE FROM commission_rate');
    await sold([['Farida', '100']]);
    await keep([{ of: 'net', at: 'invoice', perCent: '2' }]);
    await count();
    expect((await of('Farida')).openCount).toBe(0);
    await count(WORK_DATE);
    expect((await of('Farida')).openCount).toBe(1);
    expect((await salmah.refused('countCommission', { since: 'soon' })).codes).toEqual(['since: not-a-day']);
  });
});
