import fc from 'fast-check';
import { bothOf, dec, sum } from '@core/kernel';
import {
  atCost,
  creditNoteJournal,
  customerInvoiceJournal,
  netsOf,
  onAccounts,
  returnJournal,
  shipmentJournal,
  vendorInvoiceJournal,
  type Goods,
  type JournalEntry,
} from './index';

const USUAL = 1;
const accountOf = ({ id }: Goods): number | undefined =>
  new Map([
    [10, 7],
    [11, 7],
    [20, 8],
  ]).get(id);
const shown = (entry: Pick<JournalEntry, 'amount' | 'foreign' | 'shares'>) =>
  onAccounts(entry, accountOf, USUAL).map(
    ({ accountId, amount, foreign }) => `${accountId}: ${amount}${foreign === null ? '' : ` (${foreign})`}`,
  );
const item = (id: number, amount: string, foreign = '0') => ({
  by: 'item' as const,
  id,
  amount,
  foreign,
});

describe('U2 an entry by the accounts of its goods', () => {
  it('goes to the usual account where nothing is said of goods, and where no group has one of its own', () => {
    expect(shown({ amount: '100', foreign: null })).toEqual(['1: 100']);
    expect(shown({ amount: '-100', foreign: '-25', shares: [item(30, '-60', '-15'), item(31, '-40', '-10')] })).toEqual(
      ['1: -100 (-25)'],
    );
  });

  it('goes to the accounts of groups, those alike together, and the rest to the usual one', () => {
    const shares = [item(10, '30'), item(20, '20'), item(11, '5'), item(30, '45')];
    expect(shown({ amount: '100', foreign: null, shares })).toEqual(['7: 35', '8: 20', '1: 45']);
  });

  it('leaves what was rounded with the rest, or with the largest account where there is none', () => {
    const most = { amount: '-100.01', foreign: '-22', shares: [item(10, '-60', '-13'), item(30, '-40', '-9')] };
    expect(shown(most)).toEqual(['7: -60 (-13)', '1: -40.01 (-9)']);
    const all = { amount: '-100.01', foreign: '-22.01', shares: [item(20, '-40', '-9'), item(10, '-60', '-13')] };
    expect(shown(all)).toEqual(['8: -40 (-9)', '7: -60.01 (-13.01)']);
    expect(shown({ ...all, amount: '-100' })).toEqual(['8: -40 (-9)', '7: -60 (-13.01)']);
  });

  it('has no entry of nothing, unless something of it is in the other currency', () => {
    expect(shown({ amount: '40', foreign: null, shares: [item(10, '40'), item(20, '0')] })).toEqual(['7: 40']);
    expect(shown({ amount: '40', foreign: '9', shares: [item(10, '40', '8'), item(20, '0', '1')] })).toEqual([
      '7: 40 (8)',
      '8: 0 (1)',
    ]);
  });

  it('sums to the entry, to the cent, whatever the shares', () => {
    const cents = fc.integer({ min: -99_999, max: 99_999 }).map((each) => dec(each).div(100).toFixed());
    const share = fc.record({
      by: fc.constant('item' as const),
      id: fc.constantFrom(10, 11, 20, 30),
      amount: cents,
      foreign: cents,
    });
    fc.assert(
      fc.property(cents, cents, fc.array(share, { maxLength: 6 }), (amount, foreign, shares) => {
        const placed = onAccounts({ amount, foreign, shares }, accountOf, USUAL);
        expect(sum(placed.map((each) => dec(each.amount))).toFixed()).toBe(amount);
        expect(sum(placed.map((each) => dec(each.foreign!))).toFixed()).toBe(foreign);
        expect(new Set(placed.map(({ accountId }) => accountId)).size).toBe(placed.length);
      }),
    );
  });
});

describe('U2 what journals say of goods', () => {
  const told = (entries: readonly JournalEntry[]) =>
    entries.flatMap(({ role, shares = [] }) =>
      shares.map(({ by, id, amount, foreign }) => `${role}: ${by} ${id} ${amount} (${foreign})`),
    );
  const exchange = { currency: 'USD', own: 'MYR', rate: '4.5' };
  const nets = netsOf(
    [
      { orderLineId: 3, net: '10.01' },
      { orderLineId: 4, net: '2' },
    ],
    exchange,
  );

  it('revenue by order line on the credit side, and back on the debit side', () => {
    const [net, tax] = [bothOf('12.01', '54.05'), bothOf('0', '0')];
    expect(told(customerInvoiceJournal(net, tax, nets))).toEqual([
      'revenue: order-line 3 -45.05 (-10.01)',
      'revenue: order-line 4 -9 (-2)',
    ]);
    expect(told(creditNoteJournal(net, tax, nets))).toEqual([
      'revenue: order-line 3 45.05 (10.01)',
      'revenue: order-line 4 9 (2)',
    ]);
  });

  it('cost of sales by item, and by purchase line where the vendor asks another price', () => {
    const parts = atCost([
      { itemId: 5, cost: '8' },
      { itemId: 6, cost: '1.5' },
    ]);
    expect(told(shipmentJournal('9.5', parts))).toEqual([
      'cost-of-sales: item 5 8 (0)',
      'cost-of-sales: item 6 1.5 (0)',
    ]);
    expect(told(returnJournal('9.5', parts))).toEqual([
      'cost-of-sales: item 5 -8 (0)',
      'cost-of-sales: item 6 -1.5 (0)',
    ]);
    const zero = bothOf('0', '0');
    const differs = { dropDifference: bothOf('1', '4.5'), dropParts: [{ id: 9, worth: bothOf('1', '4.5') }] };
    const asked = { received: bothOf('10', '45'), stockDifference: zero, net: bothOf('11', '49.5'), tax: zero };
    expect(told(vendorInvoiceJournal({ ...asked, ...differs }))).toEqual(['cost-of-sales: purchase-line 9 4.5 (1)']);
    expect(told(vendorInvoiceJournal({ ...asked, dropDifference: bothOf('1', '4.5') }))).toEqual([]);
  });
});
