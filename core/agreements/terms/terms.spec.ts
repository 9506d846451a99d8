import {
  decideInForce,
  decideTerms,
  elapsedShare,
  leftOf,
  NO_REBATE,
  pace,
  type AgreementGround,
  type AgreementTerms,
  type TypedTerm,
} from '../index';

const ground: AgreementGround = {
  current: null,
  party: { id: 1, name: 'Teratai Bay Resort', currency: 'MYR', salesOrganisationId: null },
  groups: new Map([[3, { code: 'CART' }]]),
  items: new Map([
    [10, { number: 'RO-4040', listPrice: '815', units: new Map() }],
    [11, { number: 'FC-20', listPrice: '9.8', units: new Map() }],
  ]),
};

function term(change: Partial<TypedTerm>): TypedTerm {
  return {
    itemId: 10,
    groupId: null,
    committed: '100',
    priceKind: 'fixed',
    priceValue: '740',
    breaks: [],
    leastRelease: '0',
    releaseMultiple: '0',
    notes: '',
    ...change,
  };
}

const terms: AgreementTerms = {
  side: 'selling',
  basis: 'quantity',
  vendorId: null,
  salesOrganisationId: null,
  rebate: NO_REBATE,
  reminders: [],
  releaseAhead: '',
  customerId: 1,
  title: '',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  signedOn: '2026-12-20',
  limitPolicy: 'refuse',
  tolerancePercent: '0',
  wholeLimit: '',
  probabilityPercent: '100',
  restPlan: 'spread',
  priority: '5',
  notes: '',
  lines: [term({})],
};

function codes(change: Partial<AgreementTerms>, on: Partial<AgreementGround> = {}): string[] {
  const decision = decideTerms({ ...ground, ...on }, { ...terms, ...change });
  return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
}

describe('terms of an agreement', () => {
  it('G4 refuses what comes to a million millions, in one line or in all', () => {
    const half = term({ committed: '9000000000', priceValue: '60' });
    expect(codes({ lines: [term({ committed: '9000000000', priceValue: '740' })] })).toEqual([
      'lines.0.committed: amount-too-large',
    ]);
    expect(codes({ lines: [half] })).toEqual([]);
    expect(codes({ lines: [half, { ...half, itemId: 11 }] })).toEqual(['lines: amount-too-large']);
  });

  it('A5 limits the whole by value, or by a unit that all its lines have', () => {
    const units = (...own: string[]) => ({
      number: 'RO-4040',
      listPrice: '815',
      units: new Map(own.map((unit) => [unit, '1'])),
    });
    const on = {
      items: new Map([
        [10, units('piece', 'kg')],
        [11, units('bag', 'kg')],
      ]),
    };
    const lines = [term({}), term({ itemId: 11 })];
    for (const wholeLimit of ['', '50000', '1000 kg']) expect(codes({ wholeLimit, lines }, on)).toEqual([]);
    expect(codes({ wholeLimit: '1000 piece', lines }, on)).toEqual(['wholeLimit: whole-unit-not-shared']);
    expect(codes({ wholeLimit: '1000 piece' }, on)).toEqual([]);
    expect(codes({ wholeLimit: 'much', lines }, on)).toEqual(['wholeLimit: not-a-whole-limit']);
    expect(codes({ wholeLimit: '0', lines }, on)).toEqual(['wholeLimit: not-a-whole-limit']);
    const group = [term({ itemId: null, groupId: 3, priceKind: 'discount', priceValue: '5' })];
    expect(codes({ wholeLimit: '5 kg', lines: group, basis: 'value' }, on)).toEqual([
      'wholeLimit: whole-unit-not-shared',
    ]);
  });

  it('takes good terms', () => {
    const decision = decideTerms(ground, terms);
    expect(decision.ok && decision.effects.currency).toBe('MYR');
  });

  it('A3 values what is committed by the kind of price', () => {
    const lines = [
      term({}),
      term({
        itemId: 11,
        committed: '1000',
        priceKind: 'discount',
        priceValue: '12.5',
        breaks: [{ from: '1', value: '50' }],
      }),
    ];
    const decision = decideTerms(ground, { ...terms, lines });
    expect(decision.ok && decision.effects.lines.map((line) => [line.unitPrice, line.value])).toEqual([
      ['740', '74000'],
      ['8.575', '8575'],
    ]);
  });

  it.each<[string, Partial<AgreementTerms>, string[]]>([
    ['A1 no customer', { customerId: null }, []],
    ['A2 a period that ends before it begins', { lastDay: '2026-12-31' }, ['lastDay: period-reversed']],
    ['A2 no last day', { lastDay: null }, ['lastDay: required']],
    ['A2 a wrong day', { firstDay: '2027-02-30' }, ['firstDay: not-a-day']],
    ['A2 signed after its end', { signedOn: '2028-01-01' }, ['signedOn: signed-late']],
    ['no lines', { lines: [] }, ['lines: no-lines']],
    ['A5 a tolerance below zero', { tolerancePercent: '-1' }, ['tolerancePercent: not-a-percent']],
    ['A1 an item committed twice', { lines: [term({}), term({ committed: '5' })] }, ['lines.1.itemId: item-twice']],
    [
      'A3 several faults at once, each at its field',
      { lines: [term({ itemId: 99, committed: '0', priceValue: 'x' })] },
      ['lines.0.itemId: unknown', 'lines.0.committed: not-above-zero', 'lines.0.priceValue: not-a-number'],
    ],
    ['a huge number', { lines: [term({ committed: '99999999999' })] }, ['lines.0.committed: not-a-number']],
    ['A8 a probability above 100', { probabilityPercent: '101' }, ['probabilityPercent: not-a-percent']],
    ['A13 a priority that is none', { priority: '0' }, ['priority: not-a-priority']],
    [
      'A3 a discount that gives it away',
      { lines: [term({ priceKind: 'discount', priceValue: '100' })] },
      ['lines.0.priceValue: not-a-discount'],
    ],
    [
      'A3 breaks without a price',
      { lines: [term({ priceKind: 'none', priceValue: '', breaks: [{ from: '5', value: '1' }] })] },
      ['lines.0.breaks: breaks-without-price'],
    ],
    [
      'A3 breaks out of order, and one that cannot be read',
      {
        lines: [
          term({
            breaks: [
              { from: '50', value: '700' },
              { from: '50', value: '690' },
              { from: '60', value: '-1' },
            ],
          }),
        ],
      },
      ['lines.0.breaks: breaks-not-rising', 'lines.0.breaks: not-above-zero'],
    ],
    [
      'A6 a least release that is not a multiple',
      { lines: [term({ leastRelease: '30', releaseMultiple: '25' })] },
      ['lines.0.leastRelease: not-a-multiple'],
    ],
  ])('refuses %s', (name, change, expected) => {
    if (name.startsWith('A1 no customer')) {
      expect(codes(change, { party: null })).toEqual(['customerId: required']);
    } else expect(codes(change)).toEqual(expected);
  });

  it('refuses a customer of another company', () => {
    expect(codes({}, { party: null })).toEqual(['customerId: unknown']);
  });

  it('refuses to change an agreement in force', () => {
    expect(codes({}, { current: { number: 'AG-0001', state: 'in-force' } })).toEqual([': agreement-not-draft']);
  });
});

