import {
  decideInForce,
  decideTerms,
  elapsedShare,
  leftOf,
  pace,
  type AgreementGround,
  type AgreementTerms,
} from './index';

const ground: AgreementGround = {
  current: null,
  customer: { id: 1, currency: 'MYR' },
  items: new Map([
    [10, { number: 'RO-4040' }],
    [11, { number: 'FC-20' }],
  ]),
};

const terms: AgreementTerms = {
  customerId: 1,
  title: '',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  signedOn: '2026-12-20',
  limitPolicy: 'refuse',
  tolerancePercent: '0',
  lines: [{ itemId: 10, committed: '100', unitPrice: '740' }],
};

function codes(change: Partial<AgreementTerms>, on: Partial<AgreementGround> = {}): string[] {
  const decision = decideTerms({ ...ground, ...on }, { ...terms, ...change });
  return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
}

describe('terms of an agreement', () => {
  it('takes good terms', () => {
    const decision = decideTerms(ground, terms);
    expect(decision.ok && decision.effects.currency).toBe('MYR');
  });

  it.each<[string, Partial<AgreementTerms>, string[]]>([
    ['A1 no customer', { customerId: null }, []],
    ['A2 a period that ends before it begins', { lastDay: '2026-12-31' }, ['lastDay: period-reversed']],
    ['A2 no last day', { lastDay: null }, ['lastDay: required']],
    ['A2 a wrong day', { firstDay: '2027-02-30' }, ['firstDay: not-a-day']],
    ['A2 signed after its end', { signedOn: '2028-01-01' }, ['signedOn: signed-late']],
    ['no lines', { lines: [] }, ['lines: no-lines']],
    ['A5 a tolerance below zero', { tolerancePercent: '-1' }, ['tolerancePercent: not-a-number']],
    [
      'A1 an item committed twice',
      { lines: [terms.lines[0]!, { itemId: 10, committed: '5', unitPrice: '1' }] },
      ['lines.1.itemId: item-twice'],
    ],
    [
      'A3 several faults at once, each at its field',
      { lines: [{ itemId: 99, committed: '0', unitPrice: 'x' }] },
      ['lines.0.itemId: unknown', 'lines.0.committed: not-above-zero', 'lines.0.unitPrice: not-a-number'],
    ],
    [
      'a huge number',
      { lines: [{ itemId: 10, committed: '99999999999', unitPrice: '1' }] },
      ['lines.0.committed: not-a-number'],
    ],
  ])('refuses %s', (name, change, expected) => {
    if (name.startsWith('A1 no customer')) {
      expect(codes(change, { customer: null })).toEqual(['customerId: required']);
    } else expect(codes(change)).toEqual(expected);
  });

  it('refuses a customer of another company', () => {
    expect(codes({}, { customer: null })).toEqual(['customerId: unknown']);
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
