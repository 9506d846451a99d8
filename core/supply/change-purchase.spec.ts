import fc from 'fast-check';
import { dec, lineAmount } from '@core/kernel';
import {
  decideChangePurchase,
  type ChangePurchaseGround,
  type ChangePurchaseTyped,
  type PlacedLine,
  type PurchaseGround,
} from './index';

const TODAY = '2027-03-01';

const sells = (vendorId: number, unitPrice: string) => ({
  vendorId,
  vendor: vendorId === 1 ? 'Arus' : 'Garam',
  unitPrice,
  currency: 'MYR',
  ownPrice: unitPrice,
  leadDays: 8,
  preferred: false,
  minimum: '4',
  multiple: '2',
  approved: true,
});
const item = (id: number, number: string) => ({
  id,
  number,
  unit: 'piece',
  groupId: null,
  taxCodeId: 1,
  taxRate: '6',
  outOfUse: false,
});
type Buying = PurchaseGround['buying'][number];
/** AG-1 sells item 10 at 600, and at 580 from 20 on. */
const buying = (line: Partial<Buying['line']> = {}, agreement: Partial<Buying['agreement']> = {}): Buying => ({
  vendorId: 1,
  agreement: {
    id: 1,
    number: 'AG-1',
    basis: 'quantity',
    state: 'in-force',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    currency: 'MYR',
    priority: 5,
    limitPolicy: 'refuse',
    tolerancePercent: '0',
    whole: null,
    ...agreement,
  },
  line: {
    id: 5,
    lineNo: 1,
    itemId: 10,
    groupId: null,
    priceKind: 'fixed',
    priceValue: '600',
    breaks: [{ from: '20', value: '580' }],
    committed: '40',
    committedValue: '24000',
    released: '12',
    releasedValue: '7200',
    leastRelease: '0',
    releaseMultiple: '0',
    ...line,
  },
});
const placed = (id: number, change: Partial<PlacedLine> = {}): PlacedLine => ({
  id,
  lineNo: id,
  itemId: 10,
  item: 'RO-4040',
  unit: 'piece',
  listPrice: '815',
  quantity: '12',
  unitPrice: '620',
  amount: '7440',
  agreedAmount: null,
  agreementLineId: null,
  dueDate: '2027-03-10',
  received: '0',
  invoiced: '0',
  tied: '0',
  orders: '',
  minimum: '4',
  multiple: '2',
  ...change,
});
const AGREED = placed(1, { unitPrice: '600', amount: '7200', agreementLineId: 5 });

const ground = (lines: PlacedLine[], more: Partial<ChangePurchaseGround> = {}): ChangePurchaseGround => ({
  purchase: { id: 7, number: 'PO-7', state: 'placed', currency: 'MYR', shipToId: null, locationId: 0 },
  vendor: { id: 1, name: 'Arus', currency: 'MYR' },
  shipToIds: [3],
  locationIds: [0, 1],
  locations: new Map([
    [0, 'Main store'],
    [1, 'East store'],
  ]),
  items: new Map([
    [10, { item: item(10, 'RO-4040'), offers: [sells(1, '620')] }],
    [11, { item: item(11, 'SALT-25'), offers: [sells(2, '17')] }],
  ]),
  buying: [],
  lines,
  ...more,
});
const keep = (
  { id, itemId, quantity, dueDate }: PlacedLine,
  change: Partial<ChangePurchaseTyped['lines'][number]> = {},
) => ({
  id,
  itemId,
  quantity,
  price: '',
  dueDate,
  ...change,
});
const add = (change: Partial<ChangePurchaseTyped['lines'][number]> = {}) => ({
  id: null,
  itemId: 10,
  quantity: '4',
  price: '',
  dueDate: '2027-03-20',
  ...change,
});
const decide = (
  on: ChangePurchaseGround,
  lines: ChangePurchaseTyped['lines'],
  more: Partial<ChangePurchaseTyped> = {},
) => decideChangePurchase(on, { reason: 'They asked', lines, ...more }, TODAY);
const codes = (decision: ReturnType<typeof decide>) =>
  decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
const done = (decision: ReturnType<typeof decide>) => {
  if (!decision.ok) throw new Error(decision.refusals.map(({ code }) => code).join());
  return decision.effects;
};
const words = (decision: ReturnType<typeof decide>) => (decision.ok ? decision.warnings.map(({ code }) => code) : []);

