import { fixedTerm, PLAIN_HEAD } from '../../sample/terms';
import { agreed, placed, releaseOf, World, type Visitor } from '../../testing/world';

interface Sheet {
  version: number;
  state: string;
  values: Record<string, string>;
  lines: { id: number; released: string; shipped: string; invoiced: string }[];
  rebateNow: { value: string; accrued: string; settled: string; rate: string | null; coming: unknown } | null;
  prepayments: { left: string }[];
  revisions: {
    revision: number;
    reason: string;
    repriced: number;
    changes: { what: string; was: string; is: string }[];
  }[];
  shortfall: { id: number; state: string; net: string } | null;
}

const WHOLE = {
  kind: 'whole',
  by: 'value',
  tiers: [
    { from: '5000', rate: '2' },
    { from: '10000', rate: '4' },
  ],
};

describe('what an agreement earns and holds', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const sheetOf = (id: number) => salmah.get<Sheet>(`/api/agreements/${id}`);

  /** Released, bought, received whole and invoiced; the order and its invoice. */
  async function invoiced(agreement: { id: number; lineId: number }, quantity: string) {
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, quantity);
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId });
    const sheet = await salmah.get<{
      openItemId: number;
      owed: string;
      lines: { id: number }[];
      lessened: { amount: string }[];
    }>(`/api/customer-invoices/${invoice!.id}`);
    return { orderId, invoiceId: invoice!.id, lineId: sheet.lines[0]!.id, sheet };
  }

  const credit = (invoiceId: number, invoiceLineId: number, change: Record<string, unknown>) => ({
    invoiceId,
    kind: 'return',
    reason: 'Wrong size',
    lines: [{ invoiceLineId, quantity: '', unitPrice: '', ...change }],
    ...('kind' in change ? { kind: change['kind'] } : {}),
  });

  it('A10 a rebate accrues at each invoice, falls with each credit note, and is settled once', async () => {
    const agreement = await agreed(world, salmah, { rebate: WHOLE });
    await invoiced(agreement, '6');
    // 4,440 is below the first tier.
    expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ value: '4440', accrued: '0', rate: null });
    const second = await invoiced(agreement, '8');
    expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({
      value: '10360',
      accrued: '414.4',
      rate: '4',
      coming: null,
    });
    await salmah.does('creditInvoice', credit(second.invoiceId, second.lineId, { quantity: '1' }));
    // 9,620 falls back to the first tier: 2 %.
    expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ value: '9620', accrued: '192.4', rate: '2' });
    const [note] = await salmah.does('settleRebate', { agreementId: agreement.id });
    expect(note!.number).toMatch(/^CN-/);
    const again = await salmah.refused('settleRebate', { agreementId: agreement.id });
    expect(again.codes).toEqual(['no-rebate-owed']);
    const sheet = await salmah.get<{ total: string; setOff: { amount: string }[]; left: string }>(
      `/api/credit-notes/${note!.id}`,
    );
    expect(sheet).toMatchObject({ total: '192.4', left: '0', setOff: [{ amount: '192.4' }] });
    expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ accrued: '192.4', settled: '192.4' });
  });

  it('A10 settled, then fallen below its tier by goods that came back after the term, it is claimed back once', async () => {
    const agreement = await agreed(world, salmah, { rebate: WHOLE, lastDay: '2027-03-31' });
    const first = await invoiced(agreement, '14');
    await salmah.does('settleRebate', { agreementId: agreement.id });
    const claim = { agreementId: agreement.id };
    expect((await salmah.refused('claimRebate', claim)).codes).toEqual(['no-rebate-to-claim']);
    const waits = async () =>
      (
        await salmah.get<{ rows: { kind: string; document: { id: number }; amount: string }[] }>('/api/today')
      ).rows.filter((row) => row.kind === 'rebate-to-claim' && row.document.id === agreement.id);
    expect(await waits()).toEqual([]);
    await world.workOn('2027-04-02');
    try {
      // 10,360 less 740: 2 % of 9,620 where 4 % of 10,360 was settled.
      await salmah.does('creditInvoice', credit(first.invoiceId, first.lineId, { quantity: '1' }));
      expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ accrued: '192.4', settled: '414.4' });
      expect(await waits()).toMatchObject([{ amount: '222' }]);
      const [invoice] = await salmah.does('claimRebate', claim);
      const sheet = await salmah.get<{ total: string; owed: string; tax: string; reason: string; lines: unknown[] }>(
        `/api/customer-invoices/${invoice!.id}`,
      );
      expect(sheet).toMatchObject({ total: '222', owed: '222', tax: '0', lines: [] });
      expect(sheet.reason).toContain('rebate');
      const pdf = await fetch(`${world.serving.address}/api/documents/CI/${invoice!.id}/pdf`, {
        headers: { cookie: salmah.cookie },
      });
      expect(pdf.headers.get('content-type')).toContain('pdf');
      expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ accrued: '192.4', settled: '192.4' });
      expect((await salmah.refused('claimRebate', claim)).codes).toEqual(['no-rebate-to-claim']);
      expect(await waits()).toEqual([]);
      const { journals } = await salmah.get<{ journals: { entries: { account: string; amount: string }[] }[] }>(
        `/api/trail/CI/${invoice!.id}`,
      );
      expect(journals).toHaveLength(1);
    } finally {
      await world.workOn('2027-03-01');
    }
  });

  it('A10 what is invoiced outside the term earns nothing', async () => {
    const agreement = await agreed(world, salmah, { rebate: WHOLE, lastDay: '2027-03-01' });
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '10');
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '10' }] });
    await world.workOn('2027-03-02');
    try {
      await salmah.does('invoiceCustomer', { orderId });
    } finally {
      await world.workOn('2027-03-01');
    }
    expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ value: '0', accrued: '0' });
  });

  it('P1 A4 goods that come back are credited, put on hand, and counted back; a price put right moves no goods', async () => {
    const agreement = await agreed(world, salmah);
    const { orderId, invoiceId, lineId } = await invoiced(agreement, '6');
    const [back] = await salmah.does('creditInvoice', credit(invoiceId, lineId, { quantity: '2' }));
    expect((await sheetOf(agreement.id)).lines[0]).toMatchObject({ released: '6', shipped: '4', invoiced: '4' });
    const trail = await salmah.get<{ journals: unknown[]; stockEntries: { quantity: string; cost: string }[] }>(
      `/api/trail/CN/${back!.id}`,
    );
    expect(trail.journals).toHaveLength(2);
    expect(trail.stockEntries).toMatchObject([{ quantity: '2', cost: '1240' }]);
    await salmah.does('creditInvoice', credit(invoiceId, lineId, { kind: 'price', unitPrice: '700' }));
    // 4 at 40 less, with 6 % tax, and 2 at 740 with it: all set off against the invoice.
    const invoice = await salmah.get<{ owed: string; lessened: { amount: string }[] }>(
      `/api/customer-invoices/${invoiceId}`,
    );
    expect(invoice.lessened.map((each) => each.amount)).toEqual(['1568.8', '169.6']);
    expect(invoice.owed).toBe('2968');
    expect((await sheetOf(agreement.id)).values['invoiced']).toBe('2800');
    const tooMuch = await salmah.refused('creditInvoice', credit(invoiceId, lineId, { quantity: '5' }));
    expect(tooMuch.sentences[0]).toContain('is more than the 4 of CI-');
    const higher = await salmah.refused(
      'creditInvoice',
      credit(invoiceId, lineId, { kind: 'price', unitPrice: '701' }),
    );
    expect(higher.codes).toEqual(['lines.0.unitPrice: not-below-invoiced']);
    // What came back is open again; closed short, it goes back to the agreement. // S6
    const order = await salmah.get<{ version: number; lines: { id: number }[] }>(`/api/orders/${orderId}`);
    await salmah.does('closeShort', {
      id: orderId,
      version: order.version,
      lineIds: [order.lines[0]!.id],
      reason: 'not wanted',
    });
    expect((await sheetOf(agreement.id)).lines[0]).toMatchObject({ released: '4', shipped: '4' });
  });

  it('S6 closing short gives back what is open, not what is on its way', async () => {
    const agreement = await agreed(world, salmah);
    const { orderId, orderLineId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '6');
    const version = async () => (await salmah.get<{ version: number }>(`/api/orders/${orderId}`)).version;
    const close = async () => ({ id: orderId, version: await version(), lineIds: [orderLineId], reason: 'not wanted' });
    expect((await salmah.refused('closeShort', await close())).codes).toEqual(['lines: purchase-on-its-way']);
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '6' }] });
    expect((await salmah.refused('closeShort', await close())).codes).toEqual(['lines: nothing-to-close']);
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '5'));
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const lines = (await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`)).lines;
    await salmah.does('closeShort', {
      id: order!.id,
      version: 2,
      lineIds: lines.map((line) => line.id),
      reason: 'not wanted',
    });
    expect(await salmah.get(`/api/orders/${order!.id}`)).toMatchObject({ state: 'cancelled', net: '0' });
    expect((await sheetOf(agreement.id)).lines[0]).toMatchObject({ released: '6' });
  });

  it('A12 invoices draw what was paid ahead by themselves, a line held first, and what is left is paid back', async () => {
    const agreement = await agreed(world, salmah);
    const take = (amount: string, agreementLineId: number | null) =>
      salmah.does('takePrepayment', { agreementId: agreement.id, agreementLineId, amount, takenOn: '2027-02-20' });
    await take('5000', null);
    await take('1000', agreement.lineId);
    const { sheet } = await invoiced(agreement, '3');
    // 2,220 net: 1,000 held for the line, 1,220 of the rest.
    expect(sheet.lessened.map((each) => each.amount).sort()).toEqual(['1000', '1220']);
    expect(sheet.owed).toBe('133.2');
    expect((await sheetOf(agreement.id)).prepayments.map((each) => each.left)).toEqual(['3780', '0']);
    const { version } = await sheetOf(agreement.id);
    const wrap = { id: agreement.id, version, decision: 'waive', lastDay: null, carry: false };
    expect((await salmah.refused('wrapUpAgreement', wrap)).codes).toEqual(['prepayments: prepayment-undecided']);
    expect((await salmah.refused('wrapUpAgreement', { ...wrap, prepayments: 'carry' })).codes).toEqual([
      'prepayments: nothing-to-carry-to',
    ]);
    await salmah.does('wrapUpAgreement', { ...wrap, prepayments: 'return' });
    expect((await sheetOf(agreement.id)).prepayments.map((each) => each.left)).toEqual(['0', '0']);
  });

  it('A12 what is left is carried to the renewal, and drawn there', async () => {
    const agreement = await agreed(world, salmah);
    await salmah.does('takePrepayment', {
      agreementId: agreement.id,
      agreementLineId: null,
      amount: '900',
      takenOn: '2027-02-20',
    });
    const { version } = await sheetOf(agreement.id);
    const made = await salmah.does('wrapUpAgreement', {
      id: agreement.id,
      version,
      decision: 'renew',
      lastDay: null,
      carry: false,
      prepayments: 'carry',
    });
    expect(made.map((document) => document.kind)).toEqual(['AG', 'PP']);
    expect((await sheetOf(made[0]!.id)).prepayments).toMatchObject([{ left: '900' }]);
  });

  it('A12 refuses amounts that are none, and vendors', async () => {
    const agreement = await agreed(world, salmah);
    const take = { agreementId: agreement.id, agreementLineId: null, amount: '10.005', takenOn: 'soon' };
    expect((await salmah.refused('takePrepayment', take)).codes).toEqual([
      'amount: not-a-number',
      'takenOn: not-a-day',
    ]);
  });

  it('A11 charging the shortfall drafts an invoice, which is posted once or dropped', async () => {
    const agreement = await agreed(world, salmah, {}, '10');
    await invoiced(agreement, '6');
    const { version } = await sheetOf(agreement.id);
    const wrap = { id: agreement.id, version, decision: 'charge', lastDay: null, carry: false };
    await salmah.does('wrapUpAgreement', wrap);
    const { shortfall, state } = await sheetOf(agreement.id);
    expect([state, shortfall]).toMatchObject(['ended', { state: 'draft', net: '2960' }]);
    const today = await salmah.get<{ rows: { kind: string; document: { id: number } }[] }>('/api/today');
    expect(today.rows.some((row) => row.kind === 'shortfall-draft' && row.document.id === agreement.id)).toBe(true);
    const [invoice] = await salmah.does('postShortfall', { id: shortfall!.id });
    expect(await salmah.get(`/api/customer-invoices/${invoice!.id}`)).toMatchObject({
      net: '2960',
      total: '3137.6',
      source: { kind: 'AG' },
      lines: [{ item: { number: 'RO-4040' }, creditable: null }],
    });
    expect((await salmah.refused('postShortfall', { id: shortfall!.id })).codes).toEqual(['shortfall-not-draft']);
    expect((await salmah.refused('creditInvoice', credit(invoice!.id, 1, { quantity: '1' }))).status).toBe(404);
  });

  it('A15 a revision keeps its difference; open lines are repriced only on purpose', async () => {
    const agreement = await agreed(world, salmah);
    const [kept] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '10'));
    const revise = (change: Record<string, unknown>, price = '700') => ({
      ...PLAIN_HEAD,
      id: agreement.id,
      customerId: world.masters.customers.get('Teratai Bay Resort')!.id,
      title: 'Membranes',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      signedOn: '2026-12-20',
      reason: 'Prices fell',
      reprice: false,
      lines: [{ ...fixedTerm(world.item('RO-4040'), '120', price), id: agreement.lineId }],
      ...change,
    });
    await salmah.does('reviseAgreement', revise({ version: 2 }));
    const price = async () =>
      (await salmah.get<{ net: string; lines: { unitPrice: string }[] }>(`/api/orders/${kept!.id}`)).lines[0]!
        .unitPrice;
    expect(await price()).toBe('740');
    await salmah.does('reviseAgreement', revise({ version: 3, reprice: true, reason: 'For open orders too' }, '690'));
    expect(await price()).toBe('690');
    const sheet = await sheetOf(agreement.id);
    expect(sheet.values).toMatchObject({ committed: '82800', released: '6900' });
    expect(sheet.revisions.map((each) => [each.revision, each.reason, each.repriced])).toEqual([
      [2, 'For open orders too', 1],
      [1, 'Prices fell', 0],
    ]);
    expect(sheet.revisions[1]!.changes).toEqual([
      { what: 'Line 1, RO-4040: committed', was: '100', is: '120' },
      { what: 'Line 1, RO-4040: price', was: '740', is: '700' },
    ]);
    const refused = await salmah.refused(
      'reviseAgreement',
      revise({
        version: 4,
        reason: '',
        lines: [{ ...fixedTerm(world.item('RO-4040'), '9', '690'), id: agreement.lineId }],
      }),
    );
    expect(refused.codes).toEqual(['reason: required', 'lines.0.committed: below-released']);
    expect((await salmah.refused('reviseAgreement', revise({ version: 4 }, '690'))).codes).toEqual(['nothing-changed']);
    expect((await salmah.refused('reviseAgreement', revise({ version: 2 }))).status).toBe(409);
  });

  it('A15 a rebate agreed on later counts what the term has invoiced already', async () => {
    const agreement = await agreed(world, salmah);
    await invoiced(agreement, '10');
    await salmah.does('reviseAgreement', {
      ...PLAIN_HEAD,
      id: agreement.id,
      version: 2,
      customerId: world.masters.customers.get('Teratai Bay Resort')!.id,
      title: 'Membranes',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      rebate: WHOLE,
      reason: 'A rebate from now on',
      reprice: false,
      lines: [{ ...fixedTerm(world.item('RO-4040'), '100', '740'), id: agreement.lineId }],
    });
    expect((await sheetOf(agreement.id)).rebateNow).toMatchObject({ value: '7400', accrued: '148' });
  });
});
