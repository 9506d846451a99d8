import { WORK_DATE, World, type Visitor } from '../testing/world';

interface Uninvoiced {
  shipmentLineId: number;
  order: { id: number; number: string };
  open: string;
}

describe('one invoice for several orders', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    await world.withWorks();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const CUSTOMER = 'Kasturi Bottling';
  const customerOf = (name: string) => world.masters.customers.get(name)!;

  /** An order for so many bags, and so many of them gone. */
  async function shipped(quantity: string, gone = quantity, name = CUSTOMER): Promise<number> {
    const { id: customerId, shipTos } = customerOf(name);
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: 'KB-1',
      lines: [{ id: null, itemId: world.item('GAC-25'), quantity, shipDate: '2027-03-08', route: 'stock' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    await salmah.does('shipLines', { orderId: order!.id, lines: [{ lineId: lines[0]!.id, quantity: gone }] });
    return order!.id;
  }
  const open = async () =>
    (await salmah.get<{ rows: Uninvoiced[] }>(`/api/customers/${customerOf(CUSTOMER).id}/uninvoiced`)).rows;
  const orderOf = (id: number) =>
    salmah.get<{
      state: string;
      lines: { invoiced: string }[];
      documents: { document: { kind: string; id: number } }[];
    }>(`/api/orders/${id}`);

  it('covers all of theirs, closes what has nothing left, and is seen from each', async () => {
    const [first, second] = [await shipped('3'), await shipped('5', '4')];
    expect((await open()).map(({ order, open: left }) => [order.id, left])).toEqual([
      [first, '3'],
      [second, '4'],
    ]);
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: first, others: [second, first] });
    expect(await open()).toEqual([]);
    const sheet = await salmah.get<{
      source: { id: number };
      alsoFor: { id: number }[];
      lines: unknown[];
      openItemId: number;
      total: string;
    }>(`/api/customer-invoices/${invoice!.id}`);
    expect([sheet.source.id, sheet.alsoFor.map(({ id }) => id), sheet.lines.length]).toEqual([first, [second], 2]);
    for (const [id, state, invoiced] of [
      [first, 'closed', '3'],
      [second, 'confirmed', '4'],
    ] as const) {
      const order = await orderOf(id);
      expect([order.state, order.lines[0]!.invoiced]).toEqual([state, invoiced]);
      expect(order.documents.some(({ document }) => document.kind === 'CI' && document.id === invoice!.id)).toBe(true);
    }
    await salmah.does('recordPayment', { openItemId: sheet.openItemId, amount: sheet.total, paidOn: WORK_DATE });
    const paid = await salmah.get<{ lines: { paidShare: number }[] }>(`/api/orders/${second}`);
    expect(paid.lines[0]!.paidShare).toBe(0.8);
  });

  it('is credited as a whole, and both orders are open again', async () => {
    const [first, second] = [await shipped('2'), await shipped('2')];
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: first, others: [second] });
    expect([(await orderOf(first)).state, (await orderOf(second)).state]).toEqual(['closed', 'closed']);
    const [note] = await salmah.does('creditInvoice', {
      invoiceId: invoice!.id,
      kind: 'reversal',
      reason: 'to another address',
      lines: [],
    });
    for (const id of [first, second]) {
      const order = await orderOf(id);
      expect([order.state, order.lines[0]!.invoiced]).toEqual(['confirmed', '0']);
      expect(order.documents.some(({ document }) => document.kind === 'CN' && document.id === note!.id)).toBe(true);
    }
    expect((await open()).map(({ order }) => order.id)).toEqual([first, second]);
    // Once more, part of it, dated back as far as its goods allow.
    const [one] = await open();
    await salmah.does('invoiceCustomer', {
      orderId: first,
      others: [second],
      lines: [{ shipmentLineId: one!.shipmentLineId, quantity: '0.5' }],
      invoiceDate: WORK_DATE,
    });
    expect((await open()).map(({ open: left }) => left)).toEqual(['1.5', '2']);
    expect((await salmah.refused('invoiceCustomer', { orderId: first, invoiceDate: '2027-02-01' })).codes).toEqual([
      'invoiceDate: invoice-before-goods',
    ]);
    await salmah.does('invoiceCustomer', { orderId: first, others: [second] });
  });

  it('is not for orders of another customer', async () => {
    const [first, other] = [await shipped('1'), await shipped('1', '1', 'Nilam Dialysis Centre')];
    expect((await salmah.refused('invoiceCustomer', { orderId: first, others: [other] })).codes).toEqual([
      'others.0: invoice-of-others',
    ]);
    expect((await salmah.raw('invoiceCustomer', { orderId: first, others: [999_999] })).status).toBe(404);
    await salmah.does('invoiceCustomer', { orderId: first });
    await salmah.does('invoiceCustomer', { orderId: other });
  });

  it('invoices once what two people invoice at once, whichever order each began from', async () => {
    for (let at = 0; at < 4; at += 1) {
      const [first, second] = [await shipped('2'), await shipped('3')];
      const answers = await Promise.all([
        salmah.raw('invoiceCustomer', { orderId: first, others: [second] }),
        salmah.raw('invoiceCustomer', { orderId: second, others: [first] }),
        salmah.raw('invoiceCustomer', { orderId: second }),
      ]);
      expect(answers.filter(({ status }) => status === 200).length).toBeGreaterThan(0);
      expect(answers.every(({ status }) => [200, 409, 422].includes(status))).toBe(true);
      expect(await open()).toEqual([]);
      expect((await orderOf(second)).lines[0]!.invoiced).toBe('3');
    }
  });
});
