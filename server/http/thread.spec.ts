import { fixedTerm } from '../sample/terms';
import { agreed, placed, releaseOf, World, type Visitor } from '../testing/world';

/** The whole thread through HTTP on a real database, each test on documents of its own. */
describe('the thread of a drop shipment', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  it('goes from agreement to payment, with every figure where it belongs', async () => {
    const agreement = await agreed(world, salmah);
    const ids = await placed(world, salmah, agreement, '12');
    const moved = await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '12' }],
    });
    expect(moved.map((document) => document.kind)).toEqual(['RC', 'SH']);
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    await salmah.does('enterVendorInvoice', {
      purchaseId: ids.purchaseId,
      vendorNumber: 'INV-1',
      invoiceDate: '2027-03-01',
      lines: [{ purchaseLineId: ids.purchaseLineId, quantity: '12', unitPrice: '622' }],
    });
    const sheet = await salmah.get<{ openItemId: number; total: string; dueDate: string }>(
      `/api/customer-invoices/${invoice!.id}`,
    );
    expect(sheet).toMatchObject({ total: '9412.8', dueDate: '2027-03-31' });
    await salmah.does('recordPayment', { openItemId: sheet.openItemId, amount: '9412.8', paidOn: '2027-03-01' });
    // From what is owed to what it settled, and back.
    interface Items {
      openItems: {
        of: { number: string };
        owed: string;
        moves: { document: { kind: string; id: number; number: string }; how: string }[];
      }[];
    }
    const sold = await salmah.get<Items>(`/api/trail/CI/${invoice!.id}`);
    const [payment] = sold.openItems[0]!.moves;
    expect(sold.openItems).toMatchObject([{ owed: '0', moves: [{ how: 'paid' }] }]);
    const back = await salmah.get<Items>(`/api/trail/PY/${payment!.document.id}`);
    expect(back.openItems[0]!.of.number).toBe(invoice!.number);

    const after = await salmah.get<Record<string, unknown>>(`/api/agreements/${agreement.id}`);
    expect(after['values']).toEqual({ committed: '74000', released: '8880', shipped: '8880', invoiced: '8880' });
    expect((after['documents'] as { document: { kind: string } }[]).map((each) => each.document.kind)).toEqual([
      'SO',
      'PO',
      'RC',
      'SH',
      'CI',
      'VI',
    ]);
    const order = await salmah.get<{ state: string }>(`/api/orders/${ids.orderId}`);
    const purchase = await salmah.get<{ state: string }>(`/api/purchases/${ids.purchaseId}`);
    expect([order.state, purchase.state]).toEqual(['closed', 'closed']);
    const thread = await salmah.get<{ strands: string[]; beads: { stage: string; part: { filled: number } | null }[] }>(
      `/api/threads/${ids.orderLineId}`,
    );
    expect(thread.strands).toEqual(['12']);
    // Read with all the threads of its order, it is the same.
    const { threads } = await salmah.get<{ threads: unknown[] }>(`/api/orders/${ids.orderId}/threads`);
    expect(threads).toEqual([thread]);
    // A line that is gone has none, nor has an order that is not there.
    expect(await salmah.get('/api/threads/999999')).toMatchObject({ status: 404 });
    expect(await salmah.get('/api/orders/999999/threads')).toMatchObject({ status: 404 });
    expect(thread.beads.map((bead) => bead.stage)).toEqual([
      'agreed',
      'ordered',
      'supply',
      'received',
      'shipped',
      'invoiced',
      'vendorInvoiced',
      'paid',
    ]);
    expect(thread.beads.at(-1)!.part!.filled).toBe(1);
    // Whatever document one stands on, it is the same thread; an agreement has many, so none of its own.
    const documents = (after['documents'] as { document: { kind: string; id: number } }[]).map((each) => each.document);
    for (const { kind, id } of documents) {
      expect(await salmah.get(`/api/documents/${kind}/${id}/thread`)).toEqual({ thread });
    }
    expect(await salmah.get(`/api/documents/AG/${agreement.id}/thread`)).toEqual({ thread: null });
    expect(await salmah.get('/api/documents/SO/999999/thread')).toEqual({ thread: null });
  });

  it('P3 puts the price difference of a drop shipment into cost of sales', async () => {
    const ids = await placed(world, salmah, await agreed(world, salmah), '10');
    await salmah.does('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '10' }] });
    const [invoice] = await salmah.does('enterVendorInvoice', {
      purchaseId: ids.purchaseId,
      vendorNumber: 'INV-DIFF',
      invoiceDate: '2027-03-01',
      lines: [{ purchaseLineId: ids.purchaseLineId, quantity: '10', unitPrice: '625.5' }],
    });
    const trail = await salmah.get<{
      journals: { entries: { name: string; debit: string | null; credit: string | null }[] }[];
    }>(`/api/trail/VI/${invoice!.id}`);
    expect(trail.journals[0]!.entries.map((entry) => [entry.name, entry.debit, entry.credit])).toEqual([
      ['Received not invoiced', '6200', null],
      ['Cost of sales', '55', null],
      ['Input tax', '375.3', null],
      ['Accounts payable', null, '6630.3'],
    ]);
  });

  it('L2 moves in three parts from either end, and the thread shows them', async () => {
    const agreement = await agreed(world, salmah);
    const ids = await placed(world, salmah, agreement, '12');
    const receive = (quantity: string) =>
      salmah.does('receiveGoods', { purchaseId: ids.purchaseId, lines: [{ lineId: ids.purchaseLineId, quantity }] });
    await receive('5');
    await salmah.does('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '3' }] });
    await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    const thread = await salmah.get<{ strands: string[] }>(`/api/threads/${ids.orderLineId}`);
    expect(thread.strands).toEqual(['5', '3', '4']);
    const over = await salmah.refused('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '4.00001' }],
    });
    expect(over.codes).toEqual(['lines.0.quantity: above-open']);
    await receive('4');
    const done = await salmah.get<{ lines: { shipped: string }[] }>(`/api/agreements/${agreement.id}`);
    expect(done.lines[0]!.shipped).toBe('12');
  });

  it('L8 two lines for one vendor and ship-to become one purchase order', async () => {
    const agreement = await agreed(world, salmah, {
      lines: [fixedTerm(world.item('RO-4040'), '50', '740'), fixedTerm(world.item('RO-2540'), '50', '495')],
    });
    const sheet = await salmah.get<{ lines: { id: number }[] }>(`/api/agreements/${agreement.id}`);
    const [order] = await salmah.does('releaseAgreement', {
      ...releaseOf(world, agreement, '1'),
      lines: sheet.lines.map((line) => ({ agreementLineId: line.id, quantity: '2', shipDate: '2027-03-12' })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const bench = await salmah.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
      `/api/bench?orderId=${order!.id}`,
    );
    const choices = bench.rows.map((row) => ({ orderLineId: row.orderLineId, vendorId: row.proposal.vendorId }));
    expect(await salmah.does('placePurchases', { lines: choices })).toHaveLength(1);
    const again = await salmah.refused('placePurchases', { lines: choices });
    expect(again.codes).toEqual(['lines.0: line-covered', 'lines.1: line-covered']);
  });

  it('P4 refuses a vendor invoice number used twice, even at the same moment', async () => {
    const agreement = await agreed(world, salmah);
    const [one, two] = [await placed(world, salmah, agreement, '2'), await placed(world, salmah, agreement, '3')];
    for (const ids of [one, two]) {
      await salmah.does('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '2' }] });
    }
    const enter = (ids: typeof one) =>
      salmah.raw('enterVendorInvoice', {
        purchaseId: ids.purchaseId,
        vendorNumber: 'INV-TWICE',
        invoiceDate: '2027-03-01',
        lines: [{ purchaseLineId: ids.purchaseLineId, quantity: '2', unitPrice: '620' }],
      });
    const answers = await Promise.all([enter(one), enter(two)]);
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    const refused = answers.find((answer) => answer.status === 422)!.body as {
      refusals: { code: string; field: string }[];
    };
    expect(refused.refusals).toMatchObject([{ code: 'vendor-number-used', field: 'vendorNumber' }]);
  });

  it('P4 leads to the customer invoice where it comes first', async () => {
    const ids = await placed(world, salmah, await agreed(world, salmah), '2');
    await salmah.does('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '2' }] });
    await world.serving.database.run('UPDATE company SET customer_invoice_first = TRUE');
    try {
      const input = {
        purchaseId: ids.purchaseId,
        vendorNumber: 'INV-FIRST',
        invoiceDate: '2027-03-01',
        lines: [{ purchaseLineId: ids.purchaseLineId, quantity: '2', unitPrice: '620' }],
      };
      expect((await salmah.refused('enterVendorInvoice', input)).codes).toEqual(['customer-invoice-first']);
      const open = await salmah.get<{ customerFirst: { id: number } }>(`/api/purchases/${ids.purchaseId}/to-invoice`);
      expect(open.customerFirst.id).toBe(ids.orderId);
      await salmah.does('invoiceCustomer', { orderId: ids.orderId });
      await salmah.does('enterVendorInvoice', input);
    } finally {
      await world.serving.database.run('UPDATE company SET customer_invoice_first = FALSE');
    }
  });

  it('S6 a cancelled order gives everything back', async () => {
    const agreement = await agreed(world, salmah);
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '40'));
    await salmah.does('cancelOrder', { id: order!.id, version: 1 });
    const sheet = await salmah.get<{ values: { released: string } }>(`/api/agreements/${agreement.id}`);
    expect(sheet.values.released).toBe('0');
  });

  it('the balance is the sum of the open items that make it', async () => {
    const customer = world.masters.customers.get('Teratai Bay Resort')!.id;
    const sheet = await salmah.get<{ balance: string; openItems: { owed: string }[] }>(`/api/customers/${customer}`);
    const sum = sheet.openItems.reduce((total, item) => total + Number(item.owed), 0);
    expect(sheet.openItems.length).toBeGreaterThan(0);
    expect(Number(sheet.balance)).toBeCloseTo(sum, 2);
  });
});
