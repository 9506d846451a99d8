import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { exchangeAt, owedAt } from '../kernel/testing';
import { ALL, receivedLine, shippedLine } from './testing';
import {
  decideCustomerInvoice,
  decidePayment,
  decideVendorInvoice,
  type CustomerInvoiceGround,
  type CustomerInvoiceTyped,
  type ReceivedLine,
  type VendorInvoiceGround,
} from './index';

const shipped = (id: number, open: string, invoicedBefore = '0') =>
  shippedLine({ shipmentLineId: id, open, invoicedBefore });

const customerGround = (...lines: CustomerInvoiceGround['lines']): CustomerInvoiceGround => ({
  orders: [{ id: 1, number: 'SO-0001', customerId: 7, currency: 'MYR', uninvoiced: '12' }],
  exchange: exchangeAt(),
  termsDays: 30,
  lines,
  prepayments: [],
  deposits: [],
  rebates: [],
  allowances: [],
});

describe('P4 the customer invoice', () => {
  it('covers what was shipped and not invoiced, with tax, terms and due date', () => {
    const decision = decideCustomerInvoice(customerGround(shipped(1, '8'), shipped(2, '0')), ALL, '2027-03-01');
    if (!decision.ok) throw new Error('refused');
    expect(decision.effects).toMatchObject({ net: '5920', tax: '355.2', total: '6275.2', dueDate: '2027-03-31' });
    expect(decision.effects.lines).toHaveLength(1);
  });

  it('closes the order only once all of it is invoiced', () => {
    const closes = (...open: string[]) => {
      const decision = decideCustomerInvoice(
        customerGround(...open.map((each, id) => shipped(id, each))),
        ALL,
        '2027-03-01',
      );
      return decision.ok && decision.effects.closes.length > 0;
    };
    expect([closes('8'), closes('8', '3.99999'), closes('8', '4'), closes('12')]).toEqual([false, false, true, true]);
  });

  it('is less what is allowed, on lines that no agreement prices alone', () => {
    const ground = customerGround(
      shipped(1, '8'),
      { ...shipped(2, '4', '8'), agreementLineId: null, agreementId: null, orderLineId: 6, invoicedBefore: '0' },
      { ...shipped(3, '2'), agreementLineId: null, agreementId: null, orderLineId: 7 },
    );
    const always = { firstDay: null, lastDay: null };
    const decision = decideCustomerInvoice(
      {
        ...ground,
        allowances: [{ measure: 'quantity', level: 'list', from: '6', perCent: '2.5', ...always }],
      },
      ALL,
      '2027-03-01',
    );
    if (!decision.ok) throw new Error('refused');
    const { allowances, lines, net } = decision.effects;
    expect(allowances).toEqual([{ measure: 'quantity', reached: '6', from: '6', perCent: '2.5', amount: '111' }]);
    expect(lines.map((line) => [line.net, line.allowance])).toEqual([
      ['5920', '0'],
      ['2886', '74'],
      ['1443', '37'],
    ]);
    expect(net).toBe('10249');
  });

  const second = { id: 2, number: 'SO-0002', customerId: 7, currency: 'MYR', uninvoiced: '4' };
  const both = () => {
    const ground = customerGround(shipped(1, '12'), {
      ...shipped(2, '4'),
      orderId: 2,
      orderLineId: 8,
      shippedOn: '2027-02-25',
    });
    return { ...ground, orders: [...ground.orders, second] };
  };
  const told = (ground: CustomerInvoiceGround, typed: Partial<CustomerInvoiceTyped>) => {
    const decision = decideCustomerInvoice(ground, { ...ALL, ...typed }, '2027-03-01');
    return decision.ok ? decision.effects : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };

  it('is for several orders of one customer, and closes each that has nothing left', () => {
    expect(told(both(), {})).toMatchObject({ orderId: 1, closes: [1, 2], net: '11840' });
    const some = [
      { shipmentLineId: 1, quantity: '12' },
      { shipmentLineId: 2, quantity: '3.5' },
    ];
    expect(told(both(), { lines: some })).toMatchObject({ closes: [1], net: '11470' });
  });

  it.each([
    ['customer', { customerId: 8 }],
    ['currency', { currency: 'SGD' }],
  ])('is not for orders of another %s', (_what, change) => {
    const ground = { ...both(), orders: [...customerGround().orders, { ...second, ...change }] };
    expect(told(ground, {})).toEqual(['others.0: invoice-of-others']);
  });

  it('covers what is chosen of what is open: no more, and nothing where it is left empty', () => {
    const chosen = (...quantities: string[]) =>
      told(both(), { lines: quantities.map((quantity, at) => ({ shipmentLineId: at + 1, quantity })) });
    expect(chosen('5', ' ')).toMatchObject({ closes: [], lines: [{ shipmentLineId: 1, quantity: '5', net: '3700' }] });
    expect(chosen('0', '4')).toMatchObject({ closes: [2], lines: [{ shipmentLineId: 2, quantity: '4' }] });
    expect(chosen('12.00001', '4')).toEqual(['lines.0.quantity: above-uninvoiced']);
    expect(chosen('12', 'x', '1')).toEqual(['lines.1.quantity: not-a-number', 'lines.2.quantity: above-uninvoiced']);
    expect(chosen('-1')).toEqual(['lines.0.quantity: not-a-number']);
    expect(chosen('0', '')).toEqual([': nothing-to-invoice']);
  });

  it('is dated no earlier than its goods went out, and not ahead', () => {
    expect(told(both(), { invoiceDate: '2027-02-25' })).toMatchObject({
      invoiceDate: '2027-02-25',
      dueDate: '2027-03-27',
    });
    expect(told(both(), { invoiceDate: '2027-02-24' })).toEqual(['invoiceDate: invoice-before-goods']);
    const first = [{ shipmentLineId: 1, quantity: '12' }];
    expect(told(both(), { invoiceDate: '2027-02-24', lines: first })).toMatchObject({ invoiceDate: '2027-02-24' });
    expect(told(both(), { invoiceDate: '2027-03-02' })).toEqual(['invoiceDate: invoice-ahead']);
    expect(told(both(), { invoiceDate: '2027-02-30' })).toEqual(['invoiceDate: not-a-day']);
  });

  it('is refused where nothing waits', () => {
    expect(decideCustomerInvoice(customerGround(shipped(1, '0')), ALL, '2027-03-01').ok).toBe(false);
  });
});

