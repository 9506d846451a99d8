import fc from 'fast-check';
import type { Refusal } from '@core/refusals';
import {
  countIn,
  decideCorrect,
  decideKeep,
  decidePart,
  decidePattern,
  heldSerials,
  numberBy,
  numbered,
  numbersCounted,
  numbersShown,
  together,
  type Serial,
  type SerialGround,
  type SerialNeed,
} from './index';

const DAY = '2027-03-01';

const piece = (id: number, change: Partial<Serial> = {}): Serial => ({
  id,
  itemId: 1,
  number: `P-${id}`,
  place: 'ours',
  locationId: 0,
  lineId: null,
  workId: null,
  withinId: null,
  ...change,
});
const ground = (serials: readonly Serial[], change: Partial<SerialGround> = {}): SerialGround => ({
  kept: [{ itemId: 1, item: 'PM-15', pattern: 'P-##', next: 50 }],
  serials,
  moved: [],
  lines: new Map([
    [7, { reserved: '1', words: 'SO-7 line 1' }],
    [8, { reserved: '0', words: 'SO-8 line 1' }],
  ]),
  places: new Map([
    [0, 'Main store'],
    [1, 'East store'],
  ]),
  ...change,
});
const point = { itemId: 1, locationId: 0, field: 'numbers' };
const leaving = (quantity: string, change: Partial<SerialNeed & { way: 'out' }> = {}): SerialNeed => ({
  ...point,
  way: 'out',
  quantity,
  with: { kind: 'SH', at: 0 },
  typed: [],
  to: 'customer',
  lineId: 8,
  workId: null,
  ...change,
});
const coming = (quantity: string, change: Partial<SerialNeed & { way: 'in' }> = {}): SerialNeed => ({
  ...point,
  way: 'in',
  quantity,
  with: { kind: 'RC', at: 0 },
  typed: [],
  for: [],
  made: null,
  ...change,
});
const moved = (of: SerialGround, ...needs: SerialNeed[]) => {
  const decision = numbered({ ok: true, effects: { a: 1 }, warnings: [] }, of, DAY, () => needs);
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects.numbers;
};
const refusals = (of: SerialGround, ...needs: SerialNeed[]): Refusal[] => {
  const decision = numbered({ ok: true, effects: {}, warnings: [] }, of, DAY, () => needs);
  return decision.ok ? [] : decision.refusals;
};
const codes = (of: SerialGround, ...needs: SerialNeed[]) =>
  refusals(of, ...needs).map(({ code, field }) => `${field}: ${code}`);

describe('P6 how numbers are made', () => {
  it('fills the count with zeros and takes the year of the day; a longer count makes it longer', () => {
    expect(numberBy('P15-{YY}-###', 7, DAY)).toBe('P15-27-007');
    expect(numberBy('P15-{YY}-###', 1234, DAY)).toBe('P15-27-1234');
    expect(numberBy('#X', 3, DAY)).toBe('3X');
  });

  it('finds the count again, in whatever year and case, and nothing in what it could not have made', () => {
    expect(countIn('P15-{YY}-###', 'p15-26-0042')).toBe(42);
    expect(countIn('A.#', 'AX3')).toBeNull();
    expect(countIn('A.#', 'A.3')).toBe(3);
    expect(countIn('A.#', 'XA.3')).toBeNull();
    expect(countIn('A.#B', 'A.3BX')).toBeNull();
    expect(countIn('A#', 'A1234567890')).toBeNull();
    expect(countIn('', '5')).toBeNull();
    expect(countIn('#{YY}', '127')).toBe(1);
  });

  it('reads back every number it makes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 999_999_999 }),
        fc.constantFrom('#', 'A-##-{YY}', '{YY}.###', 'x(#)'),
        (count, pattern) => {
          expect(countIn(pattern, numberBy(pattern, count, DAY))).toBe(count);
        },
      ),
    );
  });

  it.each([
    ['', true],
    [' P-## ', true],
    ['{YY}-#', true],
    ['#########', true],
    ['##########', false],
    ['P-15', false],
    ['#-#', false],
    ['{YY}{YY}#', false],
    ['{MM}#', false],
    ['a}#', false],
    [`#${'x'.repeat(39)}`, true],
    [`#${'x'.repeat(40)}`, false],
  ])('takes %p as a pattern: %p', (pattern, fits) => {
    const decision = decidePattern(pattern);
    expect(decision.ok).toBe(fits);
    if (decision.ok) expect(decision.effects.pattern).toBe(pattern.trim());
    else expect(decision.refusals).toEqual([{ code: 'not-a-pattern', field: 'pattern', facts: {} }]);
  });
});

