import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import {
  decideAside,
  decideHalf,
  decidePairing,
  decideReturn,
  decideSame,
  decideTake,
  eliminations,
  looksSame,
  proposePairs,
  reconcile,
  transferPrice,
  type OfferLine,
  type OfferNow,
  type OwedToThem,
  type TakeGround,
  type TakeTyped,
} from './index';

const TODAY = '2027-03-01';
const offer = (change: Partial<OfferNow> = {}): OfferNow => ({
  kind: 'order',
  state: 'open',
  number: 'PO-7',
  sister: 'Muara',
  revision: 2,
  takenRevision: 0,
  gone: false,
  takenGone: false,
  ...change,
});
const line = (id: number, change: Partial<OfferLine> = {}): OfferLine => ({
  id,
  lineNo: id,
  theirs: { id: 100 + id, number: `T-${id}`, name: '', unit: 'piece' },
  ours: { id: 200 + id, number: `O-${id}`, unit: 'piece' },
  lineId: null,
  factor: '1',
  quantity: '4',
  day: '2027-03-20',
  price: '10',
  ...change,
});
const ground = (lines: OfferLine[], change: Partial<TakeGround> = {}): TakeGround => ({
  offer: offer(),
  lines,
  party: { id: 9, currency: 'SGD' },
  currency: 'SGD',
  ...change,
});
const typed = (...lines: TakeTyped['lines'][number][]): TakeTyped => ({ revision: 2, lines });
const effects = (of: TakeGround, input = typed()) => {
  const decision = decideTake(of, input, TODAY);
  if (!decision.ok) throw new Error(decision.refusals.map(({ code }) => code).join());
  return decision.effects;
};
const codes = (decision: { ok: boolean; refusals?: { field: string; code: string }[] }) =>
  (decision.refusals ?? []).map(({ field, code }) => (field ? `${field}: ${code}` : code));
const refused = (of: TakeGround, input = typed()) => codes(decideTake(of, input, TODAY));

