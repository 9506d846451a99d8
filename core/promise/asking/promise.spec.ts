import { addDays, daysBetween, type Shift } from '../../kernel';
import { answers, type Answer, type Ask } from './ask';
import { Centre } from '../ground/capacity';
import { Ground } from '../ground/ground';
import type { Way } from '../ground/rows';
import { scaled, unscaled } from '../ground/scaled';
import { partPromises } from '../ground/parts';
import { ALWAYS, groundRows, itemRow, moveRow, oneShift, seller, WORK_DATE } from '../ground/testing';
import { check } from './answer-text';
import { chainOf, shortenings } from './why';

const ask = (itemId: number, quantity: string, asked: string | null = null): Ask => ({
  key: `${itemId}`,
  itemId,
  quantity,
  asked,
});
const dayOf = (found: Answer) => (found.day === null ? null : addDays(WORK_DATE, found.day));
const one = (ground: Ground, asked: Ask, way: Way) => answers(ground, [asked], () => way)[0]!;

/** The example of T2: 20 on hand; -15 on 3 Mar, +30 on 8 Mar, -25 on 10 Mar, +40 on 17 Mar; bought in 20 days. */
const T2 = groundRows({
  items: [itemRow(1, { onHand: '20', sellers: [seller(20)] })],
  supplies: [moveRow(1, '2027-03-08', '30'), moveRow(1, '2027-03-17', '40')],
  demands: [moveRow(1, '2027-03-03', '15'), moveRow(1, '2027-03-10', '25')],
});

