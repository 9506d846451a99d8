import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { exchangeAt, owedAt } from '../kernel/testing';
import { creditableLine } from './testing';
import {
  decideCreditNote,
  decidePrepayment,
  decideRebateClaim,
  decideSettlement,
  setOffs,
  type CreditableLine,
} from './index';

const DAY = '2027-03-01';

const ground = (lines: CreditableLine[], owed = '9412.80') => ({
  invoice: {
    id: 5,
    number: 'IN-0005',
    orderId: 2,
    customerId: 7,
    currency: 'MYR',
    total: '9412.80',
    credited: false,
    owed: owedAt(owed),
    exchange: { currency: 'MYR', own: 'MYR', rate: '1' },
    day: '2027-03-01',
  },
  lines,
  rebates: [],
});

const back = (quantity: string, reason = 'Cracked housings') => ({
  kind: 'return' as const,
  reason,
  lines: [{ invoiceLineId: 1, quantity, unitPrice: '' }],
});
const price = (unitPrice: string) => ({
  kind: 'price' as const,
  reason: 'Agreed price',
  lines: [{ invoiceLineId: 1, quantity: '', unitPrice }],
});

type Typed = Parameters<typeof decideCreditNote>[1];
const effects = (on: ReturnType<typeof ground>, typed: Typed) => {
  const decision = decideCreditNote(on, typed, DAY);
  if (!decision.ok) throw new Error(decision.refusals.map((refusal) => refusal.code).join());
  return decision.effects;
};
const codes = (on: ReturnType<typeof ground>, typed: Typed) => {
  const decision = decideCreditNote(on, typed, DAY);
  return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
};

describe('P1 P3 credit notes', () => {
  it('credit goods that came back with their tax, and take them in at what they cost', () => {
    expect(effects(ground([creditableLine()]), back('3'))).toMatchObject({
      net: '2220',
      tax: '133.2',
      total: '2353.2',
      cost: '1500',
      setOff: { amount: '2353.2', ownInvoice: '2353.2', ownCredit: '2353.2' },
      lines: [{ quantity: '3', unitPrice: '740', value: '2220' }],
    });
  });

  it('put a price right without goods', () => {
    expect(effects(ground([creditableLine()]), price('700'))).toMatchObject({
      net: '480',
      cost: '0',
      lines: [{ quantity: '0', unitPrice: '40', net: '480', value: '0' }],
    });
  });

  it('allow on the right price what was allowed on the wrong one', () => {
    const allowed = creditableLine({ net: '8702.4', invoiced: { net: '8702.4', allowance: '177.6' } });
    expect(effects(ground([allowed]), price('700'))).toMatchObject({ net: '470.4' });
    expect(codes(ground([allowed]), price('740'))).toEqual(['lines.0.unitPrice: not-below-invoiced']);
  });

  it('set off no more than is owed', () => {
    expect(effects(ground([creditableLine()], '100'), back('3')).setOff.amount).toBe('100');
    expect(effects(ground([creditableLine()], '0'), back('3')).setOff.amount).toBe('0');
  });

  it('P1 takes an invoice back whole: nothing came back, all of it is to be invoiced again', () => {
    const whole = { kind: 'reversal' as const, reason: 'Wrong customer', lines: [] };
    const second = creditableLine({ invoiceLineId: 2, orderLineId: 12, quantity: '3', net: '100.01', agreedNet: '40' });
    const made = effects(ground([creditableLine(), second]), whole);
    expect(made).toMatchObject({
      net: '8980.01',
      tax: '538.8',
      total: '9518.81',
      setOff: { amount: '9412.8' },
      cost: '0',
    });
    expect(made.lines.map((each) => [each.quantity, each.uninvoiced, each.net, each.agreedNet])).toEqual([
      ['0', '12', '8880', null],
      ['0', '3', '100.01', '40'],
    ]);
    expect(codes(ground([creditableLine({ credited: true })]), whole)).toEqual([': credited-already']);
    expect(codes(ground([creditableLine()]), { ...whole, reason: '' })).toEqual(['reason: required']);
  });

  it('never credit more than was invoiced and not credited, nor raise a price', () => {
    expect(codes(ground([creditableLine()]), back('12.00001'))).toEqual(['lines.0.quantity: above-credit']);
    expect(codes(ground([creditableLine()]), back('0'))).toEqual(['lines.0.quantity: not-above-zero']);
    expect(codes(ground([creditableLine()]), back('many'))).toEqual(['lines.0.quantity: not-a-number']);
    expect(codes(ground([creditableLine()]), back(''))).toEqual(['lines: nothing-asked']);
    expect(codes(ground([creditableLine()]), back('1', ' '))).toEqual(['reason: required']);
    expect(codes(ground([creditableLine()]), price('740'))).toEqual(['lines.0.unitPrice: not-below-invoiced']);
    expect(codes(ground([creditableLine({ quantity: '0', net: '0' })]), price('1'))).toEqual([
      'lines.0.unitPrice: above-credit',
    ]);
  });

  it('returned in any parts, a line is credited whole, to the cent', () => {
    const parts = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 8 });
    const cents = fc.integer({ min: 100, max: 9_999_999 });
    fc.assert(
      fc.property(parts, cents, cents, (quantities, value, cost) => {
        const whole = String(quantities.reduce((all, each) => all + each, 0));
        const amount = dec(value).div(100).toFixed();
        const agreed = dec(Math.floor(value / 3))
          .div(100)
          .toFixed();
        let left = creditableLine({
          quantity: whole,
          net: amount,
          agreedNet: agreed,
          shipped: { quantity: whole, value: amount, agreedValue: agreed, cost: dec(cost).div(100).toFixed() },
        });
        const credited = quantities.map((quantity) => {
          const [done] = effects(ground([left]), back(String(quantity))).lines;
          const less = (from: string, by: string) => dec(from).minus(by).toFixed();
          left = {
            ...left,
            quantity: less(left.quantity, done!.quantity),
            net: less(left.net, done!.net),
            agreedNet: less(left.agreedNet!, done!.agreedNet!),
            shipped: {
              quantity: less(left.shipped.quantity, done!.quantity),
              value: less(left.shipped.value, done!.value),
              agreedValue: less(left.shipped.agreedValue!, done!.agreedValue!),
              cost: less(left.shipped.cost, done!.cost),
            },
          };
          return done!;
        });
        expect(sum(credited.map((each) => dec(each.net))).toFixed()).toBe(dec(amount).toFixed());
        expect(sum(credited.map((each) => dec(each.agreedNet!))).toFixed()).toBe(dec(agreed).toFixed());
        expect(sum(credited.map((each) => dec(each.cost))).toFixed()).toBe(dec(cost).div(100).toFixed());
      }),
      { seed: 7, numRuns: 200 },
    );
  });
});

