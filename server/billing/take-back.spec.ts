import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

interface Invoice {
  total: string;
  owed: string;
  openItemId: number;
  reverses: { number: string } | null;
  reversedBy: { id: number } | null;
  lessened: { document: { kind: string } }[];
}

describe('P1 a vendor invoice taken back', () => {
  let world: World;
  let salmah: Visitor;
  let agreement: { id: number; lineId: number };
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah, {}, '1000');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const entered = async (number: string) => {
    const purchase = await placed(world, salmah, agreement, '5');
    const lines = [{ lineId: purchase.purchaseLineId, quantity: '5' }];
    const [receipt] = await salmah.does('receiveGoods', { purchaseId: purchase.purchaseId, lines });
    await salmah.does('invoiceCustomer', { orderId: purchase.orderId });
    const input = {
      purchaseId: purchase.purchaseId,
      vendorNumber: number,
      invoiceDate: WORK_DATE,
      lines: [{ purchaseLineId: purchase.purchaseLineId, quantity: '5', unitPrice: '633.33' }],
    };
    const [invoice] = await salmah.does('enterVendorInvoice', input);
    return { ...purchase, input, invoice: invoice!, receipt: receipt! };
  };
  const open = (id: number) => salmah.get<Invoice>(`/api/vendor-invoices/${id}`);
  const stateOf = async (id: number) => (await salmah.get<{ state: string }>(`/api/purchases/${id}`)).state;

  it('is owed no longer, opens its purchase again, and can be entered again under the same number', async () => {
    const { invoice, input, purchaseId, orderLineId } = await entered('AR/1');
    expect(await stateOf(purchaseId)).toBe('closed');
    const again = { ...input, vendorNumber: 'AR/1' };
    const [back] = await salmah.does('takeBackInvoice', { invoiceId: invoice.id, reason: 'Wrong price' });
    expect(await open(invoice.id)).toMatchObject({ owed: '0', reversedBy: { id: back!.id } });
    expect(await open(back!.id)).toMatchObject({ owed: '0', reverses: { number: invoice.number }, total: '-3356.65' });
    expect(await stateOf(purchaseId)).toBe('placed');
    const thread = await salmah.get<{ undone: { document: { number: string }; by: { number: string } }[] }>(
      `/api/threads/${orderLineId}`,
    );
    expect(thread.undone.map(({ document, by }) => [document.number, by.number])).toEqual([
      [invoice.number, back!.number],
    ]);
    // The right one, and then nobody enters it a second time.
    const right = { ...again, lines: [{ ...again.lines[0]!, unitPrice: '620' }] };
    const [anew] = await salmah.does('enterVendorInvoice', right);
    expect(await open(anew!.id)).toMatchObject({ owed: '3286' });
    expect(await stateOf(purchaseId)).toBe('closed');
    const other = await entered('AR/2');
    const twice = { ...other.input, vendorNumber: 'AR/1' };
    expect((await salmah.refused('enterVendorInvoice', twice)).codes).toContain('vendorNumber: vendor-number-used');
    expect((await salmah.refused('takeBackInvoice', { invoiceId: invoice.id, reason: 'x' })).codes).toEqual([
      'reversed-already',
    ]);
    expect((await salmah.refused('takeBackInvoice', { invoiceId: back!.id, reason: 'x' })).codes).toEqual([
      'takes-back',
    ]);
  });

  it('once paid stands to our credit with the vendor', async () => {
    const { invoice } = await entered('AR/3');
    const { openItemId } = await open(invoice.id);
    await salmah.does('recordPayment', { openItemId, amount: '3000', paidOn: WORK_DATE });
    const [back] = await salmah.does('takeBackInvoice', { invoiceId: invoice.id, reason: 'Not ours' });
    expect(await open(back!.id)).toMatchObject({ owed: '-3000' });
    const vendor = await salmah.get<{ openItems: { invoice: { id: number }; owed: string }[] }>(
      `/api/vendors/${world.masters.vendors.get('V-101')}`,
    );
    expect(vendor.openItems.find((item) => item.invoice.id === back!.id)?.owed).toBe('-3000');
  });

  it('goes before its receipt', async () => {
    const { invoice, receipt, orderId } = await entered('AR/4');
    const order = await salmah.get<{ documents: { document: { kind: string; id: number } }[] }>(
      `/api/orders/${orderId}`,
    );
    const sold = order.documents.find(({ document }) => document.kind === 'CI')!.document.id;
    await salmah.does('creditInvoice', { invoiceId: sold, kind: 'reversal', reason: 'x', lines: [] });
    const reverse = { kind: 'RC', id: receipt.id, reason: 'Never came' };
    expect((await salmah.refused('reverseMovement', reverse)).codes).toContain('invoiced-first');
    await salmah.does('takeBackInvoice', { invoiceId: invoice.id, reason: 'Never came' });
    await salmah.does('reverseMovement', reverse);
  });

  it('taken back by two at once is taken back once', async () => {
    const { invoice } = await entered('AR/5');
    const answers = await Promise.all(
      ['one', 'two'].map((reason) => salmah.raw('takeBackInvoice', { invoiceId: invoice.id, reason })),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
  });
});
