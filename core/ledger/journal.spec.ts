import fc from 'fast-check';
import { bothOf, dec, sum } from '@core/kernel';
import {
  adjustmentJournal,
  betweenJournal,
  creditNoteJournal,
  customerInvoiceJournal,
  drawJournal,
  journal,
  paymentJournal,
  prepaymentJournal,
  prepaymentReturnJournal,
  rebateAccrualJournal,
  rebateClaimJournal,
  rebateSettlementJournal,
  receiptJournal,
  receiptReversalJournal,
  returnJournal,
  setOffJournal,
  shipmentJournal,
  vendorInvoiceJournal,
  type JournalEntry,
} from './index';

const money = fc.integer({ min: -9_999_999, max: 99_999_999 }).map((cents) => dec(cents).div(100).toFixed());
const both = fc.tuple(money, money).map(([amount, own]) => bothOf(amount, own));
const balance = (entries: readonly JournalEntry[]) => sum(entries.map((entry) => dec(entry.amount))).toFixed();
/** Entries in short: `role own` or `role own (in the document's currency)`. */
const shown = (entries: readonly JournalEntry[]) =>
  entries.map(({ role, amount, foreign }) => `${role} ${amount}${foreign === null ? '' : ` (${foreign})`}`);

describe('P3 P8 journals', () => {
  it('always balance in the company’s currency', () => {
    fc.assert(
      fc.property(money, money, both, both, both, both, (a, b, c, d, e, f) => {
        for (const entries of [
          receiptJournal(c),
          receiptReversalJournal(c, a),
          shipmentJournal(a),
          returnJournal(a),
          customerInvoiceJournal(c, d),
          creditNoteJournal(c, d),
          vendorInvoiceJournal({ received: c, dropDifference: d, stockDifference: e, net: f, tax: c }),
          paymentJournal('customer', c, dec(a)),
          paymentJournal('vendor', c, dec(a)),
          setOffJournal('customer', dec(a), dec(b)),
          setOffJournal('vendor', dec(a), dec(b)),
          rebateAccrualJournal(c),
          rebateSettlementJournal(c, dec(a)),
          rebateClaimJournal(c, dec(a)),
          prepaymentJournal(c),
          prepaymentReturnJournal(c, dec(a)),
          prepaymentReturnJournal(c, dec(a), 'cash', dec('0.02')),
          drawJournal(c, dec(a)),
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
    expect(() => journal([{ role: 'bank', amount: dec('1'), foreign: null }])).toThrow('out of balance');
  });

  it('P3 put the price difference of a drop shipment into cost of sales, of the rest into price difference', () => {
    const entries = vendorInvoiceJournal({
      received: bothOf('100', '100'),
      dropDifference: bothOf('2', '2'),
      stockDifference: bothOf('-1', '-1'),
      net: bothOf('101', '101'),
      tax: bothOf('6.06', '6.06'),
    });
    expect(shown(entries)).toEqual([
      'received-not-invoiced 100 (100)',
      'cost-of-sales 2 (2)',
      'price-difference -1 (-1)',
      'input-tax 6.06 (6.06)',
      'payable -107.06 (-107.06)',
    ]);
  });

  it('P8 tell what the currency moved between receipt and invoice from what the price did', () => {
    // 100 received at 4.48, invoiced 101 at 4.50.
    const entries = vendorInvoiceJournal({
      received: bothOf('100', '448'),
      dropDifference: bothOf('0', '0'),
      stockDifference: bothOf('1', '4.5'),
      net: bothOf('101', '454.5'),
      tax: bothOf('0', '0'),
    });
    expect(shown(entries)).toEqual([
      'received-not-invoiced 448 (100)',
      'price-difference 4.5 (1)',
      'exchange-difference 2',
      'payable -454.5 (-101)',
    ]);
  });

  it('P8 post what a payment is worth beyond or below what was owed', () => {
    expect(shown(paymentJournal('customer', bothOf('10', '33'), dec('34.1')))).toEqual([
      'bank 33 (10)',
      'receivable -34.1 (-10)',
      'exchange-difference 1.1',
    ]);
    expect(shown(paymentJournal('vendor', bothOf('10', '33'), dec('34.1')))).toEqual([
      'payable 34.1 (10)',
      'bank -33 (-10)',
      'exchange-difference -1.1',
    ]);
    expect(shown(setOffJournal('customer', dec('34'), dec('33')))).toEqual([
      'receivable -1 (0)',
      'exchange-difference 1',
    ]);
    expect(shown(setOffJournal('vendor', dec('34'), dec('33')))).toEqual(['payable 1 (0)', 'exchange-difference -1']);
    expect(setOffJournal('vendor', dec('34'), dec('34'))).toEqual([]);
  });

  it.each<[string, JournalEntry[], string[]]>([
    ['goods received', receiptJournal(bothOf('10', '45')), ['inventory 45', 'received-not-invoiced -45 (-10)']],
    [
      'taken back at less than they came at',
      receiptReversalJournal(bothOf('10', '45'), '40'),
      ['received-not-invoiced 45 (10)', 'inventory -40', 'stock-difference -5'],
    ],
    ['goods shipped', shipmentJournal('7'), ['cost-of-sales 7', 'inventory -7']],
    ['goods that came back', returnJournal('7'), ['inventory 7', 'cost-of-sales -7']],
    [
      'a customer invoice',
      customerInvoiceJournal(bothOf('10', '34'), bothOf('1', '3.4')),
      ['receivable 37.4 (11)', 'revenue -34 (-10)', 'output-tax -3.4 (-1)'],
    ],
    [
      'a credit note',
      creditNoteJournal(bothOf('10', '34'), bothOf('1', '3.4')),
      ['revenue 34 (10)', 'output-tax 3.4 (1)', 'receivable -37.4 (-11)'],
    ],
    ['a rebate accrued', rebateAccrualJournal(bothOf('5', '17')), ['rebates-given 17 (5)', 'rebates-owed -17 (-5)']],
    [
      'a rebate settled',
      rebateSettlementJournal(bothOf('5', '16'), dec('17')),
      ['rebates-owed 17 (5)', 'receivable -16 (-5)', 'exchange-difference -1'],
    ],
    [
      'a rebate claimed back',
      rebateClaimJournal(bothOf('5', '16'), dec('17')),
      ['receivable 16 (5)', 'rebates-owed -17 (-5)', 'exchange-difference 1'],
    ],
    ['money taken ahead', prepaymentJournal(bothOf('5', '17')), ['bank 17 (5)', 'customer-prepayments -17 (-5)']],
    [
      'money paid back',
      prepaymentReturnJournal(bothOf('5', '16'), dec('17')),
      ['customer-prepayments 17 (5)', 'bank -16 (-5)', 'exchange-difference -1'],
    ],
    [
      'a deposit paid back in coins there are',
      prepaymentReturnJournal(bothOf('5.02', '5.02'), dec('5.02'), 'cash', dec('0.02')),
      ['customer-prepayments 5.02 (5.02)', 'cash-drawer -5 (-5)', 'cash-rounding -0.02'],
    ],
    [
      'what an invoice draws',
      drawJournal(bothOf('5', '18'), dec('17')),
      ['customer-prepayments 17 (5)', 'receivable -18 (-5)', 'exchange-difference 1'],
    ],
    ['stock put right', adjustmentJournal('-3'), ['inventory -3', 'stock-difference 3']],
    ['goods between two places', betweenJournal('3'), ['inventory 3', 'inventory -3']],
  ])('P3 %s', (_what, entries, expected) => expect(shown(entries)).toEqual(expected));
});
