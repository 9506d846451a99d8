import fc from 'fast-check';
import { dec, ZERO } from '@core/kernel';
import { isDue, rebateOwed, reminderWords, tierAt, type Rebate, type RebateState } from '../index';
import { accrualOf, rebateRefusals } from './rebate';
import { reminderRefusals } from '../terms/reminder';

const tiers = [
  { from: '10000', rate: '2' },
  { from: '25000', rate: '3' },
  { from: '50000', rate: '5' },
];
const rebate = (kind: Rebate['kind'], change: Partial<Rebate> = {}): Rebate => ({
  kind,
  by: 'value',
  tiers,
  ...change,
});
const owed = (of: Rebate, invoiced: string) => rebateOwed(of, dec(invoiced), 'MYR').toFixed();

describe('A10 rebate', () => {
  it.each([
    ['9999.99', '0', '0'],
    ['10000', '200', '0'],
    ['24999.99', '500', '300'],
    ['25000', '750', '300'],
    ['60000', '3000', '1550'],
  ])('on %s is %s for the whole, %s by steps', (invoiced, whole, step) => {
    expect(owed(rebate('whole'), invoiced)).toBe(whole);
    expect(owed(rebate('step'), invoiced)).toBe(step);
  });

  it('by quantity pays an amount for each unit', () => {
    const by = {
      by: 'quantity' as const,
      tiers: [
        { from: '0', rate: '0.05' },
        { from: '1000', rate: '0.12' },
      ],
    };
    expect(owed(rebate('whole', by), '999')).toBe('49.95');
    expect(owed(rebate('whole', by), '1500')).toBe('180');
    expect(owed(rebate('step', by), '1500')).toBe('110');
  });

  it('nothing is owed without a rebate, or where more came back than went out', () => {
    expect(owed(rebate('none', { tiers: [] }), '60000')).toBe('0');
    expect(owed(rebate('whole'), '-5')).toBe('0');
  });

  it('by steps is what each slice earns, however the way there is cut; a rebate never falls as more is invoiced', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9_000_000 }), { minLength: 2, maxLength: 20 }), (cents) => {
        const inOrder = [...cents].sort((a, b) => a - b).map((each) => dec(each).div(100));
        for (const kind of ['whole', 'step'] as const) {
          const all = inOrder.map((each) => rebateOwed(rebate(kind), each, 'MYR'));
          all.slice(1).forEach((each, index) => expect(each.gte(all[index]!)).toBe(true));
        }
        // The naive way: walk the tiers' slices one by one.
        const last = inOrder.at(-1)!;
        let naive = ZERO;
        const bounds = [...tiers.map((tier) => dec(tier.from)), dec('1e12')];
        tiers.forEach((tier, index) => {
          const begin = bounds[index]!;
          const end = last.lt(bounds[index + 1]!) ? last : bounds[index + 1]!;
          if (end.gt(begin)) naive = naive.plus(end.minus(begin).times(tier.rate).div(100));
        });
        expect(rebateOwed(rebate('step'), last, 'MYR').eq(naive.round(2, 1))).toBe(true);
      }),
      { seed: 8 },
    );
  });

  it.each<[string, Partial<Rebate>, { code: string; facts: object }[]]>([
    ['tiers without a rebate', { kind: 'none' }, [{ code: 'tiers-without-rebate', facts: {} }]],
    ['a rebate without tiers', { tiers: [] }, [{ code: 'required', facts: { what: 'A rebate tier' } }]],
    [
      'starts in no places of money',
      { tiers: [{ from: '1.00001', rate: '2' }] },
      [{ code: 'not-a-number', facts: { what: 'The start of a rebate tier' } }],
    ],
    ['starts in five places of a quantity not', { by: 'quantity', tiers: [{ from: '1.00001', rate: '2.0001' }] }, []],
    [
      'rates in more places than a per cent has',
      { tiers: [{ from: '1', rate: '2.001' }] },
      [{ code: 'not-above-zero', facts: { what: 'The rate of a rebate tier' } }],
    ],
    [
      'more than all of it',
      { tiers: [{ from: '1', rate: '100.01' }] },
      [{ code: 'not-a-percent', facts: { what: 'The rate of a rebate tier' } }],
    ],
    [
      'all of it not, nor more than a hundred for a unit',
      { by: 'quantity', tiers: [{ from: '1', rate: '100.01' }] },
      [],
    ],
    [
      'tiers that do not rise',
      { tiers: [tiers[1]!, tiers[1]!] },
      [{ code: 'breaks-not-rising', facts: { from: '25000' } }],
    ],
    ['no rebate without tiers not', { kind: 'none', tiers: [] }, []],
  ])('refuses %s', (_what, change, expected) => {
    const refused = rebateRefusals(rebate(change.kind ?? 'whole', change));
    expect(refused.map(({ code, facts }) => ({ code, facts }))).toEqual(expected);
    expect(refused.every(({ field }) => field === 'rebate.tiers')).toBe(true);
  });

  it('accrues on each day of its term, first and last among them, by what its tiers count', () => {
    const state = (change: Partial<RebateState> = {}): RebateState => ({
      agreementId: 1,
      rebate: rebate('whole'),
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      currency: 'MYR',
      value: '9000',
      quantity: '20000',
      accrued: '0',
      settled: '0',
      carried: '0',
      ...change,
    });
    const exchange = { currency: 'MYR', own: 'MYR', rate: '1' };
    const more = { value: dec('1000'), quantity: dec('5000') };
    const accrued = (day: string, change: Partial<RebateState> = {}) =>
      accrualOf(state(change), more, day, exchange)?.accrued ?? null;
    expect(['2026-12-31', '2027-01-01', '2027-12-31', '2028-01-01'].map((day) => accrued(day))).toEqual([
      null,
      '200',
      '200',
      null,
    ]);
    expect(accrued('2027-06-01', { rebate: rebate('none', { tiers: [] }) })).toBeNull();
    // 25,000 units at 3 each.
    expect(accrued('2027-06-01', { rebate: rebate('whole', { by: 'quantity' }) })).toBe('75000');
  });

  it('the last of the tiers reached counts', () => {
    expect(tierAt(rebate('whole'), dec('90000')).reached).toEqual(tiers[2]);
  });

  it('owes nothing without a rebate whatever its tiers say', () => {
    expect(owed(rebate('none'), '60000')).toBe('0');
    expect(owed(rebate('whole', { tiers: [{ from: '-10', rate: '2' }] }), '-5')).toBe('0');
  });

  it('names the tier reached and what is missing to the coming one', () => {
    expect(tierAt(rebate('whole'), dec('30000'))).toMatchObject({
      reached: tiers[1],
      coming: { ...tiers[2], missing: dec('20000') },
    });
    expect(tierAt(rebate('whole'), dec('5'))).toMatchObject({ reached: null, coming: { from: '10000' } });
    expect(tierAt(rebate('whole'), dec('90000')).coming).toBeNull();
  });

  it.each<[string, Partial<Rebate>, string]>([
    ['no tier', { tiers: [] }, 'required'],
    ['tiers that fall', { tiers: [tiers[1]!, tiers[0]!] }, 'breaks-not-rising'],
    ['a rate of nothing', { tiers: [{ from: '1', rate: '0' }] }, 'not-above-zero'],
    ['more than all', { tiers: [{ from: '1', rate: '101' }] }, 'not-a-percent'],
    ['words', { tiers: [{ from: 'a', rate: '1' }] }, 'not-a-number'],
    ['tiers without a rebate', { kind: 'none' }, 'tiers-without-rebate'],
  ])('refuses %s', (_what, change, code) => {
    expect(rebateRefusals(rebate('whole', change)).map((refusal) => refusal.code)).toEqual([code]);
  });
});