describe('what is there (T1 T2)', () => {
  it.each([
    ['5', '2027-03-01'],
    ['10', '2027-03-08'],
    ['11', '2027-03-17'],
    ['50', '2027-03-17'],
  ])('%s can be had on %s', (quantity, day) => {
    expect(dayOf(one(new Ground(T2), ask(1, quantity), 'atp'))).toBe(day);
  });

  it('says how many when, and the lead time for what there is not', () => {
    const found = one(new Ground(T2), ask(1, '60'), 'atp');
    expect(found.parts.map((part) => [unscaled(part.quantity), addDays(WORK_DATE, part.day), part.lead])).toEqual([
      ['5', '2027-03-01', false],
      ['5', '2027-03-08', false],
      ['40', '2027-03-17', false],
      ['10', '2027-03-29', true],
    ]);
    expect(dayOf(found)).toBe('2027-03-29');
  });

  it('goes by the lead time where that is earlier, and takes what there is until then', () => {
    const sooner = { ...T2, items: [itemRow(1, { onHand: '20', sellers: [seller(10)] })] };
    const found = one(new Ground(sooner), ask(1, '11'), 'atp');
    expect(found.parts.map((part) => [unscaled(part.quantity), addDays(WORK_DATE, part.day), part.lead])).toEqual([
      ['5', '2027-03-01', false],
      ['5', '2027-03-08', false],
      ['1', '2027-03-15', true],
    ]);
    expect(dayOf(found)).toBe('2027-03-15');
    // On the same day what comes is taken, and nothing new is needed.
    const same = { ...sooner, supplies: [...T2.supplies, moveRow(1, '2027-03-15', '1')] };
    expect(one(new Ground(same), ask(1, '11'), 'atp')).toMatchObject({ day: 14, parts: [{}, {}, { lead: false }] });
  });

  it('counts the lead time from the working day it is ordered on, and ours from the day it is received (T3)', () => {
    const calendars = [
      { id: 1, week: '1111100', holidays: ['2027-03-15'] },
      { id: 2, week: '1111110', holidays: [] },
    ];
    const bought = (workDate: string, leadDays: number, receivingDays: number) => {
      const rows = { ...groundRows({ calendars, receivingDays }), workDate };
      const items = [itemRow(1, { sellers: [seller(leadDays, { calendarId: 2 })] })];
      const { day } = one(new Ground({ ...rows, items }), ask(1, '1'), 'lead');
      return addDays(workDate, day!);
    };
    // Asked on a Sunday: ordered on Monday the 8th, five working days of theirs are Saturday the 13th; we are closed
    // until Tuesday the 16th, and a receiving day more is the 17th.
    expect(bought('2027-03-07', 5, 0)).toBe('2027-03-16');
    expect(bought('2027-03-07', 5, 1)).toBe('2027-03-17');
    // On Saturday they still take the order: Friday the 12th.
    expect(bought('2027-03-06', 5, 0)).toBe('2027-03-12');
    expect(bought('2027-03-07', 0, 0)).toBe('2027-03-08');
  });

  it('makes the textbook table of balance and availability', () => {
    const ground = new Ground(T2);
    expect(
      ground.timelines.steps(0).map((step) => [step.day, unscaled(step.balance), unscaled(step.available)]),
    ).toEqual([
      [0, '20', '5'],
      [2, '5', '5'],
      [7, '35', '10'],
      [9, '10', '10'],
      [16, '50', '50'],
    ]);
  });

  it.each([
    // Orders of five weeks; what each receipt brings beyond the orders until the next, and that summed up.
    ['each receipt serves its own weeks', [5, 8, 20, 10, 12], [7, 0, 18], [7, 7, 7, 7, 25]],
    ['a week that is short takes from the one before', [5, 8, 24, 11, 12], [2, 0, 18], [2, 2, 2, 2, 20]],
  ])('makes the textbook tables of discrete and cumulative availability: %s', (_what, orders, discrete, cumulative) => {
    const weeks = ['2027-03-01', '2027-03-08', '2027-03-15', '2027-03-22', '2027-03-29'];
    const ground = new Ground(
      groundRows({
        items: [itemRow(1, { onHand: '20' })],
        supplies: [moveRow(1, weeks[2]!, '30'), moveRow(1, weeks[4]!, '30')],
        demands: orders.map((quantity, week) => moveRow(1, weeks[week]!, String(quantity))),
      }),
    );
    const days = weeks.map((week) => daysBetween(WORK_DATE, week));
    expect(days.map((day) => Number(unscaled(ground.timelines.available(0, day))))).toEqual(cumulative);
    const parts = partPromises(ground, 0, scaled('1000'), 0);
    const onReceipt = [days[0]!, days[2]!, days[4]!].map((day) =>
      Number(unscaled(parts.find((part) => part.day === day)?.quantity ?? 0)),
    );
    expect(onReceipt).toEqual(discrete);
    expect(parts).toHaveLength(discrete.filter((each) => each > 0).length);
  });

  it('takes overdue supply as coming on the first working day and overdue demand as due today', () => {
    const rows = { ...T2, calendars: [{ id: 1, week: '1111100', holidays: ['2027-03-01', '2027-03-02'] }] };
    const ground = new Ground({
      ...rows,
      supplies: [moveRow(1, '2027-02-20', '7')],
      demands: [moveRow(1, '2027-02-22', '4')],
    });
    expect([0, 1, 2].map((day) => unscaled(ground.timelines.balance(0, day)))).toEqual(['16', '16', '23']);
  });

  it('keeps the safety stock back, and can be below nothing', () => {
    const ground = new Ground(
      groundRows({ items: [itemRow(1, { onHand: '2', safetyStock: '5', sellers: [seller(3)] })] }),
    );
    expect(unscaled(ground.timelines.available(0, 0))).toBe('-3');
    expect(dayOf(one(ground, ask(1, '1'), 'atp'))).toBe('2027-03-04');
  });

  it('promises no earlier than asked', () => {
    expect(dayOf(one(new Ground(T2), ask(1, '5', '2027-03-12'), 'atp'))).toBe('2027-03-12');
  });
});

/** The example of T5: weld on one machine, half of 8 Mar taken, assemble on two, test; 10 Mar a holiday. */
const SHOP = groundRows({
  calendars: [{ id: 1, week: '1111100', holidays: ['2027-03-10'] }],
  items: [
    itemRow(1, { number: 'FV-900', obtained: 'make', method: 'ctp' }),
    itemRow(2, { number: 'SHELL', sellers: [seller(5), seller(3, { vendorId: 2, name: 'Logam' })] }),
    itemRow(3, { number: 'NOZZLE', sellers: [seller(7)] }),
  ],
  components: [
    {
      itemId: 1,
      lineNo: 1,
      componentId: 2,
      quantity: '1',
      scrapPercent: '0',
      operationNo: 10,
      firstDay: null,
      lastDay: null,
    },
    {
      itemId: 1,
      lineNo: 2,
      componentId: 3,
      quantity: '4',
      scrapPercent: '0',
      operationNo: 20,
      firstDay: null,
      lastDay: null,
    },
  ],
  operations: [
    { itemId: 1, no: 10, name: 'Weld', centreId: 1, setup: '30', run: '90', parallel: 1, ...ALWAYS },
    { itemId: 1, no: 20, name: 'Assemble', centreId: 2, setup: '20', run: '120', parallel: 2, ...ALWAYS },
    { itemId: 1, no: 30, name: 'Test', centreId: 3, setup: '15', run: '45', parallel: 1, ...ALWAYS },
  ],
  centres: [
    { id: 1, code: 'WELD', name: 'Welding', machines: 1, shifts: oneShift(480), calendarId: 1 },
    { id: 2, code: 'BENCH', name: 'Benches', machines: 2, shifts: oneShift(480), calendarId: 1 },
    { id: 3, code: 'TEST', name: 'Test', machines: 1, shifts: oneShift(480), calendarId: 1 },
  ],
  load: [{ centreId: 1, day: '2027-03-08', from: 480, until: 720, machines: 1 }],
});

