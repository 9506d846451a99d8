import { decideCancelWork } from './cancel';
import { expectedCosts } from './cost';
import { tiesBeyond, workGivenBack, type WorkOfLine } from './given-back';
import { decideParts, type PartsGround, type PartsTyped } from './parts';
import { decideAssembly } from './ship';
import { decideTakeBackWork, type ReportNow, type TakenBackGround } from './take-back';
import { component, ground, operation, workOrder, workTie } from './testing';
import {
  decideTieWork,
  decideUntieWork,
  rankOfFit,
  unfit,
  untiedOf,
  whyOfFit,
  type ServedLine,
  type TiedWork,
} from './ties';

const work = (change: Partial<TiedWork> = {}): TiedWork => ({
  id: 7,
  version: 1,
  number: 'AS-7',
  kind: 'assemble',
  state: 'firm',
  itemId: 1,
  item: 'SK-D2',
  locationId: 0,
  quantity: '5',
  finished: '1',
  scrapped: '1',
  held: '1',
  dueDate: '2027-03-10',
  chosen: '',
  ...change,
});
const line = (change: Partial<ServedLine> = {}): ServedLine => ({
  orderLineId: 41,
  order: { id: 4, number: 'SO-4', state: 'confirmed', version: 1 },
  lineNo: 1,
  itemId: 1,
  locationId: 0,
  straight: false,
  shipDate: '2027-03-12',
  wanted: '3',
  chosen: '',
  ...change,
});
const refused = (decision: { ok: boolean; refusals?: readonly { field: string; code: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ field, code }) => `${field}: ${code}`);