describe('P6 which pieces are held', () => {
  it('are the first that came for a line, as many as it holds, at its own place', () => {
    const all = [
      piece(3, { lineId: 7 }),
      piece(1, { lineId: 7 }),
      piece(2, { lineId: 7, place: 'customer' }),
      piece(4, { lineId: 8 }),
      piece(5),
      piece(6, { lineId: 7, locationId: 1 }),
    ];
    const held = heldSerials(all, (line) => (line === 7 ? '1' : '0'));
    expect([...held].map(([{ id }, line]) => [id, line])).toEqual([
      [1, 7],
      [6, 7],
    ]);
    expect(heldSerials(all, () => '2').size).toBe(4);
    expect(heldSerials(all, () => '1.5').size).toBe(3);
  });
});

describe('P6 pieces that leave', () => {
  const here = ground([piece(1, { lineId: 7 }), piece(2), piece(3, { lineId: 8 }), piece(4, { lineId: 7 }), piece(5)]);

  it('are those of the line, then the oldest, none that another line holds', () => {
    const { moves, after, next } = moved(here, leaving('3'));
    expect(moves).toEqual(
      [3, 2, 4].map((id) => ({
        serial: { id },
        with: { kind: 'SH', at: 0 },
        locationId: 0,
        quantity: -1,
        lineId: 8,
      })),
    );
    // What line 7 holds no longer is free for anybody.
    expect(after.map(({ number, place, lineId }) => [number, place, lineId])).toEqual([
      ['P-2', 'customer', 8],
      ['P-3', 'customer', 8],
      ['P-4', 'customer', 8],
    ]);
    expect(next).toEqual([]);
    expect(numbersShown({ moves, after, next })[0]).toEqual({
      itemId: 1,
      number: 'P-2',
      place: 'customer',
      lineId: 8,
    });
  });

  it('are those that were typed, in whatever case', () => {
    expect(moved(here, leaving('2', { typed: ['p-5', ' P-2 '] })).moves.map(({ serial }) => serial)).toEqual([
      { id: 5 },
      { id: 2 },
    ]);
    // A line may take its own first, though it holds it.
    expect(moved(here, leaving('1', { typed: ['P-1'], lineId: 7 })).after[0]).toMatchObject({
      place: 'customer',
      lineId: 7,
    });
  });

  it('are held no longer once they went out, so that what comes after takes others', () => {
    const both = moved(here, leaving('1', { lineId: 7 }), leaving('4', { lineId: 8 }));
    expect(both.moves.map(({ serial, lineId }) => [(serial as { id: number }).id, lineId])).toEqual([
      [1, 7],
      [3, 8],
      [2, 8],
      [4, 8],
      [5, 8],
    ]);
  });

  it('go into production with the order they are used in, and out of stock for nobody', () => {
    const used = moved(here, leaving('1', { to: 'used', lineId: null, workId: 9 })).after[0]!;
    expect(used).toMatchObject({ number: 'P-2', place: 'used', workId: 9, lineId: null });
    const out = moved(here, leaving('1', { to: 'out', lineId: null, typed: ['P-3'] })).after[0]!;
    expect(out).toMatchObject({ place: 'out', workId: null, lineId: null });
  });

  it('are refused where they are not there, are held, are told twice, or are not as many', () => {
    const all = ground([
      ...here.serials,
      piece(20, { place: 'customer', lineId: 7 }),
      piece(21, { place: 'used' }),
      piece(22, { locationId: 1 }),
      piece(23, { place: 'out' }),
    ]);
    const typed = (...numbers: string[]) => refusals(all, leaving(String(numbers.length), { typed: numbers }));
    const at = (code: string, facts: object) => [{ code, field: 'numbers', facts }];
    const elsewhere = { place: 'Main store', order: '' };
    expect(typed('P-9')).toEqual(at('number-unknown', { number: 'P-9', item: 'PM-15' }));
    expect(typed('P-1')).toEqual(at('number-held', { number: 'P-1', order: 'SO-7 line 1' }));
    expect(typed('P-20')).toEqual(
      at('number-elsewhere', { ...elsewhere, number: 'P-20', is: 'customer', at: 'Main store', order: 'SO-7 line 1' }),
    );
    expect(typed('P-21')).toEqual(
      at('number-elsewhere', { ...elsewhere, number: 'P-21', is: 'used', at: 'Main store' }),
    );
    expect(typed('P-22')).toEqual(
      at('number-elsewhere', { ...elsewhere, number: 'P-22', is: 'ours', at: 'East store' }),
    );
    expect(typed('P-23')).toEqual(
      at('number-elsewhere', { ...elsewhere, number: 'P-23', is: 'out', at: 'Main store' }),
    );
    expect(typed('P-2', 'p-2')).toEqual(at('number-twice', { number: 'p-2' }));
    expect(refusals(all, leaving('2', { typed: ['P-2'] }))).toEqual(
      at('numbers-not-as-many', { item: 'PM-15', quantity: '2', numbers: '1' }),
    );
    expect(refusals(all, leaving('5'))).toEqual(
      at('numbers-short', { item: 'PM-15', asked: '5', free: '4', place: 'Main store' }),
    );
    expect(codes(all, leaving('2', { typed: ['P-9', 'P-8'] }))).toEqual([
      'numbers: number-unknown',
      'numbers: number-unknown',
    ]);
  });

  it('are told with what it would do but for them', () => {
    const decision = numbered({ ok: true, effects: { a: 1 }, warnings: [] }, here, DAY, () => [leaving('9')]);
    expect(decision).toMatchObject({ ok: false, effects: { a: 1, numbers: { moves: [], after: [], next: [] } } });
  });

  it('are carried from one place to another, and are for nobody there', () => {
    const { moves, after } = moved(here, {
      ...point,
      way: 'between',
      toId: 1,
      quantity: '1',
      with: { kind: 'JR', at: 0 },
      typed: ['P-4'],
    });
    expect(moves.map(({ locationId, quantity, lineId }) => [locationId, quantity, lineId])).toEqual([
      [0, -1, null],
      [1, 1, null],
    ]);
    expect(after[0]).toMatchObject({ place: 'ours', locationId: 1, lineId: null });
  });
});

