import {
  accrualsOf,
  decideClaim,
  decideClaimBack,
  decideClaimLost,
  decideClaimPaid,
  decideClaimSettled,
  decideSupport,
  type ClaimNow,
  type SoldLine,
  type SupportGround,
  type SupportLine,
  type SupportTyped,
} from '.';

const TODAY = '2027-03-20';
const support = (change: Partial<SupportLine> = {}): SupportLine => ({
  id: 4,
  supportId: 2,
  itemId: 10,
  groupId: null,
  perUnit: '1.25',
  firstDay: '2027-03-01',
  lastDay: '2027-03-31',
  customerId: null,
  priceGroupId: null,
  promotionId: null,
  running: true,
  ...change,
});
const sold = (change: Partial<SoldLine> = {}): SoldLine => ({
  id: 9,
  invoiceDay: '2027-03-10',
  itemId: 10,
  groupId: 3,
  customerId: 1,
  priceGroupId: 5,
  promotionId: 7,
  quantity: '10',
  before: [],
  ...change,
});
const codes = (decision: { ok: boolean; refusals?: { code: string; field: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ code, field }) => `${field}: ${code}`);

describe('S13 what vendors owe us', () => {
  const amounts = (line: SoldLine, ...supports: Partial<SupportLine>[]) =>
    accrualsOf([line], supports.map(support), TODAY).map(({ amount, quantity, day }) => [amount, quantity, day]);

  it('is so much for each that is invoiced, on the invoice’s day', () => {
    expect(amounts(sold(), {})).toEqual([['12.5', '10', '2027-03-10']]);
    expect(amounts(sold(), {}, { id: 5, perUnit: '2' })).toHaveLength(2);
  });

  it.each<[string, Partial<SupportLine>, Partial<SoldLine>, boolean]>([
    ['another item', { itemId: 11 }, {}, false],
    ['its group', { itemId: null, groupId: 3 }, {}, true],
    ['another group', { itemId: null, groupId: 4 }, {}, false],
    ['its customer', { customerId: 1 }, {}, true],
    ['another customer', { customerId: 2 }, {}, false],
    ['its price group', { priceGroupId: 5 }, {}, true],
    ['another price group', { priceGroupId: 6 }, {}, false],
    ['its promotion', { promotionId: 7 }, {}, true],
    ['another promotion', { promotionId: 8 }, {}, false],
    ['no promotion', { promotionId: 8 }, { promotionId: null }, false],
    ['one that was stopped', { running: false }, {}, false],
    ['its first day', {}, { invoiceDay: '2027-03-01' }, true],
    ['its last day', {}, { invoiceDay: '2027-03-31' }, true],
    ['the day before', {}, { invoiceDay: '2027-02-28' }, false],
    ['the day after', {}, { invoiceDay: '2027-04-01' }, false],
  ])('for %s', (_what, change, line, expected) => expect(amounts(sold(line), change).length > 0).toBe(expected));

  const had = (quantity: string, amount: string) => ({ supportLineId: 4, perUnit: '1.25', quantity, amount });

  it('comes once, and goes back with what is credited, at what it came for', () => {
    expect(amounts(sold({ before: [had('10', '12.5')] }), {})).toEqual([]);
    expect(amounts(sold({ quantity: '4', before: [had('10', '12.5')] }), { perUnit: '3', running: false })).toEqual([
      ['-7.5', '-6', TODAY],
    ]);
    expect(amounts(sold({ quantity: '0', before: [had('10', '12.5'), had('-6', '-7.5')] }), {})).toEqual([
      ['-5', '-4', TODAY],
    ]);
  });
});

describe('S13 keeping a support', () => {
  const typed = (change: Partial<SupportTyped> = {}): SupportTyped => ({
    name: ' Carbon support ',
    vendorId: 1,
    customerId: null,
    priceGroupId: null,
    promotionId: null,
    firstDay: '2027-03-01',
    lastDay: '2027-03-31',
    lines: [{ id: null, itemId: 10, groupId: null, perUnit: '1.25' }],
    ...change,
  });
  const ground = (change: Partial<SupportGround> = {}): SupportGround => ({
    now: null,
    vendorIds: [1],
    customerIds: [2],
    priceGroupIds: [5],
    promotionIds: [7],
    itemIds: [10],
    groupIds: [3],
    ...change,
  });
  const line = (change: object = {}) => [{ id: null, itemId: 10, groupId: null, perUnit: '1.25', ...change }];

  it('keeps what is typed', () => {
    expect(decideSupport(ground(), typed({ promotionId: 7 }))).toMatchObject({
      effects: { name: 'Carbon support', vendorId: 1, promotionId: 7, removedLineIds: [] },
    });
  });

  it.each<[string, Partial<SupportTyped>, string[]]>([
    ['no name', { name: ' ' }, ['name: required']],
    ['no vendor', { vendorId: null }, ['vendorId: required']],
    ['an unknown vendor', { vendorId: 9 }, ['vendorId: unknown']],
    ['two it is for', { customerId: 2, priceGroupId: 5 }, ['priceGroupId: either-or']],
    ['unknown ones', { customerId: 9 }, ['customerId: unknown']],
    ['an unknown group', { priceGroupId: 9 }, ['priceGroupId: unknown']],
    ['an unknown promotion', { promotionId: 9 }, ['promotionId: unknown']],
    ['no first day', { firstDay: null }, ['firstDay: required']],
    ['a last day that is none', { lastDay: 'soon' }, ['lastDay: not-a-day']],
    ['days the other way round', { lastDay: '2027-02-28' }, ['lastDay: days-order']],
    ['one day', { lastDay: '2027-03-01' }, []],
    ['nothing it is for', { lines: [] }, ['lines: required']],
    ['neither item nor group', { lines: line({ itemId: null }) }, ['lines.0.itemId: required']],
    ['both', { lines: line({ groupId: 3 }) }, ['lines.0.groupId: either-or']],
    ['an unknown item', { lines: line({ itemId: 99 }) }, ['lines.0.itemId: unknown']],
    ['an unknown item group', { lines: line({ itemId: null, groupId: 9 }) }, ['lines.0.groupId: unknown']],
    ['a line it has not', { lines: line({ id: 8 }) }, ['lines.0.id: unknown']],
    ['no amount', { lines: line({ perUnit: ' ' }) }, ['lines.0.perUnit: required']],
    ['an amount of words', { lines: line({ perUnit: 'x' }) }, ['lines.0.perUnit: not-a-number']],
    ['nothing for each', { lines: line({ perUnit: '0' }) }, ['lines.0.perUnit: not-above-zero']],
  ])('says of %s where', (_what, change, expected) =>
    expect(codes(decideSupport(ground(), typed(change)))).toEqual(expected),
  );

  it('stays of its vendor, with the lines something is owed by', () => {
    const now = {
      number: 'VS-0001',
      vendorId: 1,
      lines: [
        { id: 5, lineNo: 1, used: true },
        { id: 6, lineNo: 2, used: false },
      ],
    };
    const on = ground({ now });
    expect(decideSupport(on, typed({ vendorId: 9, lines: line({ id: 5 }) }))).toMatchObject({
      effects: { vendorId: 1, removedLineIds: [6] },
    });
    expect(codes(decideSupport(on, typed({ lines: line({ id: 6 }) })))).toEqual(['lines: support-line-used']);
  });
});

