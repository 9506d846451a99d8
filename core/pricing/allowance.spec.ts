import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { ALLOWANCE_MEASURES, allowancesOf, PRICE_LEVELS, type Allowance, type AllowanceLine } from './index';

const DAY = '2027-03-01';

const allowance = (change: Partial<Allowance>): Allowance => ({
  measure: 'weight',
  level: 'list',
  from: '500',
  perCent: '2',
  firstDay: null,
  lastDay: null,
  ...change,
});
const line = (net: string, change: Partial<AllowanceLine> = {}): AllowanceLine => ({
  net: dec(net),
  quantity: '10',
  weight: '25',
  volume: '0.05',
  ...change,
});

describe('R2 invoice allowances', () => {
  const two = [line('1000', { quantity: '12' }), line('500', { quantity: '8' })];

  it.each<[string, Partial<Allowance>[], string[]]>([
    ['by the weight of all lines together', [{}], ['weight 30']],
    ['not below their band', [{ from: '500.00001' }], []],
    [
      'by the highest band that is reached',
      [{}, { from: '100', perCent: '1' }, { from: '900', perCent: '9' }],
      ['weight 30'],
    ],
    ['by volume', [{ measure: 'volume', from: '1', perCent: '3' }], ['volume 45']],
    ['by quantity', [{ measure: 'quantity', from: '20', perCent: '1.5' }], ['quantity 22.5']],
    ['by amount', [{ measure: 'amount', from: '1500', perCent: '0.5' }], ['amount 7.5']],
    [
      'for several measures, each of the whole',
      [{}, { measure: 'amount', from: '0', perCent: '1' }],
      ['weight 30', 'amount 15'],
    ],
    [
      'the customer’s own instead of everybody’s, also where it is less',
      [{}, { level: 'customer', perCent: '1' }],
      ['weight 15'],
    ],
    ['the group’s where the customer has none', [{}, { level: 'group', perCent: '5' }], ['weight 75']],
    ['none where the customer’s own band is missed', [{}, { level: 'customer', from: '900' }], []],
    ['everybody’s before the customer’s begins', [{}, { level: 'customer', firstDay: '2027-03-02' }], ['weight 30']],
    ['no more after the last day', [{ lastDay: '2027-02-28' }], []],
    [
      'never more than the lines come to',
      [{ perCent: '60' }, { measure: 'amount', from: '0', perCent: '60' }],
      ['weight 900', 'amount 600'],
    ],
  ])('are given %s', (_what, allowances, given) => {
    const made = allowancesOf(allowances.map(allowance), two, DAY, 'MYR');
    expect(made.given.map((each) => `${each.measure} ${each.amount}`)).toEqual(given);
  });

  it('give lines their shares, which sum to the cent whatever they are', () => {
    const one = fc.record({
      net: fc.integer({ min: 0, max: 5_000_00 }).map((cents) => dec(cents).div(100)),
      quantity: fc.integer({ min: 1, max: 400 }).map(String),
      weight: fc.integer({ min: 0, max: 500 }).map((grams) => dec(grams).div(10).toFixed()),
      volume: fc.integer({ min: 0, max: 900 }).map((litres) => dec(litres).div(1000).toFixed()),
    });
    const some = fc.record({
      measure: fc.constantFrom(...ALLOWANCE_MEASURES),
      level: fc.constantFrom(...PRICE_LEVELS),
      from: fc.integer({ min: 0, max: 3000 }).map(String),
      perCent: fc.integer({ min: 1, max: 9999 }).map((each) => dec(each).div(100).toFixed()),
      firstDay: fc.constantFrom(null, '2027-01-01', '2027-04-01'),
      lastDay: fc.constantFrom(null, '2027-02-01', '2027-12-31'),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 6 }), fc.array(some, { maxLength: 8 }), (lines, allowances) => {
        const { given, shares } = allowancesOf(allowances, lines, DAY, 'MYR');
        const off = sum(given.map((each) => dec(each.amount)));
        expect(sum(shares).toFixed()).toBe(off.toFixed());
        expect(off.lte(sum(lines.map((each) => each.net)))).toBe(true);
        shares.forEach((share, index) => expect(share.gte(0) && share.minus(lines[index]!.net).lte(0.01)).toBe(true));
        for (const each of given) {
          // No band of the level that counts is reached above the one given.
          const open = allowances.filter(
            (other) =>
              other.measure === each.measure && (other.firstDay ?? DAY) <= DAY && (other.lastDay ?? DAY) >= DAY,
          );
          const level = PRICE_LEVELS.find((own) => open.some((other) => other.level === own));
          const bands = open.filter((other) => other.level === level && dec(other.from).lte(each.reached));
          expect(Math.max(...bands.map((other) => Number(other.from)))).toBe(Number(each.from));
        }
      }),
      { seed: 4, numRuns: 500 },
    );
  });
});
