import { sentenceOf, type Decision } from '../../refusals';
import { decidePlanning, decideRepromise } from '../again/begin';
import { decideFirm, decideMoved, decidePromise, decideTakeBack, type WorkOrder } from './promise-acts';
import type { PromisedLine } from '../again/lines';
import { groundRows, itemRow, moveRow, seller, WORK_DATE } from '../ground/testing';

const refusedAt = (decision: Decision<unknown>) =>
  decision.ok ? [] : decision.refusals.map(({ code, field }) => `${field}: ${code}`);

describe('beginning a run (T9 T11)', () => {
  it('is refused while one goes on', () => {
    expect(refusedAt(decideRepromise({ running: true, lines: 7 }))).toEqual([': run-going']);
    expect(decideRepromise({ running: false, lines: 7 })).toMatchObject({ ok: true, effects: { lines: 7 } });
  });

  const start = { going: false, items: new Set([1, 2]), horizon: 10 };

  it.each([
    [null, 'until: not-a-day'],
    ['soon', 'until: not-a-day'],
    ['2027-02-28', 'until: beyond-horizon'],
    ['2027-03-11', 'until: beyond-horizon'],
  ])('plans until a day of the horizon, not %s', (until, refused) => {
    expect(refusedAt(decidePlanning(start, { itemIds: [], until }, '2027-03-01'))).toEqual([refused]);
  });

  it.each(['2027-03-01', '2027-03-10'])('plans until the first and the last day of it: %s', (until) => {
    expect(decidePlanning(start, { itemIds: [2], until }, '2027-03-01')).toMatchObject({
      ok: true,
      effects: { items: 2, until },
    });
  });

  it('names the item that is not there, and says all at once', () => {
    const decision = decidePlanning({ ...start, going: true }, { itemIds: [1, 9], until: null }, '2027-03-01');
    expect(refusedAt(decision)).toEqual([': planning-going', 'until: not-a-day', 'itemIds.1: unknown']);
  });
});

/** Ten on hand of item 1, bought in ten days. */
const rows = groundRows({
  items: [itemRow(1, { onHand: '10', sellers: [seller(10)] })],
  supplies: [moveRow(1, '2027-03-08', '30')],
});
const line = (id: number, quantity: string) => ({ id, point: 1, quantity });
const typed = (lineId: number, day: string | null, asked: string | null = WORK_DATE) => ({
  lineId,
  asked,
  day,
  way: 'atp' as const,
});

describe('promising an order (T8 T10)', () => {
  const order = { number: 'SO-0007', state: 'confirmed' };

  it('takes the day that was seen, of an open order', () => {
    const taken = decidePromise({ order, lines: [line(70, '10')], rows }, { lines: [typed(70, WORK_DATE)] });
    expect(taken).toMatchObject({ ok: true, effects: { lines: [{ lineId: 70, day: WORK_DATE, way: 'atp' }] } });
  });

  it.each(['closed', 'cancelled'])('is refused for an order that is %s', (state) => {
    const ground = { order: { ...order, state }, lines: [line(70, '10')], rows };
    expect(refusedAt(decidePromise(ground, { lines: [typed(70, WORK_DATE)] }))).toEqual([': order-not-open']);
  });

  it('names lines without anything open, and days that are none', () => {
    const ground = { order, lines: [line(70, '10')], rows };
    const lines = [typed(71, WORK_DATE), typed(70, null), typed(70, WORK_DATE, '2027-02-30')];
    expect(refusedAt(decidePromise(ground, { lines }))).toEqual([
      'lines.0.lineId: nothing-to-promise',
      'lines.1.day: not-a-day',
      'lines.2.asked: not-a-day',
    ]);
  });

  it('lays lines that go together for the one day, though they could go before', () => {
    const ground = { order, lines: [line(70, '4'), line(71, '20')], rows };
    const lines = [typed(70, '2027-03-08'), typed(71, '2027-03-08')];
    expect(decidePromise(ground, { lines, together: true })).toMatchObject({ ok: true });
    expect(refusedAt(decidePromise(ground, { lines }))).toEqual(['lines.0.day: promise-moved']);
  });
});

describe('taking a promise back (T8)', () => {
  const ground = { order: { number: 'SO-0007' }, lineIds: [70, 71], planned: [5, 6, 7], running: null };

  it('cancels what is planned for it', () => {
    expect(decideTakeBack(ground)).toMatchObject({ ok: true, effects: { lineIds: [70, 71], cancelled: [5, 6, 7] } });
  });

  it('is refused where nothing was promised, and where somebody works on it', () => {
    expect(refusedAt(decideTakeBack({ ...ground, lineIds: [] }))).toEqual([': nothing-promised']);
    expect(refusedAt(decideTakeBack({ ...ground, running: 'PR-0003' }))).toEqual([': planned-running']);
  });
});

