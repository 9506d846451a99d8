import { ACTS, ROOMS } from '../rooms';
import { agreed, placed, releaseOf, World, type Visitor } from '../testing/world';

interface PageOf<Row> {
  rows: Row[];
  next: string | null;
}
interface Numbered {
  id: number;
  number: string;
}

describe('lists and what is found', () => {
  let world: World;
  let salmah: Visitor;
  let agreement: { id: number; lineId: number };

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah, { title: '100 % membranes', limitPolicy: 'keep' }, '10000');
  });
  afterAll(() => world.end());

  const pageOf = (path: string) => salmah.get<PageOf<Numbered>>(path);

  it('reads page by page, newest first, every row once, also while others add rows', async () => {
    for (let at = 0; at < 205; at += 1) await salmah.does('releaseAgreement', releaseOf(world, agreement, '1'));
    const seen: number[] = [];
    let next: string | null = '';
    let pages = 0;
    while (next !== null) {
      const page: PageOf<Numbered> = await pageOf(`/api/orders${next ? `?cursor=${next}` : ''}`);
      seen.push(...page.rows.map((row) => row.id));
      next = page.next;
      pages += 1;
      if (pages === 1) await salmah.does('releaseAgreement', releaseOf(world, agreement, '1'));
    }
    expect(pages).toBe(3);
    expect(seen).toEqual([...new Set(seen)].sort((a, b) => b - a));
    expect(seen).toHaveLength(205);
  });

  it('looks in number, reference and customer, and takes wildcards as they are typed', async () => {
    await salmah.does('releaseAgreement', {
      ...releaseOf(world, agreement, '1'),
      customerReference: 'PLAN_50%',
    });
    const found = async (words: string) => (await pageOf(`/api/orders?q=${encodeURIComponent(words)}`)).rows.length;
    expect(await found('plan_50%')).toBe(1);
    expect(await found('PLAN_5_')).toBe(0);
    expect(await found('teratai')).toBe(100);
    expect(await found("'; DROP TABLE sales_order; --")).toBe(0);
    expect((await pageOf('/api/agreements?q=100%20%25')).rows.map((row) => row.id)).toEqual([agreement.id]);
  });

  it('filters by state, and refuses a state there is not', async () => {
    const ids = await placed(world, salmah, agreement, '3');
    const confirmed = await pageOf('/api/orders?state=confirmed');
    expect(confirmed.rows.map((row) => row.id)).toEqual([ids.orderId]);
    expect((await pageOf('/api/purchases?state=placed')).rows.map((row) => row.id)).toEqual([ids.purchaseId]);
    expect(await salmah.get('/api/orders?state=lost')).toMatchObject({ status: 400 });
    expect(await salmah.get('/api/orders/0')).toMatchObject({ status: 400 });
    expect(await salmah.get('/api/orders/4294967295')).toMatchObject({ status: 404 });
  });

  it('begins at the start where a cursor is none of ours', async () => {
    expect((await pageOf('/api/orders?cursor=x')).rows).toHaveLength(100);
  });

  it('finds documents, parties and items by any part of number, name, phone or reference', async () => {
    const found = async (words: string) =>
      (
        await salmah.get<{ rows: { kind: string; number: string }[] }>(`/api/find?q=${encodeURIComponent(words)}`)
      ).rows.map((row) => `${row.kind} ${row.number}`);
    const sheet = await salmah.get<Numbered>(`/api/agreements/${agreement.id}`);
    expect(await found(sheet.number)).toEqual([`AG ${sheet.number}`]);
    expect(await found('RO-4040')).toEqual(['item RO-4040']);
    expect((await found('arus')).some((each) => each.startsWith('vendor '))).toBe(true);
    const withPerCent = await found('% m');
    expect(withPerCent).toContain(`AG ${sheet.number}`);
    expect(withPerCent.filter((each) => /^(customer|vendor|item) /.test(each))).toEqual([]);
    expect(await found('no such thing')).toEqual([]);
  });

  it('Today names each thing that waits, its day and its step, and forgets what is done', async () => {
    const today = async () =>
      (await salmah.get<{ rows: { kind: string; document: Numbered; count: number }[] }>('/api/today')).rows;
    const kinds = async (id: number, kind: string) =>
      (await today())
        .filter((row) => row.document.id === id && row.document.number.startsWith(kind))
        .map((row) => row.kind);
    const ids = await placed(world, salmah, agreement, '2');
    expect(await kinds(ids.purchaseId, 'PO')).toEqual(['purchase-coming']);
    await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '2' }],
    });
    expect(await kinds(ids.purchaseId, 'PO')).toEqual(['vendor-not-invoiced']);
    expect(await kinds(ids.orderId, 'SO')).toEqual(['not-invoiced']);
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    expect(await kinds(ids.orderId, 'SO')).toEqual([]);
    expect(await kinds(invoice!.id, 'CI')).toEqual(['invoice-owed']);
    const { openItemId, total } = await salmah.get<{ openItemId: number; total: string }>(
      `/api/customer-invoices/${invoice!.id}`,
    );
    await salmah.does('recordPayment', { openItemId, amount: total, paidOn: '2027-03-01' });
    expect(await kinds(invoice!.id, 'CI')).toEqual([]);
  });

  it('a customer owes the sum of the open items shown', async () => {
    const ids = await placed(world, salmah, agreement, '5');
    await salmah.does('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '5' }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    const { openItemId } = await salmah.get<{ openItemId: number }>(`/api/customer-invoices/${invoice!.id}`);
    await salmah.does('recordPayment', { openItemId, amount: '0.01', paidOn: '2027-03-01' });
    const customerId = world.masters.customers.get('Teratai Bay Resort')!.id;
    const sheet = await salmah.get<{ balance: string; openItems: { owed: string; amount: string; settled: string }[] }>(
      `/api/customers/${customerId}`,
    );
    const cents = (text: string) => Math.round(Number(text) * 100);
    expect(sheet.openItems.length).toBeGreaterThan(0);
    expect(cents(sheet.balance)).toBe(sheet.openItems.reduce((sum, item) => sum + cents(item.owed), 0));
    for (const item of sheet.openItems) expect(cents(item.owed)).toBe(cents(item.amount) - cents(item.settled));
  });

  it('describes itself: every act and read that is bound, with its schemas', async () => {
    const description = await salmah.get<{ openapi: string; paths: Record<string, Record<string, unknown>> }>(
      '/api/openapi.json',
    );
    expect(description.openapi).toMatch(/^3\./);
    const bound = [
      ...ACTS.flatMap(({ endpoint: { name } }) => [`/api/acts/${name}`, `/api/acts/${name}/preview`]),
      '/api/events',
      ...ROOMS.flatMap(({ answers = [] }) => answers).map(
        ({ endpoint: { path } }) => `/api${path.replace(/:(\w+)/g, '{$1}')}`,
      ),
    ];
    expect(Object.keys(description.paths).sort()).toEqual([...new Set(bound)].sort());
    expect(bound).toContain('/api/acts/keepList');
  });
});
