import { owedAt } from '../kernel/testing';
import { decideTakeBack, type TakeBackGround } from './index';

const ground = (change: Partial<TakeBackGround> = {}, owed = '1643'): TakeBackGround => ({
  invoice: {
    id: 5,
    number: 'VI-0005',
    vendorId: 1,
    vendorNumber: 'AR/77',
    purchaseId: 4,
    currency: 'MYR',
    net: '1550',
    tax: '93',
    total: '1643',
    rate: '1',
    own: { currency: 'MYR', net: '1550', tax: '93', total: '1643' },
    owed: owedAt('1643', String(1643 - Number(owed))),
  },
  reverses: null,
  reversedBy: null,
  lines: [
    {
      receiptLineId: 8,
      purchaseLineId: 9,
      agreementLineId: 3,
      quantity: '2.5',
      unitPrice: '620',
      net: '1550',
      receivedCost: '1500',
      receivedValue: '1500',
      priceDifference: '50',
      agreedNet: '700',
      taxCodeId: 1,
      taxRate: '6',
    },
  ],
  taxes: [{ taxCode: 'S6', taxRate: '6', base: '1550', tax: '93' }],
  entries: [
    { role: 'received-not-invoiced', amount: '1500', foreign: null },
    { role: 'price-difference', amount: '50', foreign: null },
    { role: 'input-tax', amount: '93', foreign: null },
    { role: 'payable', amount: '-1643', foreign: null },
  ],
  ...change,
});

describe('P1 P3 a vendor invoice taken back', () => {
  it('is mirrored whole: lines, taxes, entries, and what is owed on it', () => {
    const decision = decideTakeBack(ground(), ' typed twice ', '2027-03-01');
    expect(decision.ok && decision.effects).toMatchObject({
      reason: 'typed twice',
      net: '-1550',
      tax: '-93',
      total: '-1643',
      setOff: { amount: '1643' },
      lines: [{ quantity: '-2.5', unitPrice: '620', net: '-1550', receivedCost: '-1500', agreedNet: '-700' }],
      taxes: [{ base: '-1550', tax: '-93' }],
      entries: [{ amount: '-1500' }, { amount: '-50' }, { amount: '-93' }, { role: 'payable', amount: '1643' }],
    });
  });

  it('is set off no further than it is owed', () => {
    const decision = decideTakeBack(ground({}, '643'), 'x', '2027-03-01');
    expect(decision.ok && decision.effects.setOff.amount).toBe('643');
  });

  it.each<[string, Partial<TakeBackGround>, string, string]>([
    ['without a reason', {}, ' ', 'reason: required'],
    ['twice', { reversedBy: 'VI-0006' }, 'x', ': reversed-already'],
    ['where it takes another back', { reverses: 'VI-0001' }, 'x', ': takes-back'],
  ])('is refused %s', (_what, change, reason, refusal) => {
    const decision = decideTakeBack(ground(change), reason, '2027-03-01');
    expect(decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`)).toEqual([refusal]);
  });
});
