import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import {
  buildUp,
  stepsFor,
  costPrice,
  findPrice,
  NO_EXTRAS,
  type BasePrice,
  type PriceAsked,
  type PriceRule,
} from './index';
import { holds } from './search';

const rule = (given: Partial<PriceRule>): PriceRule => ({
  id: 1,
  level: 'list',
  source: 'the list',
  currency: 'MYR',
  unit: 'piece',
  factor: '1',
  firstDay: null,
  lastDay: null,
  from: '0',
  price: '10',
  ...given,
});
const asked = (given: Partial<PriceAsked> = {}): PriceAsked => ({
  unit: 'piece',
  ownUnit: 'piece',
  quantity: dec(10),
  day: '2027-03-01',
  currency: 'MYR',
  ...given,
});

describe('R1 the price that is found', () => {
  const list = rule({ id: 1 });
  const group = rule({ id: 2, level: 'group', price: '9' });
  const own = rule({ id: 3, level: 'customer', price: '9.5' });

  it.each([
    ['the customer’s before the group’s and the list’s', [list, group, own], {}, 'first', 3],
    ['the group’s where the customer has none', [list, group], {}, 'first', 2],
    ['the lowest where the company says so', [list, group, own], {}, 'best', 2],
    ['the list’s where the customer’s has not begun', [list, rule({ ...own, firstDay: '2027-03-02' })], {}, 'first', 1],
    ['the customer’s on its last day', [list, rule({ ...own, lastDay: '2027-03-01' })], {}, 'first', 3],
    ['the break that is reached', [list, rule({ id: 4, from: '10', price: '8' })], {}, 'first', 4],
    ['not the break that is missed', [list, rule({ id: 4, from: '11', price: '8' })], {}, 'first', 1],
    [
      'one for the unit sold',
      [list, rule({ id: 5, unit: 'box', factor: '25', price: '225' })],
      { unit: 'box' },
      'first',
      5,
    ],
    ['not one for another unit', [list, rule({ id: 5, unit: 'box', factor: '25', price: '1' })], {}, 'best', 1],
    [
      'a break in boxes, counted in boxes',
      [list, rule({ id: 6, unit: 'box', factor: '25', from: '2', price: '200' })],
      { unit: 'box', quantity: dec(49) },
      'first',
      1,
    ],
    ['nothing in another currency', [rule({ currency: 'SGD' })], {}, 'first', null],
  ] as const)('is %s', (_what, rules, given, search, id) => {
    expect(findPrice(rules, asked(given), search)?.id ?? null).toBe(id);
  });

  const day = fc.constantFrom(null, '2027-02-28', '2027-03-01', '2027-03-02');
  const rules = fc.array(
    fc.record({
      id: fc.integer({ min: 1, max: 99 }),
      level: fc.constantFrom('customer' as const, 'group' as const, 'list' as const),
      source: fc.constant('x'),
      currency: fc.constantFrom('MYR', 'SGD'),
      unit: fc.constantFrom('piece', 'box', 'pallet'),
      firstDay: day,
      lastDay: day,
      from: fc.constantFrom('0', '1', '2', '30'),
      price: fc.integer({ min: 1, max: 40 }).map(String),
    }),
    { maxLength: 25 },
  );
  const factors = { piece: '1', box: '25', pallet: '500' };

  it('is what a search over all rules finds, whatever their order', () => {
    fc.assert(
      fc.property(
        rules,
        fc.constantFrom('piece', 'box'),
        fc.integer({ min: 1, max: 900 }),
        fc.constantFrom('first' as const, 'best' as const),
        (made, unit, quantity, search) => {
          const all = made.map((each, index) => ({ ...each, id: index + 1, factor: factors[each.unit] }));
          const on = asked({ unit, quantity: dec(quantity) });
          const found = findPrice(all, on, search);
          // By brute force: every rule that holds, in order of what goes first.
          const held = all.filter((each) => holds(each, on));
          const perPiece = (each: PriceRule) => Number(each.price) / Number(each.factor);
          const rank = { customer: 0, group: 1, list: 2 };
          const keys = (each: PriceRule) => [
            rank[each.level],
            each.unit === unit ? 0 : 1,
            -Number(each.from) * Number(each.factor),
            each.firstDay === null ? 0 : -Number(each.firstDay.replaceAll('-', '')),
            perPiece(each),
            each.id,
          ];
          const order = (each: PriceRule) => (search === 'best' ? [perPiece(each), ...keys(each)] : keys(each));
          const [first] = [...held].sort((a, b) => {
            const [x, y] = [order(a), order(b)];
            const at = x.findIndex((value, index) => value !== y[index]);
            return at < 0 ? 0 : x[at]! - y[at]!;
          });
          expect(found?.id ?? null).toBe(first?.id ?? null);
          expect(findPrice([...all].reverse(), on, search)?.id ?? null).toBe(found?.id ?? null);
        },
      ),
      { seed: 11, numRuns: 600 },
    );
  });
});