describe('X2 what a sister offers', () => {
  it('is taken as it is, in our unit at the price for one of it', () => {
    expect(effects(ground([line(1, { factor: '25', quantity: '2', price: '50' })]))).toMatchObject({
      does: 'make',
      otherwise: false,
      lines: [{ itemId: 201, quantity: '50', day: '2027-03-20', price: '2' }],
    });
    // A third of a cent is kept to four places.
    expect(effects(ground([line(1, { factor: '3', price: '1' })])).lines[0]!.price).toBe('0.3333');
    // What has no day of its own is for today.
    expect(effects(ground([line(1, { day: null })])).lines[0]!.day).toBe(TODAY);
    expect(effects(ground([line(1, { day: null })])).otherwise).toBe(false);
  });

  it('is taken otherwise where another quantity or day is said, and lines at nothing are left out', () => {
    const two = ground([line(1), line(2)]);
    expect(effects(two, typed({ lineId: 1, quantity: '3' }))).toMatchObject({
      otherwise: true,
      lines: [{ quantity: '3' }, {}],
    });
    expect(effects(two, typed({ lineId: 2, day: '2027-03-21' }))).toMatchObject({
      otherwise: true,
      lines: [{ day: '2027-03-20' }, { day: '2027-03-21' }],
    });
    expect(effects(two, typed({ lineId: 2, quantity: '4.0', day: '2027-03-20' })).otherwise).toBe(false);
    const one = effects(two, typed({ lineId: 1, quantity: '0' }));
    expect([one.otherwise, one.lines.map(({ itemId }) => itemId)]).toEqual([true, [202]]);
    expect(refused(two, typed({ lineId: 1, quantity: '0' }, { lineId: 2, quantity: '0' }))).toEqual([
      'lines: nothing-asked',
    ]);
  });

  it('is refused at its place where what is typed cannot be', () => {
    const two = ground([line(1), line(2)]);
    expect(refused(two, typed({ lineId: 2, quantity: 'x' }))).toEqual(['lines.0.quantity: not-a-number']);
    expect(refused(two, typed({ lineId: 2, quantity: '-1' }))).toEqual(['lines.0.quantity: below-zero']);
    expect(refused(two, typed({ lineId: 1, quantity: '1' }, { lineId: 2, day: 'soon' }))).toEqual([
      'lines.1.day: not-a-day',
    ]);
  });

  it('is held where nobody said who the sister is, in what she is paid, or which item it is', () => {
    expect(refused(ground([line(1)], { party: null }))).toEqual(['sister-unnamed']);
    expect(refused(ground([line(1, { ours: null })]))).toEqual(['item-unpaired']);
    expect(refused(ground([line(1, { ours: null })]), typed({ lineId: 1, quantity: '1' }))).toEqual([
      'lines.0.quantity: item-unpaired',
    ]);
    const inDollars = { party: { id: 9, currency: 'USD' } };
    const kinds = (['order', 'receipt', 'purchase', 'invoice'] as const).map((kind) =>
      refused(ground([line(1, { lineId: 5 })], { ...inDollars, offer: offer({ kind }) })),
    );
    expect(kinds).toEqual([[], [], ['sister-currency'], ['sister-currency']]);
  });

  it('waits for the order it belongs to, where goods or an invoice came before', () => {
    for (const kind of ['receipt', 'invoice'] as const) {
      const before = ground([line(1)], { offer: offer({ kind }) });
      expect(refused(before)).toEqual(['offer-before-order']);
      expect(effects(ground([line(1, { lineId: 5 })], { offer: offer({ kind }) })).does).toBe('make');
    }
  });

  it('is taken once: what was taken and is no other since, came back or is gone is nothing to do', () => {
    const state = (change: Partial<OfferNow>) => refused(ground([line(1)], { offer: offer(change) }));
    expect(state({ state: 'dropped' })).toEqual(['offer-gone']);
    expect(state({ state: 'returned' })).toEqual(['offer-returned']);
    for (const known of ['taken', 'folded'] as const) {
      expect(state({ state: known, takenRevision: 2 })).toEqual(['offer-taken']);
      expect(state({ state: known, takenRevision: 2, gone: true, takenGone: true })).toEqual(['offer-taken']);
      const of = (change: Partial<OfferNow>) => ground([line(1)], { offer: offer({ state: known, ...change }) });
      expect(effects(of({ takenRevision: 1 })).does).toBe('change');
      expect(effects(of({ takenRevision: 2, gone: true }))).toEqual({ does: 'end', lines: [], otherwise: false });
    }
    expect(effects(ground([line(1)], { offer: offer({ state: 'aside' }) })).does).toBe('make');
    expect(codes(decideTake(ground([line(1)]), { revision: 1, lines: [] }, TODAY))).toEqual(['offer-moved']);
  });

  it('goes back with a reason, or waits until a day that is to come', () => {
    expect(codes(decideReturn(offer(), { revision: 2, reason: ' ' }))).toEqual(['reason: required']);
    expect(decideReturn(offer(), { revision: 2, reason: ' no room ' })).toMatchObject({
      effects: { reason: 'no room' },
    });
    const taken = offer({ state: 'taken', takenRevision: 1 });
    expect(codes(decideReturn(taken, { revision: 2, reason: 'x' }))).toEqual(['offer-taken']);
    expect(codes(decideReturn(offer({ state: 'folded' }), { revision: 2, reason: 'x' }))).toEqual(['offer-taken']);
    expect(codes(decideReturn(offer(), { revision: 3, reason: 'x' }))).toEqual(['offer-moved']);
    const aside = (untilDay: string | null) =>
      codes(decideAside(offer(), { revision: 2, reason: '', untilDay }, TODAY));
    expect([aside(null), aside(''), aside('soon'), aside(TODAY), aside('2027-03-02')]).toEqual([
      ['untilDay: required'],
      ['untilDay: required'],
      ['untilDay: not-a-day'],
      ['untilDay: day-not-ahead'],
      [],
    ]);
    expect(decideAside(offer(), { revision: 2, reason: ' w ', untilDay: '2027-03-02' }, TODAY)).toMatchObject({
      effects: { reason: 'w', untilDay: '2027-03-02' },
    });
  });
});

