import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { exchangeAt, owedAt } from '../kernel/testing';
import { ALL, receivedLine, shippedLine } from './testing';
import {
  decideCustomerInvoice,
  decidePayment,
  decidePrepayment,
  decideRebateClaim,
  decideSettlement,
  decideVendorInvoice,
  setOffs,
  type CustomerInvoiceGround,
  type ReceivedLine,
  type VendorInvoiceGround,
} from './index';
import type { Decision } from '@core/refusals';

const effectsOf = <E>(decision: Decision<E>): E => {
  if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
  return decision.effects;
};
const refused = (decision: Decision<unknown>) =>
  decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);

const ground = (change: Partial<CustomerInvoiceGround> = {}): CustomerInvoiceGround => ({
  orders: [{ id: 1, number: 'SO-0001', customerId: 7, currency: 'SGD', uninvoiced: '12' }],
  exchange: exchangeAt('3.41', 'SGD'),
  termsDays: 30,
  lines: [shippedLine()],
  prepayments: [],
  deposits: [],
  rebates: [],
  allowances: [],
  ...change,
});

describe('P8 a customer invoice in another currency', () => {
  it('comes to the company’s by net and tax, whose sum is its total', () => {
    expect(effectsOf(decideCustomerInvoice(ground(), ALL, '2027-03-01'))).toMatchObject({
      total: '9412.8',
      rate: '3.41',
      own: { net: '30280.8', tax: '1816.85', total: '32097.65' },
    });
  });

  it('is refused without a rate, and nothing else is said', () => {
    expect(refused(decideCustomerInvoice(ground({ exchange: exchangeAt(null, 'SGD') }), ALL, '2027-03-01'))).toEqual([
      ': no-rate',
    ]);
  });

  it('draws prepayments at what they were taken at, and the invoice at its own rate', () => {
    const prepayments = [
      {
        id: 1,
        number: 'PP-1',
        agreementId: 1,
        agreementLineId: null,
        marked: '0',
        owed: owedAt('1000', '0', '3300', '0'),
      },
      {
        id: 2,
        number: 'PP-2',
        agreementId: 1,
        agreementLineId: 3,
        marked: '0',
        owed: owedAt('900', '600', '3000', '2000'),
      },
    ];
    const { draws, drawn, ownDrawn } = effectsOf(decideCustomerInvoice(ground({ prepayments }), ALL, '2027-03-01'));
    expect(draws.map(({ number, amount, carried, worth }) => [number, amount, carried, worth])).toEqual([
      ['PP-2', '300', '1000', '1023'],
      ['PP-1', '1000', '3300', '3410'],
    ]);
    expect([drawn, ownDrawn.carried, ownDrawn.settled]).toEqual(['1300', '4300', '4433']);
  });

  it('accrues its rebate at the rate of its day', () => {
    const rebates = [
      {
        agreementId: 1,
        rebate: { kind: 'whole' as const, by: 'value' as const, tiers: [{ from: '0', rate: '2' }] },
        firstDay: '2027-01-01',
        lastDay: '2027-12-31',
        currency: 'SGD',
        value: '1000',
        quantity: '2',
        accrued: '20',
        settled: '0',
        carried: '66',
      },
    ];
    expect(effectsOf(decideCustomerInvoice(ground({ rebates }), ALL, '2027-03-01')).rebates).toEqual([
      { agreementId: 1, value: '8880', quantity: '12', accrued: '177.6', ownAccrued: '605.62' },
    ]);
  });
});

const vendorGround = (lines: ReceivedLine[], rate: string | null = '4.5'): VendorInvoiceGround => ({
  purchase: { id: 2, number: 'PO-0001', vendorId: 8, currency: 'USD' },
  exchange: exchangeAt(rate, 'USD'),
  vendor: { name: 'Pelangi Membrane Imports', termsDays: 30 },
  uninvoiced: '10',
  lines,
  usedBy: null,
  customerFirst: false,
  taxes: [],
});
const typed = (quantity: string, unitPrice: string) => ({
  vendorNumber: 'INV-1',
  invoiceDate: '2027-02-27',
  lines: [{ purchaseLineId: 9, quantity, unitPrice }],
});

describe('P8 a vendor invoice in another currency', () => {
  it('clears what was received at its rate; the price differs at the invoice’s', () => {
    const { own, posted, lines } = effectsOf(
      decideVendorInvoice(vendorGround([receivedLine()]), typed('10', '10.1'), '2027-03-01'),
    );
    expect(own).toEqual({ net: '454.5', tax: '27.27', total: '481.77' });
    expect(lines[0]).toMatchObject({ received: '448', receivedValue: '100', priceDifference: '4.5' });
    expect([posted.stockDifference.own.toFixed(), posted.dropDifference.own.toFixed()]).toEqual(['4.5', '0']);
  });

  it('is refused at its date where no rate of it is known', () => {
    expect(refused(decideVendorInvoice(vendorGround([receivedLine()], null), typed('10', '10'), '2027-03-01'))).toEqual(
      ['invoiceDate: no-rate'],
    );
  });

  it('invoiced in any parts, clears exactly what was received in both currencies', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 99_999 }),
        fc.integer({ min: 1, max: 99_999 }),
        (cuts, price, rate) => {
          const unitPrice = dec(price).div(100).toFixed();
          const quantity = sum(cuts.map((cut) => dec(cut)));
          let [open, value] = [quantity, quantity.times(unitPrice)];
          let cost = value.times(rate).div(10_000).round(2, 1);
          for (const cut of cuts) {
            const at = receivedLine({
              open: open.toFixed(),
              openCost: cost.toFixed(),
              openValue: value.toFixed(),
              unitPrice,
            });
            const { posted } = effectsOf(
              decideVendorInvoice(vendorGround([at]), typed(String(cut), unitPrice), '2027-03-01'),
            );
            open = open.minus(cut);
            cost = cost.minus(posted.received.own);
            value = value.minus(posted.received.amount);
          }
          expect([cost.toFixed(), value.toFixed()]).toEqual(['0', '0']);
        },
      ),
      { seed: 5 },
    );
  });
});

