import * as fc from 'fast-check';
import {
  decidePromotion,
  decideStop,
  fits,
  freeGoods,
  offsFor,
  PromotionBudgets,
  type PromotedLine,
  type PromotionGround,
  type PromotionOffer,
  type PromotionTyped,
} from '.';
import { dec, sum } from '@core/kernel';

const offer = (
  change: Partial<PromotionOffer> = {},
  of: Partial<PromotionOffer['promotion']> = {},
): PromotionOffer => ({
  id: 1,
  promotion: {
    id: 7,
    number: 'PM-0007',
    name: 'Salt fortnight',
    firstDay: '2027-03-01',
    lastDay: '2027-03-14',
    running: true,
    left: '100',
    ...of,
  },
  itemId: 10,
  groupId: null,
  kind: 'percent',
  value: '10',
  from: '0',
  buy: '0',
  free: '0',
  freeItemId: null,
  ...change,
});
const bought = (quantity: string, change: Partial<PromotedLine> = {}): PromotedLine => ({
  itemId: 10,
  groupId: 3,
  quantity: dec(quantity),
  day: '2027-03-05',
  ...change,
});

describe('S13 what a promotion is for', () => {
  it.each<[string, Partial<PromotionOffer>, Partial<PromotedLine>, boolean]>([
    ['its item', {}, {}, true],
    ['another item', {}, { itemId: 11 }, false],
    ['a group', { itemId: null, groupId: 3 }, { itemId: 11 }, true],
    ['another group', { itemId: null, groupId: 4 }, {}, false],
    ['an item of no group', { itemId: null, groupId: 4 }, { groupId: null }, false],
    ['everything', { itemId: null }, { itemId: 99, groupId: null }, true],
    ['its first day', {}, { day: '2027-03-01' }, true],
    ['its last day', {}, { day: '2027-03-14' }, true],
    ['the day before', {}, { day: '2027-02-28' }, false],
    ['the day after', {}, { day: '2027-03-15' }, false],
  ])('%s', (_what, change, line, expected) => expect(fits(offer(change), bought('1', line))).toBe(expected));
});

describe('S13 what it takes off', () => {
  const off = (change: Partial<PromotionOffer>, price = '20', rate: string | null = '1', quantity = '5') =>
    offsFor([offer(change)], bought(quantity), dec(price), rate).map((each) => [
      each.off.toFixed(),
      each.unit.toFixed(),
    ]);

  it.each<[string, Partial<PromotionOffer>, string, string | null, string[][]]>([
    ['per cent of the price', {}, '20', '1', [['2', '2']]],
    ['per cent in another currency', {}, '20', '3.41', [['2', '6.82']]],
    ['so much each', { kind: 'amount', value: '3' }, '20', '1', [['3', '3']]],
    ['so much each, in another currency', { kind: 'amount', value: '3.41' }, '20', '3.41', [['1', '3.41']]],
    ['no more than the price', { kind: 'amount', value: '30' }, '20', '1', [['20', '20']]],
    ['down to a price', { kind: 'price', value: '15' }, '20', '1', [['5', '5']]],
    ['nothing where the price is lower already', { kind: 'price', value: '20' }, '20', '1', []],
    ['nothing off nothing', {}, '0', '1', []],
    ['nothing where no rate is known', {}, '20', null, []],
    ['nothing by free goods', { kind: 'free', buy: '1', free: '1' }, '20', '1', []],
    ['from so many', { from: '5' }, '20', '1', [['2', '2']]],
    ['not below so many', { from: '5.00001' }, '20', '1', []],
  ])('%s', (_what, change, price, rate, expected) => expect(off(change, price, rate)).toEqual(expected));

  it('gives the most first, of equals the older', () => {
    const offers = [offer({ id: 3 }), offer({ id: 2 }), offer({ id: 4, kind: 'amount', value: '2.5' })];
    expect(offsFor(offers, bought('1'), dec('20'), '1').map((each) => each.offer.id)).toEqual([4, 2, 3]);
  });
});