describe('putting in force', () => {
  const draft = { number: 'AG-0001', state: 'draft' as const, firstDay: '2027-01-01', lastDay: '2027-12-31', lines: 1 };

  it('takes a draft whose last day has not passed', () => {
    expect(decideInForce(draft, '2027-12-31').ok).toBe(true);
  });

  it.each([
    ['a second time', { ...draft, state: 'in-force' as const }, '2027-03-01'],
    ['without lines', { ...draft, lines: 0 }, '2027-03-01'],
    ['after its last day', draft, '2028-01-01'],
  ])('A2 refuses it %s', (_what, agreement, workDate) => {
    expect(decideInForce(agreement, workDate).ok).toBe(false);
  });
});

describe('progress', () => {
  it('A4 what is left is never below zero', () => {
    const left = leftOf({ committed: '100', released: '120', shipped: '30' });
    expect([left.toRelease.toFixed(), left.toShip.toFixed()]).toEqual(['0', '70']);
  });

  it('A8 counts both ends of the term, held within 0 to 1', () => {
    expect(elapsedShare('2027-03-01', '2027-03-10', '2027-03-01')).toBeCloseTo(0.1);
    expect(elapsedShare('2027-03-01', '2027-03-10', '2027-03-10')).toBe(1);
    expect(elapsedShare('2027-03-01', '2027-03-10', '2027-02-01')).toBe(0);
    expect(elapsedShare('2027-03-01', '2027-03-10', '2027-04-01')).toBe(1);
    expect(pace(0.3, 0.16)).toBeCloseTo(0.14);
  });
});

describe('A1 sides and bases', () => {
  it('a value agreement commits to amounts, over an item, a group or everything', () => {
    const none = { priceKind: 'none' as const, priceValue: '' };
    const value = (change: Partial<TypedTerm>) =>
      codes({ basis: 'value', lines: [term({ committed: '5000', ...change })] });
    expect(value({})).toEqual([]);
    expect(value({ itemId: null, groupId: 3, ...none })).toEqual([]);
    expect(value({ itemId: null, ...none })).toEqual([]);
    expect(value({ itemId: null })).toEqual(['lines.0.priceValue: fixed-without-item']);
    expect(value({ itemId: null, groupId: 9, ...none })).toEqual(['lines.0.itemId: unknown']);
    expect(value({ committed: '10.005' })).toEqual(['lines.0.committed: not-a-number']);
    const decision = decideTerms(ground, { ...terms, basis: 'value', lines: [term({ committed: '5000' })] });
    expect(decision.ok && decision.effects.lines[0]).toMatchObject({ committed: '0', value: '5000' });
  });

  it('a buying agreement names a vendor who sells the item', () => {
    const buying = { side: 'buying' as const, customerId: null, vendorId: 4 };
    expect(codes(buying)).toEqual([]);
    expect(codes({ ...buying, vendorId: null }, { party: null })).toEqual(['vendorId: required']);
    const items = new Map([[10, { number: 'RO-4040', listPrice: null, units: new Map() }]]);
    expect(codes(buying, { items })).toEqual(['lines.0.itemId: not-sold-by']);
    const decision = decideTerms(ground, { ...terms, ...buying });
    expect(decision.ok && decision.effects).toMatchObject({ customerId: null, vendorId: 1 });
  });
});
