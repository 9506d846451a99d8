import * as fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import {
  decideStatement,
  decideStatementBack,
  decideStatementPaid,
  earningsOf,
  rateFor,
  type CommissionRate,
  type InvoicedLine,
} from '.';

const rate = (change: Partial<CommissionRate> = {}): CommissionRate => ({
  id: 1,
  personId: null,
  priceGroupId: null,
  itemGroupId: null,
  perCent: '5',
  of: 'net',
  at: 'invoice',
  firstDay: null,
  lastDay: null,
  ...change,
});
const line = (change: Partial<InvoicedLine> = {}): InvoicedLine => ({
  id: 9,
  invoiceDay: '2027-03-01',
  priceGroupId: 2,
  itemGroupId: 3,
  net: '200',
  margin: '80',
  paid: '0.25',
  shares: [{ personId: 7, perCent: '100' }],
  before: [],
  ...change,
});
const TODAY = '2027-03-20';

describe('S12 the rate of a line', () => {
  const of = (...rates: Partial<CommissionRate>[]) =>
    rateFor(
      rates.map((each, at) => rate({ id: at + 1, ...each })),
      { personId: 7, priceGroupId: 2, itemGroupId: 3, day: '2027-03-01' },
    )?.id ?? null;

  it.each<[string, Partial<CommissionRate>[], number | null]>([
    ['none', [], null],
    ['one for any', [{}], 1],
    ['one for somebody else', [{ personId: 8 }], null],
    ['one for other customers', [{ priceGroupId: 9 }], null],
    ['one for other goods', [{ itemGroupId: 9 }], null],
    ['the person’s before that of goods and customers', [{ itemGroupId: 3, priceGroupId: 2 }, { personId: 7 }], 2],
    ['that of goods before that of customers', [{ priceGroupId: 2 }, { itemGroupId: 3 }], 2],
    ['both before one', [{ itemGroupId: 3 }, { itemGroupId: 3, priceGroupId: 2 }], 2],
    ['the customers’ before any', [{}, { priceGroupId: 2 }], 2],
    ['the latest to begin', [{ firstDay: '2027-01-01' }, { firstDay: '2027-02-01' }, {}], 2],
    ['of equals the older', [{ perCent: '3' }, { perCent: '4' }], 1],
    ['on its first day', [{ firstDay: '2027-03-01' }], 1],
    ['not before it', [{ firstDay: '2027-03-02' }], null],
    ['on its last day', [{ lastDay: '2027-03-01' }], 1],
    ['not after it', [{ lastDay: '2027-02-28' }], null],
  ])('is %s', (_what, rates, expected) => expect(of(...rates)).toBe(expected));
});