describe('S13 a budget', () => {
  it('is given while it lasts, wholly or not at all', () => {
    const budgets = new PromotionBudgets();
    const some = offer({}, { left: '10' });
    expect(budgets.takeIf(some, dec('6'))).toBe(true);
    expect(budgets.takeIf(some, dec('4.01'))).toBe(false);
    expect(budgets.takeIf(some, dec('4'))).toBe(true);
    budgets.giveBack(7, dec('3'));
    expect(budgets.left(some)!.toFixed()).toBe('3');
  });

  it('has no end where there is none; one that was stopped gives only what an order had', () => {
    const budgets = new PromotionBudgets();
    expect(budgets.left(offer({}, { left: null }))).toBeNull();
    expect(budgets.takeIf(offer({}, { left: null }), dec('1000000'))).toBe(true);
    const stopped = offer({}, { id: 8, running: false, left: null });
    expect(budgets.takeIf(stopped, dec('1'))).toBe(false);
    budgets.giveBack(8, dec('5'));
    expect(budgets.takeIf(stopped, dec('5'))).toBe(true);
  });
});

describe('S13 free goods', () => {
  const given = (
    offers: PromotionOffer[],
    lines: PromotedLine[],
    worth: (itemId: number) => string | null = () => '2',
    budgets = new PromotionBudgets(),
  ) =>
    freeGoods(
      offers,
      lines,
      (itemId) => {
        const text = worth(itemId);
        return text === null ? null : dec(text);
      },
      budgets,
    ).map((each) => [each.offer.id, each.itemId, each.quantity.toFixed(), each.beyond.toFixed()]);
  const tenOne = (change: Partial<PromotionOffer> = {}, of: Partial<PromotionOffer['promotion']> = {}) =>
    offer({ kind: 'free', value: '0', buy: '10', free: '1', ...change }, of);

  it('come by whole turns, over all lines', () => {
    expect(given([tenOne()], [bought('9')])).toEqual([]);
    expect(given([tenOne()], [bought('9'), bought('1')])).toEqual([[1, 10, '1', '0']]);
    expect(given([tenOne()], [bought('39')])).toEqual([[1, 10, '3', '0']]);
    expect(given([tenOne({ free: '2' })], [bought('20')])).toEqual([[1, 10, '4', '0']]);
  });

  it('are of another item where one is named, by all that is bought together; else each item by itself', () => {
    const all = { itemId: null, groupId: 3 };
    const lines = [bought('6'), bought('5', { itemId: 11 })];
    expect(given([tenOne({ ...all, freeItemId: 20 })], lines)).toEqual([[1, 20, '1', '0']]);
    expect(given([tenOne(all)], lines)).toEqual([]);
    expect(given([tenOne(all)], [bought('10'), bought('20', { itemId: 11 })])).toEqual([
      [1, 11, '2', '0'],
      [1, 10, '1', '0'],
    ]);
  });

  it('stop with the budget, and say what is beyond it', () => {
    expect(given([tenOne({}, { left: '5' })], [bought('40')])).toEqual([[1, 10, '2', '2']]);
    expect(given([tenOne({}, { left: '1' })], [bought('40')])).toEqual([[1, 10, '0', '4']]);
    expect(given([tenOne({}, { left: '0' })], [bought('40')], () => '0')).toEqual([[1, 10, '4', '0']]);
  });

  it('are earned by one promotion: what is worth most, of equals the older', () => {
    const offers = [tenOne({ id: 5 }), tenOne({ id: 4 }), tenOne({ id: 6, free: '2' })];
    expect(given(offers, [bought('10')])).toEqual([[6, 10, '2', '0']]);
    expect(given(offers.slice(0, 2), [bought('10')])).toEqual([[4, 10, '1', '0']]);
    expect(given([tenOne()], [bought('10')], () => null)).toEqual([]);
    expect(given([tenOne({}, { left: '1' }), tenOne({ id: 9 }, { id: 8 })], [bought('10')])).toEqual([
      [1, 10, '0', '1'],
      [9, 10, '1', '0'],
    ]);
  });

  it('never come to more than the budget, whatever is bought', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1 }),
        fc.integer({ min: 0, max: 60 }),
        (many, left) => {
          const lines = many.map((quantity, at) => bought(String(quantity), { itemId: 10 + (at % 3) }));
          const offers = [tenOne({ itemId: null, groupId: 3 }, { left: String(left) })];
          const goods = freeGoods(offers, lines, () => dec('2'), new PromotionBudgets());
          expect(sum(goods.map(({ quantity }) => quantity.times(2))).lte(left)).toBe(true);
        },
      ),
      { seed: 13 },
    );
  });
});