describe('A9 reminders', () => {
  const ground = { firstDay: '2027-01-01', lastDay: '2027-12-31', fulfilled: 0.5 };
  it.each([
    [{ kind: 'days', at: '30' }, '2027-11-30', false],
    [{ kind: 'days', at: '30' }, '2027-12-01', true],
    [{ kind: 'fulfilled', at: '50' }, '2027-03-01', true],
    [{ kind: 'fulfilled', at: '51' }, '2027-03-01', false],
    [{ kind: 'pace', at: '-10' }, '2027-08-01', false],
    [{ kind: 'pace', at: '-10' }, '2027-08-20', true],
    [{ kind: 'pace', at: '100' }, '2026-12-31', false],
  ] as const)('%j on %s fires: %s', (reminder, day, due) => {
    expect(isDue(reminder, ground, day)).toBe(due);
  });

  it('refuses what is no reminder, and the same twice', () => {
    const codes = (...at: ['days' | 'fulfilled' | 'pace', string][]) =>
      reminderRefusals(at.map(([kind, each]) => ({ kind, at: each }))).map((refusal) => refusal.code);
    expect(codes(['days', '30'], ['fulfilled', '80'], ['pace', '-15'])).toEqual([]);
    expect(codes(['days', '1.5'], ['fulfilled', '101'], ['pace', 'x'])).toEqual(Array(3).fill('not-a-reminder'));
    expect(codes(['days', '30'], ['days', '30'])).toEqual(['reminder-twice']);
    expect(reminderWords({ kind: 'days', at: '30' })).toBe('30 days before its end');
  });
});