describe('W4 whom what is made is for', () => {
  it('is what is still to come and for nobody', () => {
    expect(untiedOf(work()).toFixed()).toBe('2');
    expect(untiedOf(work({ held: '9' })).toFixed()).toBe('0');
  });

  it.each<[string, Partial<TiedWork>, Partial<ServedLine>, string | null]>([
    ['fits', {}, {}, null],
    ['runs', { state: 'running' }, {}, null],
    ['is planned', { state: 'planned' }, {}, null],
    ['is finished', { state: 'finished' }, {}, 'work-not-open'],
    ['is cancelled', { state: 'cancelled' }, {}, 'work-not-open'],
    ['is for a draft', {}, { order: { id: 4, number: 'SO-4', state: 'draft', version: 1 } }, 'order-not-confirmed'],
    ['makes another item', {}, { itemId: 2 }, 'work-other-item'],
    ['is elsewhere', {}, { locationId: 1 }, 'work-other-place'],
    ['is made another way', { chosen: '3,8' }, {}, 'work-other-options'],
    ['was chosen another way', { chosen: '3' }, { chosen: '3,8' }, 'work-other-options'],
    ['goes from the vendor', {}, { straight: true }, 'work-other-place'],
  ])('one that %s', (_what, of, at, code) => expect(unfit(work(of), line(at))?.code ?? null).toBe(code));

  const tie = (quantity: string, change = {}) => ({ plannedId: 7, orderLineId: 41, quantity, ...change });
  const tying = (
    ties: ReturnType<typeof tie>[],
    works = [work()],
    lines = [line(), line({ orderLineId: 42, wanted: '1' })],
  ) => decideTieWork({ works, lines, ties: [] }, { ties });

  it('is tied in parts, as far as both ends have something left; what was only planned is firm with it', () => {
    expect(tying([tie('2')])).toMatchObject({ ok: true, effects: { ties: [tie('2')], firm: [] } });
    expect(tying([tie('1.0')], [work({ state: 'planned' })])).toMatchObject({
      effects: { ties: [tie('1')], firm: [7] },
    });
    expect(refused(tying([tie('3')]))).toEqual(['ties.0.quantity: above-tieable']);
    expect(refused(tying([tie('1'), tie('2', { orderLineId: 42 })]))).toEqual(['ties.1.quantity: above-tieable']);
    expect(refused(tying([tie('1'), tie('1', { orderLineId: 42 })]))).toEqual([]);
    expect(refused(tying([tie('2'), tie('1', { orderLineId: 42 })]))).toEqual(['ties.1.quantity: above-tieable']);
    const many = [work({ quantity: '50' })];
    expect(refused(tying([tie('2'), tie('2')], many))).toEqual(['ties.1.quantity: above-tieable']);
    expect(refused(tying([tie('3')], many))).toEqual([]);
    expect(refused(tying([tie('4')], many))).toEqual(['ties.0.quantity: above-tieable']);
  });

  it.each<[string, ReturnType<typeof tie>, string]>([
    ['an order nobody knows', tie('1', { plannedId: 9 }), 'ties.0.plannedId: unknown'],
    ['a line nobody knows', tie('1', { orderLineId: 9 }), 'ties.0.orderLineId: unknown'],
    ['words', tie('one'), 'ties.0.quantity: not-a-number'],
    ['nothing', tie('0'), 'ties.0.quantity: not-above-zero'],
    ['less', tie('-1'), 'ties.0.quantity: not-above-zero'],
  ])('refuses %s', (_what, asked, code) => expect(refused(tying([asked]))).toEqual([code]));

  it('does not tie what does not fit, at its place', () => {
    expect(refused(tying([tie('1')], [work({ itemId: 3 })]))).toEqual(['ties.0.plannedId: work-other-item']);
  });

  it('is let go of as far as nothing of it came', () => {
    const untying = (of: Partial<TiedWork>, made: string) =>
      decideUntieWork(
        { works: [work(of)], lines: [line()], ties: [{ plannedId: 7, orderLineId: 41, quantity: '3', made }] },
        { plannedId: 7, orderLineId: 41 },
      );
    expect(untying({}, '0')).toMatchObject({ effects: { ties: [{ quantity: '3', gone: true }], firm: [] } });
    expect(untying({}, '1')).toMatchObject({ effects: { ties: [{ quantity: '2', gone: false }] } });
    expect(untying({ state: 'planned' }, '0')).toMatchObject({ effects: { firm: [7] } });
    expect(refused(untying({}, '3'))).toEqual([': all-made']);
    expect(refused(untying({ state: 'finished' }, '0'))).toEqual([': work-not-open']);
    expect(refused(untying({ state: 'cancelled' }, '0'))).toEqual([': work-not-open']);
    const nothing = { works: [], lines: [], ties: [] };
    expect(refused(decideUntieWork(nothing, { plannedId: 7, orderLineId: 41 }))).toEqual([': unknown']);
  });

  it('is offered in rank: in time before late, the nearest day, the line that ships first, the nearest quantity', () => {
    const fits = [
      { work: work({ id: 1, dueDate: '2027-03-20' }), line: line() },
      { work: work({ id: 2, dueDate: '2027-03-13' }), line: line() },
      { work: work({ id: 3, dueDate: '2027-03-01' }), line: line() },
      { work: work({ id: 4, dueDate: '2027-03-11' }), line: line() },
      { work: work({ id: 5, dueDate: '2027-03-11' }), line: line({ shipDate: '2027-03-11' }) },
      { work: work({ id: 6, dueDate: '2027-03-11', quantity: '6' }), line: line() },
    ];
    const text = (at: (typeof fits)[number]) =>
      rankOfFit(at)
        .map((each) => (typeof each === 'number' ? String(each).padStart(6, '0') : each))
        .join(' ');
    const ranked = [...fits].sort((a, b) => (text(a) < text(b) ? -1 : 1)).map(({ work: { id } }) => id);
    expect(ranked).toEqual([5, 6, 4, 3, 2, 1]);
    expect(whyOfFit(work(), line({ wanted: '2' }))).toBe('in time, all of it');
    expect(whyOfFit(work({ dueDate: '2027-03-13' }), line())).toBe('later than it ships, part of it');
    expect(whyOfFit(work({ dueDate: '2027-03-12' }), line({ wanted: '1' }))).toBe('in time, more than is wanted');
  });
});

