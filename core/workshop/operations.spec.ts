import { sentenceOf } from '../refusals';
import { groundRows, oneShift } from '../promise/testing';
import { decideOperations, firstChanged, withOwnRouting, type LaidNow, type OperationsTyped } from './operations';
import { component, operation, workOrder } from './testing';

/** Monday 1 March; eight hours a day on each centre, five days a week. */
const rows = groundRows({
  centres: [
    { id: 1, code: 'BENCH', name: 'Bench', machines: 1, shifts: oneShift(480), calendarId: 1 },
    { id: 2, code: 'TEST', name: 'Test stand', machines: 1, shifts: oneShift(480), calendarId: 1 },
    { id: 3, code: 'SHUT', name: 'Shut', machines: 1, shifts: [], calendarId: 1 },
  ],
});
const laidAt = { centreId: 1, parallel: 1, reported: false };
const mount = (change: Partial<LaidNow> = {}): LaidNow => ({
  ...operation({ id: 31, no: 10, name: 'Mount', minutes: 480, hourCost: '30' }),
  ...laidAt,
  firstDay: '2027-03-02',
  lastDay: '2027-03-02',
  ...change,
});
const wire = (change: Partial<LaidNow> = {}): LaidNow => ({
  ...operation({ id: 32, no: 20, name: 'Wire', minutes: 240, hourCost: '30' }),
  ...laidAt,
  firstDay: '2027-03-03',
  lastDay: '2027-03-03',
  ...change,
});
const ground = (operations: LaidNow[] = [mount(), wire()], order = workOrder()) => ({
  order,
  operations,
  components: [component({ operationNo: 10 }), component({ id: 22, operationNo: 20, quantity: '4' })],
  currency: 'MYR',
  start: '2027-03-02',
  due: '2027-03-03',
  centres: new Map([
    [1, { name: 'Bench', hourCost: '30' }],
    [2, { name: 'Test stand', hourCost: '60' }],
    [3, { name: 'Shut', hourCost: '1' }],
  ]),
  rows,
});
type Row = OperationsTyped['operations'][number];
const kept = ({ id, no, name, centreId, minutes }: LaidNow, change: Partial<Row> = {}): Row => ({
  id,
  no,
  name,
  centreId,
  minutes: String(minutes),
  ...change,
});
const test = (change: Partial<Row> = {}): Row => ({
  id: null,
  no: 30,
  name: ' Test ',
  centreId: 2,
  minutes: '60',
  ...change,
});
const decide = (operations: Row[], on = ground()) => decideOperations(on, { operations });
const effects = (operations: Row[], on = ground()) => {
  const decision = decide(operations, on);
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};
const refused = (operations: Row[], on = ground()) => {
  const decision = decide(operations, on);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('W1 how one order is worked on', () => {
  it('stays as it is where nothing is changed', () => {
    expect(effects([kept(mount()), kept(wire())])).toEqual({
      gone: [],
      kept: [
        { id: 31, no: 10, name: 'Mount', centreId: 1, minutes: 480, cost: '240' },
        { id: 32, no: 20, name: 'Wire', centreId: 1, minutes: 240, cost: '120' },
      ],
      added: [],
      moved: [],
      laid: [],
      due: '2027-03-03',
      minutes: 720,
      minutesWas: 720,
      // Twelve parts at 10, and twelve hours at 30.
      cost: '480',
      was: '480',
    });
  });

  it('gets one more, laid after those before it, which stay', () => {
    const { kept: stay, added, laid, due, minutes, cost } = effects([test(), kept(mount()), kept(wire())]);
    expect(stay.map(({ id }) => id)).toEqual([31, 32]);
    expect(added).toEqual([{ id: -1, no: 30, name: 'Test', centreId: 2, minutes: 60, cost: '60' }]);
    expect(laid).toMatchObject([{ id: -1, centreId: 2, begins: '2027-03-04', lastDay: '2027-03-04' }]);
    expect({ due, minutes, cost }).toEqual({ due: '2027-03-04', minutes: 780, cost: '540' });
  });

  it('is done in the order of the numbers: what is put between moves what follows', () => {
    const { laid, due } = effects([kept(mount()), kept(wire()), test({ no: 15 })]);
    expect(laid.map(({ id, begins }) => [id, begins])).toEqual([
      [-3, '2027-03-03'],
      [32, '2027-03-03'],
    ]);
    expect(due).toBe('2027-03-03');
    const before = effects([kept(mount()), kept(wire()), test({ no: 5, minutes: '480' })]);
    expect(before.laid.map(({ id, begins }) => [id, begins])).toEqual([
      [-3, '2027-03-02'],
      [31, '2027-03-03'],
      [32, '2027-03-04'],
    ]);
  });

  it('never begins before today', () => {
    const on = ground([mount({ lastDay: '2027-02-19', done: '4' }), wire()]);
    expect(effects([kept(mount()), test({ no: 15 }), kept(wire())], on).laid[0]).toMatchObject({
      id: -2,
      begins: '2027-03-01',
    });
    expect(
      effects([kept(mount(), { minutes: '60' })], { ...ground([mount()]), start: '2027-02-01' }).laid,
    ).toMatchObject([{ begins: '2027-03-01' }]);
  });

  it('leaves one out: what was used at it is used at the next, or at the last', () => {
    const first = effects([kept(wire())]);
    expect(first).toMatchObject({ gone: [31], moved: [{ componentId: 21, operationNo: 20 }], minutes: 240 });
    expect(first.laid).toMatchObject([{ id: 32, begins: '2027-03-02' }]);
    const last = effects([kept(mount())]);
    expect(last).toMatchObject({ gone: [32], moved: [{ componentId: 22, operationNo: 10 }], due: '2027-03-02' });
    expect(last.laid).toEqual([]);
    const third = { ...wire(), id: 33, no: 30, name: 'Test', firstDay: '2027-03-04', lastDay: '2027-03-04' };
    const middle = effects([kept(mount()), kept(third)], ground([mount(), wire(), third]));
    expect(middle.moved).toEqual([{ componentId: 22, operationNo: 30 }]);
    expect(effects([])).toMatchObject({
      gone: [31, 32],
      moved: [
        { componentId: 21, operationNo: null },
        { componentId: 22, operationNo: null },
      ],
      due: '2027-03-03',
      cost: '120',
      laid: [],
    });
  });

  it('takes another time or centre, and keeps its number', () => {
    const { kept: now, laid } = effects([kept(mount()), kept(wire(), { no: 99, centreId: 2, minutes: '480' })]);
    expect(now[1]).toEqual({ id: 32, no: 20, name: 'Wire', centreId: 2, minutes: 480, cost: '480' });
    expect(laid).toMatchObject([{ id: 32, centreId: 2, begins: '2027-03-03' }]);
  });

  it('of a begun order costs what it was reckoned at, where it stays', () => {
    const begun = workOrder({ state: 'running', plannedCost: '500' });
    const on = ground([mount({ plannedCost: '201' }), wire({ plannedCost: '99' })], begun);
    const { cost, was, kept: now } = effects([kept(mount()), kept(wire(), { minutes: '60' })], on);
    expect(now.map((each) => each.cost)).toEqual(['201', '30']);
    expect([cost, was]).toEqual(['231', '300']);
  });

  it.each<[string, Row[], string[]]>([
    ['no name', [kept(mount(), { name: '  ' })], ['operations.0.name: required']],
    ['no centre', [kept(mount(), { centreId: null })], ['operations.0.centreId: required']],
    ['a centre nobody knows', [kept(mount(), { centreId: 9 })], ['operations.0.centreId: required']],
    ['no minutes', [kept(mount(), { minutes: '0' })], ['operations.0.minutes: not-minutes']],
    ['half a minute', [kept(mount(), { minutes: '1.5' })], ['operations.0.minutes: not-minutes']],
    ['more than is possible', [kept(mount(), { minutes: '1000000' })], ['operations.0.minutes: not-minutes']],
    ['no number', [test({ no: null })], ['operations.0.no: required']],
    ['a number twice', [kept(mount()), test({ no: 10 })], ['operations.1.no: operation-twice']],
    ['one of another order', [kept(mount(), { id: 77 })], ['operations.0.id: unknown']],
    ['a centre that never works', [kept(mount()), test({ centreId: 3 })], ['operations.1.centreId: no-promise']],
  ])('is refused with %s', (_what, operations, codes) => expect(refused(operations)).toEqual(codes));

  it('takes from one minute to as many as there may be', () => {
    expect(refused([kept(mount(), { minutes: '999999' })])).toEqual(['operations.0.centreId: no-promise']);
    expect(effects([kept(mount(), { minutes: ' 1 ' })]).minutes).toBe(1);
  });

  it('says of each what stands against it', () => {
    const on = ground([mount({ done: '1' }), wire()]);
    const facts = (operations: Row[]) => {
      const decision = decide(operations, on);
      return decision.ok ? [] : decision.refusals.map((refusal) => sentenceOf(refusal));
    };
    expect(facts([kept(mount(), { minutes: '5' }), kept(wire())])[0]).toMatch(/^Mount is reported already/);
    expect(facts([test({ no: 9 }), kept(mount()), kept(wire())])[0]).toMatch(/^Pieces passed operation 10 already/);
    expect(facts([kept(mount())])[0]).toMatch(/^Pieces passed Mount and did not come out yet/);
    expect(facts([kept(mount()), kept(wire()), test({ no: 20 })])[0]).toMatch(/^There is an operation 20 already/);
    expect(facts([kept(mount()), test({ no: null }), kept(wire())])).toEqual(['The number is needed.']);
  });

  it.each(['finished', 'cancelled'] as const)('of an order that is %s stays', (state) =>
    expect(refused([kept(mount())], ground(undefined, workOrder({ state })))).toEqual([': work-not-open']),
  );

  it.each<[string, Partial<LaidNow>]>([
    ['pieces passed', { done: '1' }],
    ['pieces were lost at', { scrapped: '1' }],
    ['took time', { minutesDone: 5 }],
    ['was reported once', { reported: true }],
  ])('keeps one that %s as it is, with what comes before it', (_what, change) => {
    const on = ground([mount(change), wire()]);
    expect(refused([kept(mount()), kept(wire())], on)).toEqual([]);
    expect(refused([kept(wire())], on)).toEqual([': operation-begun']);
    expect(refused([kept(mount(), { minutes: '5' }), kept(wire())], on)).toEqual([
      'operations.0.minutes: operation-begun',
    ]);
    expect(refused([kept(mount(), { centreId: 2 }), kept(wire())], on)).toEqual([
      'operations.0.minutes: operation-begun',
    ]);
    expect(refused([test({ no: 9 }), kept(mount()), kept(wire())], on)).toEqual([
      'operations.0.no: operation-before-begun',
    ]);
    expect(refused([test({ no: 11 }), kept(mount()), kept(wire())], on)).toEqual([]);
    // Pieces that passed it would never come out.
    expect(refused([kept(mount())], on)).toEqual([': operation-must-follow']);
    expect(refused([kept(mount()), test()], on)).toEqual([]);
  });

  it('has nothing after the last one once pieces came out of it', () => {
    const on = ground([mount({ done: '1' }), wire({ done: '1' })]);
    expect(refused([kept(mount()), kept(wire()), test()], on)).toEqual([': work-came-out']);
    expect(refused([kept(mount()), kept(wire(), { name: 'Wire it' })], on)).toEqual([]);
  });
});

describe('W1 the first change', () => {
  const now = [mount(), wire()];
  it.each<[string, Row[], number | null]>([
    ['none', [kept(wire()), kept(mount())], null],
    ['a name', [kept(mount(), { name: 'Fit' }), kept(wire())], null],
    ['a time', [kept(mount()), kept(wire(), { minutes: '1' })], 1],
    ['a centre', [kept(mount(), { centreId: 2 }), kept(wire())], 0],
    ['one left out in front', [kept(wire())], 0],
    ['one left out behind', [kept(mount())], 1],
    ['one added', [kept(mount()), kept(wire()), test()], 2],
    ['all left out', [], 0],
  ])('is where it is: %s', (_what, operations, place) => expect(firstChanged(now, { operations })).toBe(place));
});

describe('W1 its own operations for another quantity', () => {
  const step = { no: 5, name: 'Saw', centreId: 1, setup: '1', run: '2', parallel: 1, firstDay: null, lastDay: null };
  const usual = groundRows({
    operations: [
      { ...step, itemId: 1 },
      { ...step, itemId: 2 },
    ],
  });
  const on = (quantity: string) =>
    withOwnRouting(usual, 1, { quantity: '4' }, [mount({ parallel: 2 }), wire({ minutes: 1 })], quantity).operations;
  const routing = (quantity: string) =>
    on(quantity)
      .filter(({ itemId }) => itemId === 1)
      .map(({ no, setup, run, parallel }) => [no, setup, run, parallel]);

  it('stand in the place of its item’s, and of no other’s', () =>
    expect(on('4').map(({ itemId, name }) => [itemId, name])).toEqual([
      [2, 'Saw'],
      [1, 'Mount'],
      [1, 'Wire'],
    ]));

  it('take time in its measure, at least a minute', () => {
    expect(routing('8')).toEqual([
      [10, '960', '0', 2],
      [20, '2', '0', 1],
    ]);
    expect(routing('1')).toEqual([
      [10, '120', '0', 2],
      [20, '1', '0', 1],
    ]);
    expect(routing('much')).toEqual(routing('4'));
  });
});
