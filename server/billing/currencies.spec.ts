import type * as z from 'zod';
import type { CreditNoteSheet, InvoiceSheet, PrepaymentSheet } from '@api/billing';
import type { openTrail } from '@api/ledger';
import type { MovementSheet } from '@api/stock';
import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

type Trail = z.output<typeof openTrail.out>;
type Sheet = z.output<typeof InvoiceSheet>;

const REBATE = { kind: 'whole', by: 'value', tiers: [{ from: '1000', rate: '2' }] };

describe('P8 documents in another currency', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    const { database } = world.serving;
    await database.run("UPDATE customer SET currency = 'SGD' WHERE name = 'Teratai Bay Resort'");
    await database.run("UPDATE vendor SET currency = 'USD' WHERE number IN ('V-101', 'V-105')");
    await database.run("UPDATE vendor SET currency = 'EUR' WHERE number = 'V-104'");
    await rate('USD', '2027-02-20', '4.60');
    await rate('USD', '2027-02-25', '4.55');
    await rate('SGD', '2027-02-10', '3.50');
    await rate('SGD', '2027-02-24', '3.40');
  });
  afterAll(() => world.end());
  afterEach(async () => {
    await world.workOn(WORK_DATE);
    expect(await world.verify()).toEqual([]);
  });

  const rate = (currency: string, day: string, worth: string) =>
    salmah.does('keepList', {
      list: 'rates',
      changes: [{ id: null, stamp: '', cells: { currency, day, rate: worth } }],
      removed: [],
    });
  const trail = (kind: string, id: number) => salmah.get<Trail>(`/api/trail/${kind}/${id}`);
  /** Entries of the first journals of a document: `account amount (amount in its currency)`. */
  const posted = async (kind: string, id: number) =>
    (await trail(kind, id)).journals.flatMap(({ entries }) =>
      entries.map(
        ({ name, debit, credit, foreign }) =>
          `${name} ${debit ?? `-${credit}`}${foreign ? ` (${foreign.currency} ${foreign.amount})` : ''}`,
      ),
    );
  const customerInvoice = (id: number) => salmah.get<Sheet>(`/api/customer-invoices/${id}`);
  const vendorInvoice = (id: number) => salmah.get<Sheet>(`/api/vendor-invoices/${id}`);
  const pay = (openItemId: number, amount: string, paidOn: string) =>
    salmah.does('recordPayment', { openItemId, amount, paidOn });

  async function purchased(vendor: string, item: string, quantity: string) {
    const [purchase] = await salmah.does('enterPurchase', {
      vendorId: world.masters.vendors.get(vendor),
      shipToId: null,
      lines: [{ itemId: world.item(item), quantity, dueDate: '2027-03-05' }],
    });
    const sheet = await salmah.get<{ currency: string; lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
    return { purchaseId: purchase!.id, lineId: sheet.lines[0]!.id, currency: sheet.currency };
  }

  it('bought: received, invoiced and paid at the rates of their days, each difference at its account', async () => {
    const { purchaseId, lineId, currency } = await purchased('V-105', 'PM-15', '5');
    expect(currency).toBe('USD');
    const [receipt] = await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId, quantity: '5' }] });
    // USD 4,400 at 4.55.
    expect(await posted('RC', receipt!.id)).toEqual(['Inventory 20020', 'Received not invoiced -20020 (USD -4400)']);
    expect(await salmah.get<z.output<typeof MovementSheet>>(`/api/receipts/${receipt!.id}`)).toMatchObject({
      currency: 'MYR',
      cost: '20020',
      foreign: { currency: 'USD', rate: '4.55' },
      lines: [{ unitCost: '4004', value: '4400' }],
    });
    const typed = {
      purchaseId,
      vendorNumber: 'LS/1',
      invoiceDate: '2027-02-22',
      lines: [{ purchaseLineId: lineId, quantity: '5', unitPrice: '881' }],
    };
    const { body } = await salmah.post('/api/acts/enterVendorInvoice/preview', typed);
    expect(body).toMatchObject({
      effects: {
        stockDifference: '5',
        own: { currency: 'MYR', rate: '4.6', net: '20263', total: '21478.78', exchangeDifference: '220' },
      },
    });
    const [invoice] = await salmah.does('enterVendorInvoice', typed);
    expect(await posted('VI', invoice!.id)).toEqual([
      'Received not invoiced 20020 (USD 4400)',
      'Price difference 23 (USD 5)',
      'Exchange differences 220',
      'Input tax 1215.78 (USD 264.3)',
      'Accounts payable -21478.78 (USD -4669.3)',
    ]);
    const { openItemId } = await vendorInvoice(invoice!.id);
    const [payment] = await pay(openItemId, '2000', '2027-01-10');
    // Carried at 4.60, paid at 4.48.
    expect(await posted('PY', payment!.id)).toEqual([
      'Accounts payable 9200 (USD 2000)',
      'Bank -8960 (USD -2000)',
      'Exchange differences -240',
    ]);
    expect(await vendorInvoice(invoice!.id)).toMatchObject({
      owed: '2669.3',
      own: { currency: 'MYR', total: '21478.78', owed: '12278.78' },
      payments: [{ amount: '2000', difference: '-240' }],
    });
    const [left] = (await trail('VI', invoice!.id)).openItems;
    expect(left).toMatchObject({ owed: '2669.3', own: { owed: '12278.78' }, moves: [{ difference: '-240' }] });
    await salmah.does('takeBackInvoice', { invoiceId: invoice!.id, reason: 'not ours' });
    const back = (await vendorInvoice(invoice!.id)).reversedBy!;
    // Exactly what it posted, the other way round.
    expect((await posted('VI', back.id)).slice(0, 5)).toEqual([
      'Received not invoiced -20020 (USD -4400)',
      'Price difference -23 (USD -5)',
      'Exchange differences -220',
      'Input tax -1215.78 (USD -264.3)',
      'Accounts payable 21478.78 (USD 4669.3)',
    ]);
    await salmah.does('reverseMovement', { kind: 'RC', id: receipt!.id, reason: 'not ours' });
  });

  it('is posted at no rate that is not known: said when it is ordered and before it is received', async () => {
    const order = {
      vendorId: world.masters.vendors.get('V-104'),
      shipToId: null,
      lines: [{ itemId: world.item('GAC-25'), quantity: '4', dueDate: '2027-03-05' }],
    };
    const { body } = await salmah.post('/api/acts/enterPurchase/preview', order);
    expect(body).toMatchObject({ warnings: [{ code: 'no-rate-yet', field: 'vendorId' }] });
    const { purchaseId, lineId } = await purchased('V-104', 'GAC-25', '4');
    const receive = { purchaseId, lines: [{ lineId, quantity: '4' }] };
    const refused = await salmah.refused('receiveGoods', receive);
    expect(refused.codes).toEqual(['lines.0.quantity: no-rate']);
    expect(refused.sentences[0]).toContain('What EUR was worth on Mon 1 Mar 2027 is not kept');
    await rate('EUR', '2027-03-02', '4.9');
    expect((await salmah.refused('receiveGoods', receive)).codes).toEqual(['lines.0.quantity: no-rate']);
    await rate('EUR', '2027-03-01', '4.88');
    await salmah.does('receiveGoods', receive);
  });

  it('keeps rates by currency and day, of currencies there are, and none of its own', async () => {
    const cells = (currency: string, day: string, worth: string) => ({
      list: 'rates',
      changes: [{ id: null, stamp: '', cells: { currency, day, rate: worth } }],
      removed: [],
    });
    expect((await salmah.refused('keepList', cells('MYR', '2027-03-01', '1'))).codes).toEqual([
      'changes.0.currency: unknown',
    ]);
    expect((await salmah.refused('keepList', cells('Taler', '2027-03-01', '1'))).codes).toEqual([
      'changes.0.currency: unknown',
    ]);
    expect((await salmah.refused('keepList', cells('usd', '2027-02-25', '4.5'))).codes).toEqual([
      'changes.0: row-twice',
    ]);
    expect((await salmah.refused('keepList', cells('GBP', '2027-02-25', '0'))).codes).toEqual([
      'changes.0.rate: not-above-zero',
    ]);
    // Who records payments keeps them, and who keeps the other lists does not by that alone.
    const meilin = await world.visitor('meilin');
    expect((await meilin.refused('keepList', cells('GBP', '2027-02-26', '5'))).codes).toEqual(['no-right']);
    await (await world.visitor('farida')).does('keepList', cells('gbp', '2027-02-25', '5.73456789'));
    const { rows } = await salmah.get<{ rows: { cells: Record<string, string> }[] }>('/api/lists/rates?q=GBP');
    expect(rows.map((row) => row.cells)).toEqual([{ currency: 'GBP', day: '2027-02-25', rate: '5.73456789' }]);
  });

  it('sold: what was paid ahead, invoiced, credited, a rebate and what is paid, in both currencies', async () => {
    const agreement = await agreed(world, salmah, { rebate: REBATE });
    const ahead = { agreementId: agreement.id, agreementLineId: null, amount: '1000', takenOn: '2027-02-12' };
    const { body } = await salmah.post('/api/acts/takePrepayment/preview', ahead);
    expect(body).toMatchObject({ effects: { own: { currency: 'MYR', rate: '3.5', amount: '3500' } } });
    const [prepayment] = await salmah.does('takePrepayment', ahead);
    expect(await posted('PP', prepayment!.id)).toEqual([
      'Bank 3500 (SGD 1000)',
      'Customer prepayments -3500 (SGD -1000)',
    ]);
    // The membranes are bought in USD and sold in SGD.
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '4');
    expect(await salmah.get(`/api/purchases/${purchaseId}`)).toMatchObject({ currency: 'USD', net: '2480' });
    const moved = await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '4' }] });
    const shipment = moved.find((each) => each.kind === 'SH')!;
    expect(await posted('SH', shipment.id)).toEqual(['Cost of sales 11284', 'Inventory -11284']);
    const [invoice] = await salmah.does('invoiceCustomer', { orderId });
    expect(await posted('CI', invoice!.id)).toEqual([
      // 2,960 and its tax of 177.60 at 3.40.
      'Accounts receivable 10667.84 (SGD 3137.6)',
      'Revenue -10064 (SGD -2960)',
      'Output tax -603.84 (SGD -177.6)',
      // 1,000 of it was taken at 3.50.
      'Customer prepayments 3500 (SGD 1000)',
      'Accounts receivable -3400 (SGD -1000)',
      'Exchange differences -100',
      // 2 % of 2,960.
      'Rebates given 201.28 (SGD 59.2)',
      'Rebates owed -201.28 (SGD -59.2)',
    ]);
    expect(await salmah.get<z.output<typeof PrepaymentSheet>>(`/api/prepayments/${prepayment!.id}`)).toMatchObject({
      left: '0',
      own: { amount: '3500', left: '0' },
    });
    const sheet = await customerInvoice(invoice!.id);
    expect(sheet).toMatchObject({ owed: '2137.6', own: { total: '10667.84', owed: '7267.84' } });

    // What is credited is credited at the rate it was invoiced at.
    await rate('SGD', '2027-03-04', '3.30');
    await world.workOn('2027-03-04');
    const [note] = await salmah.does('creditInvoice', {
      invoiceId: invoice!.id,
      kind: 'price',
      reason: 'agreed lower',
      lines: [{ invoiceLineId: sheet.lines[0]!.id, quantity: '', unitPrice: '730' }],
    });
    expect(await posted('CN', note!.id)).toEqual([
      'Revenue 136 (SGD 40)',
      'Output tax 8.16 (SGD 2.4)',
      'Accounts receivable -144.16 (SGD -42.4)',
      'Rebates given -2.72 (SGD -0.8)',
      'Rebates owed 2.72 (SGD 0.8)',
    ]);
    // A rebate is settled at the rate of the day, and leaves at what it was accrued at.
    const [settled] = await salmah.does('settleRebate', { agreementId: agreement.id });
    expect(await posted('CN', settled!.id)).toEqual([
      'Rebates owed 198.56 (SGD 58.4)',
      'Accounts receivable -192.72 (SGD -58.4)',
      'Exchange differences -5.84',
      // Set off against the invoice, which is carried at 3.40.
      'Accounts receivable -5.84 (SGD 0)',
      'Exchange differences 5.84',
    ]);
    expect(await salmah.get<z.output<typeof CreditNoteSheet>>(`/api/credit-notes/${settled!.id}`)).toMatchObject({
      total: '58.4',
      own: { rate: '3.3', total: '192.72' },
    });
    const { owed, own } = await customerInvoice(invoice!.id);
    expect([owed, own!.owed]).toEqual(['2036.8', '6925.12']);
    const [payment] = await pay(sheet.openItemId, owed, '2027-03-04');
    expect(await posted('PY', payment!.id)).toEqual([
      'Bank 6721.44 (SGD 2036.8)',
      'Accounts receivable -6925.12 (SGD -2036.8)',
      'Exchange differences 203.68',
    ]);
    expect(await customerInvoice(invoice!.id)).toMatchObject({
      owed: '0',
      own: { owed: '0' },
      payments: [{ difference: '-203.68' }],
    });
  });

  it('paid back what was paid ahead at the rate of the day, or carries on what it was taken at', async () => {
    const wrapUp = async (change: Record<string, unknown>) => {
      const agreement = await agreed(world, salmah);
      const [taken] = await salmah.does('takePrepayment', {
        agreementId: agreement.id,
        agreementLineId: null,
        amount: '200',
        takenOn: '2027-02-12',
      });
      const made = await salmah.does('wrapUpAgreement', {
        id: agreement.id,
        version: 2,
        decision: 'waive',
        lastDay: null,
        carry: false,
        prepayments: 'return',
        ...change,
      });
      return { taken: taken!, made };
    };
    const { taken } = await wrapUp({});
    expect((await posted('PP', taken.id)).slice(2)).toEqual([
      'Customer prepayments 700 (SGD 200)',
      'Bank -680 (SGD -200)',
      'Exchange differences -20',
    ]);
    const { made } = await wrapUp({ decision: 'renew', prepayments: 'carry' });
    const carried = made.find((document) => document.kind === 'PP')!;
    expect(await salmah.get<z.output<typeof PrepaymentSheet>>(`/api/prepayments/${carried.id}`)).toMatchObject({
      left: '200',
      own: { rate: '3.5', amount: '700', left: '700' },
    });
  });

  it('is compared in our currency, and prices from cost stand on what it cost in it', async () => {
    await salmah.does('keepList', {
      list: 'vendor-items',
      changes: [
        {
          id: null,
          stamp: '',
          cells: { item: 'VA-50A', vendor: 'Arus Membrane Supply', price: '198', leadDays: '30', preferred: 'no' },
        },
      ],
      removed: [],
    });
    const { vendors } = await salmah.get<{
      vendors: { name: string; unitPrice: string; currency: string; ownPrice: string }[];
    }>(`/api/items/${world.item('VA-50A')}`);
    expect(vendors.map(({ name, unitPrice, currency, ownPrice }) => [name, unitPrice, currency, ownPrice])).toEqual([
      ['Arus Membrane Supply', '198', 'USD', '900.9'],
      ['Injap Timur Valves', '905', 'MYR', '905'],
      // Dearest by far, though its number is not.
      ['Logam Setia Castings', '940', 'USD', '4277'],
    ]);
  });

  it('two payments at once settle what is owed once, in both currencies', async () => {
    const agreement = await agreed(world, salmah);
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '1');
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '1' }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId });
    const { openItemId, owed } = await customerInvoice(invoice!.id);
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, at) =>
        salmah.raw('recordPayment', { openItemId, amount: owed, paidOn: at % 2 ? '2027-02-12' : WORK_DATE }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422, 422, 422, 422, 422]);
    expect(await customerInvoice(invoice!.id)).toMatchObject({ owed: '0', own: { owed: '0' } });
  });
});