describe('A10 settling a rebate', () => {
  const agreement = { id: 1, number: 'AG-0001', customerId: 7, currency: 'MYR' };
  const owed = [
    { openItemId: 1, number: 'IN-1', owed: owedAt('50') },
    { openItemId: 2, number: 'IN-2', owed: owedAt('70', '70') },
    { openItemId: 3, number: 'IN-3', owed: owedAt('80') },
  ];

  it('credits what is accrued and not settled, once, against the oldest that is owed', () => {
    const decision = decideSettlement({
      agreement: { ...agreement, accrued: '120', settled: '20', carried: '100' },
      owed,
      exchange: exchangeAt(),
    });
    expect(decision).toMatchObject({
      ok: true,
      effects: {
        amount: '100',
        setOff: [
          { number: 'IN-1', amount: '50' },
          { number: 'IN-3', amount: '50' },
        ],
      },
    });
    const again = decideSettlement({
      agreement: { ...agreement, accrued: '120', settled: '120', carried: '0' },
      owed,
      exchange: exchangeAt(),
    });
    expect(again).toMatchObject({ ok: false, refusals: [{ code: 'no-rebate-owed' }] });
  });

  it('never sets off more than the credit, nor more than an invoice owes', () => {
    expect(setOffs({ amount: '200', own: '200' }, owed, 'MYR').map(({ amount }) => amount)).toEqual(['50', '80']);
    expect(setOffs({ amount: '0', own: '0' }, owed, 'MYR')).toEqual([]);
  });
});

describe('A12 prepayments', () => {
  const agreement = {
    id: 1,
    number: 'AG-0006',
    state: 'in-force' as const,
    side: 'selling' as const,
    customerId: 7,
    currency: 'MYR',
  };
  const typed = { agreementLineId: null, amount: '5000', takenOn: DAY };
  const refused = (change: Partial<typeof typed>, on: Partial<typeof agreement | { state: 'ended' }> = {}) => {
    const decision = decidePrepayment(
      { agreement: { ...agreement, ...on } as never, lineIds: [3], exchange: exchangeAt() },
      { ...typed, ...change },
    );
    return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
  };

  it('are taken against an agreement in force, whole cents above zero', () => {
    expect(refused({})).toEqual([]);
    expect(refused({ amount: '0' })).toEqual(['amount: not-above-zero']);
    expect(refused({ amount: '10.005' })).toEqual(['amount: not-a-number']);
    expect(refused({}, { state: 'ended' })).toEqual([': agreement-not-so']);
    expect(refused({ agreementLineId: 4 as never })).toEqual(['agreementLineId: unknown']);
  });
});

describe('A10 a rebate that was settled and then fell', () => {
  const agreement = {
    id: 4,
    number: 'AG-0004',
    customerId: 7,
    currency: 'MYR',
    accrued: '80',
    settled: '120',
    carried: '-40',
  };
  const decide = (change: object = {}) =>
    decideRebateClaim({ agreement: { ...agreement, ...change }, termsDays: 30, exchange: exchangeAt() }, '2027-04-01');

  it('is claimed back as far as it was settled beyond what is owed', () => {
    const decision = decide();
    expect(decision.ok && decision.effects).toEqual({
      agreementId: 4,
      customerId: 7,
      currency: 'MYR',
      amount: '40',
      rate: '1',
      own: { worth: '40', carried: '40' },
      invoiceDate: '2027-04-01',
      dueDate: '2027-05-01',
    });
  });

  it.each(['120', '120.01'])('is not where %s is owed of 120', (accrued) => {
    const decision = decide({ accrued });
    expect(decision.ok ? [] : decision.refusals.map((each) => each.code)).toEqual(['no-rebate-to-claim']);
  });
});