describe('P6 pieces that come', () => {
  it('are numbered by the pattern, the lines they are for first', () => {
    const { moves, after, next } = moved(ground([]), coming('3', { for: [{ lineId: 7, quantity: '2' }] }));
    expect(after.map(({ serial, number, place, lineId }) => [serial, number, place, lineId])).toEqual([
      [{ fresh: 0 }, 'P-50', 'ours', 7],
      [{ fresh: 1 }, 'P-51', 'ours', 7],
      [{ fresh: 2 }, 'P-52', 'ours', null],
    ]);
    expect(moves[2]).toEqual({
      serial: { fresh: 2 },
      with: { kind: 'RC', at: 0 },
      locationId: 0,
      quantity: 1,
      lineId: null,
    });
    expect(next).toEqual([{ itemId: 1, next: 53 }]);
  });

  it('have the numbers that were typed; the pattern goes on after one it would have come to', () => {
    const typed = (number: string) => moved(ground([]), coming('1', { typed: [number] })).next;
    expect(typed('P-70')).toEqual([{ itemId: 1, next: 71 }]);
    expect(typed('P-50')).toEqual([{ itemId: 1, next: 51 }]);
    expect(typed('P-49')).toEqual([]);
    expect(typed('X')).toEqual([]);
    const both = moved(ground([]), coming('1', { typed: ['P-50'] }), coming('1'));
    expect(both.after.map(({ number }) => number)).toEqual(['P-50', 'P-51']);
  });

  it('may be one that was out, as it was; none that is anywhere', () => {
    const all = ground([
      piece(1, { place: 'out' }),
      piece(2, { lineId: 7 }),
      piece(3, { place: 'customer', lineId: 7 }),
      piece(4, { place: 'used' }),
    ]);
    const again = moved(all, coming('1', { typed: ['p-1'], for: [{ lineId: 8, quantity: '1' }] }));
    expect(again.after).toEqual([
      {
        serial: { id: 1 },
        itemId: 1,
        number: 'P-1',
        place: 'ours',
        locationId: 0,
        lineId: 8,
        workId: null,
        within: null,
      },
    ]);
    const facts = (number: string, is: string, at: string, order: string) => [
      { code: 'number-exists', field: 'numbers', facts: { number, item: 'PM-15', is, at, order } },
    ];
    const typed = (number: string) => refusals(all, coming('1', { typed: [number] }));
    expect(typed('P-2')).toEqual(facts('P-2', 'ours', 'Main store', 'SO-7 line 1'));
    expect(typed('P-3')).toEqual(facts('P-3', 'customer', '', 'SO-7 line 1'));
    expect(typed('P-4')).toEqual(facts('P-4', 'used', '', ''));
  });

  it('must be numbered where no pattern is: one number each, each once', () => {
    const typedOnly = ground([], { kept: [{ itemId: 1, item: 'PM-15', pattern: '', next: 1 }] });
    expect(refusals(typedOnly, coming('2'))).toEqual([
      { code: 'numbers-needed', field: 'numbers', facts: { item: 'PM-15', quantity: '2' } },
    ]);
    expect(moved(typedOnly, coming('0')).moves).toEqual([]);
    expect(codes(typedOnly, coming('2', { typed: ['a'] }))).toEqual(['numbers: numbers-not-as-many']);
    expect(codes(typedOnly, coming('2', { typed: ['a', 'A '] }))).toEqual(['numbers: number-twice']);
    expect(codes(typedOnly, coming('1', { typed: [' '] }))).toEqual(['numbers: not-a-serial']);
    expect(codes(typedOnly, coming('1', { typed: ['x'.repeat(41)] }))).toEqual(['numbers: not-a-serial']);
    expect(codes(typedOnly, coming('1', { typed: ['x'.repeat(40)] }))).toEqual([]);
  });

  it('are there for what leaves in the same act, and held for their lines', () => {
    const { moves, after } = moved(
      ground([]),
      coming('2', { for: [{ lineId: 7, quantity: '2' }], with: { kind: 'WR', at: 0 } }),
      leaving('2', { lineId: 7 }),
    );
    expect(moves.map(({ quantity, with: by }) => [by.kind, quantity])).toEqual([
      ['WR', 1],
      ['WR', 1],
      ['SH', -1],
      ['SH', -1],
    ]);
    expect(after.map(({ place, lineId }) => [place, lineId])).toEqual([
      ['customer', 7],
      ['customer', 7],
    ]);
    // Nobody else may take them.
    const other = coming('1', { for: [{ lineId: 8, quantity: '1' }] });
    expect(codes(ground([]), other, leaving('1', { lineId: 7 }))).toEqual(['numbers: numbers-short']);
  });

  it('take their share of the parts their order used, the first used first', () => {
    const used = (id: number) => piece(id, { itemId: 2, place: 'used', workId: 9 });
    const parts = ground([used(3), used(1), used(2), used(4), piece(5, { itemId: 2, place: 'used', workId: 8 })], {
      kept: [
        { itemId: 1, item: 'SK-D2', pattern: 'S#', next: 1 },
        { itemId: 2, item: 'PM-15', pattern: '', next: 1 },
      ],
    });
    const made = (before: string) => ({ workId: 9, quantity: '3', before, parts: [{ itemId: 2, quantity: '5' }] });
    const within = (many: string, before: string) =>
      moved(parts, coming(many, { made: made(before) }))
        .after.filter(({ itemId }) => itemId === 2)
        .map(({ serial, within: product }) => [(serial as { id: number }).id, product] as const)
        .sort(([one], [other]) => one - other);
    // Of five parts in three pieces: two, one, two.
    expect(within('2', '0')).toEqual([
      [1, { fresh: 0 }],
      [2, { fresh: 0 }],
      [3, { fresh: 1 }],
    ]);
    expect(within('1', '1')).toEqual([[1, { fresh: 0 }]]);
    expect(within('1', '2')).toEqual([
      [1, { fresh: 0 }],
      [2, { fresh: 0 }],
    ]);
    // What is part of something already is not taken out of it.
    const taken = ground([{ ...used(1), withinId: 77 }, used(2)], { kept: parts.kept });
    expect(moved(taken, coming('1', { made: made('0') })).after.map(({ within: product }) => product)).toEqual([
      null,
      { fresh: 0 },
    ]);
  });
});

