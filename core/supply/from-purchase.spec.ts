import type { Offer } from '@core/agreements';
import { plainPricing } from '@core/orders';
import { decideFromPurchase, type FromPurchaseGround } from './index';

const item = {
  number: 'RO-4040',
  unit: 'piece',
  groupId: null,
  listPrice: '815',
  taxCodeId: 1,
  taxRate: '6',
  outOfUse: false,
  stocked: false,
  hasVendor: true,
  obtained: 'buy',
  pricing: plainPricing('piece'),
  permit: null,
};
const splitting: Offer = {
  agreement: {
    id: 1,
    number: 'AG-1',
    basis: 'quantity',
    state: 'in-force',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    currency: 'MYR',
    priority: 5,
    limitPolicy: 'split',
    tolerancePercent: '0',
  },
  line: {
    id: 5,
    lineNo: 1,
    itemId: 10,
    groupId: null,
    priceKind: 'fixed',
    priceValue: '740',
    breaks: [],
    committed: '100',
    committedValue: '74000',
    released: '97',
    releasedValue: '71780',
    leastRelease: '0',
    releaseMultiple: '0',
  },
};
const ground = (change: Partial<FromPurchaseGround> = {}): FromPurchaseGround => ({
  purchase: { number: 'PO-1', state: 'placed', shipToId: 3 },
  loose: [
    { id: 21, itemId: 10, quantity: '5', shipDate: '2027-03-10' },
    { id: 22, itemId: 10, quantity: '2', shipDate: '2027-03-12' },
  ],
  customer: {
    id: 7,
    name: 'Nilam',
    currency: 'MYR',
    contractedOnly: false,
    referenceRequired: false,
    creditLimit: null,
    balance: '0',
    onOrder: '0',
    permitsOf: 'Teratai Bay Resort',
    permits: [],
  },
  shipToIds: [3],
  items: new Map([[10, item]]),
  offers: [],
  pricing: {
    search: 'first',
    orderDate: '2027-03-01',
    byShipDate: false,
    freight: new Map(),
    who: '',
    promotions: { offers: [], rate: '1' },
  },
  ...change,
});
const codes = (given: FromPurchaseGround, reference = '') => {
  const decision = decideFromPurchase(given, reference, '2027-03-01');
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('L4 an order made of a loose drop shipment', () => {
  it('has its lines, quantities and days, each from its purchase line', () => {
    const decision = decideFromPurchase(ground(), 'N-1', '2027-03-01');
    expect(decision.ok && decision.effects).toMatchObject({
      shipToId: 3,
      customerReference: 'N-1',
      lines: [
        { quantity: '5', route: 'drop', unitPrice: '815', shipDate: '2027-03-10' },
        { quantity: '2', route: 'drop', shipDate: '2027-03-12' },
      ],
      purchaseLineIds: [21, 22],
    });
  });

  it('keeps a line that an agreement splits at its limit on its purchase line', () => {
    const decision = decideFromPurchase(ground({ offers: [splitting] }), '', '2027-03-01');
    expect(decision.ok && decision.effects.lines.map((line) => line.quantity)).toEqual(['3', '2', '2']);
    expect(decision.ok && decision.effects.purchaseLineIds).toEqual([21, 21, 22]);
  });

  it.each<[string, Partial<FromPurchaseGround>, string]>([
    ['comes to our place', { customer: null }, ': comes-here-already'],
    ['is closed', { purchase: { number: 'PO-1', state: 'closed', shipToId: 3 } }, ': purchase-not-open'],
    ['is for others already', { loose: [] }, ': nothing-loose'],
    [
      'wants a reference',
      { customer: { ...ground().customer!, referenceRequired: true } },
      'customerReference: reference-required',
    ],
  ])('is refused where it %s', (_what, change, code) => {
    expect(codes(ground(change))).toEqual([code]);
  });

  it('is refused where the customer buys only what an agreement prices', () => {
    const held = { ...ground().customer!, contractedOnly: true };
    expect(new Set(codes(ground({ customer: held })).map((each) => each.split(': ')[1]))).toEqual(
      new Set(['only-contracted']),
    );
  });
});
