import type { Decision } from '@core/refusals';
import { exchangeAt, owedAt } from '../kernel/testing';
import { ALL, creditableLine, receivedLine, shippedLine } from './testing';
import {
  decideCreditNote,
  decideCustomerInvoice,
  decidePayment,
  decidePrepayment,
  decideRebateClaim,
  decideSettlement,
  decideTakeBack,
  decideVendorInvoice,
  type CreditableLine,
  type CreditGround,
  type ReceivedLine,
  type VendorInvoiceGround,
} from './index';

const DAY = '2027-03-01';
const OWN = { currency: 'MYR', own: 'MYR', rate: '1' };

/** What is refused: its field, code and facts. */
const refused = (decision: Decision<unknown>) =>
  decision.ok ? [] : decision.refusals.map(({ field, code, facts }) => [field, code, facts]);
const effectsOf = <E>(decision: Decision<E>): E => {
  if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
  return decision.effects;
};

const credit = (lines: CreditableLine[], change: Partial<CreditGround> = {}): CreditGround => ({
  invoice: {
    id: 5,
    number: 'CI-0005',
    orderId: 2,
    customerId: 7,
    currency: 'MYR',
    total: '9412.80',
    credited: false,
    owed: owedAt('9412.80'),
    exchange: OWN,
    day: DAY,
  },
  lines,
  rebates: [],
  ...change,
});
const typed = (kind: 'return' | 'price' | 'reversal', cell: string, reason = 'cracked', invoiceLineId = 1) => ({
  kind,
  reason,
  lines: [{ invoiceLineId, quantity: kind === 'return' ? cell : '', unitPrice: kind === 'price' ? cell : '' }],
});

describe('P1 what a credit note is refused for, at its place', () => {
  const none = creditableLine({ quantity: '0', net: '0' });
  it.each<[string, CreditableLine[], ReturnType<typeof typed>, unknown[][]]>([
    ['no reason', [creditableLine()], typed('return', '1', ' '), [['reason', 'required', { what: 'The reason' }]]],
    [
      'nothing',
      [creditableLine()],
      typed('return', ' '),
      [['lines', 'nothing-asked', { what: 'a quantity that came back' }]],
    ],
    ['no price', [creditableLine()], typed('price', ''), [['lines', 'nothing-asked', { what: 'a right price' }]]],
    [
      'a line of another invoice',
      [creditableLine()],
      typed('return', '1', 'x', 9),
      [['lines.0.quantity', 'unknown', { what: 'This line' }]],
    ],
    [
      'words for a quantity',
      [creditableLine()],
      typed('return', 'all'),
      [['lines.0.quantity', 'not-a-number', { what: 'The quantity' }]],
    ],
    [
      'a price in five places',
      [creditableLine()],
      typed('price', '1.00001'),
      [['lines.0.unitPrice', 'not-a-number', { what: 'The right price' }]],
    ],
    ['a quantity in five places not', [creditableLine()], typed('return', '1.00001'), []],
    [
      'none',
      [creditableLine()],
      typed('return', '0'),
      [['lines.0.quantity', 'not-above-zero', { what: 'The quantity' }]],
    ],
    [
      'a price below nothing',
      [creditableLine()],
      typed('price', '-1'),
      [['lines.0.unitPrice', 'not-above-zero', { what: 'The right price' }]],
    ],
    ['a price of nothing not', [creditableLine()], typed('price', '0'), []],
    [
      'more than is left',
      [creditableLine()],
      typed('return', '13'),
      [['lines.0.quantity', 'above-credit', { item: 'RO-4040', asked: '13', left: '12', invoice: 'CI-0005' }]],
    ],
    [
      'a price of what came back whole',
      [none],
      typed('price', '1'),
      [['lines.0.unitPrice', 'above-credit', { item: 'RO-4040', asked: '1', left: '0', invoice: 'CI-0005' }]],
    ],
    [
      'the price it was at',
      [creditableLine()],
      typed('price', '740'),
      [['lines.0.unitPrice', 'not-below-invoiced', { item: 'RO-4040', price: '740.00' }]],
    ],
    [
      'all of it where some was credited',
      [creditableLine(), creditableLine({ invoiceLineId: 2, credited: true })],
      typed('reversal', ''),
      [['', 'credited-already', { invoice: 'CI-0005' }]],
    ],
  ])('%s', (_what, lines, given, expected) =>
    expect(refused(decideCreditNote(credit(lines), given, DAY))).toEqual(expected),
  );

  it('credits the line that is named, with its tax, its reason, and its share under the agreement', () => {
    const second = creditableLine({ invoiceLineId: 2, quantity: '3', net: '300', unitPrice: '100', agreedNet: '200' });
    const made = effectsOf(
      decideCreditNote(credit([creditableLine(), second]), typed('price', '90', ' agreed ', 2), DAY),
    );
    expect(made).toMatchObject({
      reason: 'agreed',
      net: '30',
      taxes: [{ taxCode: 'S6', taxRate: '6', base: '30', tax: '1.8' }],
      lines: [{ invoiceLineId: 2, net: '30', agreedNet: '20' }],
    });
  });

  it('A10 lessens a rebate by what counts under the agreement, and by what comes back', () => {
    const rebate = { kind: 'whole' as const, by: 'value' as const, tiers: [{ from: '0', rate: '10' }] };
    const state = {
      agreementId: 1,
      rebate,
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      currency: 'MYR',
      value: '9000',
      quantity: '12',
      accrued: '900',
      settled: '0',
      carried: '900',
    };
    const line = creditableLine({ agreedNet: '4440' });
    const { rebates } = effectsOf(decideCreditNote(credit([line], { rebates: [state] }), typed('return', '3'), DAY));
    expect(rebates).toEqual([{ agreementId: 1, value: '-1110', quantity: '-3', accrued: '-111', ownAccrued: '-111' }]);
  });
});