describe('P6 pieces that come back', () => {
  const out = (id: number, lineId = 8) => piece(id, { place: 'customer', lineId });
  const returned = (quantity: string, typed: readonly string[] = [], locationId = 0): SerialNeed => ({
    ...point,
    locationId,
    way: 'return',
    quantity,
    typed,
    lineId: 8,
    with: { kind: 'CN', at: 0 },
  });
  const all = ground([out(1), out(2), out(3, 7), piece(4)]);

  it('are all that went out on the line, or those that were typed', () => {
    expect(moved(all, returned('2')).after.map(({ number, place, lineId }) => [number, place, lineId])).toEqual([
      ['P-1', 'ours', null],
      ['P-2', 'ours', null],
    ]);
    expect(moved(all, returned('1', ['P-2'], 1)).after).toMatchObject([
      { number: 'P-2', place: 'ours', locationId: 1 },
    ]);
    expect(moved(all, returned('1', ['P-2'])).moves).toMatchObject([{ serial: { id: 2 }, quantity: 1, lineId: null }]);
  });

  it('are refused where it is not said which, or they did not go out on it', () => {
    expect(refusals(all, returned('1'))).toEqual([
      { code: 'numbers-which', field: 'numbers', facts: { item: 'PM-15', quantity: '1', out: '2' } },
    ]);
    expect(codes(all, returned('1', ['P-3']))).toEqual(['numbers: number-not-out']);
    expect(codes(all, returned('1', ['P-4']))).toEqual(['numbers: number-not-out']);
    expect(codes(all, returned('1', ['P-9']))).toEqual(['numbers: number-unknown']);
    expect(codes(all, returned('2', ['P-1']))).toEqual(['numbers: numbers-not-as-many']);
  });

  it('are numbered where they went out without', () => {
    const none = ground([piece(4)]);
    expect(moved(none, returned('1')).after).toMatchObject([{ number: 'P-50', place: 'ours', lineId: null }]);
    expect(moved(none, returned('1', ['Q'])).after).toMatchObject([{ number: 'Q' }]);
  });
});