describe('S8 a placed purchase order is changed', () => {
  it('tells each field as it was and as it is, and writes only what is another', () => {
    const lines = [placed(1), placed(2), placed(3)];
    const typed = [
      keep(lines[0]!, { quantity: '16', dueDate: '2027-03-12' }),
      keep(lines[1]!, { price: '610' }),
      keep(lines[2]!, { price: '620.0' }),
    ];
    const effects = done(decide(ground(lines), typed, { reason: ' They asked ' }));
    expect(effects).toMatchObject({
      reason: 'They asked',
      locationId: 0,
      state: 'placed',
      added: [],
      released: [],
      lines: [
        { id: 1, quantity: '16', unitPrice: '620', amount: '9920', dueDate: '2027-03-12' },
        { id: 2, quantity: '12', unitPrice: '610', amount: '7320', dueDate: '2027-03-10' },
      ],
    });
    expect(effects.fields).toEqual([
      { what: 'quantity of line 1', was: '12', is: '16' },
      { what: 'due date of line 1', was: '2027-03-10', is: '2027-03-12' },
      { what: 'price of line 2', was: '620', is: '610' },
    ]);
  });

  it('asks why, refuses what changes nothing, what is not open, and a line that is not there', () => {
    const one = placed(1);
    expect(codes(decide(ground([one]), [keep(one)], { reason: ' ' }))).toEqual(['reason: required']);
    expect(codes(decide(ground([one]), [keep(one)]))).toEqual([': order-unchanged']);
    expect(codes(decide(ground([one]), []))).toEqual([': order-unchanged']);
    expect(codes(decide(ground([one]), [keep(placed(9))]))).toEqual(['lines.0.quantity: unknown']);
    const closed = ground([one]);
    const state = { ...closed.purchase, state: 'closed' as const };
    expect(codes(decide({ ...closed, purchase: state }, [keep(one, { quantity: '14' })]))).toEqual([
      ': purchase-not-open',
    ]);
  });

  it('never goes below what came, or what is for orders', () => {
    const came = placed(1, { received: '6', tied: '8', orders: 'SO-3' });
    const to = (quantity: string) => codes(decide(ground([came]), [keep(came, { quantity })]));
    expect(to('5')).toEqual(['lines.0.quantity: below-received']);
    expect(to('6')).toEqual(['lines.0.quantity: below-orders-tied']);
    expect(to('8')).toEqual([]);
    expect(to('-1')).toEqual(['lines.0.quantity: below-received']);
    expect(to('some')).toEqual(['lines.0.quantity: not-a-number']);
    const none = placed(1);
    expect(codes(decide(ground([none]), [keep(none, { quantity: '-1' })]))).toEqual([
      'lines.0.quantity: below-received',
    ]);
    expect(done(decide(ground([none, placed(2)]), [keep(none, { quantity: '0' })])).state).toBe('placed');
    expect(done(decide(ground([none]), [keep(none, { quantity: '0' })])).state).toBe('cancelled');
    const all = placed(1, { received: '8', invoiced: '8' });
    expect(done(decide(ground([all]), [keep(all, { quantity: '8' })])).state).toBe('closed');
    const owed = placed(1, { received: '8', invoiced: '6' });
    expect(done(decide(ground([owed]), [keep(owed, { quantity: '8' })])).state).toBe('placed');
  });

  it('keeps its price once some came, and takes any price of nothing or more before', () => {
    const came = placed(1, { received: '1' });
    expect(codes(decide(ground([came]), [keep(came, { price: '610' })]))).toEqual(['lines.0.price: price-received']);
    expect(codes(decide(ground([came]), [keep(came, { price: '620', quantity: '14' })]))).toEqual([]);
    const one = placed(1);
    const at = (price: string) => codes(decide(ground([one]), [keep(one, { price })]));
    expect([at('-1'), at('cheap'), at('0')]).toEqual([
      ['lines.0.price: not-a-number'],
      ['lines.0.price: not-a-number'],
      [],
    ]);
    const large = decide(ground([one]), [keep(one, { price: '9999999999', quantity: '9999999999' })]);
    expect(codes(large)).toContain('lines.0.quantity: amount-too-large');
  });

  it('takes no day that has passed but the one it has', () => {
    const late = placed(1, { dueDate: '2027-02-20' });
    const on = (dueDate: string | null) => codes(decide(ground([late]), [keep(late, { dueDate, quantity: '14' })]));
    expect(on('2027-02-20')).toEqual([]);
    expect(on(TODAY)).toEqual([]);
    expect(on('2027-02-28')).toEqual(['lines.0.dueDate: ship-date-past']);
    expect(on(null)).toEqual(['lines.0.dueDate: required']);
    expect(on('soon')).toEqual(['lines.0.dueDate: not-a-day']);
  });

  it('A5 counts what is more or less on its agreement, and holds its limit', () => {
    const on = (more: Partial<Buying['agreement']> = {}) => ground([AGREED], { buying: [buying({}, more)] });
    const to = (quantity: string, more = {}) => decide(on(more), [keep(AGREED, { quantity })]);
    expect(done(to('10')).released).toEqual([{ agreementLineId: 5, quantity: '-2', value: '-1200' }]);
    expect(done(to('10')).lines).toMatchObject([{ agreementLineId: 5, unitPrice: '600', amount: '6000' }]);
    // 28 are left of 40.
    expect(done(to('40')).released).toEqual([{ agreementLineId: 5, quantity: '28', value: '16800' }]);
    expect(codes(to('42'))).toEqual(['lines.0.quantity: above-limit']);
    expect(codes(to('42', { limitPolicy: 'split' }))).toEqual(['lines.0.quantity: above-limit']);
    expect(words(to('42', { limitPolicy: 'warn' }))).toContain('above-limit');
    expect(words(to('42', { limitPolicy: 'allow' }))).not.toContain('above-limit');
    expect(codes(to('42', { limitPolicy: 'allow' }))).toEqual([]);
    // By its value: 24,000 less 7,200.
    expect(codes(to('40', { basis: 'value' }))).toEqual([]);
    expect(codes(to('42', { basis: 'value' }))).toEqual(['lines.0.quantity: above-value']);
  });

  it('A3 keeps its price where its agreement would price the new quantity otherwise, with a word', () => {
    const decision = decide(ground([AGREED], { buying: [buying()] }), [keep(AGREED, { quantity: '20' })]);
    expect(done(decision).lines[0]!.unitPrice).toBe('600');
    expect(words(decision)).toEqual(['break-crossed']);
    expect(words(decide(ground([AGREED], { buying: [buying()] }), [keep(AGREED, { quantity: '18' })]))).toEqual([]);
  });

  it('leaves its agreement where a price is typed, which has all of it back', () => {
    const effects = done(
      decide(ground([AGREED], { buying: [buying()] }), [keep(AGREED, { quantity: '14', price: '590' })]),
    );
    expect(effects.lines).toMatchObject([{ agreementLineId: null, unitPrice: '590', amount: '8260' }]);
    expect(effects.released).toEqual([{ agreementLineId: 5, quantity: '-12', value: '-7200' }]);
  });

  it('leaves the quantity of a line that is priced partly by an agreement', () => {
    const mixed = { ...AGREED, agreedAmount: '6000', amount: '7240' };
    const on = ground([mixed], { buying: [buying()] });
    expect(codes(decide(on, [keep(mixed, { quantity: '14' })]))).toEqual(['lines.0.quantity: mixed-price']);
    const later = done(decide(on, [keep(mixed, { dueDate: '2027-03-20' })]));
    expect(later).toMatchObject({
      released: [],
      lines: [{ amount: '7240', agreedAmount: '6000', agreementLineId: 5 }],
    });
    // Priced anew, what counted goes back.
    const priced = done(decide(on, [keep(mixed, { price: '610' })]));
    expect(priced.released).toEqual([{ agreementLineId: 5, quantity: '-12', value: '-6000' }]);
    expect(priced.lines).toMatchObject([{ agreedAmount: null, agreementLineId: null, amount: '7320' }]);
  });

  it('says what the vendor sells by, of a quantity that is another', () => {
    const one = placed(1, { quantity: '13' });
    expect(words(decide(ground([one]), [keep(one, { quantity: '15' })]))).toEqual(['vendor-sells-by']);
    expect(words(decide(ground([one]), [keep(one, { quantity: '16' })]))).toEqual([]);
    expect(words(decide(ground([one]), [keep(one, { dueDate: '2027-03-20' })]))).toEqual([]);
  });

  it('adds lines at the vendor’s price, at an agreement’s as far as lines before leave room, or at one that is typed', () => {
    const plain = done(decide(ground([placed(1)]), [add(), add({ price: '600.5' })]));
    expect(plain.added).toMatchObject([
      { unitPrice: '620', amount: '2480' },
      { unitPrice: '600.5', amount: '2402' },
    ]);
    expect(plain.fields).toEqual([
      { what: 'line 2', was: '', is: '4 RO-4040 at 620, 2027-03-20' },
      { what: 'line 3', was: '', is: '4 RO-4040 at 600.5, 2027-03-20' },
    ]);
    const on = ground([AGREED], { buying: [buying()] });
    const both = done(decide(on, [keep(AGREED, { quantity: '36' }), add()]));
    expect(both.added).toMatchObject([{ unitPrice: '600', agreementLineId: 5 }]);
    expect(both.released).toEqual([{ agreementLineId: 5, quantity: '28', value: '16800' }]);
    expect(codes(decide(on, [add(), keep(AGREED, { quantity: '36' }), add({ quantity: '2' })]))).toEqual([
      'lines.2.agreementLineId: above-limit',
    ]);
    expect(codes(decide(on, [keep(AGREED), add({ itemId: 11 }), add({ quantity: '0', price: 'x' })]))).toEqual([
      'lines.1.itemId: vendor-not-selling',
      'lines.2.quantity: not-above-zero',
      'lines.2.price: not-a-number',
    ]);
    expect(words(decide(ground([placed(1)]), [add({ quantity: '5' })]))).toEqual(['vendor-sells-by']);
    // What was all stopped comes again.
    const stopped = placed(1, { quantity: '0', amount: '0' });
    expect(done(decide(ground([stopped]), [add()])).state).toBe('placed');
  });

  it('A5 holds the whole of an agreement over what is more and what is added', () => {
    const whole = { limit: '16800', unit: '', released: '7200', factors: new Map([[5, '1']]) };
    const on = ground([AGREED], { buying: [buying({}, { whole })] });
    expect(codes(decide(on, [keep(AGREED, { quantity: '24' }), add()]))).toEqual([]);
    expect(codes(decide(on, [keep(AGREED, { quantity: '26' }), add()]))).toContain('lines: above-whole');
    expect(codes(decide(on, [keep(AGREED, { quantity: '30' })]))).toEqual(['lines: above-whole']);
  });

  it('S1 comes to another of our places while nobody waits for it at this one', () => {
    const one = placed(1);
    const to = (locationId: number, line: PlacedLine, shipToId: number | null = null) => {
      const on = ground([line]);
      return decide({ ...on, purchase: { ...on.purchase, shipToId } }, [], { locationId });
    };
    expect(done(to(1, one))).toMatchObject({
      locationId: 1,
      lines: [],
      fields: [{ what: 'comes to', was: 'Main store', is: 'East store' }],
    });
    expect(codes(to(9, one))).toEqual(['locationId: unknown']);
    expect(codes(to(1, one, 3))).toEqual(['locationId: unknown']);
    expect(codes(to(1, placed(1, { tied: '2', orders: 'SO-1' })))).toEqual(['locationId: purchase-place-stays']);
    expect(codes(to(1, placed(1, { received: '1' })))).toEqual(['locationId: purchase-place-stays']);
    expect(codes(to(0, placed(1, { received: '1' })))).toEqual([': order-unchanged']);
  });

  it('changed and changed back, gives the agreement back what it took', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), (first, second) => {
        const of = (quantity: number) =>
          placed(1, {
            unitPrice: '600',
            agreementLineId: 5,
            quantity: String(quantity),
            amount: lineAmount(dec(quantity), dec('600'), 'MYR').toFixed(),
          });
        const grown = (from: PlacedLine, to: number) => {
          const decision = decide(ground([from], { buying: [buying({ released: '0', releasedValue: '0' })] }), [
            keep(from, { quantity: String(to) }),
          ]);
          return decision.ok
            ? (decision.effects.released[0] ?? { quantity: '0', value: '0' })
            : { quantity: '0', value: '0' };
        };
        const there = grown(of(first), second);
        const back = grown(of(second), first);
        expect(dec(there.quantity).plus(back.quantity).toFixed()).toBe('0');
        expect(dec(there.value).plus(back.value).toFixed()).toBe('0');
        expect(there.quantity).toBe(String(second - first));
      }),
      { seed: 3 },
    );
  });
});
