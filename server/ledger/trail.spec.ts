import type * as z from 'zod';
import type { openTrail, stockEntries } from '@api/ledger';
import { dec, sum } from '@core/kernel';
import { wholeThread } from '../testing/whole-thread';
import { agreed, World, WORK_DATE, type Visitor } from '../testing/world';

type Trail = z.output<typeof openTrail.out>;
type Entries = z.output<typeof stockEntries.out>;

describe('P1 from a document down to what it posted, and back', () => {
  let world: World;
  let salmah: Visitor;
  let thread: Awaited<ReturnType<typeof wholeThread>>;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    thread = await wholeThread(world, salmah, await agreed(world, salmah), '3', 'AR/77');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const trail = (kind: string, id: number) => salmah.get<Trail>(`/api/trail/${kind}/${id}`);
  /** `1300 Receivables 2220 –` of each entry. */
  const entriesOf = ({ journals }: Trail) =>
    journals.flatMap(({ entries }) => entries.map((each) => [each.account, each.debit, each.credit]));

  it.each(['RC', 'SH', 'CI', 'VI'] as const)('%s posts what balances, dated, with its source', async (kind) => {
    const id = { RC: thread.receipt, SH: thread.shipment, CI: thread.invoice, VI: thread.vendorInvoice }[kind].id;
    const found = await trail(kind, id);
    expect(found.document).toMatchObject({ kind, id });
    expect(found.journals.length).toBeGreaterThan(0);
    for (const journal of found.journals) {
      const side = (of: 'debit' | 'credit') => sum(journal.entries.map((each) => dec(each[of] ?? '0'))).toFixed();
      expect(side('debit')).toBe(side('credit'));
      expect(journal).toMatchObject({ source: { kind, id }, postedOn: WORK_DATE });
    }
    expect(found.changes.map(({ person }) => person)).toEqual(['Salmah']);
  });

  it('tells what an invoice left owed, and what settled it', async () => {
    const sheet = await salmah.get<{ openItemId: number; total: string }>(
      `/api/customer-invoices/${thread.invoice.id}`,
    );
    const pay = (amount: string) =>
      salmah.does('recordPayment', { openItemId: sheet.openItemId, amount, paidOn: WORK_DATE });
    await pay('20');
    await pay(dec(sheet.total).minus(20).toFixed());
    const [item] = (await trail('CI', thread.invoice.id)).openItems;
    expect(item).toMatchObject({ amount: sheet.total, owed: '0', of: { kind: 'CI', id: thread.invoice.id } });
    expect(item!.moves.map(({ how, amount }) => [how, amount])).toEqual([
      ['paid', '20'],
      ['paid', dec(sheet.total).minus(20).toFixed()],
    ]);
    // The payment tells the same from its end.
    const [payment] = item!.moves;
    const paid = await trail('PY', payment!.document.id);
    expect(entriesOf(paid).map(([, debit, credit]) => debit ?? credit)).toEqual(['20', '20']);
    expect((await trail('JR', paid.journals[0]!.document.id)).journals[0]!.source).toMatchObject({ kind: 'PY' });
  });

  it('leads from an item to every document that moved it, with what was on hand after each', async () => {
    const item = world.item('FC-20');
    const [first] = await salmah.does('enterPurchase', bought(item, '40'));
    const [line] = (await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${first!.id}`)).lines;
    for (const quantity of ['10', '25', '5']) {
      await salmah.does('receiveGoods', { purchaseId: first!.id, lines: [{ lineId: line!.id, quantity }] });
    }
    const page = (query: string) => salmah.get<Entries>(`/api/items/${item}/stock-entries?rows=2${query}`);
    const newest = await page('');
    const rest = await page(`&cursor=${newest.next}`);
    const shown = [...newest.rows, ...rest.rows].map(({ quantity, onHand, document }) => [
      quantity,
      onHand,
      document.kind,
    ]);
    expect(shown).toEqual([
      ['5', '40', 'RC'],
      ['25', '35', 'RC'],
      ['10', '10', 'RC'],
    ]);
    expect(rest.next).toBeNull();
  });

  const bought = (itemId: number, quantity: string) => ({
    vendorId: world.masters.vendors.get('V-101'),
    shipToId: null,
    lines: [{ itemId, quantity, dueDate: '2027-03-20' }],
  });

  it('shows nothing of another company, and of a document that is not there', async () => {
    expect(await salmah.get('/api/trail/CI/999999')).toMatchObject({ status: 404 });
    const { companyId, sisterId } = world.masters;
    const { database } = world.serving;
    await database.run('UPDATE session SET company_id = ? WHERE company_id = ?', [sisterId, companyId]);
    world.serving.sessions.forget();
    expect(await salmah.get(`/api/trail/CI/${thread.invoice.id}`)).toMatchObject({ status: 404 });
    await database.run('UPDATE session SET company_id = ? WHERE company_id = ?', [companyId, sisterId]);
    world.serving.sessions.forget();
  });

  it.each([
    ['UPDATE journal SET posted_on = posted_on'],
    ['DELETE FROM journal_entry'],
    ['UPDATE stock_entry SET quantity = 0'],
    ['DELETE FROM audit'],
  ])('is written once, whoever asks: %s', async (sql) => {
    await expect(world.serving.database.run(sql)).rejects.toThrow();
  });
});