describe('P1 P6 documents that are taken back', () => {
  const before = (serialId: number, quantity: number, lineId: number | null = null, kind = 'SH') => ({
    kind,
    documentId: 5,
    serialId,
    itemId: 1,
    locationId: 0,
    quantity,
    lineId,
  });
  const back = (kind: 'SH' | 'RC' | 'WR', heldAgain: readonly number[] = []): SerialNeed => ({
    way: 'back',
    of: { kind, id: 5 },
    document: `${kind}-5`,
    with: { kind, at: 0 },
    from: kind === 'WR' ? 'used' : 'customer',
    heldAgain,
  });

  it('bring what went out here again, for its line where that holds it', () => {
    const went = ground([piece(1, { place: 'customer', lineId: 8, locationId: 1 })], { moved: [before(1, -1, 8)] });
    const { moves, after } = moved(went, back('SH'));
    expect(moves).toEqual([
      { serial: { id: 1 }, with: { kind: 'SH', at: 0 }, locationId: 0, quantity: 1, lineId: null },
    ]);
    expect(after[0]).toMatchObject({ place: 'ours', locationId: 0, lineId: null });
    expect(moved(went, back('SH', [8])).after[0]).toMatchObject({ lineId: 8 });
    // Of another document nothing is.
    expect(moved(went, back('RC')).moves).toEqual([]);
  });

  it('take what came out of it again, and its parts with it', () => {
    const came = ground(
      [
        piece(1, { lineId: 7 }),
        piece(2, { place: 'used', workId: 9, withinId: 1 }),
        piece(3, { place: 'used', workId: 9, withinId: 4 }),
      ],
      { moved: [before(2, -1, null, 'WR'), before(1, 1, 7, 'WR')] },
    );
    const { moves, after } = moved(came, back('WR'));
    // What came last goes first.
    expect(moves.map(({ serial, quantity }) => [serial, quantity])).toEqual([
      [{ id: 1 }, -1],
      [{ id: 2 }, 1],
    ]);
    expect(after).toMatchObject([
      { number: 'P-1', place: 'out', lineId: null },
      { number: 'P-2', place: 'ours', workId: null, within: null },
    ]);
    const apart = ground([piece(1), piece(2, { place: 'used', workId: 9, withinId: 1 })], {
      moved: [before(1, 1, null, 'WR')],
    });
    expect(moved(apart, back('WR')).after).toMatchObject([
      { number: 'P-1', place: 'out' },
      { number: 'P-2', place: 'used', workId: 9, within: null },
    ]);
  });

  it('go back where they came from with what is within them', () => {
    const carried = [before(1, -1, null, 'RC'), { ...before(1, 1, null, 'RC'), locationId: 1 }];
    const all = ground([piece(1, { locationId: 1 }), piece(2, { place: 'used', workId: 9, withinId: 1 })], {
      moved: carried,
    });
    const { moves, after } = moved(all, { ...back('RC'), from: 'out' } as SerialNeed);
    expect(moves.map(({ locationId, quantity }) => [locationId, quantity])).toEqual([
      [1, -1],
      [0, 1],
    ]);
    expect(after).toMatchObject([{ number: 'P-1', place: 'ours', locationId: 0 }]);
    expect(after).toHaveLength(1);
  });

  it('are refused where a piece moved on since', () => {
    const facts = (change: object) => [
      {
        code: 'number-moved-on',
        field: '',
        facts: { document: 'RC-5', number: 'P-1', at: 'Main store', order: '', ...change },
      },
    ];
    const at = (change: Partial<Serial>) =>
      refusals(ground([piece(1, change)], { moved: [before(1, 1, null, 'RC')] }), back('RC'));
    expect(at({})).toEqual([]);
    expect(at({ place: 'customer', lineId: 8 })).toEqual(facts({ is: 'customer', order: 'SO-8 line 1' }));
    expect(at({ locationId: 1 })).toEqual(facts({ is: 'ours', at: 'East store' }));
    expect(at({ place: 'used' })).toEqual(facts({ is: 'used' }));
    const gone = ground([piece(1, { place: 'out' })], { moved: [before(1, -1, 8)] });
    expect(codes(gone, back('SH'))).toEqual([': number-moved-on']);
  });
});

