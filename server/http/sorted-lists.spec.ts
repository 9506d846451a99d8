import { addDays } from '@core/kernel';
import { agreed, WORK_DATE, World, type Visitor } from '../testing/world';

interface Row {
  id: number;
  document?: { id: number };
  number: string;
  [name: string]: unknown;
}
interface PageOf {
  rows: Row[];
  next: string | null;
}

const name = (party: unknown) => (party as { name: string }).name;
const text = (field: string) => (row: Row) => (row[field] as string | null) ?? '';
const amount = (field: string) => (row: Row) => Number(row[field]);
const within = (value: unknown, from: string, to: string) => String(value) >= from && String(value) <= to;

/** Of each list the columns it can be read in the order of, with what of a row that is. */
const LISTS: Record<string, Record<string, (row: Row) => string | number>> = {
  '/api/agreements': {
    number: ({ id }) => id,
    last: text('lastDay'),
    committed: ({ values }) => Number((values as { committed: string }).committed),
  },
  '/api/agreements?state=in-force': {
    number: ({ id }) => id,
    last: text('lastDay'),
    committed: ({ values }) => Number((values as { committed: string }).committed),
  },
  '/api/orders': {
    number: ({ id }) => id,
    customer: ({ customer }) => name(customer),
    reference: text('customerReference'),
    ordered: text('orderDate'),
    ships: text('firstShipDate'),
    net: amount('net'),
  },
  '/api/purchases': {
    number: ({ id }) => id,
    vendor: ({ vendor }) => name(vendor),
    ordered: text('orderDate'),
    due: text('firstDueDate'),
    net: amount('net'),
  },
  '/api/invoices?side=customer': {
    number: ({ document }) => document!.id,
    party: ({ party }) => name(party),
    date: text('invoiceDate'),
    due: text('dueDate'),
    total: amount('total'),
  },
  '/api/invoices?side=vendor': {
    theirs: text('vendorNumber'),
    party: ({ party }) => name(party),
    due: text('dueDate'),
    total: amount('total'),
  },
  '/api/invoices?side=customer&open=yes': {
    due: text('dueDate'),
    party: ({ party }) => name(party),
    total: amount('total'),
  },
};

