import type * as z from 'zod';
import type { InvoiceRow, InvoiceSheet } from '@api/billing';
import { dec } from '@core/kernel';
import { wholeThread } from '../testing/whole-thread';
import { agreed, World, WORK_DATE, type Visitor } from '../testing/world';

type Row = z.output<typeof InvoiceRow>;
type Sheet = z.output<typeof InvoiceSheet>;

describe('invoices and payments', () => {
  let world: World;
  let salmah: Visitor;
  const threads: Awaited<ReturnType<typeof wholeThread>>[] = [];

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    const agreement = await agreed(world, salmah);
    for (const quantity of ['3', '4', '5']) {
      threads.push(await wholeThread(world, salmah, agreement, quantity, `AR/${quantity}`));
    }
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const list = (query: string) => salmah.get<{ rows: Row[]; next: string | null }>(`/api/invoices?${query}`);
  const sheet = (side: 'customer' | 'vendor', id: number) => salmah.get<Sheet>(`/api/${side}-invoices/${id}`);
  const pay = (openItemId: number, amount: string, paidOn = WORK_DATE) => ({ openItemId, amount, paidOn });

  it.each(['customer', 'vendor'] as const)('of a %s come newest first, page by page, each once', async (side) => {
    const ids: number[] = [];
    for (let next: string | null = ''; next !== null;) {
      const page: { rows: Row[]; next: string | null } = await list(
        `side=${side}&rows=2${next ? `&cursor=${encodeURIComponent(next)}` : ''}`,
      );
      expect(page.rows.length).toBeLessThanOrEqual(2);
      expect(page.rows.every((row) => row.side === side)).toBe(true);
      ids.push(...page.rows.map((row) => row.document.id));
      next = page.next;
    }
    const made = threads.map((thread) => (side === 'customer' ? thread.invoice.id : thread.vendorInvoice.id));
    expect(ids).toEqual([...made].reverse());
  });

  it('are found by number, party, order and the vendor’s own number', async () => {
    const { invoice } = threads[0]!;
    const numbers = async (query: string) => (await list(query)).rows.map((row) => row.document.number);
    expect(await numbers(`q=${invoice.number}`)).toEqual([invoice.number]);
    expect(await numbers('q=Teratai')).toHaveLength(3);
    expect(await numbers('q=nobody')).toEqual([]);
    expect(await numbers('side=vendor&q=AR/4')).toEqual([threads[1]!.vendorInvoice.number]);
  });

  it('are owed until they are paid, in parts, and not beyond', async () => {
    const { invoice } = threads[0]!;
    const { openItemId, total } = await sheet('customer', invoice.id);
    expect((await salmah.refused('recordPayment', pay(openItemId, dec(total).plus('0.01').toFixed()))).codes).toEqual([
      'amount: above-owed',
    ]);
    expect((await salmah.refused('recordPayment', pay(openItemId, '0'))).codes).toEqual(['amount: not-above-zero']);
    expect((await salmah.refused('recordPayment', pay(openItemId, 'a lot'))).codes).toEqual(['amount: not-a-number']);
    await salmah.does('recordPayment', pay(openItemId, '100.05'));
    expect(await sheet('customer', invoice.id)).toMatchObject({ owed: dec(total).minus('100.05').toFixed() });
    await salmah.does('recordPayment', pay(openItemId, dec(total).minus('100.05').toFixed()));
    const paid = await sheet('customer', invoice.id);
    expect(paid).toMatchObject({ owed: '0' });
    expect(paid.payments.map(({ amount }) => amount)).toEqual(['100.05', dec(total).minus('100.05').toFixed()]);
    const open = (await list('open=yes')).rows.map((row) => row.document.number);
    expect(open).not.toContain(invoice.number);
    expect(open).toHaveLength(2);
  });

  it('of a vendor tell by how much they differ from what came', async () => {
    const { vendorInvoice } = threads[2]!;
    const { lines, net } = await sheet('vendor', vendorInvoice.id);
    // Received at 620, invoiced at 633.33.
    expect(lines.map(({ quantity, unitPrice, net: of, difference }) => [quantity, unitPrice, of, difference])).toEqual([
      ['5', '633.33', '3166.65', '66.65'],
    ]);
    expect(net).toBe('3166.65');
  });

  it('of a vendor are entered once under their number, and for no more than came', async () => {
    const { purchaseId, purchaseLineId } = threads[1]!;
    const entered = (vendorNumber: string, quantity: string) => ({
      purchaseId,
      vendorNumber,
      invoiceDate: WORK_DATE,
      lines: [{ purchaseLineId, quantity, unitPrice: '620' }],
    });
    expect((await salmah.refused('enterVendorInvoice', entered('AR/9', '1'))).codes).toContain('nothing-to-invoice');
    const twice = await salmah.refused('enterVendorInvoice', entered('AR/3', '0'));
    expect(twice.codes).toContain('vendorNumber: vendor-number-used');
  });

  it('that are not there are said to be not there', async () => {
    expect(await sheet('customer', 999_999)).toMatchObject({ status: 404 });
    expect(await sheet('vendor', 999_999)).toMatchObject({ status: 404 });
    expect((await salmah.refused('recordPayment', pay(999_999, '1'))).status).toBe(404);
  });
});