describe('S6 what becomes of it where its line is given up', () => {
  const of = (change: Partial<WorkOfLine> = {}): WorkOfLine => ({
    plannedId: 7,
    orderLineId: 41,
    madeToOrder: true,
    begun: false,
    quantity: '2',
    made: '0',
    held: '2',
    ...change,
  });
  it('is not made where it was made for it alone and nobody began it', () =>
    expect(workGivenBack([of()])).toEqual({ cancelled: [7], untied: [] }));
  it.each<[string, Partial<WorkOfLine>, string, boolean]>([
    ['it was begun', { begun: true }, '2', true],
    ['it is for others too', { held: '3' }, '2', true],
    ['the line goes from stock', { madeToOrder: false }, '2', true],
    ['some of it came', { made: '1', begun: true, held: '1' }, '1', false],
  ])('goes on for nobody where %s', (_what, change, quantity, gone) =>
    expect(workGivenBack([of(change)])).toEqual({
      cancelled: [],
      untied: [{ plannedId: 7, orderLineId: 41, quantity, gone }],
    }),
  );
  it('stays where all of it came', () =>
    expect(workGivenBack([of({ made: '2', held: '0' })])).toEqual({ cancelled: [], untied: [] }));

  it('is for nobody as far as its line went out from elsewhere, the last tie first', () => {
    const ties = [
      { plannedId: 1, orderLineId: 41, quantity: '2', made: '0' },
      { plannedId: 2, orderLineId: 41, quantity: '3', made: '1' },
      { plannedId: 3, orderLineId: 42, quantity: '1', made: '0' },
    ];
    expect(tiesBeyond(ties, new Map([[41, '4']]))).toEqual([]);
    expect(tiesBeyond(ties, new Map([[41, '3']]))).toEqual([
      { plannedId: 2, orderLineId: 41, quantity: '1', gone: false },
    ]);
    expect(tiesBeyond(ties, new Map([[41, '1']]))).toEqual([
      { plannedId: 2, orderLineId: 41, quantity: '2', gone: false },
      { plannedId: 1, orderLineId: 41, quantity: '1', gone: false },
    ]);
    expect(
      tiesBeyond(
        ties,
        new Map([
          [41, '0'],
          [42, '0'],
        ]),
      ).map(({ plannedId, gone }) => [plannedId, gone]),
    ).toEqual([
      [2, false],
      [1, true],
      [3, true],
    ]);
  });
});

