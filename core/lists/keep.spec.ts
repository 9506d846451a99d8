import { sentenceOf } from '@core/refusals';
import {
  changesField,
  decideKeep,
  keptList,
  stampOf,
  KEPT_LISTS,
  type Cells,
  type KeepGround,
  type KeptRow,
  type Target,
} from './index';

const row = (id: number, cells: Cells): KeptRow => ({ id, stamp: stampOf(cells), cells });
const PRICE = {
  item: 'FC-10',
  customer: '',
  group: '',
  unit: 'box',
  from: '4',
  price: '145',
  currency: 'MYR',
  firstDay: '',
  lastDay: '',
};

const ground = (list: string, rows: KeptRow[] = [], more: Partial<KeepGround> = {}): KeepGround => ({
  list: keptList(list)!,
  rows,
  named: new Map<Target, Map<string, { id: number | string; text: string } | 'several'>>([
    [
      'item',
      new Map([
        ['fc-10', { id: 10, text: 'FC-10' }],
        ['fc-20', { id: 20, text: 'FC-20' }],
      ]),
    ],
    [
      'customer',
      new Map<string, { id: number; text: string } | 'several'>([
        ['c-1001', { id: 1, text: 'Teratai Bay Resort' }],
        ['twins', 'several'],
      ]),
    ],
    ['price-group', new Map([['growers', { id: 7, text: 'Growers' }]])],
    ['currency', new Map([['myr', { id: 'MYR', text: 'MYR' }]])],
    ['series', new Map([['coconut carbon', { id: 3, text: 'Coconut carbon' }]])],
  ]),
  units: new Map([
    [10, ['piece', 'box']],
    [20, ['piece']],
  ]),
  used: new Set(),
  ...more,
});

const add = (list: string, ...rows: Cells[]) =>
  decideKeep(ground(list), { changes: rows.map((cells) => ({ id: null, stamp: '', cells })), removed: [] });
const refused = (decision: ReturnType<typeof decideKeep>) =>
  decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);

