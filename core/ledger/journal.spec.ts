import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import {
  adjustmentJournal,
  betweenJournal,
  customerInvoiceJournal,
  journal,
  paymentJournal,
  receiptJournal,
  shipmentJournal,
  vendorInvoiceJournal,
  type JournalEntry,
} from './index';

const money = fc.integer({ min: -9_999_999, max: 99_999_999 }).map((cents) => dec(cents).div(100).toFixed());
const balance = (entries: readonly JournalEntry[]) => sum(entries.map((entry) => dec(entry.amount))).toFixed();

describe('P3 journals', () => {
  it('always balance', () => {
    fc.assert(
      fc.property(money, money, money, money, (a, b, c, d) => {
        for (const entries of [
          receiptJournal(a),
          shipmentJournal(a),
          customerInvoiceJournal(a, b),
          vendorInvoiceJournal({ received: a, dropDifference: b, stockDifference: c, tax: d }),
          paymentJournal('customer', a),
          paymentJournal('vendor', a),
          adjustmentJournal(a),
          betweenJournal(a),
        ]) {
          expect(balance(entries)).toBe('0');
          expect(entries.every((entry) => !dec(entry.amount).eq(0))).toBe(true);
        }
      }),
      { seed: 21 },
    );
  });

  it('stop at one that does not', () => {
    expect(() => journal([{ role: 'bank', amount: dec('1') }])).toThrow('out of balance');
  });

  it('P3 put the price difference of a drop shipment into cost of sales, of the rest into price difference', () => {
    const entries = vendorInvoiceJournal({ received: '100', dropDifference: '2', stockDifference: '-1', tax: '6.06' });
    expect(entries).toEqual([
      { role: 'received-not-invoiced', amount: '100' },
      { role: 'cost-of-sales', amount: '2' },
      { role: 'price-difference', amount: '-1' },
      { role: 'input-tax', amount: '6.06' },
      { role: 'payable', amount: '-107.06' },
    ]);
  });
});