describe('W1 what goes into one order', () => {
  const parts = (change: Partial<PartsGround> = {}): PartsGround => ({
    order: workOrder(),
    components: [component(), component({ id: 22, itemId: 3, item: 'TUBE', whole: false, quantity: '25.2' })],
    operations: [operation()],
    currency: 'MYR',
    items: new Map([
      [2, { id: 2, number: 'PM-15', whole: true, expectedCost: '10', weight: '4', outOfUse: false }],
      [3, { id: 3, number: 'TUBE', whole: false, expectedCost: '2', weight: '', outOfUse: false }],
      [5, { id: 5, number: 'PM-30', whole: true, expectedCost: '25', weight: '6', outOfUse: false }],
      [1, { id: 1, number: 'SK-D2', whole: true, expectedCost: '0', weight: '', outOfUse: false }],
      [8, { id: 8, number: 'PM-9', whole: true, expectedCost: '1', weight: '', outOfUse: true }],
    ]),
    neededOn: '2027-03-02',
    above: new Set([1]),
    ...change,
  });
  const row = (change: Partial<PartsTyped['components'][number]> = {}) => ({
    id: 21 as number | null,
    itemId: 2 as number | null,
    quantity: '8',
    operationNo: 10 as number | null,
    ...change,
  });
  const tube = row({ id: 22, itemId: 3, quantity: '25.2', operationNo: null });

  it('is changed with what that costs and weighs, and was', () => {
    const decision = decideParts(parts(), {
      components: [row({ itemId: 5, quantity: '8.0' }), row({ id: null, itemId: 3, quantity: '1.5' })],
    });
    expect(decision).toMatchObject({
      ok: true,
      effects: {
        gone: [22],
        kept: [{ id: 21, itemId: 5, quantity: '8', operationNo: 10, cost: '200' }],
        added: [{ itemId: 3, quantity: '1.5', operationNo: 10, neededOn: '2027-03-02', cost: '3' }],
        cost: '243',
        was: '170.4',
        weight: '16',
      },
    });
  });

  it.each<[string, Partial<PartsGround>, PartsTyped['components'], string[]]>([
    ['one that is finished', { order: workOrder({ state: 'finished' }) }, [row()], [': work-not-open']],
    ['one that is cancelled', { order: workOrder({ state: 'cancelled' }) }, [row()], [': work-not-open']],
    ['a row of another', {}, [row({ id: 99 }), tube], ['components.0.id: unknown']],
    ['no item', {}, [row({ itemId: null }), tube], ['components.0.itemId: required']],
    ['itself', {}, [row({ id: null, itemId: 1 }), row(), tube], ['components.0.itemId: goes-into-itself']],
    ['an operation of another', {}, [row({ operationNo: 77 }), tube], ['components.0.operationNo: unknown']],
    ['words', {}, [row({ quantity: 'x' }), tube], ['components.0.quantity: not-a-number']],
    ['nothing', {}, [row({ quantity: '0' }), tube], ['components.0.quantity: not-above-zero']],
    ['what is out of use', {}, [row({ itemId: 8 }), tube], ['components.0.itemId: item-out-of-use']],
    ['half a pump', {}, [row({ quantity: '7.5' }), tube], ['components.0.quantity: whole-pieces']],
    [
      'less than was used',
      { components: [component({ used: '3' })] },
      [row({ quantity: '2' })],
      ['components.0.quantity: below-used'],
    ],
    [
      'less than is planned',
      { components: [component({ covered: '3' })] },
      [row({ quantity: '2' })],
      ['components.0.quantity: below-planned'],
    ],
    ['one left out that was used', { components: [component({ used: '1' })] }, [], [': component-used']],
    ['one left out that is planned for', { components: [component({ covered: '1' })] }, [], [': component-planned']],
    [
      'one left out that was reported once',
      { components: [component({ reported: true })] },
      [],
      [': component-reported'],
    ],
    [
      'one replaced that was used',
      { components: [component({ used: '1' })] },
      [row({ itemId: 5 })],
      ['components.0.itemId: component-used'],
    ],
  ])('refuses %s', (_what, change, components, codes) =>
    expect(refused(decideParts(parts(change), { components }))).toEqual(codes),
  );

  it('may be lessened to what was used, or planned', () => {
    for (const change of [{ used: '3' }, { covered: '3' }]) {
      expect(decideParts(parts({ components: [component(change)] }), { components: [row({ quantity: '3' })] }).ok).toBe(
        true,
      );
    }
  });
});

describe('W4 an order that is not made', () => {
  it('takes what is only planned below along, as long as nothing was reported', () => {
    expect(decideCancelWork({ order: workOrder(), reports: 0, below: [8, 9] })).toMatchObject({
      effects: { cancelled: [7, 8, 9] },
    });
    expect(refused(decideCancelWork({ order: workOrder(), reports: 1, below: [] }))).toEqual([': work-begun']);
    expect(refused(decideCancelWork({ order: workOrder({ inWork: '1' }), reports: 0, below: [] }))).toEqual([
      ': work-begun',
    ]);
    expect(refused(decideCancelWork({ order: workOrder({ scrapped: '1' }), reports: 0, below: [] }))).toEqual([
      ': work-begun',
    ]);
    expect(refused(decideCancelWork({ order: workOrder({ state: 'finished' }), reports: 0, below: [] }))).toEqual([
      ': work-not-open',
    ]);
    expect(refused(decideCancelWork({ order: workOrder({ state: 'cancelled' }), reports: 0, below: [] }))).toEqual([
      ': work-not-open',
    ]);
  });
});