describe('lists that are kept', () => {
  it('tell every cell: what is named becomes its id, what is left out its rest', () => {
    const decision = add('prices', { ...PRICE, item: 'fc-10', customer: 'C-1001', price: '1,450.50', from: '' });
    if (!decision.ok) throw new Error(refused(decision).join());
    expect(decision.effects.added).toEqual([
      {
        item: 10,
        customer: 1,
        group: null,
        unit: 'box',
        from: '0',
        price: '1450.5',
        currency: 'MYR',
        firstDay: null,
        lastDay: null,
      },
    ]);
  });

  it.each<[string, string, Cells, string[]]>([
    ['an item nobody has', 'prices', { ...PRICE, item: 'XX' }, ['item: unknown']],
    ['what is needed and empty', 'prices', { ...PRICE, item: '', price: '' }, ['item: required', 'price: required']],
    ['a name that several go by', 'prices', { ...PRICE, customer: 'Twins' }, ['customer: several-named']],
    ['a unit the item is not sold in', 'prices', { ...PRICE, item: 'FC-20' }, ['unit: unit-unknown']],
    [
      'no price and no number',
      'prices',
      { ...PRICE, price: '0', from: 'many' },
      ['from: not-a-number', 'price: not-above-zero'],
    ],
    ['a day that is none', 'prices', { ...PRICE, firstDay: '2027-02-30' }, ['firstDay: not-a-day']],
    [
      'a period that ends before it begins',
      'prices',
      { ...PRICE, firstDay: '2027-03-02', lastDay: '2027-03-01' },
      ['lastDay: period-reversed'],
    ],
    ['a price for two', 'prices', { ...PRICE, customer: 'C-1001', group: 'Growers' }, ['group: either-or']],
    ['an amount without a currency', 'allowances', { measure: 'amount', perCent: '2' }, ['currency: required']],
    [
      'a weight in a currency',
      'allowances',
      { measure: 'weight', perCent: '2', currency: 'MYR' },
      ['currency: either-or'],
    ],
    ['all of an invoice', 'allowances', { measure: 'weight', perCent: '100' }, ['perCent: not-a-number']],
    ['what no choice offers', 'allowances', { measure: 'height', perCent: '2' }, ['measure: unknown']],
    ['the unit it is counted in', 'units', { item: 'FC-10', unit: 'piece', factor: '1' }, ['unit: own-unit']],
    [
      'a part of a day',
      'vendor-items',
      { item: 'FC-10', vendor: '', price: '4', leadDays: '1.5' },
      ['vendor: required', 'leadDays: not-a-number'],
    ],
    ['an approval for nothing', 'approvals', { vendor: '', firstDay: '2027-01-01' }, ['vendor: required']],
    ['words that are too long', 'freight', { zone: 'z'.repeat(21), perKilogram: '1' }, ['zone: too-long']],
    ['less than nothing', 'freight', { zone: 'north', perKilogram: '-1' }, ['perKilogram: below-zero']],
  ])('refuse %s at its cell', (_what, list, cells, fields) => {
    expect(refused(add(list, cells))).toEqual(fields.map((field) => `changes.0.${field}`));
  });

  it('refuse nothing at all, and rows where none are added', () => {
    expect(refused(decideKeep(ground('prices'), { changes: [], removed: [] }))).toEqual([': nothing-typed']);
    expect(refused(add('group-accounts', { revenue: '' }))).toEqual(['changes.0: row-stays']);
  });

  it('say a row twice to nobody: neither with one that stands nor with one typed beside it', () => {
    const standing = row(5, { ...PRICE, price: '150' });
    const one = { id: null, stamp: '', cells: PRICE };
    const on = ground('prices', [standing]);
    expect(refused(decideKeep(on, { changes: [one], removed: [] }))).toEqual(['changes.0: row-twice']);
    expect(refused(add('prices', PRICE, { ...PRICE, item: 'fc-10', price: '9' }))).toEqual(['changes.1: row-twice']);
    // What goes, or becomes another, makes room.
    expect(decideKeep(on, { changes: [one], removed: [{ id: 5, stamp: standing.stamp }] }).ok).toBe(true);
    const other = { id: 5, stamp: standing.stamp, cells: { ...PRICE, from: '8' } };
    expect(decideKeep(on, { changes: [one, other], removed: [] }).ok).toBe(true);
  });

  it('refuse a row that is changed and removed at once', () => {
    const standing = row(5, PRICE);
    const change = { id: 5, stamp: standing.stamp, cells: { ...PRICE, price: '1' } };
    const typed = { changes: [change], removed: [{ id: 5, stamp: standing.stamp }] };
    expect(refused(decideKeep(ground('prices', [standing]), typed))).toEqual(['changes.0: row-gone']);
  });

  it('tell whether a field becomes another', () => {
    const on = ground('prices', [row(5, PRICE)]);
    const effects = { added: [], changed: [], removed: [] };
    const change = (price: string) => ({ ...effects, changed: [{ id: 5, values: { ...PRICE, price } }] });
    expect(changesField(effects, on, 'price')).toBe(false);
    expect(changesField(change(PRICE.price), on, 'price')).toBe(false);
    expect(changesField(change('999'), on, 'price')).toBe(true);
    expect(changesField({ ...effects, added: [{ price: '1' }] }, on, 'price')).toBe(true);
    expect(changesField({ ...effects, added: [{ price: null }] }, on, 'price')).toBe(false);
  });

  it('G2 refuse a row that is not the one that was seen, or not there', () => {
    const standing = row(5, PRICE);
    const typed = { cells: { ...PRICE, price: '1' } };
    const on = ground('prices', [standing]);
    expect(refused(decideKeep(on, { changes: [{ id: 5, stamp: 'older', ...typed }], removed: [] }))).toEqual([
      'changes.0: row-changed',
    ]);
    expect(refused(decideKeep(ground('prices'), { changes: [{ id: 6, stamp: '', ...typed }], removed: [] }))).toEqual([
      'changes.0: row-gone',
    ]);
    expect(refused(decideKeep(on, { changes: [], removed: [{ id: 5, stamp: 'older' }] }))).toEqual([
      'removed.0: row-changed',
    ]);
  });

  it('keep what other documents hold on to', () => {
    const standing = row(7, { name: 'Growers' });
    const decision = decideKeep(ground('price-groups', [standing], { used: new Set([7]) }), {
      changes: [],
      removed: [{ id: 7, stamp: standing.stamp }],
    });
    expect(decision.ok ? '' : sentenceOf(decision.refusals[0]!)).toBe(
      'Growers is in use and stays; what uses it must go first.',
    );
  });

  it('never change what is only shown', () => {
    const shown = {
      number: 'GAC-25',
      name: 'Carbon',
      costBasis: '',
      series: '',
      factor: '1',
      offset: '0',
      surcharge: '0',
      margin: '0',
    };
    const standing = row(9, shown);
    const change = {
      id: 9,
      stamp: standing.stamp,
      cells: { ...shown, number: 'other', costBasis: 'series', series: 'Coconut carbon', offset: '-2' },
    };
    const decision = decideKeep(ground('costs', [standing]), { changes: [change], removed: [] });
    if (!decision.ok) throw new Error(refused(decision).join());
    expect(decision.effects.changed).toEqual([
      {
        id: 9,
        values: { costBasis: 'series', series: 3, factor: '1', offset: '-2', surcharge: '0', margin: '0' },
      },
    ]);
    const without = { ...change, cells: { ...change.cells, series: '' } };
    expect(refused(decideKeep(ground('costs', [standing]), { changes: [without], removed: [] }))).toEqual([
      'changes.0.series: required',
    ]);
  });

  it('keep bar codes as 14 digits, and refuse what is none', () => {
    const keep = (code: string) => add('bar-codes', { item: 'FC-10', code, quantity: '' });
    expect(keep('4006381333931')).toMatchObject({ effects: { added: [{ code: '04006381333931', quantity: '1' }] } });
    expect(refused(keep('4006381333932'))).toEqual(['changes.0.code: not-a-gtin']);
  });

  it('are told apart by fields they have', () => {
    for (const list of KEPT_LISTS) {
      const names = list.fields.map((field) => field.name);
      expect([list.name, list.keys.flat().filter((name) => !names.includes(name))]).toEqual([list.name, []]);
      if (list.within) expect(list.keys.every((key) => key.includes(list.within!))).toBe(true);
    }
  });
});