describe('P6 decisions with numbers', () => {
  it('pass what was refused on, and move nothing where nothing is kept by number', () => {
    const refused = {
      ok: false as const,
      refusals: [{ code: 'bad-text' as const, field: 'x', facts: {} as Record<string, never> }],
    };
    expect(numbered(refused, ground([]), DAY, () => [])).toEqual(refused);
    expect(numbered({ ...refused, effects: { a: 1 } }, ground([]), DAY, () => [])).toMatchObject({
      ok: false,
      effects: { a: 1, numbers: { moves: [] } },
    });
    const needs = () => [coming('2')];
    expect(numbered({ ok: true, effects: { a: 1 }, warnings: [] }, ground([], { kept: [] }), DAY, needs)).toEqual({
      ok: true,
      effects: { a: 1, numbers: { moves: [], after: [], next: [] } },
      warnings: [],
    });
    // Other items move without, and none may be told of them.
    expect(codes(ground([]), coming('1', { itemId: 3, typed: ['X'] }))).toEqual(['numbers: number-not-kept']);
    expect(moved(ground([]), coming('2', { itemId: 3 }), leaving('2', { itemId: 3 })).moves).toEqual([]);
  });

  it('join what several need into one', () => {
    const one = ground([piece(2), piece(1)]);
    const other = ground([piece(1), piece(3)], { kept: [{ itemId: 2, item: 'X', pattern: '', next: 1 }] });
    const all = together([one, other]);
    expect(all.serials.map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(all.kept.map(({ itemId }) => itemId)).toEqual([1, 2]);
    expect([...all.lines.keys(), ...all.places.keys()]).toEqual([7, 8, 0, 1]);
  });

  it('leave each piece in one place, whatever moves', () => {
    const step = fc.oneof(
      fc.record({
        way: fc.constant('in' as const),
        many: fc.integer({ min: 1, max: 3 }),
        line: fc.constantFrom(null, 7, 8),
      }),
      fc.record({
        way: fc.constant('out' as const),
        many: fc.integer({ min: 1, max: 3 }),
        line: fc.constantFrom(null, 7, 8),
      }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        const needs = steps.map(({ way, many, line }) =>
          way === 'in'
            ? coming(String(many), { for: line === null ? [] : [{ lineId: line, quantity: String(many) }] })
            : leaving(String(many), { lineId: line, to: line === null ? 'out' : 'customer' }),
        );
        const decision = numbered({ ok: true, effects: {}, warnings: [] }, ground([]), DAY, () => needs);
        if (!decision.ok) return;
        const { moves, after } = decision.effects.numbers;
        for (const each of after) {
          const own = moves.filter(({ serial }) => JSON.stringify(serial) === JSON.stringify(each.serial));
          const sum = own.reduce((total, { quantity }) => total + quantity, 0);
          expect(sum).toBe(each.place === 'ours' ? 1 : 0);
        }
        expect(new Set(after.map(({ number }) => number)).size).toBe(after.length);
      }),
    );
  });
});