describe('P8 money in another currency', () => {
  const item = {
    side: 'customer' as const,
    openItemId: 1,
    partyId: 7,
    invoice: 'CI-0001',
    currency: 'SGD',
    owed: owedAt('300', '100', '1000', '333.33'),
    exchange: exchangeAt('3.5', 'SGD'),
  };

  it('settles what was owed at what it is carried at', () => {
    const part = effectsOf(decidePayment(item, { amount: '100', paidOn: '2027-03-01' }));
    expect(part.own).toEqual({ currency: 'MYR', paid: '350', settled: '333.34' });
    const rest = effectsOf(decidePayment(item, { amount: '200', paidOn: '2027-03-01' }));
    expect(rest).toMatchObject({ rate: '3.5', own: { paid: '700', settled: '666.67' } });
  });

  it('is not taken without a rate of its day', () => {
    const none = exchangeAt(null, 'SGD');
    expect(refused(decidePayment({ ...item, exchange: none }, { amount: '1', paidOn: '2027-03-01' }))).toEqual([
      'paidOn: no-rate',
    ]);
    expect(refused(decidePayment({ ...item, exchange: none }, { amount: '1', paidOn: null }))).toEqual([
      'paidOn: not-a-day',
    ]);
    const agreement = {
      id: 1,
      number: 'AG-1',
      state: 'in-force' as const,
      side: 'selling' as const,
      customerId: 7,
      currency: 'SGD',
    };
    const ahead = { agreementLineId: null, amount: '10', takenOn: '2027-03-01' };
    expect(refused(decidePrepayment({ agreement, lineIds: [], exchange: none }, ahead))).toEqual(['takenOn: no-rate']);
    const taken = decidePrepayment({ agreement, lineIds: [], exchange: exchangeAt('3.456', 'SGD') }, ahead);
    expect(effectsOf(taken)).toMatchObject({ rate: '3.456', own: { currency: 'MYR', amount: '34.56' } });
  });

  it('of a rebate is credited or claimed at the rate of the day, and leaves at what it was accrued at', () => {
    const agreement = { id: 1, number: 'AG-1', customerId: 7, currency: 'SGD' };
    const owed = [
      { openItemId: 1, number: 'IN-1', owed: owedAt('50', '0', '170', '0') },
      { openItemId: 2, number: 'IN-2', owed: owedAt('100', '0', '345', '0') },
    ];
    const exchange = exchangeAt('3.5', 'SGD');
    const settled = decideSettlement({
      agreement: { ...agreement, accrued: '100', settled: '20', carried: '273' },
      owed,
      exchange,
    });
    expect(effectsOf(settled)).toMatchObject({
      amount: '80',
      own: { worth: '280', carried: '273' },
      setOff: [
        { number: 'IN-1', amount: '50', ownInvoice: '170', ownCredit: '175' },
        { number: 'IN-2', amount: '30', ownInvoice: '103.5', ownCredit: '105' },
      ],
    });
    const fallen = { ...agreement, accrued: '20', settled: '100', carried: '-273' };
    expect(effectsOf(decideRebateClaim({ agreement: fallen, termsDays: 30, exchange }, '2027-03-01'))).toMatchObject({
      amount: '80',
      own: { worth: '280', carried: '273' },
    });
    const none = exchangeAt(null, 'SGD');
    expect(refused(decideRebateClaim({ agreement: fallen, termsDays: 30, exchange: none }, '2027-03-01'))).toEqual([
      ': no-rate',
    ]);
    expect(
      refused(
        decideSettlement({
          agreement: { ...agreement, accrued: '1', settled: '0', carried: '3' },
          owed,
          exchange: none,
        }),
      ),
    ).toEqual([': no-rate']);
  });

  it('a credit set off in parts is used up whole in both currencies', () => {
    const items = ['33.33', '33.33', '33.34'].map((amount, at) => ({
      openItemId: at,
      number: `IN-${at}`,
      owed: owedAt(amount, '0', dec(amount).times('3.41').round(2, 1).toFixed(), '0'),
    }));
    const off = setOffs({ amount: '100', own: '346.78' }, items, 'MYR');
    expect(sum(off.map((each) => dec(each.ownCredit))).toFixed()).toBe('346.78');
    expect(off.map((each) => each.ownInvoice)).toEqual(['113.66', '113.66', '113.69']);
  });
});