describe('S12 what is earned', () => {
  const earned = (of: InvoicedLine, ...rates: Partial<CommissionRate>[]) =>
    earningsOf(
      [of],
      rates.map((each, at) => rate({ id: at + 1, ...each })),
      TODAY,
    ).map(({ personId, amount, day, base, share }) => ({ personId, amount, day, base, share }));

  it('of the net with the invoice, on its day', () => {
    expect(earned(line(), {})).toEqual([{ personId: 7, amount: '10', day: '2027-03-01', base: '200', share: '100' }]);
  });

  it('of the margin, as it is paid, on the day it was seen', () => {
    expect(earned(line(), { of: 'margin', at: 'payment' })).toEqual([
      { personId: 7, amount: '1', day: TODAY, base: '80', share: '100' },
    ]);
    expect(earned(line({ paid: '0' }), { at: 'payment' })).toEqual([]);
  });

  it('nothing where nobody shares it or no rate holds', () => {
    expect(earned(line({ shares: [] }), {})).toEqual([]);
    expect(earned(line())).toEqual([]);
  });

  it('by shares, to the cent', () => {
    const shares = [1, 2, 3].map((personId) => ({ personId, perCent: personId === 1 ? '33.34' : '33.33' }));
    const all = earned(line({ net: '1.1', shares }), { perCent: '100' });
    expect(sum(all.map(({ amount }) => dec(amount))).toFixed()).toBe('1.1');
  });

  const had = (amount: string, change: object = {}) => ({
    personId: 7,
    amount,
    perCent: '5',
    of: 'net' as const,
    at: 'invoice' as const,
    ...change,
  });

  it('once: looked at again it is what is new, on the day that was seen', () => {
    expect(earned(line({ before: [had('10')] }), {})).toEqual([]);
    expect(earned(line({ net: '120', before: [had('10')] }), {})).toEqual([
      { personId: 7, amount: '-4', day: TODAY, base: '120', share: '100' },
    ]);
    expect(earned(line({ net: '120', before: [had('10'), had('-4')] }), {})).toEqual([]);
  });

  it('by the terms it was first earned by, whatever the rates are by now', () => {
    expect(earned(line({ net: '300', before: [had('10')] }), { perCent: '50', of: 'margin' })[0]!.amount).toBe('5');
    expect(earned(line({ before: [had('2', { at: 'payment' })] }), {})[0]!.amount).toBe('0.5');
  });

  it('goes over to who shares it now', () => {
    const all = earned(line({ shares: [{ personId: 8, perCent: '100' }], before: [had('10')] }), {});
    expect(all.map(({ personId, amount, share }) => [personId, amount, share])).toEqual([
      [8, '10', '100'],
      [7, '-10', '0'],
    ]);
  });

  it('comes to a recount, whatever happened in between', () => {
    const step = fc.record({
      net: fc.integer({ min: 0, max: 99_999 }),
      paid: fc.integer({ min: 0, max: 8 }),
      split: fc.integer({ min: 0, max: 100 }),
    });
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 8 }),
        fc.constantFrom('invoice' as const, 'payment' as const),
        (steps, at) => {
          let before: InvoicedLine['before'] = [];
          const rates = [rate({ at, perCent: '3.75' })];
          let now = line();
          for (const { net, paid, split } of steps) {
            const shares = [
              { personId: 1, perCent: String(split) },
              { personId: 2, perCent: String(100 - split) },
            ].filter(({ perCent }) => perCent !== '0');
            now = line({ net: dec(net).div(100).toFixed(), paid: dec(paid).div(8).toFixed(), shares, before });
            before = [...before, ...earningsOf([now], rates, TODAY)];
          }
          const fresh = earningsOf([{ ...now, before: [] }], rates, TODAY);
          for (const personId of [1, 2]) {
            const of = (all: readonly { personId: number; amount: string }[]) =>
              sum(all.filter((each) => each.personId === personId).map(({ amount }) => dec(amount))).toFixed();
            expect(of(before)).toBe(of(fresh));
          }
        },
      ),
      { seed: 12 },
    );
  });
});

describe('S12 statements', () => {
  const person = { id: 7, name: 'Aida' };
  const earned = [
    { id: 1, amount: '10' },
    { id: 2, amount: '-4' },
  ];
  const codes = (decision: { ok: boolean; refusals?: { code: string; field: string }[] }) =>
    decision.ok ? [] : decision.refusals!.map(({ code, field }) => `${field}: ${code}`);

  it('hold what was earned up to a day', () => {
    expect(decideStatement({ person, earned }, TODAY, TODAY)).toMatchObject({
      effects: { amount: '6', earningIds: [1, 2] },
    });
    expect(codes(decideStatement({ person, earned: [] }, TODAY, TODAY))).toEqual([': nothing-earned']);
    expect(codes(decideStatement({ person: null, earned: [] }, '2027-03-21', TODAY))).toEqual([
      'personId: required',
      'until: day-to-come',
    ]);
  });

  it('are paid or withdrawn once', () => {
    const open = { number: 'CS-0001', state: 'made' as const, amount: '6' };
    expect(decideStatementPaid(open)).toMatchObject({ effects: { amount: '6' } });
    expect(decideStatementBack(open, ' wrong month ')).toMatchObject({ effects: { reason: 'wrong month' } });
    expect(codes(decideStatementBack(open, ' '))).toEqual(['reason: required']);
    for (const state of ['paid', 'withdrawn'] as const) {
      expect(codes(decideStatementPaid({ ...open, state }))).toEqual([': statement-not-open']);
      expect(codes(decideStatementBack({ ...open, state }, 'x'))).toEqual([': statement-not-open']);
    }
  });
});
