import {
  columnsIn,
  decideBringIn,
  decideLookAgain,
  decideStopBroughtIn,
  decideTakeBroughtIn,
  keptList,
  listIn,
  listsAbout,
  stampOf,
  KEPT_LISTS,
  type BroughtGround,
  type BroughtIn,
  type Cells,
  type KeepGround,
  type KeptRow,
  type Target,
} from './index';

const DAY = '2027-03-01';
const SALT: Cells = {
  number: 'SALT-25',
  name: 'Softener salt',
  unit: 'bag',
  group: '',
  tax: 'ST',
  route: 'stock',
  stocked: 'yes',
  listPrice: '28.5',
  weight: '25',
  volume: '0',
  packSize: '0',
  splitCharge: '0',
  permitType: '',
  reserving: 'never',
  approvalNeeded: 'no',
  outOfUse: 'no',
};
const row = (id: number, cells: Cells): KeptRow => ({ id, stamp: stampOf(cells), cells });
const ground = (list = 'items', rows: KeptRow[] = [row(5, SALT)]): KeepGround => ({
  list: keptList(list)!,
  rows,
  named: new Map<Target, Map<string, { id: number | string; text: string } | 'several'>>([
    [
      'tax-code',
      new Map([
        ['st', { id: 1, text: 'ST' }],
        ['', { id: 1, text: 'ST' }],
      ]),
    ],
    ['item', new Map([['salt-25', { id: 5, text: 'SALT-25' }]])],
    ['other-currency', new Map([['sgd', { id: 'SGD', text: 'SGD' }]])],
  ]),
  units: new Map(),
  used: new Set(),
});
const lines = (...cells: Cells[]): BroughtIn[] => cells.map((each, at) => ({ line: at + 2, cells: each }));
const NEW: Cells = { number: 'CL-10', name: 'Chlorine', unit: 'tub', listPrice: '185' };
const wrong = (found: ReturnType<typeof decideBringIn>) =>
  found.problems.map(({ line, field, refusal }) => `${line} ${field}: ${refusal.code}`);

describe('U2 the lists about a thing', () => {
  it('begin with the one it is made in', () => {
    const named = (['item', 'customer', 'vendor'] as const).map((thing) => listsAbout(thing).map(({ name }) => name));
    expect(named.map(([first]) => first)).toEqual(['items', 'customers', 'vendors']);
    expect(named[0]).toEqual(expect.arrayContaining(['costs', 'obtaining', 'units', 'boms', 'prices', 'vendor-items']));
    expect(named[1]).toEqual(expect.arrayContaining(['ship-tos', 'customer-contacts', 'permits', 'customer-papers']));
    expect(named[2]).toEqual(expect.arrayContaining(['vendor-papers', 'vendor-calendars', 'vendor-items']));
  });
});

describe('U2 the columns of a file', () => {
  it('are known by their heads or names, whatever their order, case and signs', () => {
    const list = keptList('items')!;
    const found = columnsIn(list, ['list price', 'NUMBER', 'Colour', 'listPrice', '']);
    expect(found.fields.map((field) => field?.name ?? null)).toEqual(['listPrice', 'number', null, null, null]);
    expect(found.unknown).toEqual(['Colour', 'listPrice']);
    expect(found.missing).toEqual([]);
    expect(columnsIn(list, ['Name']).missing).toEqual(['Number']);
  });

  it('tell which list a file is of: its own, written out with all its heads', () => {
    for (const list of KEPT_LISTS.filter(({ grows }) => grows)) {
      const heads = list.fields.map(({ head }) => head);
      expect([list.name, listIn(`${list.name}.csv`, heads)?.name]).toEqual([list.name, list.name]);
    }
    expect(listIn('a.csv', ['Colour', 'Shape'])).toBeNull();
    expect(listIn('a.csv', ['Number', 'Name', 'Unit', 'List price'])?.name).toBe('items');
    expect(listIn('x.csv', ['Customer', 'Called', 'Street', 'Town', 'Country'])?.name).toBe('ship-tos');
  });
});