describe('X3 told twice', () => {
  const thing = (lineId: number, itemId: number | null, quantity: string) => ({
    lineId,
    itemId,
    quantity,
    factor: '1',
  });

  it('looks the same where items and quantities are, however they stand in lines', () => {
    const theirs = [thing(1, 5, '2'), thing(2, 6, '1')];
    expect(looksSame(theirs, [thing(8, 6, '1.0'), thing(9, 5, '2')])).toBe(true);
    expect(looksSame([thing(1, 5, '1'), thing(2, 5, '1')], [thing(9, 5, '2')])).toBe(true);
    expect(looksSame(theirs, [thing(9, 5, '2')])).toBe(false);
    expect(looksSame([thing(1, 5, '2')], [thing(9, 5, '2'), thing(8, 6, '1')])).toBe(false);
    expect(looksSame([thing(1, 5, '3')], [thing(9, 5, '2')])).toBe(false);
    expect(looksSame([thing(1, null, '3')], [])).toBe(false);
    expect(looksSame([], [])).toBe(false);
  });

  const same = (change: Partial<Parameters<typeof decideSame>[0]> = {}) =>
    decideSame(
      {
        offer: offer(),
        theirs: [thing(1, 5, '2'), thing(2, 6, '1'), thing(3, 5, '1')],
        document: { number: 'SO-4', open: true, joined: false },
        ours: [thing(7, 5, '1'), thing(8, 6, '1'), thing(9, 5, '2')],
        ...change,
      },
      { revision: 2 },
    );

  it('pairs line with line, those of one quantity first', () => {
    expect(same()).toMatchObject({
      effects: {
        pairs: [
          { theirLineId: 1, ourLineId: 9 },
          { theirLineId: 2, ourLineId: 8 },
          { theirLineId: 3, ourLineId: 7 },
        ],
      },
    });
    // Several of theirs are one of ours.
    expect(same({ theirs: [thing(1, 5, '1'), thing(2, 5, '1')], ours: [thing(9, 5, '2')] })).toMatchObject({
      effects: { pairs: [{ ourLineId: 9 }, { ourLineId: 9 }] },
    });
  });

  it('is refused where it is not so', () => {
    expect(codes(same({ ours: [thing(7, 5, '1')] }))).toEqual(['not-the-same']);
    expect(codes(same({ document: { number: 'SO-4', open: false, joined: false } }))).toEqual(['same-not-open']);
    expect(codes(same({ document: { number: 'SO-4', open: true, joined: true } }))).toEqual(['same-joined']);
    expect(codes(same({ offer: offer({ state: 'taken', takenRevision: 1 }) }))).toEqual(['offer-taken']);
    expect(codes(same({ offer: offer({ state: 'dropped' }) }))).toEqual(['offer-gone']);
  });
});