/** A drop shipment at 620. */
const received = (id: number, open: string, change: Partial<ReceivedLine> = {}): ReceivedLine => {
  const cost = dec(open).times(620).toFixed();
  return receivedLine({
    receiptLineId: id,
    open,
    openCost: cost,
    openValue: cost,
    unitPrice: '620',
    drop: true,
    orderNumber: 'SO-0001',
    ...change,
  });
};

const vendorGround = (
  lines: readonly ReceivedLine[],
  change: Partial<VendorInvoiceGround> = {},
): VendorInvoiceGround => ({
  purchase: { id: 2, number: 'PO-0001', vendorId: 8, currency: 'MYR' },
  exchange: exchangeAt(),
  vendor: { name: 'Arus Membrane Supply', termsDays: 30 },
  uninvoiced: '12',
  lines,
  usedBy: null,
  customerFirst: false,
  taxes: [],
  ...change,
});

const typed = (quantity: string, unitPrice = '620', vendorNumber = 'INV-1') => ({
  vendorNumber,
  invoiceDate: '2027-02-27',
  lines: [{ purchaseLineId: 9, quantity, unitPrice }],
});

function codes(ground: VendorInvoiceGround, given: Parameters<typeof decideVendorInvoice>[1]): string[] {
  const decision = decideVendorInvoice(ground, given, '2027-03-01');
  return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
}

/** What was received, and what a drop shipment and the rest differ by, in the company's currency. */
const differences = (decision: ReturnType<typeof decideVendorInvoice>) =>
  decision.ok
    ? (['received', 'dropDifference', 'stockDifference'] as const).map((each) =>
        decision.effects.posted[each].own.toFixed(),
      )
    : [];