describe('W1 what one is reckoned at', () => {
  const item = (id: number, known: string | null, parts: [number, string][] = [], work_: [string, string][] = []) => ({
    id,
    known,
    parts: parts.map(([itemId, quantity]) => ({ itemId, quantity })),
    work: work_.map(([minutes, hourCost]) => ({ minutes, hourCost })),
  });
  const costs = (...items: ReturnType<typeof item>[]) =>
    Object.fromEntries([...expectedCosts(items)].map(([id, cost]) => [id, cost.toFixed()]));
  it('is what is known of it, else its parts and its work, all the way down', () => {
    expect(
      costs(
        item(
          1,
          null,
          [
            [2, '2'],
            [3, '1.5'],
          ],
          [['30', '60']],
        ),
        item(2, '4'),
        item(3, null, [[2, '1']]),
      ),
    ).toEqual({
      1: '44',
      2: '4',
      3: '4',
    });
    expect(costs(item(1, '9', [[2, '2']]), item(2, '4'))).toMatchObject({ 1: '9' });
  });
  it('adds nothing where nothing is known, nor round a circle', () => {
    expect(costs(item(1, null, [[2, '2']]), item(2, null, [[1, '1']], [['60', '5']]))).toMatchObject({ 1: '10' });
    expect(costs(item(1, null, [[9, '2']]))).toEqual({ 1: '0' });
  });
});

describe('P5 what is assembled as it ships', () => {
  const short = (lineId: number, much: string) => ({ lineId, short: much, field: `lines.${lineId}` });
  const order = (change = {}) =>
    ground({
      order: workOrder(change),
      ties: [workTie({ quantity: '3', wanted: '3' }), workTie({ orderLineId: 42, quantity: '1', wanted: '1' })],
    });

  it('is as much as is short of the lines that ship, and for them alone', () => {
    const decision = decideAssembly([order()], [short(42, '1'), short(41, '2')]);
    expect(decision).toMatchObject({
      effects: [
        {
          at: 0,
          effects: {
            good: '3',
            ties: [
              { orderLineId: 41, made: '2' },
              { orderLineId: 42, made: '1' },
            ],
          },
        },
      ],
    });
    expect(decideAssembly([order()], [short(42, '1')])).toMatchObject({
      effects: [{ effects: { good: '1', ties: [{ orderLineId: 42, made: '1' }] } }],
    });
    expect(decideAssembly([order()], [short(99, '1')])).toMatchObject({ effects: [] });
    expect(decideAssembly([order({ state: 'planned' })], [short(41, '1')])).toMatchObject({ effects: [] });
  });

  it('takes no more than the order has left, and what one uses is not there for the next', () => {
    const left = ground({
      order: workOrder({ state: 'running', finished: '3', plannedCost: '210.4' }),
      operations: [],
      ties: [workTie({ quantity: '3', made: '1', wanted: '2' })],
    });
    expect(decideAssembly([left], [short(41, '2')])).toMatchObject({ effects: [{ effects: { good: '1' } }] });
    const there = { onHand: '10', reserved: '0', value: '100' };
    const one = { ...order(), components: [component({ there })] };
    const two = {
      ...order({ id: 8 }),
      components: [component({ there })],
      ties: [workTie({ orderLineId: 43, quantity: '4', wanted: '4' })],
    };
    const both = decideAssembly([one, two], [short(41, '3'), short(43, '3')]);
    expect(refused(both)).toEqual(['lines.43: component-short']);
    expect(decideAssembly([one, two], [short(41, '3'), short(43, '2')])).toMatchObject({
      effects: [{ effects: { materialCost: '60' } }, { effects: { materialCost: '40' } }],
    });
  });
});

