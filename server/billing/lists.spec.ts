import { addDays } from '@core/kernel';
import { agreed, WORK_DATE, World, type Visitor } from '../testing/world';

describe('what is owed, and what was credited and paid ahead', () => {
  let world: World;
  let salmah: Visitor;
  const invoices: { id: number; number: string; total: string; openItemId: number }[] = [];

  beforeAll(async () => {
    world = await World.make();
    await world.withWorks();
    salmah = await world.visitor();
    for (const [name, quantity] of [
      ['Kasturi Bottling', '3'],
      ['Kasturi Bottling', '2'],
      ['Nilam Dialysis Centre', '5'],
    ] as const) {
      const { id: customerId, shipTos } = world.masters.customers.get(name)!;
      const [order] = await salmah.does('saveOrder', {
        id: null,
        version: null,
        customerId,
        shipToId: shipTos[0],
        customerReference: 'R-1',
        lines: [{ id: null, itemId: world.item('GAC-25'), quantity, shipDate: '2027-03-08', route: 'stock' }],
      });
      await salmah.does('confirmOrder', { id: order!.id, version: 1 });
      const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
      await salmah.does('shipLines', { orderId: order!.id, lines: [{ lineId: lines[0]!.id, quantity }] });
      const [made] = await salmah.does('invoiceCustomer', { orderId: order!.id });
      const sheet = await salmah.get<{ total: string; openItemId: number }>(`/api/customer-invoices/${made!.id}`);
      invoices.push({ ...made!, ...sheet, id: made!.id });
    }
  });
  afterAll(() => world.end());

  const get = <Body>(path: string) => salmah.get<Body>(path);
  interface Rows<Row> {
    rows: Row[];
  }
  interface Aged {
    rows: { party: { name: string }; ages: string[]; total: string; credit: string; late: number }[];
    sums: { currency: string; ages: string[]; total: string }[];
  }

  it('is told by party and age, with its sums, and nobody may remind before it is due', async () => {
    const now = await get<Aged>('/api/open-by-age');
    const sumOf = (...at: number[]) => at.reduce((all, each) => all + Number(invoices[each]!.total), 0);
    expect(now.rows.map(({ party, late }) => [party.name, late])).toEqual([
      ['Kasturi Bottling', 0],
      ['Nilam Dialysis Centre', 0],
    ]);
    expect(Number(now.rows[0]!.ages[0])).toBeCloseTo(sumOf(0, 1), 4);
    expect(Number(now.sums[0]!.total)).toBeCloseTo(sumOf(0, 1, 2), 4);
    expect((await get<Aged>('/api/open-by-age?q=nilam')).rows).toHaveLength(1);
    expect((await get<Aged>('/api/open-by-age?side=vendor')).rows).toEqual([]);
    const customerIds = [world.masters.customers.get('Kasturi Bottling')!.id];
    expect((await salmah.refused('draftReminders', { customerIds })).codes).toEqual([
      'customerIds.0: nothing-past-due',
    ]);
  });

  it('is drafted as one reminder a customer, once while it waits, firmer the longer it is due', async () => {
    await salmah.does('moveWorkDate', { workDate: addDays(WORK_DATE, 30 + 40) });
    const late = await get<Aged>('/api/open-by-age');
    expect(late.rows.map((row) => row.late)).toEqual([40, 25]);
    const customerIds = ['Kasturi Bottling', 'Nilam Dialysis Centre'].map(
      (each) => world.masters.customers.get(each)!.id,
    );
    const answers = await Promise.all([1, 2].map(() => salmah.raw('draftReminders', { customerIds })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    const { rows } =
      await get<Rows<{ id: number; party: string; subject: string; body: string; document: { number: string } }>>(
        '/api/message-drafts',
      );
    expect(rows).toHaveLength(2);
    const kasturi = rows.find(({ party }) => party === 'Kasturi Bottling')!;
    expect(kasturi.subject).toMatch(/^Reminder: MYR [\d,]+\.\d\d past due$/);
    expect(rows.find(({ party }) => party === 'Nilam Dialysis Centre')!.subject).toMatch(/^Second reminder: MYR/);
    expect(kasturi.body).toContain(`${invoices[0]!.number} (your R-1)`);
    expect(kasturi.body).toContain(`${invoices[1]!.number} (your R-1)`);
    expect(kasturi.document.number).toBe(invoices[0]!.number);
    expect((await salmah.refused('draftReminders', { customerIds: customerIds.slice(0, 1) })).codes).toEqual([
      'customerIds.0: reminder-waits',
    ]);
    await salmah.does('dropDraft', { id: kasturi.id });
    await salmah.does('draftReminders', { customerIds: customerIds.slice(0, 1) });
  });

  it('lists credit notes, with what of them stands to credit', async () => {
    const [first, second] = invoices;
    await salmah.does('recordPayment', { openItemId: first!.openItemId, amount: first!.total, paidOn: WORK_DATE });
    const credit = (invoiceId: number) =>
      salmah.does('creditInvoice', { invoiceId, kind: 'reversal', reason: 'twice', lines: [] });
    const [paid] = await credit(first!.id);
    const [owed] = await credit(second!.id);
    const list = async (query: string) =>
      (
        await get<Rows<{ document: { id: number }; left: string; against: { number: string } }>>(
          `/api/credit-notes${query}`,
        )
      ).rows;
    expect((await list('')).map(({ document, left, against }) => [document.id, Number(left), against.number])).toEqual([
      [owed!.id, 0, second!.number],
      [paid!.id, Number(first!.total), first!.number],
    ]);
    const ids = async (query: string) => (await list(query)).map(({ document }) => document.id);
    expect(await ids('?left=yes')).toEqual([paid!.id]);
    expect(await ids('?sort=total-down')).toEqual([paid!.id, owed!.id]);
    expect(await ids('?sort=party-up&q=twice')).toEqual([owed!.id, paid!.id]);
    expect(await ids('?credited=..-1')).toEqual([]);
    expect(await ids('?party=nobody')).toEqual([]);
    const aged = await get<Aged>('/api/open-by-age?q=kasturi');
    expect(Number(aged.rows[0]!.credit)).toBeCloseTo(-Number(first!.total), 4);
  });

  it('lists prepayments, with what is left', async () => {
    const agreement = await agreed(world, salmah);
    for (const amount of ['500', '250']) {
      await salmah.does('takePrepayment', {
        agreementId: agreement.id,
        agreementLineId: null,
        amount,
        takenOn: WORK_DATE,
      });
    }
    const list = async (query: string) =>
      (await get<Rows<{ amount: string; left: string; drawn: string }>>(`/api/prepayments${query}`)).rows;
    expect((await list('')).map(({ amount, left }) => [amount, left])).toEqual([
      ['250', '250'],
      ['500', '500'],
    ]);
    expect((await list('?sort=amount-down&left=yes')).map(({ amount }) => amount)).toEqual(['500', '250']);
    expect((await list('?sort=party-down&taken=2027-03-01')).map(({ amount }) => amount)).toEqual(['250', '500']);
    expect(await list('?q=nobody')).toEqual([]);
  });

  it('tells the accounts as the journals add up, to the entry', async () => {
    interface Account {
      id: number;
      before: string;
      debit: string;
      credit: string;
      balance: string;
    }
    const { rows } = await get<Rows<Account>>('/api/accounts');
    const cents = (of: (row: Account) => string) =>
      rows.reduce((all, row) => all + Math.round(Number(of(row)) * 10_000), 0);
    expect(cents(({ balance }) => balance)).toBe(0);
    expect(cents(({ debit }) => debit)).toBe(cents(({ credit }) => credit));
    expect(cents(({ debit }) => debit)).toBeGreaterThan(0);
    const later = await get<Rows<Account>>(`/api/accounts?days=${encodeURIComponent('+1..')}`);
    expect(later.rows.map(({ before, balance }) => [before, balance])).toEqual(
      rows.map(({ balance }) => [balance, balance]),
    );
    const moved = rows.find(({ debit }) => debit !== '0')!;
    const entries = await get<Rows<{ amount: string; source: { number: string } }>>(
      `/api/accounts/${moved.id}/entries`,
    );
    const debit = entries.rows.map(({ amount }) => Number(amount)).filter((amount) => amount > 0);
    expect(debit.reduce((all, each) => all + each, 0)).toBeCloseTo(Number(moved.debit), 4);
    expect(entries.rows.every(({ source }) => /^[A-Z]{2}-\d+$/.test(source.number))).toBe(true);
    expect(await get<Rows<unknown>>(`/api/accounts/${moved.id}/entries?days=..2027-02-28`)).toMatchObject({ rows: [] });
  });
});