describe('taking the days of a run (T8 T9)', () => {
  const open = (lineId: number, change: Partial<PromisedLine> = {}): PromisedLine => ({
    lineId,
    itemId: 1,
    quantity: '10',
    asked: WORK_DATE,
    promised: '2027-03-02',
    way: 'have',
    priority: 5,
    ordered: '2027-02-01',
    ...change,
  });
  const moved = (lineId: number, is: string | null) => ({ lineId, was: '2027-03-02', is, why: 'nothing came' });

  it('gives what there is to the line first in rank, whatever order they are chosen in', () => {
    const ground = {
      moved: [moved(70, '2027-03-08'), moved(71, WORK_DATE)],
      open: [open(70), open(71, { priority: 1 })],
      rows,
    };
    const taken = decideMoved(ground, [70, 71]);
    expect(taken.ok && taken.effects.lines.map(({ lineId, day }) => [lineId, day])).toEqual([
      [71, WORK_DATE],
      [70, '2027-03-08'],
    ]);
  });

  it('takes lines that plan nothing as they were told', () => {
    const ground = { moved: [moved(70, '2027-03-08')], open: [open(70, { way: 'atp' })], rows };
    expect(decideMoved(ground, [70])).toMatchObject({
      ok: true,
      effects: { orders: [], lines: [{ lineId: 70, way: 'atp', day: '2027-03-08' }] },
    });
  });

  it('plans what is planned from nothing, and holds a line that plans nothing to no goods', () => {
    const ground = (way: PromisedLine['way'], quantity: string) => ({
      moved: [moved(70, WORK_DATE)],
      open: [open(70, { way, quantity })],
      rows,
    });
    expect(decideMoved(ground('atp', '45'), [70])).toMatchObject({ ok: true, effects: { orders: [] } });
    for (const way of ['have', 'nothing'] as const) {
      expect(refusedAt(decideMoved(ground(way, '45'), [70]))).toEqual(['lines.0.day: promise-moved']);
    }
  });

  it('refuses a line that is another by now, one not found, and one without a day', () => {
    const ground = {
      moved: [moved(70, WORK_DATE), moved(72, null)],
      open: [open(70, { promised: '2027-03-09' }), open(71), open(72)],
      rows,
    };
    expect(refusedAt(decideMoved(ground, [70, 71, 72]))).toEqual([
      'lineIds.0: promise-changed',
      'lineIds.1: promise-changed',
      'lineIds.2: no-promise',
    ]);
  });
});

describe('making planned orders firm, and no longer (T12)', () => {
  const order = (state: string, kind: WorkOrder['kind'] = 'make'): WorkOrder => ({ number: 'PL-0004', kind, state });
  const told = (orders: Parameters<typeof decideFirm>[0], firm: boolean) => {
    const decision = decideFirm(orders, firm);
    return decision.ok ? decision.effects : decision.refusals.map((each) => [each.field, each.code, sentenceOf(each)]);
  };

  it('takes what is made or assembled from planned to firm, and back', () => {
    expect(told([order('planned'), order('planned', 'assemble')], true)).toEqual({ state: 'firm' });
    expect(told([order('firm'), order('firm', 'assemble')], false)).toEqual({ state: 'planned' });
  });

  it.each([
    [true, 'firm'],
    [true, 'started'],
    [false, 'planned'],
    [false, 'finished'],
  ])('is refused where firm is %s and it is %s', (firm, state) => {
    expect(told([order(state)], firm)).toEqual([
      ['orderIds.0', 'planned-not-workable', expect.stringContaining(`PL-0004 is ${state}`)],
    ]);
  });

  it('sends what is bought to its vendor, and names what is not there', () => {
    expect(told([order('planned'), order('planned', 'buy'), undefined, order('placed', 'buy')], true)).toEqual([
      ['orderIds.1', 'planned-is-bought', 'PL-0004 is bought; place it with a vendor.'],
      ['orderIds.2', 'unknown', expect.stringMatching(/^This planned order/)],
      ['orderIds.3', 'planned-not-workable', expect.stringContaining('PL-0004 is placed')],
    ]);
    // What is bought is never firm of itself.
    expect(told([order('firm', 'buy')], false)).toHaveLength(1);
  });
});