describe('S13 keeping one', () => {
  const line = (change: object = {}): PromotionTyped['lines'][number] => ({
    id: null,
    itemId: 10,
    groupId: null,
    kind: 'percent',
    value: '10',
    from: '',
    buy: '',
    free: '',
    freeItemId: null,
    ...change,
  });
  const typed = (change: Partial<PromotionTyped> = {}): PromotionTyped => ({
    name: ' Salt fortnight ',
    customerId: null,
    priceGroupId: null,
    firstDay: '2027-03-01',
    lastDay: '2027-03-14',
    budget: '',
    lines: [line()],
    ...change,
  });
  const ground = (change: Partial<PromotionGround> = {}): PromotionGround => ({
    now: null,
    currency: 'MYR',
    customerIds: [1],
    priceGroupIds: [2],
    items: new Map([
      [10, { number: 'SALT-25', outOfUse: false }],
      [11, { number: 'OLD', outOfUse: true }],
    ]),
    groupIds: [3],
    ...change,
  });
  const now: PromotionGround['now'] = {
    number: 'PM-0007',
    used: '40',
    lines: [
      { id: 5, lineNo: 1, itemId: 10, groupId: null, kind: 'percent', used: true },
      { id: 6, lineNo: 2, itemId: null, groupId: 3, kind: 'free', used: false },
    ],
  };
  const codes = (change: Partial<PromotionTyped>, on = ground()) => {
    const decision = decidePromotion(on, typed(change));
    return decision.ok ? [] : decision.refusals.map(({ code, field }) => `${field}: ${code}`);
  };

  it('keeps what is typed, and nothing of what its kind does not have', () => {
    expect(
      decidePromotion(
        ground(),
        typed({
          customerId: 1,
          budget: '1500.00',
          lines: [
            line({ from: '5' }),
            line({ kind: 'free', value: '3', from: '9', buy: '10', free: '1', freeItemId: 10 }),
          ],
        }),
      ),
    ).toMatchObject({
      effects: {
        name: 'Salt fortnight',
        customerId: 1,
        budget: '1500',
        lines: [
          { kind: 'percent', value: '10', from: '5', buy: '0', free: '0', freeItemId: null },
          { kind: 'free', value: '0', from: '0', buy: '10', free: '1', freeItemId: null },
        ],
        removedLineIds: [],
      },
    });
    expect(decidePromotion(ground(), typed())).toMatchObject({ effects: { budget: null, lines: [{ from: '0' }] } });
  });

  it.each<[string, Partial<PromotionTyped>, string[]]>([
    ['no name', { name: ' ' }, ['name: required']],
    ['two it is for', { customerId: 1, priceGroupId: 2 }, ['priceGroupId: either-or']],
    ['unknown ones', { customerId: 9 }, ['customerId: unknown']],
    ['an unknown group', { priceGroupId: 9 }, ['priceGroupId: unknown']],
    ['no days', { firstDay: null, lastDay: null }, ['firstDay: required', 'lastDay: required']],
    ['a day that is none', { firstDay: '2027-02-30' }, ['firstDay: not-a-day']],
    ['days the other way round', { lastDay: '2027-02-28' }, ['lastDay: days-order']],
    ['one day', { lastDay: '2027-03-01' }, []],
    ['a budget of words', { budget: 'much' }, ['budget: not-a-number']],
    ['a budget finer than its currency', { budget: '1.001' }, ['budget: not-a-number']],
    ['a budget of nothing', { budget: '0' }, ['budget: not-above-zero']],
    ['nothing it is for', { lines: [] }, ['lines: required']],
    ['an item and a group', { lines: [line({ groupId: 3 })] }, ['lines.0.groupId: either-or']],
    ['an unknown item', { lines: [line({ itemId: 99 })] }, ['lines.0.itemId: unknown']],
    ['an item out of use', { lines: [line({ itemId: 11 })] }, ['lines.0.itemId: item-out-of-use']],
    ['an unknown item group', { lines: [line({ itemId: null, groupId: 9 })] }, ['lines.0.groupId: unknown']],
    ['everything', { lines: [line({ itemId: null })] }, []],
    ['a line it has not', { lines: [line({ id: 5 })] }, ['lines.0.id: unknown']],
    ['no kind', { lines: [line({ kind: 'gift' })] }, ['lines.0.kind: required']],
    ['no value', { lines: [line({ value: '' })] }, ['lines.0.value: required']],
    ['a value of words', { lines: [line({ value: 'x' })] }, ['lines.0.value: not-a-number']],
    ['a value of nothing', { lines: [line({ value: '0' })] }, ['lines.0.value: not-above-zero']],
    ['all of it', { lines: [line({ value: '100' })] }, ['lines.0.value: not-a-discount']],
    ['nearly all of it', { lines: [line({ value: '99.9' })] }, []],
    ['an amount above a hundred', { lines: [line({ kind: 'amount', value: '120' })] }, []],
    ['from words', { lines: [line({ from: 'x' })] }, ['lines.0.from: not-a-number']],
    ['from below nothing', { lines: [line({ from: '-1' })] }, ['lines.0.from: below-zero']],
    ['free of nothing', { lines: [line({ kind: 'free' })] }, ['lines.0.buy: required', 'lines.0.free: required']],
    [
      'free of words',
      { lines: [line({ kind: 'free', buy: 'x', free: '0' })] },
      ['lines.0.buy: not-a-number', 'lines.0.free: not-above-zero'],
    ],
    [
      'an unknown gift',
      { lines: [line({ kind: 'free', buy: '1', free: '1', freeItemId: 99 })] },
      ['lines.0.freeItemId: unknown'],
    ],
    [
      'a gift out of use',
      { lines: [line({ kind: 'free', buy: '1', free: '1', freeItemId: 11 })] },
      ['lines.0.freeItemId: item-out-of-use'],
    ],
  ])('says of %s where', (_what, change, expected) => expect(codes(change)).toEqual(expected));

  it('leaves what orders have of it', () => {
    const on = ground({ now });
    const both = [line({ id: 5 }), line({ id: 6, itemId: null, groupId: 3, kind: 'free', buy: '10', free: '1' })];
    expect(codes({ lines: both, budget: '40' }, on)).toEqual([]);
    expect(codes({ lines: both, budget: '39.99' }, on)).toEqual(['budget: budget-below-used']);
    expect(codes({ lines: both.slice(1) }, on)).toEqual(['lines: promotion-line-used']);
    expect(decidePromotion(on, typed({ lines: both.slice(0, 1) }))).toMatchObject({ effects: { removedLineIds: [6] } });
    for (const change of [{ itemId: null }, { itemId: null, groupId: 3 }, { kind: 'amount' }]) {
      expect(codes({ lines: [line({ id: 5, ...change }), both[1]!] }, on)).toEqual([
        'lines.0.itemId: promotion-line-used',
      ]);
    }
    expect(codes({ lines: [line({ id: 5, value: '12' }), line({ id: 6, kind: 'amount' })] }, on)).toEqual([]);
  });

  it('stops with why, and goes on', () => {
    const running = { number: 'PM-0007', state: 'running' as const };
    expect(decideStop(running, 'stopped', ' sold out ')).toMatchObject({
      effects: { state: 'stopped', reason: 'sold out' },
    });
    expect(decideStop(running, 'stopped', ' ')).toMatchObject({ refusals: [{ code: 'required', field: 'reason' }] });
    expect(decideStop(running, 'running', '')).toMatchObject({ refusals: [{ code: 'state-so-already' }] });
    expect(decideStop({ ...running, state: 'stopped' }, 'running', 'x')).toMatchObject({
      effects: { state: 'running', reason: '' },
    });
  });
});