describe('S13 claims', () => {
  const vendor = { name: 'Arus', currency: 'MYR' };
  const claim = (change: Partial<ClaimNow> = {}): ClaimNow => ({
    number: 'CL-0001',
    currency: 'MYR',
    vendorId: 1,
    amount: '100',
    settled: '40',
    withdrawn: false,
    ...change,
  });
  const invoice = { number: 'VI-0001', vendorId: 1, currency: 'MYR', owed: '50' };

  it('are of what was accrued up to a day', () => {
    const accrued = [
      { id: 1, amount: '10' },
      { id: 2, amount: '-4' },
    ];
    expect(decideClaim(vendor, accrued, TODAY, TODAY)).toMatchObject({ effects: { amount: '6', accrualIds: [1, 2] } });
    expect(codes(decideClaim(vendor, accrued.slice(1), TODAY, TODAY))).toEqual([': nothing-to-claim']);
    expect(codes(decideClaim(vendor, [], TODAY, TODAY))).toEqual([': nothing-to-claim']);
    expect(codes(decideClaim(null, accrued, '2027-03-21', TODAY))).toEqual([
      'vendorId: required',
      'until: day-to-come',
    ]);
  });

  it('are settled against an invoice of the vendor, by no more than either has left', () => {
    const settled = (typed: string, change: Partial<ClaimNow> = {}, owed = '50') =>
      decideClaimSettled(claim(change), { ...invoice, owed }, typed);
    expect(settled('')).toMatchObject({ effects: { amount: '50' } });
    expect(settled('', {}, '80')).toMatchObject({ effects: { amount: '60' } });
    expect(settled('50')).toMatchObject({ effects: { amount: '50' } });
    expect(codes(settled('50.01'))).toEqual(['amount: above-claim']);
    expect(codes(settled('60.01', {}, '80'))).toEqual(['amount: above-claim']);
    expect(codes(settled('0'))).toEqual(['amount: not-above-zero']);
    expect(codes(settled('x'))).toEqual(['amount: not-a-number']);
    expect(codes(settled('', {}, '0'))).toEqual(['openItemId: nothing-owed']);
    expect(codes(settled('', { settled: '100' }))).toEqual([': claim-not-open']);
    expect(codes(settled('', { withdrawn: true }))).toEqual([': claim-not-open']);
    expect(codes(decideClaimSettled(claim(), null, ''))).toEqual(['openItemId: required']);
    expect(codes(decideClaimSettled(claim(), { ...invoice, vendorId: 2 }, ''))).toEqual(['openItemId: not-of-vendor']);
    expect(codes(decideClaimSettled(claim(), { ...invoice, currency: 'USD' }, ''))).toEqual([
      'openItemId: claim-currency',
    ]);
  });

  it('are paid, given up, or withdrawn', () => {
    expect(decideClaimPaid(claim(), '')).toMatchObject({ effects: { amount: '60' } });
    expect(codes(decideClaimPaid(claim(), '60.01'))).toEqual(['amount: above-claim']);
    expect(codes(decideClaimPaid(claim({ settled: '100' }), ''))).toEqual([': claim-not-open']);
    expect(decideClaimLost(claim(), ' they went under ')).toMatchObject({
      effects: { amount: '60', reason: 'they went under' },
    });
    expect(codes(decideClaimLost(claim({ withdrawn: true }), ' '))).toEqual([': claim-not-open', 'reason: required']);
    expect(decideClaimBack(claim({ settled: '0' }), ' too early ')).toMatchObject({ effects: { reason: 'too early' } });
    expect(codes(decideClaimBack(claim(), 'x'))).toEqual([': claim-not-open']);
    expect(codes(decideClaimBack(claim({ settled: '0', withdrawn: true }), ' '))).toEqual([
      ': claim-not-open',
      'reason: required',
    ]);
  });
});