describe('X5 what sisters pay, and say they owe', () => {
  it('has prices of their own, at four places, where what they are reckoned from is known', () => {
    const known = { list: '980', cost: '610.55' };
    expect(transferPrice({ transfer: 'ordinary', perCent: '5' }, known)).toBeNull();
    expect(transferPrice({ transfer: 'list-less', perCent: '5' }, known)).toBe('931');
    expect(transferPrice({ transfer: 'cost-plus', perCent: '8' }, known)).toBe('659.394');
    expect(transferPrice({ transfer: 'cost-plus', perCent: '3.333' }, { list: '1', cost: '0.01' })).toBe('0.0103');
    expect(transferPrice({ transfer: 'cost-plus', perCent: '8' }, { list: '980', cost: null })).toBeNull();
    expect(transferPrice({ transfer: 'list-less', perCent: '8' }, { list: '0', cost: '3' })).toBeNull();
  });

  const owed = (number: string, change: Partial<OwedToThem> = {}): OwedToThem => ({
    number,
    currency: 'SGD',
    day: '2027-02-20',
    owed: '100',
    offered: 'known',
    ...change,
  });
  const entered = (theirNumber: string, change: object = {}) => ({
    number: `VI-${theirNumber}`,
    theirNumber,
    currency: 'SGD',
    owed: '100',
    ...change,
  });

  it('stands level, each row with why it differs', () => {
    const { rows, totals } = reconcile(
      [
        owed('1'),
        owed('2', { offered: 'waiting' }),
        owed('3', { offered: 'returned' }),
        owed('4'),
        owed('5', { offered: 'not-offered' }),
        owed('6'),
        owed('7'),
      ],
      [
        entered('1', { owed: '100.00' }),
        entered('6', { owed: '40' }),
        entered('7', { currency: 'USD' }),
        entered('9', { owed: '5' }),
      ],
    );
    expect(rows.map(({ number, theySay, weSay, why }) => [number, theySay, weSay, why])).toEqual([
      ['1', '100', '100.00', 'same'],
      ['2', '100', null, 'not-taken'],
      ['3', '100', null, 'returned'],
      ['4', '100', null, 'missing-here'],
      ['5', '100', null, 'missing-here'],
      ['6', '100', '40', 'amount'],
      ['7', '100', '100', 'currency'],
      ['9', null, '5', 'missing-there'],
    ]);
    expect(rows.map(({ ourNumber }) => ourNumber)).toEqual(['VI-1', '', '', '', '', 'VI-6', 'VI-7', 'VI-9']);
    expect(totals).toEqual([
      { currency: 'SGD', theySay: '700', weSay: '145', difference: '555' },
      { currency: 'USD', theySay: '0', weSay: '100', difference: '-100' },
    ]);
  });

  it('says by account what falls away where both books are put together', () => {
    const pair = (theySay: string, weSay: string) => ({ account: 'Revenue', currency: 'SGD', theySay, weSay });
    expect(
      eliminations([pair('100', '80'), pair('0', '0.00'), pair('0', '5'), pair('-3', '4'), pair('7', '7.0')]).map(
        ({ difference, falls }) => [difference, falls],
      ),
    ).toEqual([
      ['20', '80'],
      ['-5', '0'],
      ['-7', '0'],
      ['0', '7'],
    ]);
  });

  it('differs by what its rows differ by, and by nothing else', () => {
    const one = fc.record({
      number: fc.integer({ min: 1, max: 9 }).map(String),
      owed: fc.integer({ min: 0, max: 9999 }).map((cents) => dec(cents).div(100).toFixed()),
    });
    const some = fc.uniqueArray(one, { selector: ({ number }) => number, maxLength: 8 });
    fc.assert(
      fc.property(some, some, (theirs, ours) => {
        const { rows, totals } = reconcile(
          theirs.map((each) => owed(each.number, each)),
          ours.map((each) => entered(each.number, { owed: each.owed })),
        );
        const between = sum(rows.map(({ theySay, weSay }) => dec(theySay ?? '0').minus(weSay ?? '0')));
        expect(between.toFixed()).toBe(dec(totals[0]?.difference ?? '0').toFixed());
        for (const { why, theySay, weSay } of rows) {
          if (why === 'same') expect(dec(theySay!).eq(weSay!)).toBe(true);
        }
        expect(new Set(rows.map(({ number }) => number)).size).toBe(rows.length);
      }),
      { seed: 21, numRuns: 300 },
    );
  });
});

