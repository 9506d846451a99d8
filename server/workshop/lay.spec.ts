import type * as z from 'zod';
import type { TodayRow } from '@api/today';
import type { openOrder } from '@api/orders';
import type { openWork } from '@api/workshop';
import pino from 'pino';
import { systemClock } from '../clock';
import { tick } from '../jobs/jobs';
import { World, WORK_DATE, type Visitor } from '../testing/world';

type Work = z.output<typeof openWork.out>;

describe('W3 T5 an order that is late, and is laid again', () => {
  let world: World;
  let meilin: Visitor;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    meilin = await world.visitor('meilin');
    salmah = await world.visitor();
    const adjusted = { itemId: world.item('FV-SHELL9'), locationId: 0, was: '0', now: '20', unitCost: '100' };
    await salmah.does('adjustStock', { ...adjusted, reason: 'opened' });
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const jobs = () => ({ database: world.serving.database, clock: systemClock, log: pino({ level: 'silent' }) });
  const open = (id: number) => meilin.get<Work>(`/api/workshop/${id}`);
  const load = async (code: string) => {
    const { centres } = await meilin.get<{
      centres: { code: string; days: { day: string; orders: { id: number; minutes: number }[] }[] }[];
    }>('/api/load?days=90');
    return centres.find((centre) => centre.code === code)!.days;
  };
  const held = async (code: string, id: number) =>
    (await load(code)).flatMap(({ day, orders }) =>
      orders.filter((order) => order.id === id).map(({ minutes }) => [day, minutes] as const),
    );
  const todays = async (by: Visitor, kind: string) =>
    (await by.get<{ rows: TodayRow[] }>('/api/today')).rows.filter((row) => row.kind === kind);
  const made = async () => {
    const [work] = await meilin.does('newWork', { itemId: world.item('FV-900'), quantity: '2', due: null });
    return open(work!.id);
  };
  const lay = ({ document, version, operations }: Work, change: object = {}) => ({
    workId: document.id,
    version,
    operationId: operations[0]!.id,
    centreId: operations[0]!.centre.id,
    day: '2027-03-15',
    moveLines: false,
    ...change,
  });
  const ordered = async (shipDate: string) => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('FV-900'), quantity: '2', shipDate, route: 'stock' };
    const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-9' };
    const [order] = await salmah.does('saveOrder', { ...head, lines: [line] });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const sheet = await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${order!.id}`);
    return { orderId: order!.id, number: order!.number, lineId: sheet.lines[0]!.id };
  };

  it('holds its centres on the days it was laid for, and no longer where it was', async () => {
    const work = await made();
    const { id } = work.document;
    const before = await held('WELD', id);
    expect(before.length).toBeGreaterThan(0);
    const preview = await meilin.post('/api/acts/layWork/preview', lay(work));
    expect(preview.body).toMatchObject({
      effects: {
        was: work.due,
        operations: [{ name: 'Weld', firstDay: '2027-03-15' }, {}, {}],
        lines: [],
        above: null,
      },
    });
    const { due } = (preview.body as { effects: { due: string } }).effects;
    await meilin.does('layWork', lay(work));
    const after = await open(id);
    expect(after).toMatchObject({
      state: 'firm',
      due,
      start: '2027-03-15',
      operations: [{ firstDay: '2027-03-15' }, {}, {}],
    });
    expect((await held('WELD', id)).every(([day]) => day >= '2027-03-15')).toBe(true);
    const sum = (all: readonly (readonly [string, number])[]) => all.reduce((total, [, minutes]) => total + minutes, 0);
    expect(sum(await held('WELD', id))).toBe(sum(before));
    // The test alone, at another stand: what was laid before it stays.
    const test = after.operations[2]!;
    await meilin.does('layWork', lay(after, { operationId: test.id, day: '2027-03-29' }));
    expect((await open(id)).operations.map(({ firstDay }) => firstDay)).toEqual([
      after.operations[0]!.firstDay,
      after.operations[1]!.firstDay,
      '2027-03-29',
    ]);
    const stale = await meilin.refused('layWork', lay(after));
    expect(stale.codes).toEqual(['stale']);
    const bad = await meilin.refused('layWork', lay(await open(id), { day: '2027-02-01', centreId: 99_999 }));
    expect(bad.codes).toEqual(['day: days-order', 'centreId: unknown']);
    await meilin.does('cancelWork', { workId: id, version: (await open(id)).version });
    expect(await held('WELD', id)).toEqual([]);
  });

  it('tells whom that makes late before it is done, and moves their ship dates where that is said', async () => {
    const work = await made();
    const order = await ordered('2027-03-20');
    await meilin.does('tieWork', {
      ties: [{ plannedId: work.document.id, orderLineId: order.lineId, quantity: '2' }],
    });
    const later = lay(await open(work.document.id), { day: '2027-04-05' });
    const preview = await meilin.post('/api/acts/layWork/preview', later);
    expect(preview.body).toMatchObject({
      effects: {
        lines: [{ order: { number: order.number }, party: 'Kasturi Bottling', shipDate: '2027-03-20', late: true }],
      },
    });
    await meilin.does('layWork', { ...later, moveLines: true });
    const { due } = await open(work.document.id);
    const { lines, firstShipDate } = await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${order.orderId}`);
    expect([lines[0]!.shipDate, lines[0]!.promised, firstShipDate]).toEqual([due, due, due]);
  });

  it('says in Today which operation is late and whom it is for, until it is reported or laid again', async () => {
    const work = await made();
    const order = await ordered('2027-04-28');
    await meilin.does('tieWork', {
      ties: [{ plannedId: work.document.id, orderLineId: order.lineId, quantity: '2' }],
    });
    const weld = work.operations[0]!;
    const own = async () =>
      (await todays(meilin, 'work-late')).filter(({ document }) => document.id === work.document.id);
    const one = { workId: work.document.id, operationId: weld.id, good: '1', scrapped: '', used: [], worked: [] };
    await salmah.does('reportWork', { ...one, finish: false });
    expect(await own()).toEqual([]);
    await world.workOn('2027-03-24');
    expect(await own()).toMatchObject([
      {
        document: work.document,
        party: 'Kasturi Bottling',
        day: weld.lastDay,
        orderLineId: order.lineId,
        note: `10|Weld|${order.number}|2027-04-28`,
      },
    ]);
    // Nobody in the accounts is told.
    expect(await todays(await world.visitor('farida'), 'work-late')).toEqual([]);
    await meilin.does('layWork', lay(await open(work.document.id), { day: '2027-03-24' }));
    expect(await own()).toEqual([]);
    // Half of it is done: the other half is held, from then on.
    const held24 = await held('WELD', work.document.id);
    expect(held24.reduce((total, [, minutes]) => total + minutes, 0)).toBe(weld.minutes / 2);
    expect(held24[0]![0]).toBe('2027-03-24');
    await world.workOn(WORK_DATE);
  });

  it('says in Today which component is short for what begins soon, and all whom that touches', async () => {
    const { database } = world.serving;
    const [stock] = await database.rows<{ onHand: string }>(
      'SELECT on_hand FROM stock WHERE item_id = ? AND location_id = 0',
      [world.item('FV-NOZZLE')],
    );
    const gone = { itemId: world.item('FV-NOZZLE'), locationId: 0, was: stock!.onHand, now: '1', unitCost: '' };
    await world.workOn('2027-04-02');
    await salmah.does('adjustStock', { ...gone, reason: 'lost' });
    const [row] = await todays(meilin, 'component-short');
    expect(row).toMatchObject({ party: 'Kasturi Bottling', count: 2 });
    expect(row!.note).toMatch(/^\d+ FV-NOZZLE$/);
    await salmah.does('adjustStock', { ...gone, was: '1', now: stock!.onHand, unitCost: '72', reason: 'found' });
    await world.workOn(WORK_DATE);
  });

  it('is laid again by itself where it is late; its lines go with it, and are told until their customer knows', async () => {
    const work = await made();
    const order = await ordered(work.due);
    await meilin.does('tieWork', {
      ties: [{ plannedId: work.document.id, orderLineId: order.lineId, quantity: '2' }],
    });
    const weld = work.operations[0]!;
    const one = { workId: work.document.id, operationId: weld.id, good: '1', scrapped: '', used: [], worked: [] };
    expect((await meilin.refused('layLate', { workId: work.document.id })).codes).toEqual(['work-in-time']);
    await salmah.does('reportWork', { ...one, finish: false });
    const moved = async () =>
      (await todays(salmah, 'line-moved')).filter(({ document }) => document.id === order.orderId);
    const line = async () =>
      (await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${order.orderId}`)).lines[0]!;
    await tick(jobs());
    expect([(await open(work.document.id)).due, await moved()]).toEqual([work.due, []]);
    await world.workOn('2027-06-07');
    await Promise.all([tick(jobs()), tick(jobs())]);
    const again = await open(work.document.id);
    expect(again.operations[0]!.lastDay >= '2027-06-07').toBe(true);
    expect(again.due > work.due).toBe(true);
    expect(await line()).toMatchObject({ shipDate: again.due, promised: again.due, movedFrom: work.due });
    expect(await moved()).toMatchObject([
      { party: 'Kasturi Bottling', day: again.due, note: work.due, orderLineId: order.lineId },
    ]);
    // Who reports is still told what should have been over when.
    expect(
      (await todays(meilin, 'work-late')).filter(({ document }) => document.id === work.document.id),
    ).toMatchObject([{ day: weld.lastDay }]);
    // A day later it is late once more: against what the customer knows.
    await world.workOn('2027-06-21');
    await tick(jobs());
    const third = await open(work.document.id);
    expect(await line()).toMatchObject({ shipDate: third.due, movedFrom: work.due });
    expect(third.due > again.due).toBe(true);
    const version = third.version;
    await tick(jobs());
    expect((await open(work.document.id)).version).toBe(version);
    const trail = await salmah.get<{ changes: { act: string; person: string }[] }>(`/api/trail/PR/${work.document.id}`);
    expect(trail.changes.filter(({ person }) => person === 'Kampong')).toHaveLength(2);
    const told = await salmah.get<{ changes: { fields: object[] }[] }>(`/api/trail/SO/${order.orderId}`);
    expect(told.changes[0]!.fields).toEqual([{ what: 'ship date of line 1', was: again.due, is: third.due }]);
    await salmah.does('customerTold', { id: order.orderId });
    expect([await moved(), (await line()).movedFrom]).toEqual([[], null]);
    expect((await salmah.refused('customerTold', { id: order.orderId })).codes).toEqual(['nothing-moved']);
    await world.workOn('2027-07-12');
    await tick(jobs());
    expect(await moved()).toMatchObject([{ note: third.due }]);
    // What somebody lays by hand is late no more.
    await meilin.does('layWork', lay(await open(work.document.id), { day: '2027-07-12' }));
    expect((await todays(meilin, 'work-late')).filter(({ document }) => document.id === work.document.id)).toEqual([]);
    await world.workOn(WORK_DATE);
  });

  it('takes what waits for its part with it, level by level', async () => {
    const [top] = await meilin.does('newWork', { itemId: world.item('FV-900'), quantity: '30', due: null });
    const before = await open(top!.id);
    const shells = before.below.find(({ item }) => item.number === 'FV-SHELL9')!;
    await meilin.does('makeFirm', { orderIds: [shells.document.id], firm: true });
    const below = await open(shells.document.id);
    const first = { workId: below.document.id, operationId: below.operations[0]!.id, good: '1', scrapped: '' };
    await salmah.does('reportWork', { ...first, used: [], worked: [], finish: false });
    await world.workOn('2027-08-02');
    await tick(jobs());
    const [part, whole] = [await open(below.document.id), await open(top!.id)];
    expect(part.due > below.due && whole.due > before.due).toBe(true);
    const needs = whole.components.find(({ item }) => item.number === 'FV-SHELL9')!;
    expect(whole.operations.find(({ no }) => no === needs.operationNo)!.firstDay > part.due).toBe(true);
    await world.workOn(WORK_DATE);
  });
});