describe('P4 what a customer invoice draws and tells', () => {
  const ground = {
    orders: [{ id: 1, number: 'SO-0001', customerId: 7, currency: 'MYR', uninvoiced: '12' }],
    exchange: exchangeAt(),
    termsDays: 30,
    lines: [] as ReturnType<typeof shippedLine>[],
    prepayments: [],
    deposits: [],
    rebates: [],
    allowances: [],
  };
  it('nothing to invoice', () =>
    expect(refused(decideCustomerInvoice(ground, ALL, DAY))).toEqual([
      ['', 'nothing-to-invoice', { document: 'SO-0001' }],
    ]));

  it('draws only what is held for the agreement of a line, and not what is held for another line', () => {
    const free = shippedLine({
      shipmentLineId: 2,
      orderLineId: 6,
      agreementLineId: null,
      agreementId: null,
      open: '1',
    });
    const prepayments = [
      { id: 1, number: 'PP-1', agreementId: 9, agreementLineId: null, marked: '0', owed: owedAt('50') },
      { id: 2, number: 'PP-2', agreementId: 1, agreementLineId: 4, marked: '0', owed: owedAt('50') },
      { id: 3, number: 'PP-3', agreementId: 1, agreementLineId: null, marked: '0', owed: owedAt('50', '50') },
      { id: 4, number: 'PP-4', agreementId: 1, agreementLineId: null, marked: '0', owed: owedAt('70') },
    ];
    const lines = [free, shippedLine({ agreedAmount: '4440' })];
    const made = effectsOf(decideCustomerInvoice({ ...ground, lines, prepayments }, ALL, DAY));
    expect(made.draws.map(({ number, lineIndex, amount }) => [number, lineIndex, amount])).toEqual([['PP-4', 1, '70']]);
    expect(made.taxes).toEqual([{ taxCode: 'S6', taxRate: '6', base: '9620', tax: '577.2' }]);
    expect(made.lines.map(({ agreedNet }) => agreedNet)).toEqual([null, '4440']);
  });

  it('A10 accrues the rebates of its own agreements alone', () => {
    const state = (agreementId: number) => ({
      agreementId,
      rebate: { kind: 'whole' as const, by: 'value' as const, tiers: [{ from: '0', rate: '10' }] },
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      currency: 'MYR',
      value: '0',
      quantity: '0',
      accrued: '0',
      settled: '0',
      carried: '0',
    });
    const lines = [
      shippedLine(),
      shippedLine({ shipmentLineId: 2, orderLineId: 6, agreementId: 8, agreementLineId: 5 }),
    ];
    const made = effectsOf(decideCustomerInvoice({ ...ground, lines, rebates: [state(1), state(2)] }, ALL, DAY));
    expect(made.rebates.map(({ agreementId, value }) => [agreementId, value])).toEqual([[1, '8880']]);
  });
});

