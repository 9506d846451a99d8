import { decidePlacement, differencesOf, proposeVendor, supplyDue, type BenchLine, type Offer } from './index';

const offer = (vendorId: number, unitPrice: string, leadDays: number, preferred = false): Offer => ({
  vendorId,
  vendor: `Vendor ${vendorId}`,
  unitPrice,
  leadDays,
  preferred,
});

describe('L8 the proposed vendor', () => {
  it.each<[string, Offer[], number | undefined, string | undefined]>([
    ['nobody', [], undefined, undefined],
    ['the only one', [offer(1, '9', 9)], 1, 'only'],
    ['the preferred, though dearer', [offer(1, '5', 3), offer(2, '9', 9, true)], 2, 'preferred'],
    ['the cheapest', [offer(1, '6', 1), offer(2, '5.5', 9)], 2, 'cheapest'],
    ['the fastest at one price', [offer(1, '5', 4), offer(2, '5.0', 2)], 2, 'fastest'],
    ['by name where all is equal', [offer(2, '5', 2), offer(1, '5', 2)], 1, 'fastest'],
  ])('is %s', (_what, offers, vendorId, reason) => {
    expect(proposeVendor(offers)?.offer.vendorId).toBe(vendorId);
    expect(proposeVendor(offers)?.reason).toBe(reason);
    // Whatever the order of rows.
    expect(proposeVendor([...offers].reverse())?.offer.vendorId).toBe(vendorId);
  });

  it('supply is due on the ship date, or when the vendor can', () => {
    expect(supplyDue('2027-03-20', 8, '2027-03-01')).toBe('2027-03-20');
    expect(supplyDue('2027-03-05', 8, '2027-03-01')).toBe('2027-03-09');
  });
});

const line = (id: number, change: Partial<BenchLine> = {}): BenchLine => ({
  id,
  lineNo: 1,
  order: { id, number: `SO-${id}`, state: 'confirmed', currency: 'MYR' },
  shipToId: 3,
  route: 'drop',
  uncovered: '12',
  shipDate: '2027-03-20',
  item: { id: 10, number: 'RO-4040', unit: 'piece', groupId: null, taxCodeId: 1, taxRate: '6' },
  offers: [offer(1, '620', 8), offer(2, '640', 2)],
  ...change,
});

describe('L8 placing', () => {
  const place = (lines: BenchLine[], choices: [number, number][]) =>
    decidePlacement(
      lines,
      choices.map(([orderLineId, vendorId]) => ({ orderLineId, vendorId })),
      '2027-03-01',
    );

  it('groups lines of one vendor and ship-to into one order', () => {
    const decision = place(
      [line(1), line(2), line(3, { shipToId: 4 }), line(4)],
      [
        [1, 1],
        [2, 1],
        [3, 1],
        [4, 2],
      ],
    );
    if (!decision.ok) throw new Error('refused');
    expect(
      decision.effects.purchases.map((plan) => [
        plan.vendorId,
        plan.shipToId,
        plan.lines.map((each) => each.orderLineId),
      ]),
    ).toEqual([
      [1, 3, [1, 2]],
      [1, 4, [3]],
      [2, 3, [4]],
    ]);
  });

  it.each<[string, BenchLine, [number, number][], string]>([
    ['covered already', line(1, { uncovered: '0' }), [[1, 1]], 'line-covered'],
    [
      'named twice',
      line(1),
      [
        [1, 1],
        [1, 1],
      ],
      'line-covered',
    ],
    [
      'of a draft order',
      line(1, { order: { id: 1, number: 'SO-1', state: 'draft', currency: 'MYR' } }),
      [[1, 1]],
      'order-not-confirmed',
    ],
    ['from stock', line(1, { route: 'stock' }), [[1, 1]], 'line-not-drop'],
    ['nobody sells', line(1, { offers: [] }), [[1, 1]], 'no-vendor'],
    ['with a vendor who does not sell it', line(1), [[1, 9]], 'vendor-not-selling'],
    ['that is not there', line(1), [[8, 1]], 'unknown'],
    ['without any choice', line(1), [], 'nothing-asked'],
  ])('refuses a line %s', (_what, given, choices, code) => {
    const decision = place([given], choices);
    expect(!decision.ok && decision.refusals.map((refusal) => refusal.code)).toEqual([code]);
  });
});

describe('L6 in step', () => {
  const ends = {
    tied: '12',
    salesQuantity: '12',
    supplyQuantity: '12',
    shipDate: '2027-03-10',
    supplyDate: '2027-03-10',
    sameAddress: true,
  };
  it.each([
    [{}, []],
    [{ supplyDate: '2027-03-01' }, []],
    [{ supplyDate: '2027-03-11' }, ['date']],
    [{ salesQuantity: '14' }, ['quantity']],
    [{ supplyQuantity: '10', sameAddress: false }, ['quantity', 'address']],
  ])('%j differs in %j', (change, expected) => {
    expect(differencesOf({ ...ends, ...change })).toEqual(expected);
  });
});