describe('U2 rows brought in', () => {
  it('are new, changed, or as they are; what a file has no column for stays', () => {
    const found = decideBringIn(
      ground(),
      lines(NEW, { number: 'salt-25', listPrice: '30' }, { ...NEW, number: 'PH-5' }),
      DAY,
    );
    expect(found).toMatchObject({ fresh: 2, changed: 1, same: 0, bad: 0, problems: [] });
    expect(found.keep.changes[1]).toMatchObject({
      id: 5,
      stamp: stampOf(SALT),
      cells: { weight: '25', listPrice: '30' },
    });
    expect(found.keep.changes[0]).toMatchObject({ id: null, cells: { route: 'stock', stocked: 'yes' } });
  });

  it('change nothing the second time, however numbers and choices are written', () => {
    const again = decideBringIn(
      ground(),
      lines({ number: 'SALT-25', listPrice: '28.50', route: 'Our stock', stocked: 'Y', outOfUse: 'false', tax: 'st' }),
      DAY,
    );
    expect(again).toMatchObject({ fresh: 0, changed: 0, same: 1, keep: { changes: [] } });
  });

  it('name every bad line, and leave the good ones', () => {
    const found = decideBringIn(
      ground(),
      lines(
        { ...NEW, listPrice: 'much' },
        NEW,
        NEW,
        { number: 'SALT-25', unit: 'sack' },
        { ...NEW, number: '', name: '' },
        { ...NEW, number: 'X', tax: 'QQ' },
        { ...NEW, number: 'Y', stocked: 'no' },
      ),
      DAY,
    );
    expect(wrong(found)).toEqual([
      '2 listPrice: not-a-number',
      '4 : named-again',
      '5 unit: only-new',
      '6 number: required',
      '6 name: required',
      '7 tax: unknown',
      '8 route: stock-not-kept',
    ]);
    expect(found).toMatchObject({ fresh: 1, bad: 6, keep: { changes: [{ cells: { number: 'CL-10' } }] } });
  });

  it('leave out what would close a circle with another of them', () => {
    const boms = ground('boms', []);
    const named = new Map(boms.named).set(
      'item',
      new Map(['a', 'b'].map((number, id) => [number, { id: id + 1, text: number.toUpperCase() }])),
    );
    const line = (item: string, component: string) => ({ item, line: '1', component, quantity: '1' });
    const found = decideBringIn({ ...boms, named, bomLines: [] }, lines(line('a', 'b'), line('b', 'a')), DAY);
    expect(wrong(found).map((each) => each.split(': ')[1])).toEqual(['bom-circle', 'bom-circle']);
    expect(found).toMatchObject({ fresh: 0, bad: 2, keep: { changes: [] } });
  });

  it('have a word where a party looks like one there is', () => {
    const at: KeepGround = {
      ...ground('customers', []),
      named: new Map<Target, Map<string, { id: number | string; text: string }>>([
        ['terms', new Map([['', { id: 1, text: '14 days' }]])],
        ['iso-currency', new Map([['myr', { id: 'MYR', text: 'MYR' }]])],
      ]),
      alike: [{ number: 'C-1', name: 'Kolam Sri Ayu', phone: '05-5550 3301', taxNumber: '' }],
    };
    const party = (number: string, name: string, phone: string) => ({ number, name, phone, currency: 'MYR' });
    const found = decideBringIn(
      at,
      lines(
        party('C-7', 'KOLAM SRI AYU', ''),
        party('C-8', 'Other', '055550 3301'),
        party('C-9', 'New', '05-5550-3301'),
      ),
      DAY,
    );
    expect(found.words.map(({ line, field, refusal }) => `${line} ${field}: ${refusal.code}`)).toEqual([
      '2 name: looks-like',
    ]);
    expect(found.fresh).toBe(3);
  });

  it('know a line before them of another part', () => {
    const found = decideBringIn(ground(), [{ line: 700, cells: NEW, before: 12 }], DAY);
    expect(found.problems).toMatchObject([{ line: 700, refusal: { code: 'named-again', facts: { line: '12' } } }]);
  });

  it('make no row where a list only changes those there are', () => {
    const found = decideBringIn(
      ground('obtaining', [row(5, { ...SALT, obtained: 'buy', method: 'atp' })]),
      lines({ number: 'NO-1', safetyStock: '4' }, { number: 'SALT-25', safetyStock: '4' }),
      DAY,
    );
    expect(wrong(found)).toEqual(['2 number: no-such-row']);
    expect(found).toMatchObject({ changed: 1, bad: 1 });
  });

  it('read days as people write them', () => {
    const found = decideBringIn(ground('rates', []), lines({ currency: 'sgd', day: '1/4', rate: '3.41' }), DAY);
    expect(found.keep.changes).toMatchObject([{ cells: { day: '2027-04-01' } }]);
    expect(wrong(decideBringIn(ground('rates', []), lines({ currency: 'SGD', day: 'soon', rate: '1' }), DAY))).toEqual([
      '2 day: not-a-day',
    ]);
  });
});

describe('U2 a file on its way', () => {
  const file = (change: Partial<BroughtGround> = {}): BroughtGround => ({
    state: 'ready',
    rowCount: 10,
    done: 10,
    fresh: 6,
    changed: 2,
    bad: 0,
    ...change,
  });
  const codes = (decision: { ok: boolean; refusals?: readonly { code: string }[] }) =>
    decision.ok ? [] : decision.refusals!.map(({ code }) => code);

  it('is taken once it was looked at, with bad lines only where the good ones are wanted', () => {
    expect(decideTakeBroughtIn(file(), false)).toMatchObject({ ok: true, effects: { lines: 8 } });
    expect(codes(decideTakeBroughtIn(file({ bad: 1 }), false))).toEqual(['run-has-bad']);
    expect(decideTakeBroughtIn(file({ bad: 1 }), true)).toMatchObject({ ok: true });
    expect(codes(decideTakeBroughtIn(file({ fresh: 0, changed: 0 }), true))).toEqual(['nothing-to-take']);
    for (const state of ['looking', 'taking', 'taken', 'stopped'] as const) {
      expect(codes(decideTakeBroughtIn(file({ state, fresh: 0, changed: 0 }), false))).toEqual(['run-not-there']);
    }
  });

  it('is looked at again while nothing works at it, and stopped while something does', () => {
    const states = ['looking', 'ready', 'taking', 'taken', 'stopped'] as const;
    expect(states.filter((state) => decideLookAgain(file({ state })).ok)).toEqual(['ready', 'taken', 'stopped']);
    expect(states.filter((state) => decideStopBroughtIn(file({ state })).ok)).toEqual(['looking', 'taking']);
    expect(decideStopBroughtIn(file({ state: 'taking', done: 4 }))).toMatchObject({ effects: { left: 6 } });
    expect(decideLookAgain(file())).toMatchObject({ effects: { lines: 10 } });
  });
});