describe('what could be made (T4 T5)', () => {
  it.each([
    [
      '6',
      [
        ['03-08', '03-09'],
        ['03-11', '03-11'],
        ['03-11', '03-12'],
      ],
    ],
    [
      '18',
      [
        ['03-08', '03-12'],
        ['03-12', '03-17'],
        ['03-17', '03-18'],
      ],
    ],
  ])('schedules %s to the day', (quantity, runs) => {
    const found = one(new Ground(SHOP), ask(1, quantity), 'nothing');
    const [order] = found.need!.parts;
    const short = (day: number) => addDays(WORK_DATE, day).slice(5);
    expect(
      order?.kind === 'make' && order.operations.map((each) => [short(each.firstDay), short(each.lastDay)]),
    ).toEqual(runs);
  });

  it('takes machines minute by minute, in the hours that are worked', () => {
    const { ownCalendar } = new Ground(SHOP);
    const halves: Shift[] = [
      { week: '1111100', from: 480, until: 720 },
      { week: '1111100', from: 780, until: 1020 },
    ];
    const centre = new Centre(
      2,
      halves,
      ownCalendar,
      0,
      new Map([[1, { overtime: [{ from: 1020, until: 1080 }], out: 1, taken: [] }]]),
    );
    const run = (minutes: number, parallel: number, from: number) => {
      const found = centre.forward(minutes, parallel, from, () => undefined);
      return found && [found.start, found.end, found.slices.map((each) => Object.values(each))];
    };
    // 301 minutes on one of two machines, over the break; then on what is left beside it, and on both after it.
    expect(run(301, 1, 0)).toEqual([
      480,
      841,
      [
        [0, 480, 720, 1],
        [0, 780, 841, 1],
      ],
    ]);
    expect(run(400, 2, 600)).toEqual([
      600,
      951,
      [
        [0, 600, 720, 1],
        [0, 780, 841, 1],
        [0, 841, 950, 2],
        [0, 950, 951, 1],
      ],
    ]);
    // One of two is out on the second day, an hour longer.
    expect(run(600, 2, 1440 + 480)).toEqual([
      1440 + 480,
      2 * 1440 + 510,
      [
        [1, 480, 720, 1],
        [1, 780, 1080, 1],
        [2, 480, 510, 2],
      ],
    ]);
    expect(run(10_000_000, 2, 0)).toBeNull();
  });

  it('uses what there is before making more, and waits for what comes sooner than new', () => {
    const rows = { ...SHOP, items: [itemRow(1, { ...SHOP.items[0]!, onHand: '4' }), ...SHOP.items.slice(1)] };
    const some = one(new Ground(rows), ask(1, '10'), 'have');
    expect(some.need!.parts.map((part) => [part.kind, unscaled(part.quantity)])).toEqual([
      ['free', '4'],
      ['make', '6'],
    ]);
    const coming = { ...rows, supplies: [moveRow(1, '2027-03-09', '20')] };
    expect(one(new Ground(coming), ask(1, '10'), 'have').need!.parts).toEqual([
      { kind: 'free', quantity: scaled('10'), day: 8 },
    ]);
    expect(dayOf(one(new Ground(coming), ask(1, '10'), 'nothing'))).not.toBe('2027-03-09');
  });

  it('begins a later wish as late as meets it, and says when (T6)', () => {
    const found = one(new Ground(SHOP), ask(1, '6', '2027-03-26'), 'nothing');
    expect(dayOf(found)).toBe('2027-03-26');
    const [order] = found.need!.parts;
    // From the 16th: shells on the 23rd, weld 570 min; nozzles on the 25th, assemble 740 on two, test 285 min after it.
    expect(
      order?.kind === 'make' &&
        order.operations.map((each) => [addDays(WORK_DATE, each.firstDay), addDays(WORK_DATE, each.lastDay)]),
    ).toEqual([
      ['2027-03-23', '2027-03-24'],
      ['2027-03-25', '2027-03-25'],
      ['2027-03-25', '2027-03-26'],
    ]);
    // From the 17th nozzles would be there on the 26th, and what is left to test on the 29th.
    expect(addDays(WORK_DATE, found.slack!.start)).toBe('2027-03-16');
    expect(found.slack!.days).toBe(10);
  });

  it('tells the chain of waits and what would shorten it (T7)', () => {
    const found = one(new Ground(SHOP), ask(1, '18'), 'nothing');
    const ground = new Ground(SHOP);
    const said = chainOf(found.need!).map((wait) => [
      wait.kind,
      wait.centre === null ? ground.items[wait.item]!.row.number : ground.centreRows[wait.centre]!.code,
      daysBetween('2027-03-01', addDays(WORK_DATE, wait.from)),
      wait.to,
    ]);
    expect(said).toEqual([
      ['buy', 'SHELL', 0, 7],
      ['run', 'WELD', 7, 11],
      ['run', 'BENCH', 11, 16],
      ['run', 'TEST', 16, 17],
    ]);
    const shorter = shortenings(SHOP, ask(1, '18', '2027-03-12'), found);
    expect(shorter).toEqual([
      { kind: 'vendor', item: 'SHELL', vendor: 'Logam', day: 15 },
      { kind: 'part', quantity: '8', day: 11 },
    ]);
    const many = one(new Ground(SHOP), ask(1, '60'), 'nothing');
    expect(shortenings(SHOP, ask(1, '60'), many)).toContainEqual({
      kind: 'overtime',
      centre: 'BENCH',
      minutes: 120,
      day: expect.any(Number) as number,
    });
    for (const way of shorter) expect(way.day).toBeLessThan(found.day!);
  });

  it('puts lines of one order on one day, the others begun as late as meets it (T6)', () => {
    const both = [
      { ...ask(1, '18'), key: 'a', way: 'nothing' as const },
      { ...ask(3, '2'), key: 'b', way: 'nothing' as const },
    ];
    const each = check(SHOP, both).map((line) => line.chosen.day);
    expect(each[0]! > each[1]!).toBe(true);
    const together = check(SHOP, both, true).map((line) => line.chosen);
    expect(together.map((told) => told.day)).toEqual([each[0], each[0]]);
    expect(together[1]!.slack!.days).toBeGreaterThan(0);
    // With one that cannot be had, each stays for itself.
    const bad = [both[0]!, { ...both[1]!, itemId: 1, quantity: '9999999' }];
    expect(check(SHOP, bad, true).map((line) => line.chosen.day === null)).toEqual([false, true]);
  });

  describe('the BOM and the routing of the day it starts (T4)', () => {
    const line = (componentId: number, lineNo: number, change: object = {}) => ({
      ...{ itemId: 1, lineNo, componentId, quantity: '1.5', scrapPercent: '0', operationNo: null },
      ...ALWAYS,
      ...change,
    });
    const plan = (rows: Parameters<typeof groundRows>[0], quantity: string) => {
      const ground = new Ground(groundRows({ ...rows }));
      const { need } = one(ground, ask(1, quantity), 'have');
      const [part] = need!.parts;
      if (part?.kind !== 'make') throw new Error('nothing is made');
      return [
        addDays(WORK_DATE, part.start),
        ...part.needs.map((each) => [
          ground.items[each.item]!.row.id,
          unscaled(each.quantity),
          ...each.parts.map(({ kind, quantity: of, day }) => [kind, unscaled(of), day]),
        ]),
      ];
    };

    it('is looked up for the day its material is there, not for today', () => {
      const items = [
        itemRow(1, { obtained: 'make', makeDays: 2 }),
        itemRow(2, { sellers: [seller(5)] }),
        itemRow(3, { onHand: '100' }),
      ];
      const components = [
        line(2, 1),
        line(3, 2, { lastDay: '2027-03-05' }),
        line(3, 3, { quantity: '4', firstDay: '2027-03-06' }),
      ];
      // Shells are there on the 8th: the line of that day, though the other stands today.
      expect(plan({ items, components }, '2')).toEqual([
        '2027-03-08',
        [2, '3', ['buy', '3', 7]],
        [3, '8', ['free', '8', 0]],
      ]);
    });

    it('uses whole units whole, and parts of those that are measured', () => {
      const items = [
        itemRow(1, { obtained: 'make', makeDays: 2 }),
        itemRow(2, { onHand: '9' }),
        itemRow(3, { onHand: '9', unit: 'kg' }),
      ];
      expect(plan({ items, components: [line(2, 1), line(3, 2)] }, '1')).toEqual([
        '2027-03-01',
        [2, '2', ['free', '2', 0]],
        [3, '1.5', ['free', '1.5', 0]],
      ]);
    });

    it('takes what there is of a phantom first, and opens it for the rest', () => {
      const items = [
        itemRow(1, { obtained: 'make', makeDays: 2 }),
        itemRow(2, { obtained: 'make', phantom: true, onHand: '2' }),
        itemRow(3, { onHand: '30' }),
      ];
      const components = [line(2, 1, { quantity: '1' }), { ...line(3, 1, { quantity: '3' }), itemId: 2 }];
      expect(plan({ items, components }, '5')).toEqual([
        '2027-03-01',
        [2, '2', ['free', '2', 0]],
        [3, '9', ['free', '9', 0]],
      ]);
    });

    it('takes what comes before a new one could be there', () => {
      const items = [itemRow(1, { obtained: 'make', makeDays: 2 }), itemRow(2, { onHand: '1', sellers: [seller(10)] })];
      const supplies = [moveRow(2, '2027-03-04', '2'), moveRow(2, '2027-03-16', '9')];
      expect(plan({ items, supplies, components: [line(2, 1, { quantity: '1' })] }, '5')).toEqual([
        '2027-03-15',
        [2, '5', ['free', '1', 0], ['free', '2', 3], ['buy', '2', 14]],
      ]);
    });
  });

  it('lets lines of one order compete', () => {
    const found = answers(new Ground(SHOP), [ask(1, '6'), { ...ask(1, '6'), key: 'b' }], () => 'nothing');
    expect(found.map(dayOf)).toEqual(['2027-03-12', '2027-03-15']);
  });
});