describe('W6 P6 numbers on a count sheet', () => {
  const all = ground([
    piece(1),
    piece(2),
    piece(3, { locationId: 1, lineId: 7 }),
    piece(4, { place: 'out' }),
    piece(5, { place: 'customer', lineId: 8 }),
    piece(6, { itemId: 2 }),
  ]);
  const counted = (...typed: string[]) =>
    numbersCounted(all, { itemId: 1, locationId: 0, quantity: String(typed.length), typed, field: 'n' });

  it('say what is here, what is missing and what was found', () => {
    expect(counted('p-1', 'NEW', 'P-4')).toEqual({
      ok: true,
      warnings: [],
      effects: [
        { number: 'P-1', says: 'here' },
        { number: 'NEW', says: 'found' },
        { number: 'P-4', says: 'found' },
        { number: 'P-2', says: 'missing' },
      ],
    });
    expect(counted()).toMatchObject({ effects: [{ says: 'missing' }, { says: 'missing' }] });
  });

  it('are refused where they are elsewhere, told twice, no numbers, or not as many', () => {
    const facts = (number: string, is: string, at: string, order: string) => [
      { code: 'number-exists', field: 'n', facts: { number, item: 'PM-15', is, at, order } },
    ];
    const why = (...typed: string[]) => {
      const decision = counted(...typed);
      return decision.ok ? [] : decision.refusals;
    };
    expect(why('P-3')).toEqual(facts('P-3', 'ours', 'East store', 'SO-7 line 1'));
    expect(why('P-5')).toEqual(facts('P-5', 'customer', 'Main store', 'SO-8 line 1'));
    expect(why('P-1', 'p-1').map(({ code }) => code)).toEqual(['number-twice']);
    expect(why(' ').map(({ code }) => code)).toEqual(['not-a-serial']);
    expect(why('x'.repeat(41)).map(({ code }) => code)).toEqual(['not-a-serial']);
    const few = numbersCounted(all, { itemId: 1, locationId: 0, quantity: '2', typed: ['P-1'], field: 'n' });
    expect(!few.ok && few.refusals.map(({ code }) => code)).toEqual(['numbers-not-as-many']);
  });
});