const vendorGround = (lines: ReceivedLine[], change: Partial<VendorInvoiceGround> = {}): VendorInvoiceGround => ({
  purchase: { id: 2, number: 'PO-0001', vendorId: 8, currency: 'MYR' },
  exchange: exchangeAt(),
  vendor: { name: 'Arus Membrane Supply', termsDays: 30 },
  uninvoiced: '10',
  lines,
  usedBy: null,
  customerFirst: false,
  taxes: [],
  ...change,
});
const ten = (change: Partial<ReceivedLine> = {}) => receivedLine({ openCost: '100', ...change });
const entered = (quantity: string, unitPrice = '10', change: object = {}) => ({
  vendorNumber: 'INV-1',
  invoiceDate: DAY,
  lines: [{ purchaseLineId: 9, quantity, unitPrice }],
  ...change,
});

describe('P4 what a vendor invoice is refused for, at its place', () => {
  it.each<[string, VendorInvoiceGround, Parameters<typeof decideVendorInvoice>[1], unknown[][]]>([
    [
      'nothing came',
      vendorGround([ten({ open: '0' })]),
      entered(''),
      [['', 'nothing-to-invoice', { document: 'PO-0001' }]],
    ],
    ['no quantity', vendorGround([ten()]), entered(' '), [['lines', 'nothing-asked', { what: 'a quantity' }]]],
    [
      'no number of theirs',
      vendorGround([ten()]),
      entered('1', '10', { vendorNumber: '' }),
      [['vendorNumber', 'required', { what: "The vendor's own invoice number" }]],
    ],
    [
      'a number they used',
      vendorGround([ten()], { usedBy: 'VI-0003' }),
      entered('1'),
      [['vendorNumber', 'vendor-number-used', { vendor: 'Arus Membrane Supply', number: 'INV-1', invoice: 'VI-0003' }]],
    ],
    [
      'no date',
      vendorGround([ten()]),
      entered('1', '10', { invoiceDate: null }),
      [['invoiceDate', 'required', { what: 'The invoice date' }]],
    ],
    [
      'a date to come',
      vendorGround([ten()]),
      entered('1', '10', { invoiceDate: '2027-03-02' }),
      [['invoiceDate', 'not-a-day', { what: 'An invoice date after the work date' }]],
    ],
    ['today not', vendorGround([ten()]), entered('1'), []],
    [
      'the customer’s that comes first',
      vendorGround([ten({ customerWaits: true, orderNumber: 'SO-0001' })], { customerFirst: true }),
      entered('1'),
      [['', 'customer-invoice-first', { order: 'SO-0001' }]],
    ],
    ['nobody who waits not', vendorGround([ten()], { customerFirst: true }), entered('1'), []],
    [
      'another line',
      vendorGround([ten({ purchaseLineId: 8 })]),
      entered('1'),
      [['lines.0.purchaseLineId', 'unknown', { what: 'This line' }]],
    ],
    [
      'words',
      vendorGround([ten()]),
      entered('x', 'y'),
      [
        ['lines.0.unitPrice', 'not-a-number', { what: 'The price' }],
        ['lines.0.quantity', 'not-a-number', { what: 'The quantity' }],
      ],
    ],
    ['none', vendorGround([ten()]), entered('0'), [['lines.0.quantity', 'not-above-zero', { what: 'The quantity' }]]],
    [
      'more than came of that line',
      vendorGround([ten(), ten({ purchaseLineId: 8, receiptLineId: 2 })]),
      entered('11'),
      [['lines.0.quantity', 'above-received', { purchase: 'PO-0001', line: '1', asked: '11', open: '10' }]],
    ],
  ])('%s', (_what, on, given, expected) => expect(refused(decideVendorInvoice(on, given, DAY))).toEqual(expected));

  it('clears the line that is named, in part at its price, with its share under an agreement', () => {
    const lines = [
      ten({ purchaseLineId: 8, receiptLineId: 2 }),
      ten({ mixed: { amount: '100', agreed: '40' }, agreementLineId: 6, openCost: '99' }),
    ];
    const given = entered('3', '11', { vendorNumber: ' INV-1 ' });
    const made = effectsOf(decideVendorInvoice(vendorGround(lines), given, DAY));
    expect(made).toMatchObject({
      vendorNumber: 'INV-1',
      taxes: [{ taxCode: 'S6', taxRate: '6', base: '33', tax: '1.98' }],
      lines: [{ receiptLineId: 1, quantity: '3', net: '33', received: '30', receivedValue: '30', agreedNet: '13.2' }],
    });
    const { net, tax } = made.posted;
    expect([net.amount, net.own, tax.amount, tax.own].map((each) => each.toFixed())).toEqual([
      '33',
      '33',
      '1.98',
      '1.98',
    ]);
    const plain = effectsOf(decideVendorInvoice(vendorGround([ten()]), entered('3'), DAY));
    expect(plain.lines[0]!.agreedNet).toBeNull();
  });

  it('leaves out blank lines, and receipts that are invoiced already', () => {
    const lines = [ten({ open: '0', openCost: '0', openValue: '0' }), ten({ receiptLineId: 2 })];
    const given = {
      ...entered('4'),
      lines: [{ purchaseLineId: 7, quantity: ' ', unitPrice: '' }, ...entered('4').lines],
    };
    const made = effectsOf(decideVendorInvoice(vendorGround(lines), given, DAY));
    expect(made.lines.map(({ receiptLineId }) => receiptLineId)).toEqual([2]);
  });
});