describe('lists in the order of their columns', () => {
  let world: World;
  let salmah: Visitor;
  const idOf = (row: Row) => row.document?.id ?? row.id;

  beforeAll(async () => {
    world = await World.make();
    await world.withWorks();
    salmah = await world.visitor();
    for (let at = 0; at < 5; at += 1) {
      await agreed(world, salmah, { lastDay: addDays('2027-06-01', (at * 30) % 70) }, String(50 + ((at * 40) % 110)));
    }
    const customers = ['Nilam Dialysis Centre', 'Teratai Bay Resort', 'Kasturi Bottling'];
    const bought = [
      ['V-101', 'RO-4040'],
      ['V-103', 'SALT-25'],
      ['V-104', 'GAC-25'],
    ] as const;
    for (let at = 0; at < 9; at += 1) {
      const customer = world.masters.customers.get(customers[at % 3]!)!;
      const quantity = String(1 + ((at * 5) % 7));
      const [order] = await salmah.does('saveOrder', {
        id: null,
        version: null,
        customerId: customer.id,
        shipToId: customer.shipTos[0],
        customerReference: `R-${(at * 4) % 9}`,
        lines: [
          {
            id: null,
            itemId: world.item('GAC-25'),
            quantity,
            shipDate: addDays(WORK_DATE, 8 + ((at * 3) % 20)),
            route: 'stock',
          },
        ],
      });
      if (at === 4) continue;
      await salmah.does('confirmOrder', { id: order!.id, version: 1 });
      if (at === 3) await salmah.does('cancelOrder', { id: order!.id, version: 2 });
      const [vendor, item] = bought[at % 3]!;
      const { rows } = await salmah.get<{ rows: { id: number; number: string }[] }>('/api/vendors');
      const [purchase] = await salmah.does('enterPurchase', {
        vendorId: rows.find(({ number }) => number === vendor)!.id,
        shipToId: null,
        lines: [{ itemId: world.item(item), quantity, dueDate: addDays(WORK_DATE, 8 + ((at * 7) % 25)), price: '90' }],
      });
      if (at > 5 || at === 3) continue;
      const lineOf = async (path: string) => (await salmah.get<{ lines: { id: number }[] }>(path)).lines[0]!.id;
      await salmah.does('shipLines', {
        orderId: order!.id,
        lines: [{ lineId: await lineOf(`/api/orders/${order!.id}`), quantity }],
      });
      await salmah.does('invoiceCustomer', { orderId: order!.id });
      const purchaseLineId = await lineOf(`/api/purchases/${purchase!.id}`);
      await salmah.does('receiveGoods', { purchaseId: purchase!.id, lines: [{ lineId: purchaseLineId, quantity }] });
      await salmah.does('enterVendorInvoice', {
        purchaseId: purchase!.id,
        vendorNumber: `V-${(at * 4) % 7}`,
        invoiceDate: addDays(WORK_DATE, -((at * 3) % 8)),
        lines: [{ purchaseLineId, quantity, unitPrice: '90' }],
      });
      await salmah.does('moveWorkDate', { workDate: addDays(WORK_DATE, at + 1) });
    }
  }, 120_000);
  afterAll(() => world.end());

  /** All rows of a list, read so many at a time. */
  async function whole(path: string, rows: number): Promise<Row[]> {
    const all: Row[] = [];
    for (let next: string | null = ''; next !== null;) {
      const more = `${path.includes('?') ? '&' : '?'}rows=${rows}${next ? `&cursor=${encodeURIComponent(next)}` : ''}`;
      const page: PageOf = await salmah.get<PageOf>(path + more);
      all.push(...page.rows);
      next = page.next;
    }
    return all;
  }

  describe.each(Object.keys(LISTS))('%s', (path) => {
    it.each(Object.keys(LISTS[path]!).flatMap((column) => [`${column}-up`, `${column}-down`]))('%s', async (sort) => {
      const of = LISTS[path]![sort.split('-')[0]!]!;
      const usual = (await whole(path, 200)).map(idOf);
      expect(usual.length).toBeGreaterThan(3);
      const rows = await whole(`${path}${path.includes('?') ? '&' : '?'}sort=${sort}`, 3);
      expect(rows.map(idOf).sort((a, b) => a - b)).toEqual(usual.sort((a, b) => a - b));
      const values = rows.map(of);
      const compare = (a: string | number, b: string | number) =>
        typeof a === 'number' ? a - Number(b) : a.localeCompare(String(b), 'en', { sensitivity: 'base' });
      const ordered = [...values].sort((a, b) => (sort.endsWith('up') ? compare(a, b) : compare(b, a)));
      expect(values).toEqual(ordered);
      expect(new Set(values).size).toBeGreaterThan(1);
    });
  });

  it('know the orders of agreements by the names that kept views and links have', async () => {
    for (const [before, now] of [
      ['newest', 'number'],
      ['last-day', 'last'],
      ['nonsense', 'number'],
    ]) {
      const rows = (await whole(`/api/agreements?sort=${before}`, 200)).map(idOf);
      expect(rows).toEqual((await whole(`/api/agreements?sort=${now}`, 200)).map(idOf));
      expect(rows.length).toBe(5);
    }
  });

  it('are narrowed to days, and are then in the order of those', async () => {
    const [{ today }] = (await world.serving.database.rows<{ today: string }>(
      'SELECT work_date AS today FROM company',
    )) as [{ today: string }];
    const all = await whole('/api/orders', 200);
    const days = encodeURIComponent('2027-03-01..+9');
    const some = await whole(`/api/orders?ships=${days}`, 3);
    const fits = all.filter(
      ({ firstShipDate }) => firstShipDate !== null && within(firstShipDate, '2027-03-01', addDays(today, 9)),
    );
    expect(some.map(idOf).sort()).toEqual(fits.map(idOf).sort());
    expect(some.length).toBeGreaterThan(0);
    expect(some.length).toBeLessThan(all.length);
    expect(some.map(text('firstShipDate'))).toEqual(some.map(text('firstShipDate')).sort());
    expect(await salmah.get('/api/orders?ships=soon')).toMatchObject({
      refusals: [{ field: 'ships', code: 'bad-days' }],
    });
  });

  it('are narrowed to one party, by its number', async () => {
    const all = await whole('/api/orders', 200);
    const { number } = all[0]!['customer'] as { number: string };
    const theirs = all.filter(({ customer }) => (customer as { number: string }).number === number).map(idOf);
    expect((await whole(`/api/orders?customer=${number}`, 2)).map(idOf)).toEqual(theirs);
    expect((await whole(`/api/orders?customer=${number}&sort=net-up`, 2)).map(idOf).sort()).toEqual(theirs.sort());
    expect(await whole('/api/orders?customer=nobody', 2)).toEqual([]);
  });

  it('tell who is late, and what is short', async () => {
    await world.serving.database.run("UPDATE company SET work_date = '2027-04-20'", []);
    world.serving.sessions.forget();
    const late = await whole('/api/orders?show=late', 3);
    const placed = await whole('/api/purchases?show=late', 3);
    expect(late.length).toBeGreaterThan(0);
    for (const row of late) {
      expect(row['state']).toBe('confirmed');
      const { lines } = await salmah.get<{
        lines: { shipDate: string; quantity: string; cancelled: string; shipped: string }[];
      }>(`/api/orders/${row.id}`);
      const open = lines.filter(
        ({ quantity, cancelled, shipped }) => Number(shipped) < Number(quantity) - Number(cancelled),
      );
      expect(open.some(({ shipDate }) => shipDate < '2027-04-20')).toBe(true);
    }
    expect(placed.length).toBeGreaterThan(0);
    for (const { openDue } of placed) expect(String(openDue) < '2027-04-20').toBe(true);
    const short = await world.serving.database.rows<{ orderId: number }>(
      `SELECT DISTINCT l.order_id FROM short_line s JOIN sales_order_line l ON l.company_id = s.company_id AND l.id = s.order_line_id`,
    );
    expect((await whole('/api/orders?show=short', 3)).map(idOf).sort()).toEqual(
      short.map(({ orderId }) => orderId).sort(),
    );
    await world.serving.database.run('UPDATE company SET work_date = ?', [WORK_DATE]);
    world.serving.sessions.forget();
  });

  it('are had as files, filtered and sorted as they are', async () => {
    const file = async (path: string) =>
      (await fetch(`${world.serving.address}${path}`, { headers: { cookie: salmah.cookie } })).text();
    const lines = (await file('/api/orders.csv?state=confirmed&sort=net-up')).trim().split('\r\n');
    const rows = await whole('/api/orders?state=confirmed&sort=net-up', 50);
    expect(lines[0]).toContain('number,customer,customer name');
    expect(lines.slice(1).map((line) => line.split(',')[0])).toEqual(rows.map(({ number }) => number));
    expect((await file('/api/purchases.csv')).split('\r\n')[0]).toContain('straight to');
    expect((await file('/api/invoices.csv?side=vendor')).split('\r\n').length).toBeGreaterThan(3);
  });
});