describe('X1 items that are one', () => {
  const item = (id: number, number: string) => ({ id, number, name: '', unit: 'piece' });

  it('are proposed by numbers that differ only in case and marks, where they are nobody else’s', () => {
    const ours = [item(1, 'FV-900'), item(2, 'FV-1200'), item(3, 'A.1'), item(4, 'A1'), item(5, 'GAC')];
    const theirs = [
      item(11, 'fv 900'),
      item(12, 'FV1200'),
      item(13, 'A1'),
      item(14, 'gac'),
      item(15, 'GA-C'),
      item(16, 'X'),
    ];
    const proposed = (paired: Parameters<typeof proposePairs>[2] = []) =>
      proposePairs(ours, theirs, paired).map((pair) => [pair.ours.id, pair.theirs.id]);
    expect(proposed()).toEqual([
      [1, 11],
      [2, 12],
    ]);
    expect(proposed([{ itemId: 1, theirItemId: 16, factor: '1' }])).toEqual([[2, 12]]);
    expect(proposed([{ itemId: 9, theirItemId: 12, factor: '1' }])).toEqual([[1, 11]]);
  });

  const paired = [{ itemId: 1, theirItemId: 11, factor: '1' }];
  const pairing = (pairs: typeof paired, removed: number[] = []) =>
    decidePairing(
      {
        paired,
        ours: new Map([1, 2].map((id) => [id, { number: `O${id}` }])),
        theirs: new Map([11, 12].map((id) => [id, { number: `T${id}` }])),
        sister: 'Muara',
      },
      { pairs, removed },
    );

  it('are paired one to one', () => {
    expect(codes(pairing([]))).toEqual(['pairs: nothing-asked']);
    expect(pairing([], [1])).toMatchObject({ effects: { pairs: [], removed: [1] } });
    expect(codes(pairing([{ itemId: 2, theirItemId: 11, factor: '1' }]))).toEqual([
      'pairs.0.theirItemId: paired-already',
    ]);
    // Parted in the same act, or paired anew, it is free.
    expect(codes(pairing([{ itemId: 2, theirItemId: 11, factor: '1' }], [1]))).toEqual([]);
    expect(codes(pairing([{ itemId: 1, theirItemId: 11, factor: '2' }]))).toEqual([]);
    expect(codes(pairing([{ itemId: 3, theirItemId: 13, factor: 'x' }]))).toEqual([
      'pairs.0.itemId: unknown',
      'pairs.0.theirItemId: unknown',
      'pairs.0.factor: not-a-number',
    ]);
    expect(codes(pairing([{ itemId: 2, theirItemId: 12, factor: '0' }]))).toEqual(['pairs.0.factor: not-above-zero']);
    // Nor twice in one act.
    const both = [1, 2].map((itemId) => ({ itemId, theirItemId: 12, factor: '1' }));
    expect(pairing(both)).toMatchObject({
      refusals: [{ code: 'paired-already', field: 'pairs.1.theirItemId', facts: { ours: 'O1', theirs: 'T12' } }],
    });
  });

  const half = (perCent: string, ground: object = {}, transfer: 'list-less' | 'cost-plus' = 'list-less') =>
    decideHalf({ own: false, customer: true, vendor: true, other: null, ...ground }, { perCent, transfer });

  it('have parties that are one sister’s alone, and a share', () => {
    expect(half(' ')).toMatchObject({ effects: { perCent: '0' } });
    expect(half(' 5.50 ')).toMatchObject({ effects: { perCent: '5.5' } });
    expect(half('120', {}, 'cost-plus')).toMatchObject({ effects: { perCent: '120' } });
    expect(codes(half('99.99'))).toEqual([]);
    expect(codes(half('100'))).toEqual(['perCent: share-of-all']);
    expect(codes(half('-1'))).toEqual(['perCent: below-zero']);
    expect(codes(half('a few'))).toEqual(['perCent: not-a-number']);
    expect(half('5', { own: true, customer: false, vendor: false })).toMatchObject({
      refusals: [
        { field: 'sisterId', facts: { what: 'This company' } },
        { field: 'customerId', facts: { what: 'This customer' } },
        { field: 'vendorId', facts: { what: 'This vendor' } },
      ],
    });
    expect(half('5', { other: { name: 'Pulau', at: 'vendorId' } })).toMatchObject({
      refusals: [{ code: 'party-of-sister', field: 'vendorId', facts: { sister: 'Pulau' } }],
    });
  });
});
