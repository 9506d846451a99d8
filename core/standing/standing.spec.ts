import * as fc from 'fast-check';
import { addDays, weekdayOf, type Day } from '@core/kernel';
import { recurrenceDays } from '@core/recurrence';
import {
  closedBy,
  decideMake,
  decidePasted,
  decideSkip,
  decideStanding,
  decideState,
  firstDates,
  nextDue,
  standingDates,
  waitsToBeMade,
  type Said,
  type StandingPlan,
} from './index';

const open = () => null;
const plan = (change: Partial<StandingPlan> = {}): StandingPlan => ({
  firstDay: '2027-03-01',
  lastDay: null,
  closed: 'after',
  terms: [{ id: 1, fromDay: '2027-03-01', rule: 'FREQ=WEEKLY;BYDAY=TU' }],
  said: new Map(),
  ...change,
});
const dates = (
  of: StandingPlan,
  closed: (day: Day) => string | null = open,
  from = '2027-03-01',
  until = '2027-03-31',
) => standingDates(of, closed, from, until)!;

describe('S7 dates of a standing order', () => {
  it('are those of its rule, from its first day to its last', () => {
    expect(dates(plan()).map(({ day }) => day)).toEqual([
      '2027-03-02',
      '2027-03-09',
      '2027-03-16',
      '2027-03-23',
      '2027-03-30',
    ]);
    expect(dates(plan({ firstDay: '2027-03-10', lastDay: '2027-03-23' })).map(({ day }) => day)).toEqual([
      '2027-03-16',
      '2027-03-23',
    ]);
    expect(dates(plan(), open, '2027-03-09', '2027-03-09').map(({ day }) => day)).toEqual(['2027-03-09']);
    expect(
      standingDates(
        plan({ terms: [{ id: 1, fromDay: '2027-03-01', rule: 'often' }] }),
        open,
        '2027-03-01',
        '2027-04-01',
      ),
    ).toBeNull();
  });

  it('change with what is said from a day on, each counted from its own day', () => {
    const changed = plan({
      terms: [
        { id: 1, fromDay: '2027-03-01', rule: 'FREQ=WEEKLY;BYDAY=TU' },
        { id: 2, fromDay: '2027-03-16', rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU' },
      ],
    });
    expect(dates(changed, open, '2027-03-01', '2027-04-14').map(({ day, termId }) => [day, termId])).toEqual([
      ['2027-03-02', 1],
      ['2027-03-09', 1],
      ['2027-03-16', 2],
      ['2027-03-30', 2],
      ['2027-04-13', 2],
    ]);
  });

  const closed = closedBy(
    '1111100',
    new Map([
      ['2027-03-09', 'Founders’ day'],
      ['2027-03-10', 'Second day'],
    ]),
    weekdayOf,
  );

  it('say why we are closed', () => {
    expect(closed('2027-03-09')).toBe('Founders’ day');
    expect(closed('2027-03-06')).toBe('closed on Saturdays');
    expect(closed('2027-03-08')).toBeNull();
  });

  it.each([
    ['skip', null],
    ['before', '2027-03-08'],
    ['after', '2027-03-11'],
  ] as const)('on a closed day: %s', (rule, shipDay) => {
    expect(dates(plan({ closed: rule }), closed)[1]).toMatchObject({
      day: '2027-03-09',
      shipDay,
      why: 'Founders’ day',
    });
  });

  it('that find no open day within a month are skipped', () => {
    expect(dates(plan(), () => 'always closed')[0]).toMatchObject({ shipDay: null, why: 'always closed' });
  });

  it('keep what was said of them; a skipped one ships not, whatever the day', () => {
    const said = new Map<Day, Said>([
      ['2027-03-02', { state: 'skipped', orderId: null, why: 'no pool' }],
      ['2027-03-16', { state: 'made', orderId: 9, why: '' }],
      ['2027-03-23', { state: 'refused', orderId: null, why: 'no credit' }],
    ]);
    const all = dates(plan({ said }), open);
    expect(all.map(({ shipDay }) => shipDay)).toEqual([null, '2027-03-09', '2027-03-16', '2027-03-23', '2027-03-30']);
    expect(all[0]).toMatchObject({ why: 'no pool' });
    expect(all.filter(waitsToBeMade).map(({ day }) => day)).toEqual(['2027-03-09', '2027-03-30']);
    expect(nextDue(all, 3)).toEqual({ day: '2027-03-09', on: '2027-03-06' });
    expect(nextDue(all, 0)).toEqual({ day: '2027-03-09', on: '2027-03-09' });
    expect(nextDue(all.slice(2, 4), 0)).toBeNull();
  });

  it('are due by when they ship: one that is moved behind another comes after it', () => {
    const daily = plan({ terms: [{ id: 1, fromDay: '2027-03-01', rule: 'FREQ=WEEKLY;BYDAY=TU,TH' }] });
    const shut = (day: Day) => (day >= '2027-03-02' && day <= '2027-03-04' ? 'shut' : null);
    const all = dates(daily, (day) => (day === '2027-03-02' ? 'shut' : null));
    const [tuesday, thursday] = all;
    expect(nextDue([{ ...tuesday!, shipDay: '2027-03-08' }, thursday!], 1)).toEqual({
      day: '2027-03-04',
      on: '2027-03-03',
    });
    // Two that are moved onto one day: the first is made first.
    expect(nextDue(dates(daily, shut), 0)).toEqual({ day: '2027-03-02', on: '2027-03-05' });
  });

  it('go on for years: they are looked at from a day on, counted from the first', () => {
    const daily = plan({ terms: [{ id: 1, fromDay: '2027-03-01', rule: 'FREQ=DAILY;INTERVAL=2' }] });
    const late = dates(daily, open, '2032-03-01', '2032-03-08').map(({ day }) => day);
    expect(late).toEqual(['2032-03-02', '2032-03-04', '2032-03-06', '2032-03-08']);
    const counted = plan({ terms: [{ id: 1, fromDay: '2027-03-01', rule: 'FREQ=WEEKLY;COUNT=3' }] });
    expect(dates(counted, open, '2027-03-14', '2027-05-01').map(({ day }) => day)).toEqual(['2027-03-15']);
  });

  it('are shown as they are typed, the first twelve, and none past a year', () => {
    const first = (rule: string, lastDay: Day | null = null) =>
      firstDates(
        { firstDay: '2027-03-01', lastDay, closed: 'after', said: new Map() },
        { from: '2027-03-05', rule },
        (day) => (day === '2027-03-09' ? 'Founders’ day' : null),
      );
    const weekly = first('FREQ=WEEKLY;BYDAY=TU');
    expect(weekly).toHaveLength(12);
    expect(weekly[0]).toEqual({ day: '2027-03-09', shipDay: '2027-03-10', why: 'Founders’ day' });
    expect(first('FREQ=WEEKLY;BYDAY=TU', '2027-03-16')).toHaveLength(2);
    expect(first('FREQ=MONTHLY;INTERVAL=5')).toHaveLength(3);
    expect(first('often')).toEqual([]);
  });

  it('are the rule’s own, each once, moved onto open days only', () => {
    const rule = fc.constantFrom(
      'FREQ=DAILY',
      'FREQ=WEEKLY;BYDAY=SA,SU',
      'FREQ=MONTHLY;BYMONTHDAY=9',
      'FREQ=WEEKLY;INTERVAL=3',
    );
    fc.assert(
      fc.property(
        rule,
        fc.constantFrom('skip', 'before', 'after' as const),
        fc.integer({ min: 0, max: 60 }),
        (each, way, begins) => {
          const firstDay = addDays('2027-03-01', begins);
          const of = plan({ firstDay, closed: way as 'skip', terms: [{ id: 1, fromDay: firstDay, rule: each }] });
          const found = dates(of, closed, '2027-03-01', '2027-07-01');
          expect(found.map(({ day }) => day)).toEqual(recurrenceDays(each, firstDay, '2027-07-01'));
          for (const { day, shipDay } of found) {
            if (shipDay !== null) expect(closed(shipDay)).toBeNull();
            if (closed(day) === null) expect(shipDay).toBe(day);
            else if (way === 'before') expect(shipDay! < day).toBe(true);
            else if (way === 'after') expect(shipDay! > day).toBe(true);
            else expect(shipDay).toBeNull();
          }
        },
      ),
      { seed: 7 },
    );
  });
});

describe('S7 what is made and skipped', () => {
  const [date] = dates(plan());
  const ground = { number: 'ST-0001', state: 'active' as const, date: date! };
  const said = (state: Said['state']) => ({ ...date!, said: { state, orderId: null, why: 'x' } });
  const codes = (decision: { ok: boolean; refusals?: { code: string }[] }) =>
    (decision.refusals ?? []).map(({ code }) => code);

  it('makes what waits, and by hand what was refused or of one that is paused', () => {
    expect(decideMake(ground, date!.day, '2027-03-01', 'clock')).toMatchObject({ effects: { shipDay: '2027-03-02' } });
    expect(codes(decideMake({ ...ground, date: said('refused') }, date!.day, '2027-03-01', 'person'))).toEqual([]);
    expect(codes(decideMake({ ...ground, date: said('made') }, date!.day, '2027-03-01', 'person'))).toEqual([
      'made-already',
    ]);
    expect(
      codes(decideMake({ ...ground, date: { ...date!, shipDay: null } }, date!.day, '2027-03-01', 'person')),
    ).toEqual(['date-skipped']);
    expect(codes(decideMake({ ...ground, date: null }, date!.day, '2027-03-01', 'person'))).toEqual(['not-a-date-of']);
    expect(codes(decideMake({ ...ground, state: 'paused' }, date!.day, '2027-03-01', 'person'))).toEqual([]);
    expect(codes(decideMake({ ...ground, state: 'paused' }, date!.day, '2027-03-01', 'clock'))).toEqual([
      'standing-not-active',
    ]);
    expect(codes(decideMake({ ...ground, state: 'ended' }, date!.day, '2027-03-01', 'person'))).toEqual([
      'standing-not-active',
    ]);
  });

  it('makes what has passed by hand only, to ship at once; not the clock', () => {
    const make = (workDate: Day, by: 'clock' | 'person') => decideMake(ground, date!.day, workDate, by);
    expect(make('2027-03-02', 'clock')).toMatchObject({ effects: { shipDay: '2027-03-02', passed: false } });
    expect(make('2027-03-03', 'clock')).toMatchObject({ effects: { passed: true } });
    expect(make('2027-03-03', 'person')).toMatchObject({ effects: { shipDay: '2027-03-03', passed: false } });
  });

  it('skips what came while it was paused when it goes on, and nothing else', () => {
    const of = { number: 'ST-0001', state: 'paused' as const, dates: [said('made'), ...dates(plan()).slice(1)] };
    const set = (
      change: Partial<Omit<typeof of, 'state'>> & { state?: 'active' | 'paused' | 'ended' },
      to: 'active' | 'ended',
    ) => decideState({ ...of, ...change }, to, '2027-03-16');
    expect(set({}, 'active')).toMatchObject({ effects: { state: 'active', skipped: ['2027-03-09'] } });
    expect(set({}, 'ended')).toMatchObject({ effects: { state: 'ended', skipped: [] } });
    expect(set({ state: 'active' }, 'active')).toMatchObject({ effects: { skipped: [] } });
    expect(codes(set({ state: 'ended' }, 'active'))).toEqual(['standing-ended']);
  });

  it('skips with why, and takes it back where it is skipped', () => {
    const skip = (
      of: typeof ground | (Omit<typeof ground, 'date'> & { date: ReturnType<typeof said> | null }),
      skipped: boolean,
      reason: string,
    ) => decideSkip(of, { day: date!.day, skipped, reason });
    expect(skip(ground, true, ' no pool ')).toMatchObject({ effects: { why: 'no pool' } });
    expect(codes(skip(ground, true, ' '))).toEqual(['required']);
    expect(codes(skip(ground, false, ''))).toEqual(['not-skipped']);
    expect(codes(skip({ ...ground, date: said('skipped') }, false, ''))).toEqual([]);
    expect(codes(skip({ ...ground, date: said('made') }, true, 'x'))).toEqual(['made-already']);
    expect(codes(skip({ ...ground, date: null }, true, 'x'))).toEqual(['not-a-date-of']);
  });
});

describe('S7 what is typed', () => {
  const ground = {
    now: null,
    customer: { id: 1 },
    shipToIds: [5],
    items: new Map([
      [10, { number: 'SALT-25', outOfUse: false, units: ['bag', 'pallet'] }],
      [11, { number: 'OLD', outOfUse: true, units: ['piece'] }],
    ]),
  };
  const typed = {
    customerId: 1,
    shipToId: 5,
    customerReference: ' weekly ',
    rule: 'FREQ=WEEKLY;BYDAY=TU',
    firstDay: '2027-03-01',
    lastDay: null as string | null,
    aheadDays: '3',
    closed: 'after',
    from: null as string | null,
    lines: [{ itemId: 10 as number | null, quantity: '6', unit: '' }],
  };
  const decide = (
    change: Partial<typeof typed>,
    now: { number: string; state: 'active' | 'ended'; firstDay: Day } | null = null,
  ) => decideStanding({ ...ground, now }, { ...typed, ...change }, '2027-03-01');
  const codes = (change: Partial<typeof typed>, now: Parameters<typeof decide>[1] = null) => {
    const decision = decide(change, now);
    return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };
  const was = { number: 'ST-0001', state: 'active' as const, firstDay: '2027-02-01' };

  it('is kept as it is typed; a new one from its first day, a change from its day or today', () => {
    expect(decide({})).toMatchObject({
      effects: { from: '2027-03-01', customerReference: 'weekly', aheadDays: 3, lastDay: null },
    });
    expect(decide({ from: '2027-03-09', firstDay: '2027-02-01' }, was)).toMatchObject({
      effects: { from: '2027-03-09' },
    });
    expect(decide({ firstDay: '2027-02-01' }, was)).toMatchObject({ effects: { from: '2027-03-01' } });
  });

  it.each([
    [{ shipToId: 6 }, ['shipToId: unknown']],
    [{ shipToId: null }, ['shipToId: required']],
    [{ firstDay: '2027-02-28' }, ['firstDay: days-order']],
    [{ firstDay: 'x' }, ['firstDay: not-a-day']],
    [{ lastDay: '2027-02-30' }, ['lastDay: not-a-day']],
    [{ lastDay: '2027-03-01' }, []],
    [{ rule: '' }, ['rule: required']],
    [{ rule: 'FREQ=HOURLY' }, ['rule: no-recurrence']],
    [{ rule: 'FREQ=WEEKLY;UNTIL=20270228' }, ['rule: no-dates']],
    [{ aheadDays: '120' }, []],
    [{ aheadDays: '121' }, ['aheadDays: days-ahead']],
    [{ aheadDays: '1.5' }, ['aheadDays: days-ahead']],
    [{ lines: [{ itemId: 10, quantity: '6', unit: 'pallet' }] }, []],
    [{ lines: [{ itemId: 10, quantity: '6', unit: 'box' }] }, ['lines.0.unit: unknown']],
    [{ lines: [{ itemId: 11, quantity: '6', unit: '' }] }, ['lines.0.itemId: item-out-of-use']],
    [{ lines: [{ itemId: 12, quantity: '6', unit: '' }] }, ['lines.0.itemId: unknown']],
    [{ lines: [{ itemId: 10, quantity: '0', unit: '' }] }, ['lines.0.quantity: not-above-zero']],
  ])('%j', (change, refusals) => expect(codes(change as Partial<typeof typed>)).toEqual(refusals));

  it('is not changed back in time, nor once it has ended', () => {
    expect(codes({ from: '2027-02-28', firstDay: '2027-02-01' }, was)).toEqual(['from: days-order']);
    expect(codes({ firstDay: '2027-02-01' }, { ...was, state: 'ended' })).toEqual([': standing-ended']);
  });
});

describe('S7 what is pasted', () => {
  const ground = {
    customers: [
      { id: 1, number: 'C-1', name: 'Padi', shipToId: 5 },
      { id: 2, number: 'C-2', name: 'Twin', shipToId: 6 },
      { id: 3, number: 'C-3', name: 'Twin', shipToId: 7 },
      { id: 4, number: 'C-4', name: 'Nowhere', shipToId: null },
    ],
    items: new Map([
      [10, { number: 'SALT-25', outOfUse: false, units: ['bag'] }],
      [11, { number: 'GAC-25', outOfUse: false, units: ['bag'] }],
    ]),
  };
  const row = (customer: string, change: Record<string, string | null> = {}) => ({
    customer,
    item: 'SALT-25',
    quantity: '6',
    rule: 'FREQ=WEEKLY;BYDAY=TU',
    firstDay: '2027-03-02' as string | null,
    ...change,
  });
  const paste = (...rows: ReturnType<typeof row>[]) =>
    decidePasted(ground, { rows, aheadDays: '3', closed: 'skip' }, '2027-03-01');
  const codes = (...rows: ReturnType<typeof row>[]) => {
    const decision = paste(...rows);
    return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };

  it('is one for rows of one customer, rule and first day', () => {
    const decision = paste(
      row(' padi '),
      row('C-2'),
      row('C-1', { item: 'gac-25', quantity: '2' }),
      row('C-1', { firstDay: '2027-03-03' }),
      row('C-1', { rule: 'FREQ=DAILY' }),
    );
    expect(
      decision.ok &&
        decision.effects.map(({ customerId, saved }) => [
          customerId,
          saved.shipToId,
          saved.lines.map(({ itemId, quantity }) => `${quantity} of ${itemId}`),
        ]),
    ).toEqual([
      [1, 5, ['6 of 10', '2 of 11']],
      [2, 6, ['6 of 10']],
      [1, 5, ['6 of 10']],
      [1, 5, ['6 of 10']],
    ]);
  });

  it('says at each row what is wrong with it', () => {
    expect(codes()).toEqual(['rows: pasted-nothing']);
    expect(
      codes(
        row('Nobody'),
        row('Twin'),
        row('Nowhere'),
        row('Padi', { item: 'x', quantity: '0' }),
        row('Padi', { firstDay: null }),
      ),
    ).toEqual([
      'rows.0.customer: unknown',
      'rows.1.customer: several-named',
      'rows.2.shipToId: required',
      'rows.3.item: required',
      'rows.3.quantity: not-above-zero',
      'rows.4.firstDay: required',
    ]);
  });
});