describe('views of lists', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    joko = await world.visitor('joko');
  });
  afterAll(() => world.end());

  const view = (over: object) => ({
    list: 'orders',
    name: 'North',
    forAll: false,
    query: { ships: '..+7' },
    columns: { order: ['net', 'number'], hidden: ['state'], widths: { net: 200 } },
    ...over,
  });
  const seen = async (visitor: Visitor) =>
    (await visitor.get<{ rows: { id: number; name: string; own: boolean; query: object }[] }>('/api/views/orders'))
      .rows;

  it('are kept for oneself or for all, replaced by name, and dropped by who kept them', async () => {
    await salmah.does('keepView', view({}));
    await salmah.does('keepView', view({ name: 'All see this', forAll: true }));
    expect((await seen(salmah)).map(({ name }) => name)).toEqual(['All see this', 'North']);
    expect((await seen(joko)).map(({ name, own }) => [name, own])).toEqual([['All see this', false]]);
    await salmah.does('keepView', view({ name: 'north', query: { state: 'draft' } }));
    const [, mine] = await seen(salmah);
    expect(mine).toMatchObject({ name: 'north', query: { state: 'draft' }, own: true });
    const shared = (await seen(joko))[0]!.id;
    expect((await joko.refused('dropView', { id: shared })).codes).toEqual(['view-of-another']);
    expect((await joko.refused('keepView', view({ forAll: true }))).codes).toEqual(['no-right']);
    expect((await joko.raw('dropView', { id: mine!.id })).status).toBe(404);
    await salmah.does('dropView', { id: shared });
    expect(await seen(joko)).toEqual([]);
  });
});