describe('P3 what money is refused for, at its place', () => {
  const item = {
    side: 'customer' as const,
    openItemId: 1,
    partyId: 7,
    invoice: 'CI-0001',
    currency: 'MYR',
    owed: owedAt('100', '40'),
    exchange: exchangeAt(),
  };
  it.each([
    ['60.01', DAY, [['amount', 'above-owed', { invoice: 'CI-0001', asked: '60.01', owed: '60.00' }]]],
    ['60', null, [['paidOn', 'not-a-day', { what: 'The day paid' }]]],
    ['60', 'soon', [['paidOn', 'not-a-day', { what: 'The day paid' }]]],
    ['60', DAY, []],
  ])('a payment of %s on %s', (amount, paidOn, expected) =>
    expect(refused(decidePayment(item, { amount, paidOn }))).toEqual(expected),
  );

  const agreement = {
    id: 1,
    number: 'AG-0006',
    state: 'in-force' as 'in-force' | 'paused' | 'ended',
    side: 'selling' as 'selling' | 'buying',
    customerId: 7,
    currency: 'MYR',
  };
  const ahead = (change: object, on: Partial<typeof agreement> = {}) =>
    refused(
      decidePrepayment(
        { agreement: { ...agreement, ...on }, lineIds: [3], exchange: exchangeAt() },
        { agreementLineId: null, amount: '10', takenOn: DAY, ...change },
      ),
    );
  it('money taken ahead', () => {
    expect(ahead({})).toEqual([]);
    expect(ahead({}, { state: 'paused' })).toEqual([]);
    expect(ahead({}, { side: 'buying' })).toEqual([['', 'prepaid-by-vendor', {}]]);
    expect(ahead({}, { state: 'ended' })).toEqual([
      ['', 'agreement-not-so', { agreement: 'AG-0006', state: 'ended', needed: 'in-force' }],
    ]);
    expect(ahead({ agreementLineId: 4 })).toEqual([['agreementLineId', 'unknown', { what: 'This agreement line' }]]);
    expect(ahead({ amount: 'x' })).toEqual([['amount', 'not-a-number', { what: 'The amount' }]]);
    expect(ahead({ amount: '0' })).toEqual([['amount', 'not-above-zero', { what: 'The amount' }]]);
    expect(ahead({ amount: '1.005' })).toEqual([['amount', 'not-a-number', { what: 'The amount in MYR' }]]);
    for (const takenOn of [null, 'soon']) {
      expect(ahead({ takenOn })).toEqual([['takenOn', 'not-a-day', { what: 'The day taken' }]]);
    }
  });

  it('a rebate', () => {
    const settled = { id: 1, number: 'AG-1', customerId: 7, currency: 'MYR', accrued: '5', settled: '5', carried: '0' };
    expect(refused(decideSettlement({ agreement: settled, owed: [], exchange: exchangeAt() }))).toEqual([
      ['', 'no-rebate-owed', { agreement: 'AG-1' }],
    ]);
    expect(refused(decideRebateClaim({ agreement: settled, termsDays: 0, exchange: exchangeAt() }, DAY))).toEqual([
      ['', 'no-rebate-to-claim', { agreement: 'AG-1' }],
    ]);
    const none = exchangeAt(null);
    const owed = { ...settled, accrued: '6', carried: '1' };
    expect(refused(decideSettlement({ agreement: owed, owed: [], exchange: none }))).toEqual([
      ['', 'no-rate', { currency: 'USD', day: DAY }],
    ]);
  });
});