describe('R1 a cost-based price', () => {
  const terms = { basis: 'average' as const, surcharge: '1.5', margin: '20', factor: '2', offset: '3' };
  it.each([
    ['average', '10', '13.8'],
    ['last', '0', '1.8'],
    // 10 × 2 + 3 = 23; and the surcharge and the margin on it.
    ['series', '10', '29.4'],
    ['series', null, null],
  ] as const)('on %s of %s is %s', (basis, cost, price) => {
    expect(costPrice({ ...terms, basis }, cost)).toBe(price);
  });
  it('is none where it would not be above zero', () => {
    expect(costPrice({ ...terms, basis: 'series', offset: '-30' }, '10')).toBeNull();
  });
});

describe('R2 R4 the build-up of a price', () => {
  const base: BasePrice = { kind: 'list', source: 'the list', price: '4.2', per: '1' };
  const amounts = (built: ReturnType<typeof buildUp>) => built.steps.map((step) => `${step.kind} ${step.amount}`);

  it('charges what is less than a full pack', () => {
    const built = buildUp(base, dec(30), { ...NO_EXTRAS, packSize: '25', splitCharge: '10' }, null, 'MYR');
    // 30 × 4.20, and a tenth on the 5 that fill no pack.
    expect(amounts(built)).toEqual(['list 126', 'split-pack 2.1']);
    expect([built.amount.toFixed(), built.unitPrice.toFixed()]).toEqual(['128.1', '4.27']);
  });

  it('charges no full packs', () => {
    expect(amounts(buildUp(base, dec(50), { ...NO_EXTRAS, packSize: '25', splitCharge: '10' }, null, 'MYR'))).toEqual([
      'list 210',
    ]);
  });

  const freight = [
    { zone: 'north', from: '0', perKilogram: '0.5' },
    { zone: 'north', from: '100', perKilogram: '0.3' },
  ];
  it.each([
    ['3', 'freight 37.5'],
    ['4', 'freight 30'],
  ])('puts freight in by the weight of %s bags', (quantity, step) => {
    expect(amounts(buildUp(base, dec(quantity), { ...NO_EXTRAS, weight: '25', freight }, null, 'MYR'))[1]).toBe(step);
  });

  it('takes the discount off all before it', () => {
    const built = buildUp(base, dec(10), { ...NO_EXTRAS, weight: '1', freight, discount: '10' }, null, 'MYR');
    expect(amounts(built)).toEqual(['list 42', 'freight 5', 'discount -4.7']);
  });

  it('puts what was chosen on each, before the discount', () => {
    const options = { names: 'PM-22, CTRL-N', price: '1.5' };
    const built = buildUp(base, dec(10), { ...NO_EXTRAS, options, discount: '10' }, null, 'MYR');
    expect(amounts(built)).toEqual(['list 42', 'options 15', 'discount -5.7']);
    expect(built.steps[1]!.source).toBe('PM-22, CTRL-N');
    const less = buildUp(base, dec(10), { ...NO_EXTRAS, options: { names: 'PM-9', price: '-1' } }, null, 'MYR');
    expect(amounts(less)).toEqual(['list 42', 'options -10']);
  });

  it('puts nothing but a discount on what was agreed', () => {
    const options = { names: 'PM-22', price: '9' };
    const extras = { packSize: '25', splitCharge: '10', weight: '25', freight, options, discount: '5' };
    const agreed: BasePrice = { ...base, kind: 'agreement', source: 'AG-1' };
    expect(amounts(buildUp(agreed, dec(10), extras, null, 'MYR'))).toEqual(['agreement 42', 'discount -2.1']);
  });

  it('keeps what a typed price replaced', () => {
    const built = buildUp(base, dec(50), NO_EXTRAS, { price: '100', factor: '25', who: 'Salmah' }, 'MYR');
    expect(built.steps).toEqual([
      { kind: 'list', source: 'the list', amount: '210' },
      { kind: 'typed', source: 'Salmah', amount: '-10' },
    ]);
    expect(built.amount.toFixed()).toBe('200');
  });

  it('is exact for a price of a unit that does not divide', () => {
    const box: BasePrice = { ...base, price: '10', per: '3' };
    const built = buildUp(box, dec(3000), NO_EXTRAS, null, 'MYR');
    expect([built.amount.toFixed(), built.unitPrice.toFixed()]).toEqual(['10000', '3.3333']);
  });

  it('goes with a line that becomes smaller', () => {
    const { steps } = buildUp(base, dec(30), { ...NO_EXTRAS, packSize: '25', splitCharge: '10' }, null, 'MYR');
    expect(stepsFor(steps, '128.1', 'MYR')).toEqual(steps);
    expect(stepsFor(steps, '42.7', 'MYR').map((step) => step.amount)).toEqual(['42', '0.7']);
  });

  it('always sums to the line’s amount, to the currency’s places', () => {
    const places = { MYR: 2, JPY: 0, KWD: 3 };
    const money = fc.integer({ min: 0, max: 99_999_999 }).map((value) => dec(value).div(10_000).toFixed());
    const percent = fc.integer({ min: 0, max: 9_999 }).map((value) => dec(value).div(100).toFixed());
    const quantity = fc.integer({ min: 1, max: 9_999_999 }).map((value) => dec(value).div(1000));
    fc.assert(
      fc.property(
        fc.constantFrom('agreement' as const, 'customer' as const, 'list' as const, 'cost' as const),
        money,
        fc.constantFrom('1', '3', '25'),
        quantity,
        fc.record({
          packSize: fc.constantFrom('0', '12', '25'),
          splitCharge: percent,
          weight: money,
          freight: fc.constantFrom([], freight),
          options: fc.record({ names: fc.constant('PM-22'), price: money }),
          discount: percent,
        }),
        fc.option(fc.record({ price: money, factor: fc.constantFrom('1', '3'), who: fc.constant('Salmah') })),
        fc.constantFrom('MYR', 'JPY', 'KWD'),
        (kind, price, per, of, extras, typed, currency) => {
          const built = buildUp({ kind, source: 'x', price, per }, of, extras, typed, currency);
          expect(sum(built.steps.map((step) => dec(step.amount))).toFixed()).toBe(built.amount.toFixed());
          const part = built.amount.div(3).round(places[currency]);
          const scaled = sum(stepsFor(built.steps, part.toFixed(), currency).map((step) => dec(step.amount)));
          if (!built.amount.eq(0)) expect(scaled.toFixed()).toBe(part.toFixed());
          for (const step of built.steps)
            expect((step.amount.split('.')[1] ?? '').length).toBeLessThanOrEqual(places[currency]);
          const exact = typed ? of.times(typed.price).div(typed.factor) : null;
          if (exact)
            expect(
              built.amount
                .minus(exact)
                .abs()
                .lte(dec(1).div(10 ** places[currency])),
            ).toBe(true);
        },
      ),
      { seed: 12, numRuns: 500 },
    );
  });
});
