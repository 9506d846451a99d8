import { agreed, World, type Visitor } from '../testing/world';

const line = (change: Record<string, string> = {}) => ({
  party: 'Kasturi Bottling',
  number: 'OLD-0412',
  invoiced: '2027-01-14',
  due: '2027-02-13',
  amount: '1240.50',
  currency: '',
  ...change,
});

describe('U3 what was there before Kampong', () => {
  let world: World;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    await world.serving.database.run("UPDATE vendor SET currency = 'USD' WHERE number = 'V-101'");
    await salmah.does('keepList', {
      list: 'rates',
      changes: [{ id: null, stamp: '', cells: { currency: 'USD', day: '2027-02-20', rate: '4.485' } }],
      removed: [],
    });
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  interface Invoice {
    owed: string;
    source: { kind: string; id: number };
    lines: unknown[];
    openItemId: number;
    reason: string;
  }
  const invoice = (side: 'customer' | 'vendor', id: number) => salmah.get<Invoice>(`/api/${side}-invoices/${id}`);
  const counted = async (table: string) =>
    (await world.serving.database.rows<{ n: number }>(`SELECT COUNT(*) AS n FROM ${table}`))[0]!.n;

  it('is owed by a customer under its old number, ages, is found, reminded of and paid', async () => {
    const lines = [line(), line({ party: 'kasturi bottling ', number: 'OLD-0413', currency: 'USD', amount: '100' })];
    const [first, second] = await salmah.does('openItems', { side: 'customer', lines });
    expect([first!.number, second!.number]).toEqual(['OLD-0412', 'OLD-0413']);
    const opened = await invoice('customer', first!.id);
    expect(opened).toMatchObject({
      owed: '1240.5',
      lines: [],
      source: { kind: 'JR' },
      reason: 'was owed before Kampong',
    });
    // Seen wherever what is owed is seen.
    const { rows } = await salmah.get<{ rows: { document: { number: string } }[] }>(
      '/api/invoices?side=customer&open=yes&q=OLD-04',
    );
    expect(rows.map(({ document }) => document.number).sort()).toEqual(['OLD-0412', 'OLD-0413']);
    const found = await salmah.get<{ documents: { number: string }[] }>('/api/find?q=OLD-0412');
    expect(JSON.stringify(found)).toContain('OLD-0412');
    // The same file again doubles nothing.
    const before = await counted('customer_invoice');
    expect(await salmah.does('openItems', { side: 'customer', lines })).toEqual([]);
    expect(await counted('customer_invoice')).toBe(before);
    expect((await salmah.refused('openItems', { side: 'customer', lines: [line({ amount: '9' })] })).codes).toEqual([
      'lines.0.number: opened-otherwise',
    ]);
    await salmah.does('recordPayment', { openItemId: opened.openItemId, amount: '1240.5', paidOn: '2027-03-01' });
    expect(await invoice('customer', first!.id)).toMatchObject({ owed: '0' });
    expect(await salmah.does('openItems', { side: 'customer', lines })).toEqual([]);
  });

  it('is taken back by a credit note where it was told wrongly, once', async () => {
    const lines = [line({ number: 'OLD-0500' })];
    const [opened] = await salmah.does('openItems', { side: 'customer', lines });
    const back = { invoiceId: opened!.id, kind: 'reversal', reason: 'It was paid in February', lines: [] };
    const [note] = await salmah.does('creditInvoice', back);
    expect(await salmah.get(`/api/credit-notes/${note!.id}`)).toMatchObject({
      total: '1240.5',
      left: '0',
      against: { number: 'OLD-0500' },
    });
    expect(await invoice('customer', opened!.id)).toMatchObject({ owed: '0' });
    expect((await salmah.refused('creditInvoice', back)).codes).toEqual(['credited-already']);
    expect((await salmah.refused('openItems', { side: 'customer', lines })).codes).toEqual([
      'lines.0.number: number-used',
    ]);
  });

  it('is owed to a vendor under their number, and free again once it is taken back', async () => {
    const lines = [line({ party: 'V-101', number: 'AR/OLD/77', amount: '940' })];
    const [opened] = await salmah.does('openItems', { side: 'vendor', lines });
    expect(opened!.number).toMatch(/^VI-/);
    expect(await invoice('vendor', opened!.id)).toMatchObject({ owed: '940', source: { kind: 'JR' } });
    const { rows } = await salmah.get<{ rows: { vendorNumber: string }[] }>('/api/invoices?side=vendor&q=AR/OLD');
    expect(rows.map(({ vendorNumber }) => vendorNumber)).toEqual(['AR/OLD/77']);
    expect(await salmah.does('openItems', { side: 'vendor', lines })).toEqual([]);
    await salmah.does('takeBackInvoice', { invoiceId: opened!.id, reason: 'Twice' });
    expect(await invoice('vendor', opened!.id)).toMatchObject({ owed: '0' });
    const [again] = await salmah.does('openItems', { side: 'vendor', lines });
    await salmah.does('recordPayment', {
      openItemId: (await invoice('vendor', again!.id)).openItemId,
      amount: '940',
      paidOn: '2027-03-01',
    });
  });

  it('was taken of an agreement: told as a whole, and released from what is left', async () => {
    const { id, lineId } = await agreed(world, salmah, {}, '100');
    const read = () =>
      salmah.get<{ number: string; lines: { id: number; released: string; shipped: string }[] }>(
        `/api/agreements/${id}`,
      );
    const { number } = await read();
    const tell = (quantity: string) =>
      salmah.does('tellTakenBefore', { lines: [{ agreement: number, item: '', quantity, value: '' }] });
    await tell('60');
    expect((await read()).lines.find((each) => each.id === lineId)).toMatchObject({ released: '60', shipped: '60' });
    await tell('60');
    await tell('55');
    expect((await read()).lines.find((each) => each.id === lineId)).toMatchObject({ released: '55' });
    expect(await world.verify()).toEqual([]);
    await tell('0');
    expect((await read()).lines.find((each) => each.id === lineId)).toMatchObject({ released: '0' });
  });

  it('P3 P8 leaves a credit that is set off against what is open, by one of two people', async () => {
    const usd = (number: string, amount: string) =>
      line({ number, amount, currency: 'USD', party: 'Nilam Dialysis Centre' });
    const open = async (...lines: ReturnType<typeof usd>[]) =>
      Promise.all(
        (await salmah.does('openItems', { side: 'customer', lines })).map(({ id }) => invoice('customer', id)),
      );
    const [paid] = await open(usd('OLD-0600', '100'));
    await salmah.does('recordPayment', { openItemId: paid!.openItemId, amount: '100', paidOn: '2027-03-01' });
    const [{ id: paidId }] = (await world.serving.database.rows<{ id: number }>(
      "SELECT id FROM customer_invoice WHERE number = 'OLD-0600'",
    )) as [{ id: number }];
    const [note] = await salmah.does('creditInvoice', {
      invoiceId: paidId,
      kind: 'reversal',
      reason: 'twice',
      lines: [],
    });
    // What is open now is carried at another rate.
    await world.workOn('2027-03-02');
    await salmah.does('keepList', {
      list: 'rates',
      changes: [{ id: null, stamp: '', cells: { currency: 'USD', day: '2027-03-02', rate: '4.6' } }],
      removed: [],
    });
    const [small, large] = await open(usd('OLD-0601', '60'), usd('OLD-0602', '80'));
    const credit = () => salmah.get<{ openItemId: number; left: string }>(`/api/credit-notes/${note!.id}`);
    const { openItemId: creditItemId } = await credit();
    const { rows, left } = await salmah.get<{ left: string; rows: { openItemId: number; owed: string }[] }>(
      `/api/open-items/${creditItemId}/uses`,
    );
    expect([left, rows.map(({ owed }) => owed)]).toEqual(['100', ['60', '80']]);
    const lines = [{ openItemId: small!.openItemId, amount: '60' }];
    const both = await Promise.all([1, 2].map(() => salmah.raw('setOffCredit', { creditItemId, lines })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 422]);
    expect(await world.verify()).toEqual([]);
    expect(await credit()).toMatchObject({ left: '40' });
    const more = { creditItemId, lines: [{ openItemId: large!.openItemId, amount: '40.01' }] };
    expect((await salmah.refused('setOffCredit', more)).codes).toEqual(['lines: above-the-credit']);
    await salmah.does('setOffCredit', { creditItemId, lines: [{ openItemId: large!.openItemId, amount: '40' }] });
    expect(await credit()).toMatchObject({ left: '0' });
    // Nobody else's invoice, and nothing that is owed, is a credit.
    expect((await salmah.refused('setOffCredit', { creditItemId: small!.openItemId, lines })).status).toBe(404);
    await world.workOn('2027-03-01');
  });
});