describe('P1 a vendor invoice taken back', () => {
  const ground = {
    invoice: {
      id: 5,
      number: 'VI-0005',
      vendorId: 1,
      vendorNumber: 'AR/77',
      purchaseId: 4,
      currency: 'USD',
      net: '100',
      tax: '6',
      total: '106',
      rate: '4.5',
      own: { currency: 'MYR', net: '450', tax: '27', total: '477' },
      owed: owedAt('106', '53', '477', '238.5'),
    },
    reverses: null as string | null,
    reversedBy: null as string | null,
    lines: [
      {
        receiptLineId: 8,
        purchaseLineId: 9,
        agreementLineId: null,
        quantity: '2',
        unitPrice: '50',
        net: '100',
        receivedCost: '448',
        receivedValue: '100',
        priceDifference: '0',
        agreedNet: null,
        taxCodeId: 1,
        taxRate: '6',
      },
    ],
    taxes: [],
    entries: [
      { role: 'received-not-invoiced' as const, amount: '448', foreign: '100' },
      { role: 'exchange-difference' as const, amount: '2', foreign: null },
    ],
  };
  it('is refused with who did so already', () => {
    expect(refused(decideTakeBack({ ...ground, reversedBy: 'VI-0006' }, ' ', DAY))).toEqual([
      ['reason', 'required', { what: 'The reason' }],
      ['', 'reversed-already', { document: 'VI-0005', by: 'VI-0006' }],
    ]);
    expect(refused(decideTakeBack({ ...ground, reverses: 'VI-0001' }, 'x', DAY))).toEqual([
      ['', 'takes-back', { document: 'VI-0005', of: 'VI-0001' }],
    ]);
  });

  it('P8 goes back in both currencies, and is set off at what both are carried at', () => {
    const made = effectsOf(decideTakeBack(ground, 'x', DAY));
    expect(made.own).toEqual({ net: '-450', tax: '-27', total: '-477' });
    expect(made.entries.map(({ amount, foreign }) => [amount, foreign])).toEqual([
      ['-448', '-100'],
      ['-2', null],
    ]);
    expect(made.lines[0]).toMatchObject({ agreedNet: null, receivedCost: '-448', receivedValue: '-100' });
    expect(made.setOff).toEqual({ amount: '53', ownInvoice: '238.5', ownCredit: '238.5' });
  });
});
