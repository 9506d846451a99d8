import type { ExchangeOf } from '@core/kernel';
import { decideOpenItems, type OpenItemsGround, type OpenItemsTyped } from '.';

const DAY = '2027-03-01';
type Line = OpenItemsTyped['lines'][number];
const KASTURI = { id: 7, name: 'Kasturi Bottling', currency: 'MYR' };
const line = (change: Partial<Line> = {}): Line => ({
  party: 'C-1001',
  number: 'OLD-0412',
  invoiced: '2027-01-14',
  due: '2027-02-13',
  amount: '1,240.50',
  currency: '',
  ...change,
});
const rate = (currency: string, of: string | null): [string, ExchangeOf] => [
  currency,
  { currency, own: 'MYR', rate: of, day: DAY },
];
const ground = (...lines: Partial<OpenItemsGround['lines'][number]>[]): OpenItemsGround => ({
  lines: (lines.length > 0 ? lines : [{}]).map((each) => ({ party: KASTURI, used: null, ...each })),
  series: { prefix: 'CI-', first: 1 },
  exchanges: new Map([rate('MYR', '1'), rate('USD', '4.485'), rate('EUR', null)]),
});
const decide = (at: OpenItemsGround, lines: readonly Line[], side: 'customer' | 'vendor' = 'customer') =>
  decideOpenItems(at, { side, lines }, DAY);
const refused = (...args: Parameters<typeof decide>) => {
  const decision = decide(...args);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('U3 what was owed before', () => {
  it('is an invoice in its party’s currency, at the rate of the work date', () => {
    expect(decide(ground(), [line()])).toMatchObject({
      ok: true,
      effects: {
        side: 'customer',
        same: 0,
        lines: [
          {
            index: 0,
            partyId: 7,
            number: 'OLD-0412',
            invoiceDate: '2027-01-14',
            dueDate: '2027-02-13',
            currency: 'MYR',
            amount: '1240.5',
            rate: '1',
            own: '1240.5',
          },
        ],
      },
    });
    expect(decide(ground(), [line({ currency: ' usd ', amount: '10.01', number: ' 7 ', due: '14/1' })])).toMatchObject({
      ok: true,
      effects: { lines: [{ currency: 'USD', rate: '4.485', own: '44.89', number: '7', dueDate: '2027-01-14' }] },
    });
    expect(decide(ground(), [line({ invoiced: DAY, due: DAY })])).toMatchObject({ ok: true });
  });

  it.each<[string, Partial<Line>]>([
    ['number: required', { number: ' ' }],
    ['number: too-long', { number: 'OLD-0412-2027-MAR' }],
    ['number: number-of-series', { number: 'ci-0004' }],
    ['invoiced: required', { invoiced: '' }],
    ['invoiced: not-a-day', { invoiced: '31/2/27' }],
    ['invoiced: not-a-day', { invoiced: '2027-03-02', due: '2027-04-01' }],
    ['due: required', { due: ' ' }],
    ['due: not-a-day', { due: 'soon' }],
    ['due: due-before-invoiced', { due: '2027-01-13' }],
    ['amount: required', { amount: '' }],
    ['amount: not-a-number', { amount: 'much' }],
    ['amount: not-a-number', { amount: '1.005' }],
    ['amount: owed-not-above-zero', { amount: '0' }],
    ['amount: owed-not-above-zero', { amount: '-5' }],
    ['currency: unknown', { currency: 'XXQ' }],
    ['currency: no-rate', { currency: 'EUR' }],
  ])('%s', (refusal, change) => expect(refused(ground(), [line(change)])).toEqual([`lines.0.${refusal}`]));

  it('takes a vendor’s number as it is, and one from the same vendor once', () => {
    const long = 'AR/2027/000412/HBW';
    expect(refused(ground(), [line({ number: long })], 'vendor')).toEqual([]);
    expect(refused(ground(), [line({ number: 'CI-0004' })], 'vendor')).toEqual([]);
    expect(refused(ground(), [line({ number: 'x'.repeat(61) })], 'vendor')).toEqual(['lines.0.number: too-long']);
    const two = [line({ number: 'A7' }), line({ number: 'a7' })];
    expect(refused(ground({}, {}), two, 'vendor')).toEqual(['lines.1.number: named-again']);
    const other = { ...KASTURI, id: 8 };
    expect(refused(ground({}, { party: other }), two, 'vendor')).toEqual([]);
    expect(refused(ground({}, { party: other }), two)).toEqual(['lines.1.number: named-again']);
  });

  it('is no number of our own series, whatever stands before those', () => {
    const at = { ...ground(), series: { prefix: 'INV/', first: 7 } };
    expect(refused(at, [line({ number: 'inv/0007' })])).toEqual(['lines.0.number: number-of-series']);
    // What the books before numbered alike, before our first, is theirs.
    for (const number of ['INV/7A', 'INV/', 'CI-0004', 'OLD/0007', 'INV/0006'])
      expect(refused(at, [line({ number })])).toEqual([]);
  });

  it('leaves what stands so as it is, and names what stands otherwise', () => {
    const used = { document: 'OLD-0412', opening: true, partyId: 7, currency: 'MYR', total: '1240.50' };
    expect(decide(ground({ used }), [line()])).toEqual({
      ok: true,
      effects: { side: 'customer', lines: [], same: 1 },
      warnings: [],
    });
    for (const other of [{ total: '1240' }, { partyId: 8 }, { currency: 'USD' }]) {
      expect(refused(ground({ used: { ...used, ...other } }), [line()])).toEqual(['lines.0.number: opened-otherwise']);
    }
    expect(refused(ground({ used: { ...used, opening: false } }), [line()])).toEqual(['lines.0.number: number-used']);
    const half = decide(ground({ used }, {}), [line(), line({ number: 'OLD-0413' })]);
    expect(half).toMatchObject({ ok: true, effects: { same: 1, lines: [{ index: 1, number: 'OLD-0413' }] } });
  });

  it('names who is not known, and asks for something to open', () => {
    expect(refused(ground({ party: null }), [line()])).toEqual(['lines.0.party: unknown']);
    expect(refused(ground(), [])).toEqual(['lines: no-lines']);
  });
});
