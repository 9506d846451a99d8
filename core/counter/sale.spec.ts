import * as fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { decideSale, dueOf, type SaleGround, type SaleTyped } from './index';

const ground = (change: Partial<SaleGround> = {}): SaleGround => ({
  currency: 'MYR',
  invoiced: '10.02',
  deposits: [],
  mayOwe: true,
  cards: [],
  vouchers: [],
  ...change,
});
const typed = (change: Partial<SaleTyped> = {}): SaleTyped => ({
  cash: '',
  cardIds: [],
  vouchers: [],
  onAccount: false,
  ...change,
});
const sold = (on: SaleGround, how: SaleTyped) => {
  const decision = decideSale(on, how);
  if (!decision.ok) throw new Error(decision.refusals.map(({ code }) => code).join());
  return decision.effects;
};
const refused = (on: SaleGround, how: SaleTyped) => {
  const decision = decideSale(on, how);
  if (decision.ok) throw new Error('was not refused');
  return decision.refusals.map(({ code, field, facts }) => ({ code, field, facts }));
};

describe('C2 what is to pay is paid', () => {
  it.each([
    ['10.02', '10.00', '-0.02', '10', '0'],
    ['10.02', '20.00', '-0.02', '10', '10'],
    ['10.03', '10.05', '0.02', '10.05', '0'],
    ['10.025', '10.05', '0.025', '10.05', '0'],
    ['10.07', '50.00', '-0.02', '10.05', '39.95'],
  ])('%s in cash, %s given', (invoiced, cash, rounding, taken, change) => {
    const effects = sold(ground({ invoiced }), typed({ cash }));
    expect(effects).toMatchObject({ cash: taken, change });
    expect(effects.payments).toEqual([
      {
        kind: 'cash',
        invoiced,
        deposits: [],
        rounding,
        given: dec(cash).toFixed(),
        change,
        cardId: null,
        creditNoteId: null,
      },
    ]);
  });

  it('takes less than half the smallest coin as nothing, where cash is how it is paid', () => {
    const effects = sold(ground({ invoiced: '0.02' }), typed({ cash: '0' }));
    expect(effects).toMatchObject({ cash: '0', payments: [{ kind: 'cash', invoiced: '0.02', rounding: '-0.02' }] });
    expect(refused(ground({ invoiced: '0.02' }), typed())).toMatchObject([{ code: 'not-paid', field: 'cash' }]);
  });

  it('says what is short, and by how much', () => {
    expect(refused(ground(), typed({ cash: '9.95' }))).toEqual([
      { code: 'cash-short', field: 'cash', facts: { due: '10.00', given: '9.95', short: '0.05' } },
    ]);
    expect(refused(ground(), typed())).toEqual([{ code: 'not-paid', field: 'cash', facts: { due: '10.02' } }]);
    expect(refused(ground(), typed({ cash: 'ten' }))).toMatchObject([{ code: 'not-a-number', field: 'cash' }]);
    expect(refused(ground(), typed({ cash: '-1' }))).toMatchObject([{ code: 'not-a-number' }]);
    expect(refused(ground(), typed({ cash: '10.001' }))).toMatchObject([{ code: 'not-a-number' }]);
    expect(refused(ground(), typed({ cash: '10.02' }))).toMatchObject([{ code: 'no-such-change', field: 'cash' }]);
    expect(refused(ground({ invoiced: '0' }), typed({ cash: '5.00' }))).toMatchObject([{ code: 'nothing-to-pay' }]);
  });

  it('pays vouchers first, then cards, then cash; money for the invoice before deposits', () => {
    const effects = sold(
      ground({
        invoiced: '100',
        deposits: [
          { orderId: 7, amount: '20' },
          { orderId: 8, amount: '30' },
        ],
        vouchers: [{ creditNoteId: 3, number: 'CN-0003', left: '40' }],
        cards: [{ id: 5, amount: '75' }],
      }),
      typed({ vouchers: [{ creditNoteId: 3, amount: '' }], cardIds: [5], cash: '50' }),
    );
    expect(effects.payments).toMatchObject([
      { kind: 'voucher', invoiced: '40', creditNoteId: 3, deposits: [] },
      { kind: 'card', invoiced: '60', cardId: 5, deposits: [{ orderId: 7, amount: '15' }] },
      {
        kind: 'cash',
        invoiced: '0',
        deposits: [
          { orderId: 7, amount: '5' },
          { orderId: 8, amount: '30' },
        ],
        given: '50',
        change: '15',
      },
    ]);
    expect(effects.cash).toBe('35');
  });

  it('uses of a voucher no more than is left of it, nor than is owed, and nothing of one that is not there', () => {
    const on = ground({ invoiced: '30', vouchers: [{ creditNoteId: 3, number: 'CN-0003', left: '40' }] });
    expect(sold(on, typed({ vouchers: [{ creditNoteId: 3, amount: '' }] })).payments).toMatchObject([
      { kind: 'voucher', invoiced: '30' },
    ]);
    const asked = (amount: string, creditNoteId = 3) => refused(on, typed({ vouchers: [{ creditNoteId, amount }] }));
    expect(asked('30.01')).toEqual([
      { code: 'voucher-above', field: 'vouchers.0.amount', facts: { voucher: 'CN-0003', most: '30.00' } },
    ]);
    expect(asked('0')).toMatchObject([{ code: 'not-a-number' }]);
    expect(asked('x')).toMatchObject([{ code: 'not-a-number' }]);
    expect(asked('', 9)).toMatchObject([{ code: 'unknown' }]);
    // A deposit is paid with money, not with what is owed them.
    expect(
      refused(
        ground({ invoiced: '0', deposits: [{ orderId: 1, amount: '9' }], vouchers: on.vouchers }),
        typed({ vouchers: [{ creditNoteId: 3, amount: '' }] }),
      ),
    ).toMatchObject([{ code: 'not-paid' }]);
  });

  it('never takes more by card than is to pay, and no card it does not know', () => {
    const on = ground({ cards: [{ id: 5, amount: '10.03' }] });
    expect(refused(on, typed({ cardIds: [5] }))).toEqual([
      { code: 'card-above', field: 'cardIds', facts: { card: '10.03', due: '10.02' } },
    ]);
    expect(refused(on, typed({ cardIds: [6] }))).toMatchObject([{ code: 'card-not-taken', field: 'cardIds.0' }]);
  });

  it('leaves on account what is not paid at once, never of what is not taken along, and never of nobody', () => {
    expect(sold(ground(), typed({ onAccount: true })).payments).toMatchObject([{ kind: 'account', invoiced: '10.02' }]);
    expect(sold(ground(), typed({ onAccount: true, cash: '4.00' })).payments).toMatchObject([
      { kind: 'cash', invoiced: '4', rounding: '0' },
      { kind: 'account', invoiced: '6.02' },
    ]);
    expect(sold(ground(), typed({ onAccount: true, cash: '20.00' }))).toMatchObject({
      change: '10',
      payments: [{ kind: 'cash', invoiced: '10.02' }],
    });
    expect(refused(ground({ mayOwe: false }), typed({ onAccount: true }))).toMatchObject([{ code: 'nobody-to-owe' }]);
    expect(refused(ground({ deposits: [{ orderId: 1, amount: '5' }] }), typed({ onAccount: true }))).toMatchObject([
      { code: 'deposit-on-account', field: 'onAccount' },
    ]);
  });

  it('whatever it is paid by, what is paid is what is to pay, and what comes in less its rounding', () => {
    const cents = (most: number) => fc.integer({ min: 0, max: most }).map((n) => (n / 100).toFixed(2));
    fc.assert(
      fc.property(
        cents(50_000),
        fc.array(cents(20_000), { maxLength: 3 }),
        cents(30_000),
        cents(30_000),
        fc.integer({ min: 0, max: 4000 }),
        fc.boolean(),
        (invoiced, deposits, card, left, twenties, onAccount) => {
          const on = ground({
            invoiced,
            deposits: deposits.map((amount, at) => ({ orderId: at + 1, amount })),
            cards: [{ id: 1, amount: card }],
            vouchers: [{ creditNoteId: 2, number: 'CN-0002', left }],
          });
          const decision = decideSale(on, {
            cash: (twenties * 20).toFixed(2),
            cardIds: Number(card) > 0 ? [1] : [],
            vouchers: [{ creditNoteId: 2, amount: '' }],
            onAccount,
          });
          if (!decision.ok) return;
          const { payments, cash, change } = decision.effects;
          const of = (kind: string) => payments.filter((each) => each.kind === kind);
          const paid = sum(
            payments.flatMap((each) => [dec(each.invoiced), ...each.deposits.map(({ amount }) => dec(amount))]),
          );
          expect(paid.toFixed()).toBe(dueOf(on).toFixed());
          const inCash = sum(
            of('cash').flatMap((each) => [
              dec(each.invoiced),
              dec(each.rounding),
              ...each.deposits.map(({ amount }) => dec(amount)),
            ]),
          );
          expect(inCash.toFixed()).toBe(dec(cash).toFixed());
          expect(
            sum(of('cash').map(({ given }) => dec(given)))
              .minus(change)
              .toFixed(),
          ).toBe(dec(cash).toFixed());
          for (const each of of('cash')) expect(dec(each.rounding).abs().lte('0.025')).toBe(true);
          expect(dec(change).gte(0)).toBe(true);
        },
      ),
      { seed: 22, numRuns: 600 },
    );
  });
});