describe('P1 a report taken back', () => {
  const report = (change: Partial<ReportNow> = {}): ReportNow => ({
    id: 5,
    number: 'WR-5',
    good: '2',
    scrapped: '0',
    materialCost: '60',
    labourCost: '20',
    outputCost: '70',
    scrapCost: '0',
    variance: '10',
    finishes: true,
    forParent: '0',
    parentReleased: '0',
    reverses: '',
    reversedBy: '',
    components: [],
    operations: [{ operationId: 31, done: '2', scrapped: '0', minutes: 40, cost: '20' }],
    ties: [{ orderLineId: 41, order: 'SO-4', made: '1', released: '1', reserved: '1', wanted: '0' }],
    ...change,
  });
  const taken = (change: Partial<TakenBackGround> = {}): TakenBackGround => ({
    order: workOrder({ state: 'finished', finished: '4' }),
    operations: [operation({ done: '4', minutesDone: 80 })],
    product: { onHand: '4', reserved: '1', value: '120' },
    parents: [],
    report: report(),
    others: 1,
    parentOpen: false,
    uncovered: new Map(),
    ...change,
  });
  const back = (change: Partial<TakenBackGround> = {}, reason = 'wrong') =>
    decideTakeBackWork(taken(change), { reason });

  it('puts all of it back: what came out leaves at what it came at, or at what is left where that is less', () => {
    expect(back()).toMatchObject({
      effects: {
        reason: 'wrong',
        value: '70',
        stockDifference: '0',
        inWork: '0',
        state: 'running',
        ties: [{ orderLineId: 41, made: '1', again: '1' }],
      },
    });
    expect(back({ product: { onHand: '4', reserved: '1', value: '50' } })).toMatchObject({
      effects: { value: '50', stockDifference: '-20' },
    });
    expect(back({ product: { onHand: '2', reserved: '1', value: '90' } })).toMatchObject({
      effects: { value: '90', stockDifference: '20' },
    });
    const variance = report({ variance: '-5', scrapCost: '3' });
    expect(back({ report: variance, order: workOrder({ state: 'finished', inWork: '0' }) })).toMatchObject({
      effects: { inWork: '-12' },
    });
    expect(back({ report: report({ ties: [{ ...report().ties[0]!, released: '5', wanted: '2' }] }) })).toMatchObject({
      effects: { ties: [{ again: '3' }] },
    });
  });

  it('leaves it as if nobody began where nothing else stands', () => {
    const first = {
      order: workOrder({ state: 'finished' }),
      operations: [operation({ done: '2', minutesDone: 40 })],
      others: 0,
    };
    expect(back(first)).toMatchObject({ effects: { state: 'firm' } });
    expect(back({ ...first, operations: [operation({ done: '2', minutesDone: 45 })] })).toMatchObject({
      effects: { state: 'running' },
    });
  });

  it.each<[string, Partial<TakenBackGround>, string, string[]]>([
    ['without a reason', {}, ' ', ['reason: required']],
    ['twice', { report: report({ reversedBy: 'WR-6' }) }, 'x', [': reversed-already']],
    ['what takes another back', { report: report({ reverses: 'WR-4' }) }, 'x', [': is-reversal']],
    ['an earlier one of a finished order', { report: report({ finishes: false }) }, 'x', [': work-finished']],
    [
      'one that others stand on',
      { operations: [operation({ done: '4' }), operation({ id: 32, no: 20, done: '3' })] },
      'x',
      [': report-built-on'],
    ],
    [
      'what is held for its line no more',
      { report: report({ ties: [{ ...report().ties[0]!, reserved: '0' }] }) },
      'x',
      [': made-goods-gone'],
    ],
    ['what went out', { product: { onHand: '1', reserved: '1', value: '30' } }, 'x', [': goods-gone']],
  ])('refuses %s', (_what, change, reason, codes) => expect(refused(back(change, reason))).toEqual(codes));

  it('is expected again by the order it is for, as far as nothing else comes there', () => {
    const of = {
      report: report({ forParent: '2', parentReleased: '1', ties: [] }),
      parents: [
        { componentId: 91, covered: '0' },
        { componentId: 92, covered: '0' },
      ],
      uncovered: new Map([
        [91, '1'],
        [92, '5'],
      ]),
    };
    expect(back({ ...of, parentOpen: true })).toMatchObject({
      effects: {
        parents: [
          { componentId: 91, again: '1' },
          { componentId: 92, again: '2' },
        ],
      },
    });
    expect(back({ ...of, parentOpen: false })).toMatchObject({ effects: { parents: [] } });
  });
});
