import { decidePurchase, type PurchaseGround, type PurchaseTyped } from './index';

const ground: PurchaseGround = {
  vendor: { id: 1, name: 'Arus', currency: 'MYR' },
  shipToIds: [3],
  locationIds: [0, 1],
  items: new Map([
    [
      10,
      {
        item: { id: 10, number: 'RO-4040', unit: 'piece', groupId: null, taxCodeId: 1, taxRate: '6', outOfUse: false },
        offers: [
          {
            vendorId: 1,
            vendor: 'Arus',
            unitPrice: '620',
            currency: 'MYR',
            ownPrice: '620',
            leadDays: 8,
            preferred: false,
            minimum: '4',
            multiple: '2',
            approved: true,
          },
        ],
      },
    ],
    [
      11,
      {
        item: { id: 11, number: 'SALT-25', unit: 'bag', groupId: null, taxCodeId: 1, taxRate: '0', outOfUse: false },
        offers: [
          {
            vendorId: 2,
            vendor: 'Garam',
            unitPrice: '17',
            currency: 'MYR',
            ownPrice: '17',
            leadDays: 3,
            preferred: false,
            minimum: '0',
            multiple: '0',
            approved: true,
          },
        ],
      },
    ],
  ]),
  buying: [],
};
const line = (change: Partial<PurchaseTyped['lines'][number]> = {}) => ({
  itemId: 10,
  quantity: '6',
  dueDate: '2027-03-10',
  ...change,
});
const decide = (typed: Partial<PurchaseTyped>, on: Partial<PurchaseGround> = {}) =>
  decidePurchase({ ...ground, ...on }, { shipToId: null, lines: [line()], ...typed }, '2027-03-01');
const codes = (decision: ReturnType<typeof decide>) =>
  decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);

describe('L4 a purchase order typed by hand', () => {
  it('A5 holds the limit on the whole of a buying agreement', () => {
    const buying = (limit: string): PurchaseGround['buying'] => [
      {
        vendorId: 1,
        agreement: {
          id: 1,
          number: 'AG-1',
          basis: 'quantity',
          state: 'in-force',
          firstDay: '2027-01-01',
          lastDay: '2027-12-31',
          currency: 'MYR',
          priority: 5,
          limitPolicy: 'refuse',
          tolerancePercent: '0',
          whole: { limit, unit: '', released: '0', factors: new Map([[5, '1']]) },
        },
        line: {
          id: 5,
          lineNo: 1,
          itemId: 10,
          groupId: null,
          priceKind: 'fixed',
          priceValue: '600',
          breaks: [],
          committed: '100',
          committedValue: '60000',
          released: '0',
          releasedValue: '0',
          leastRelease: '0',
          releaseMultiple: '0',
        },
      },
    ];
    const taken = decide({ lines: [line(), line()] }, { buying: buying('7200') });
    expect(taken.ok && taken.effects.released).toEqual([{ agreementLineId: 5, quantity: '12', value: '7200' }]);
    expect(codes(decide({ lines: [line(), line()] }, { buying: buying('7199') }))).toEqual(['lines: above-whole']);
  });

  it('is for nobody yet: nothing is tied, all of it is spare', () => {
    const decision = decide({ shipToId: 3 });
    expect(decision.ok && decision.effects.purchase).toMatchObject({
      vendorId: 1,
      shipToId: 3,
      currency: 'MYR',
      lines: [{ quantity: '6', unitPrice: '620', amount: '3720', ties: [], spare: '6', dueDate: '2027-03-10' }],
    });
    expect(decision.ok && decision.warnings).toEqual([]);
  });

  it('S1 comes to the place that is typed, the main one where none is; a drop shipment to none', () => {
    const placeOf = (typed: Partial<PurchaseTyped>) => {
      const decision = decide(typed);
      return decision.ok && decision.effects.purchase.locationId;
    };
    expect([placeOf({ locationId: 1 }), placeOf({}), placeOf({ shipToId: 3, locationId: 1 })]).toEqual([1, 0, 0]);
    expect(codes(decide({ locationId: 9 }))).toEqual(['locationId: unknown']);
  });

  it('keeps each line as it was typed, also of one item twice', () => {
    const decision = decide({ lines: [line(), line({ quantity: '8', dueDate: '2027-03-20' })] });
    expect(decision.ok && decision.effects.purchase.lines.map((each) => [each.quantity, each.dueDate])).toEqual([
      ['6', '2027-03-10'],
      ['8', '2027-03-20'],
    ]);
    expect(decision.ok && decision.effects.typed.map((each) => each.amount)).toEqual(['3720', '4960']);
  });

  it('S1 is for nothing that is out of use', () => {
    const known = ground.items.get(10)!;
    const items = new Map([[10, { ...known, item: { ...known.item, outOfUse: true } }]]);
    const decision = decidePurchase({ ...ground, items }, { shipToId: null, lines: [line()] }, '2027-03-01');
    expect(codes(decision)).toEqual(['lines.0.itemId: item-out-of-use']);
  });

  it('says where the vendor sells by other quantities', () => {
    const decision = decide({ lines: [line({ quantity: '3' })] });
    expect(decision.ok && decision.warnings).toMatchObject([{ code: 'vendor-sells-by', facts: { sold: '4' } }]);
  });

  it.each<[string, Partial<PurchaseTyped>, Partial<PurchaseGround>, string]>([
    ['no vendor', {}, { vendor: null }, 'vendorId: required'],
    ['an address of nobody', { shipToId: 9 }, {}, 'shipToId: unknown'],
    ['no lines', { lines: [] }, {}, 'lines: no-lines'],
    ['no item', { lines: [line({ itemId: null })] }, {}, 'lines.0.itemId: required'],
    ['an unknown item', { lines: [line({ itemId: 99 })] }, {}, 'lines.0.itemId: unknown'],
    ['an item they do not sell', { lines: [line({ itemId: 11 })] }, {}, 'lines.0.itemId: vendor-not-selling'],
    [
      'an item they are not approved for',
      {},
      {
        items: new Map([
          [10, { ...ground.items.get(10)!, offers: [{ ...ground.items.get(10)!.offers[0]!, approved: false }] }],
        ]),
      },
      'lines.0.itemId: vendor-not-approved',
    ],
    ['no number', { lines: [line({ quantity: 'x' })] }, {}, 'lines.0.quantity: not-a-number'],
    ['nothing', { lines: [line({ quantity: '0' })] }, {}, 'lines.0.quantity: not-above-zero'],
    ['no day', { lines: [line({ dueDate: null })] }, {}, 'lines.0.dueDate: required'],
    ['no date', { lines: [line({ dueDate: 'soon' })] }, {}, 'lines.0.dueDate: not-a-day'],
    ['a day that is past', { lines: [line({ dueDate: '2027-02-28' })] }, {}, 'lines.0.dueDate: ship-date-past'],
  ])('refuses %s', (_what, typed, on, code) => {
    expect(codes(decide(typed, on))).toEqual([code]);
  });
});