describe('P4 the vendor invoice', () => {
  it('is matched to receipts oldest first, in parts', () => {
    const decision = decideVendorInvoice(vendorGround([received(1, '5'), received(2, '7')]), typed('8'), '2027-03-01');
    if (!decision.ok) throw new Error('refused');
    expect(decision.effects.lines.map((line) => [line.receiptLineId, line.quantity, line.received])).toEqual([
      [1, '5', '3100'],
      [2, '3', '1860'],
    ]);
    expect(decision.effects.closes).toBe(false);
    expect(decision.effects).toMatchObject({
      net: '4960',
      dueDate: '2027-03-29',
    });
    expect(differences(decision)).toEqual(['4960', '0', '0']);
  });

  it('closes the purchase order with its last part', () => {
    const decision = decideVendorInvoice(vendorGround([received(1, '5'), received(2, '7')]), typed('12'), '2027-03-01');
    expect(decision.ok && decision.effects.closes).toBe(true);
  });

  it('P3 tells the price difference of drop shipments from that of stock', () => {
    const drop = decideVendorInvoice(vendorGround([received(1, '5')]), typed('5', '630'), '2027-03-01');
    expect(differences(drop).slice(1)).toEqual(['50', '0']);
    const stock = decideVendorInvoice(
      vendorGround([received(1, '5', { drop: false })]),
      typed('5', '610'),
      '2027-03-01',
    );
    expect(differences(stock).slice(1)).toEqual(['0', '-50']);
  });

  it('needs the number of the vendor, once', () => {
    expect(codes(vendorGround([received(1, '5')]), typed('5', '620', ' '))).toEqual(['vendorNumber: required']);
    expect(codes(vendorGround([received(1, '5')], { usedBy: 'VI-0003' }), typed('5'))).toEqual([
      'vendorNumber: vendor-number-used',
    ]);
  });

  it('is taxed as its purchase, or as it says itself; a tax that is not there is refused at its place', () => {
    const taxes = [{ id: 4, code: 'I9', rate: '9' }];
    const [line] = typed('5').lines;
    const other = (taxCodeId?: number) =>
      decideVendorInvoice(
        vendorGround([received(1, '5')], { taxes }),
        { ...typed('5'), lines: [{ ...line!, taxCodeId }] },
        '2027-03-01',
      );
    const [own, said] = [other(), other(4)];
    if (!own.ok || !said.ok) throw new Error('refused');
    expect(said.effects.lines.every(({ taxCodeId, taxRate }) => taxCodeId === 4 && taxRate === '9')).toBe(true);
    expect(said.effects.taxes).toMatchObject([{ taxCode: 'I9', taxRate: '9', base: own.effects.net }]);
    expect(said.effects.net).toBe(own.effects.net);
    expect(said.effects.tax).not.toBe(own.effects.tax);
    const none = other(5);
    expect(none.ok ? [] : none.refusals.map(({ code, field }) => `${field}: ${code}`)).toEqual([
      'lines.0.taxCodeId: unknown',
    ]);
  });

  it('waits for the customer invoice where the company wants it so', () => {
    const waiting = [received(1, '5', { customerWaits: true })];
    expect(codes(vendorGround(waiting, { customerFirst: true }), typed('5'))).toEqual([': customer-invoice-first']);
    expect(codes(vendorGround(waiting), typed('5'))).toEqual([]);
  });

  it.each([
    ['6', '620', 'lines.0.quantity: above-received'],
    ['0', '620', 'lines.0.quantity: not-above-zero'],
    ['x', '620', 'lines.0.quantity: not-a-number'],
    ['5', '-1', 'lines.0.unitPrice: not-a-number'],
  ])('refuses %s at %s', (quantity, price, expected) => {
    expect(codes(vendorGround([received(1, '5')]), typed(quantity, price))).toEqual([expected]);
  });

  it('refuses a date that has not come, and an order nothing was received on', () => {
    expect(codes(vendorGround([received(1, '5')]), { ...typed('5'), invoiceDate: '2027-03-02' })).toEqual([
      'invoiceDate: not-a-day',
    ]);
    expect(codes(vendorGround([]), typed('5'))).toEqual([': nothing-to-invoice', 'lines.0.purchaseLineId: unknown']);
  });

  it('clears exactly the received cost once everything is invoiced, in any parts', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 1, max: 99_999 }),
        (cuts, price) => {
          const unitCost = dec(price).div(10_000).round(4).toFixed();
          const quantity = sum(cuts.map((cut) => dec(cut)));
          const cost = quantity.times(unitCost).round(2, 1);
          let open = quantity;
          let openCost = cost;
          for (const cut of cuts) {
            const line = received(1, open.toFixed(), {
              openCost: openCost.toFixed(),
              openValue: openCost.toFixed(),
              unitPrice: unitCost,
            });
            const decision = decideVendorInvoice(vendorGround([line]), typed(String(cut)), '2027-03-01');
            if (!decision.ok) throw new Error('refused');
            open = open.minus(cut);
            openCost = openCost.minus(decision.effects.posted.received.own);
          }
          expect(openCost.toFixed()).toBe('0');
        },
      ),
      { seed: 4 },
    );
  });
});

describe('a payment', () => {
  const ground = {
    side: 'customer' as const,
    openItemId: 1,
    partyId: 7,
    invoice: 'CI-0001',
    currency: 'MYR',
    owed: owedAt('100'),
    exchange: exchangeAt(),
  };
  it.each([
    ['100', []],
    ['0.01', []],
    ['100.01', ['amount: above-owed']],
    ['0', ['amount: not-above-zero']],
    ['1.005', ['amount: not-a-number']],
    ['', ['amount: not-a-number']],
  ])('of %s', (amount, expected) => {
    const decision = decidePayment(ground, { amount, paidOn: '2027-03-01' });
    expect(decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`)).toEqual(
      expected,
    );
  });
});