describe('P6 keeping an item by number', () => {
  const item = { number: 'UV-40', unit: 'piece' };
  const keep = { item, goods: true, next: null, onHand: '0', running: '', numbers: [] };
  const why = (change: object, pattern = 'U-#') => {
    const decision = decideKeep({ ...keep, ...change }, { pattern }, DAY);
    return decision.ok ? [] : decision.refusals;
  };

  it('begins at one, or goes on after the highest the pattern could have made', () => {
    const made = (change: object, pattern: string) => decideKeep({ ...keep, ...change }, { pattern }, DAY);
    expect(made({}, ' U-## ')).toMatchObject({ effects: { pattern: 'U-##', next: 1, nextNumber: 'U-01' } });
    expect(made({ numbers: ['U-9', 'U-12', 'X'] }, 'U-#')).toMatchObject({ effects: { next: 13, nextNumber: 'U-13' } });
    expect(made({ next: 20, numbers: ['U-9'] }, 'U-#')).toMatchObject({ effects: { next: 20 } });
    expect(made({}, '')).toMatchObject({ effects: { pattern: '', next: 1, nextNumber: '' } });
  });

  it('is refused for what is not kept or not whole, and while some are here or under way without', () => {
    const at = (code: string, facts: object) => [{ code, field: '', facts: { item: 'UV-40', ...facts } }];
    expect(why({ goods: false })).toEqual(at('not-kept', {}));
    expect(why({ item: { ...item, unit: 'm' } })).toEqual(at('number-whole', { unit: 'm' }));
    expect(why({ onHand: '3' })).toEqual(at('number-stock', { onHand: '3' }));
    expect(why({ running: 'PR-1' })).toEqual(at('number-running', { what: 'PR-1' }));
    expect(why({}, '##-##').map(({ code }) => code)).toEqual(['not-a-pattern']);
    // Once it is, only the pattern changes.
    expect(why({ next: 4, onHand: '3', running: 'PR-1' })).toEqual([]);
  });
});

describe('P6 a number is written as it is', () => {
  const correct = (typed: object, taken: null | object = null) => {
    const as = { was: 'P-1', number: 'P-2', reason: 'mistyped', ...typed };
    const of = { serial: { number: 'P-1', item: 'PM-15' }, taken };
    const decision = decideCorrect(of as Parameters<typeof decideCorrect>[0], as);
    return decision.ok ? decision.effects : decision.refusals.map(({ code, field }) => `${field}: ${code}`);
  };

  it('where nobody else has it, with a reason', () => {
    expect(correct({ number: ' P-2 ', reason: ' so ' })).toEqual({ number: 'P-2', reason: 'so' });
    expect(correct({ reason: ' ' })).toEqual(['reason: required']);
    expect(correct({ was: 'P-0' })).toEqual([': number-changed']);
    expect(correct({ number: 'P-1' })).toEqual(['number: number-same']);
    expect(correct({ number: '' })).toEqual(['number: not-a-serial']);
    expect(correct({ number: 'x'.repeat(41) })).toEqual(['number: not-a-serial']);
    expect(correct({ number: 'x'.repeat(40) })).toMatchObject({ number: 'x'.repeat(40) });
    const other = { place: 'ours', at: 'Main store', order: '' };
    expect(correct({}, other)).toEqual(['number: number-exists']);
    // Its own in another case is nobody else's.
    expect(correct({ number: 'p-1' }, other)).toMatchObject({ number: 'p-1' });
  });
});

describe('P6 a part is in a product of its order', () => {
  const products = [{ id: 4, number: 'S-1' }];
  const part = (place: Serial['place'], productId: number | null) => {
    const decision = decidePart({ serial: { number: 'P-1', place }, work: 'AS-1', products }, { productId });
    return decision.ok ? decision.effects : decision.refusals;
  };

  it('or in none; refused for what is not used, and for what did not come of the order', () => {
    expect(part('used', 4)).toEqual({ product: 'S-1' });
    expect(part('used', null)).toEqual({ product: '' });
    expect(part('used', 5)).toEqual([{ code: 'number-not-product', field: 'productId', facts: { work: 'AS-1' } }]);
    expect(part('ours', 4)).toEqual([{ code: 'number-not-part', field: '', facts: { number: 'P-1' } }]);
  });
});