describe('bad ground is said, not hung on', () => {
  const trouble = (change: Partial<typeof SHOP>, quantity = '6') =>
    one(new Ground({ ...SHOP, ...change }), ask(1, quantity), 'nothing').trouble;

  it('names the path of a cycle', () => {
    const components = [...SHOP.components, { ...SHOP.components[0]!, itemId: 2, componentId: 1, lineNo: 9 }];
    expect(trouble({ components })).toEqual({ kind: 'cycle', path: ['FV-900', 'SHELL', 'FV-900'] });
  });

  it('names a centre with no shift', () => {
    const centres = SHOP.centres.map((centre) => (centre.id === 2 ? { ...centre, shifts: [] } : centre));
    expect(trouble({ centres })).toEqual({ kind: 'no-shift', centre: 'BENCH' });
    expect(trouble({ calendars: [{ id: 1, week: '0000000', holidays: [] }] })?.kind).toBe('horizon');
  });

  it('names an item nobody sells and one that is not obtained at all', () => {
    const items = SHOP.items.map((item) => (item.id === 3 ? { ...item, sellers: [] } : item));
    expect(trouble({ items })).toEqual({ kind: 'nobody-sells', item: 'NOZZLE' });
    const none = SHOP.items.map((item) => (item.id === 3 ? { ...item, obtained: 'none' as const } : item));
    expect(trouble({ items: none })).toEqual({ kind: 'no-way', item: 'NOZZLE' });
  });

  it('runs out of horizon with ten million pieces, and gives back what it took', () => {
    const ground = new Ground(SHOP);
    expect(one(ground, ask(1, '10000000'), 'nothing').trouble).toEqual({ kind: 'horizon', item: 'FV-900', days: 120 });
    expect(dayOf(one(ground, ask(1, '6'), 'nothing'))).toBe('2027-03-12');
    expect(trouble({}, '99999999999')?.kind).toBe('too-much');
  });
});
