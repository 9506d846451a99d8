import { addDays, type Day } from '@core/kernel';
import { answers, Ground, type GroundRows, type Way } from '@core/promise';
import type { BenchRow } from '@api/supply';
import type { TodayRow } from '@api/today';
import type * as z from 'zod';
import { Actor } from '../../sample/actor';
import { layOpeningStock } from '../../sample/opening-stock';
import { layWorks } from '../../sample/works';
import { refusalsOf, World, WORK_DATE, type Visitor } from '../../testing/world';
import { repromiseRun } from '../again/repromise-run';

type Bench = z.infer<typeof BenchRow>;
interface Ask {
  order: { id: number; version: number };
  rows: GroundRows;
  lines: { id: number; point: number; quantity: string; asked: Day }[];
}
const codesOf = (answer: Parameters<typeof refusalsOf>[0]) => refusalsOf(answer).codes;

interface Planned {
  id: number;
  number: string;
  kind: 'make' | 'assemble' | 'buy';
  state: string;
  start: Day;
  quantity: string;
  item: { id: number };
  purchase: { id: number; number: string } | null;
  components: { item: { id: number }; quantity: string; covered: string }[];
}

describe('what a promise plans is carried out (T12)', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    await layWorks(database, world.masters, WORK_DATE);
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const promised = async (item: string, quantity: string, way: Way = 'nothing') => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-9',
      lines: [{ id: null, itemId: world.item(item), quantity, shipDate: '2027-03-08', route: 'stock' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const ask = await salmah.get<Ask>(`/api/orders/${order!.id}/promise`);
    const [line] = ask.lines;
    const asked = { key: '', itemId: line!.point, quantity: line!.quantity, asked: line!.asked };
    const day = addDays(WORK_DATE, answers(new Ground(ask.rows), [asked], () => way)[0]!.day!);
    await salmah.does('acceptPromise', {
      orderId: order!.id,
      version: ask.order.version,
      lines: [{ lineId: line!.id, way, asked: line!.asked, day }],
    });
    return { orderId: order!.id, lineId: line!.id, day };
  };
  const bench = (query = 'rows=200') => salmah.get<{ rows: Bench[]; next: string | null }>(`/api/bench?${query}`);
  const planned = async (id: number) => salmah.get<Planned>(`/api/planned/${id}`);
  const allPlanned = async () => (await salmah.get<{ rows: Planned[] }>('/api/planned?rows=200')).rows;
  const choiceOf = (row: Bench) => ({ plannedId: row.planned!.id, vendorId: row.proposal!.vendorId });
  /** Of all open lines those whose day another run would move. */
  const moves = async () => {
    const moved = await repromiseRun(world.serving.database, world.masters.companyId, WORK_DATE, () => undefined);
    return moved.map(({ lineId }) => lineId);
  };

  it('stands on the bench with whom it is for and by when, is placed grouped, and holds what it was planned for', async () => {
    const { orderId, lineId, day } = await promised('FV-1200', '3');
    const { rows } = await bench(`orderId=${orderId}`);
    expect(rows.length).toBeGreaterThan(1);
    for (const row of rows) {
      expect(row).toMatchObject({ orderLineId: null, order: { kind: 'SO', id: orderId }, lineNo: 1, route: 'special' });
      expect(row.customer!.name).toBe('Kasturi Bottling');
      expect(row.proposal!.reason).toBe('planned');
      expect(row.orderBy! <= row.shipDate).toBe(true);
    }
    const today = await salmah.get<{ rows: TodayRow[] }>('/api/today');
    const told = today.rows.filter((row) => row.kind === 'plan-to-place').map((row) => row.document.number);
    const soon = rows.filter((row) => row.orderBy! <= addDays(WORK_DATE, 3)).map((row) => row.planned!.number);
    expect(soon.length).toBeGreaterThan(0);
    expect(told.sort()).toEqual(soon.sort());

    const before = await planned(rows[0]!.planned!.id);
    const made = await salmah.does('placePurchases', { lines: [], planned: rows.map(choiceOf) });
    const vendors = new Set(rows.map((row) => row.proposal!.vendorId));
    expect(made.map((each) => each.kind)).toEqual([...vendors].map(() => 'PO'));
    const after = await planned(before.id);
    expect(after).toMatchObject({ state: 'placed', quantity: before.quantity });
    expect(made.map((each) => each.id)).toContain(after.purchase!.id);
    expect((await bench(`orderId=${orderId}`)).rows).toEqual([]);
    // Each purchase line is what was planned to be bought of its item, and is owed to nobody else.
    const bought = await world.serving.database.rows<{ itemId: number; quantity: string; planned: string }>(
      `SELECT l.item_id, l.quantity, (SELECT SUM(p.quantity) FROM planned_order p
          WHERE p.company_id = l.company_id AND p.purchase_line_id = l.id) AS planned
         FROM purchase_order_line l WHERE l.company_id = ? AND l.purchase_order_id IN (?)`,
      [world.masters.companyId, made.map((each) => each.id)],
    );
    expect(bought.map((each) => each.quantity)).toEqual(bought.map((each) => each.planned));
    // What it goes into waits for goods like anything else, and the day holds, however often all are asked again.
    const makes = (await allPlanned()).filter((each) => each.kind !== 'buy');
    const needs = (await Promise.all(makes.map((each) => planned(each.id)))).flatMap((each) => each.components);
    for (const row of rows) {
      expect(needs.filter((each) => each.item.id === row.item.id).map((each) => each.covered)).toContain('0');
    }
    expect(await moves()).toEqual([]);
    const [line] = await world.serving.database.rows<{ shipDate: Day }>(
      'SELECT ship_date FROM sales_order_line WHERE id = ?',
      [lineId],
    );
    expect(line!.shipDate).toBe(day);
  });

  it('is told with the availability of the line it is for, whose balance it is not in (T8)', async () => {
    const { lineId, day } = await promised('FV-900', '1');
    const of = (line: string) =>
      salmah.get<{ own: { day: Day; planned: { number: string; quantity: string; day: Day }[] } | null }>(
        `/api/items/${world.item('FV-900')}/availability${line}`,
      );
    const { own } = await of(`?line=${lineId}`);
    const [top] = await world.serving.database.rows<{ number: string; day: Day }>(
      `SELECT number, due_date AS day FROM planned_order p WHERE company_id = ? AND open
          AND id IN (SELECT t.planned_order_id FROM planned_tie t WHERE t.company_id = p.company_id AND t.order_line_id = ?)`,
      [world.masters.companyId, lineId],
    );
    expect(own).toEqual({ day, planned: [{ ...top, quantity: '1' }] });
    expect((await of('')).own).toBeNull();
  });

  it('is placed once, whole, by who may buy it from whom', async () => {
    const { orderId } = await promised('FV-1200', '2');
    const { rows } = await bench(`orderId=${orderId}`);
    const [row] = rows;
    const input = { lines: [], planned: [choiceOf(row!)] };
    const joko = await world.visitor('joko');
    expect(await joko.raw('placePurchases', input)).toMatchObject({ status: 403 });
    expect(
      codesOf(await salmah.raw('placePurchases', { lines: [], planned: [input.planned[0], input.planned[0]] })),
    ).toEqual(['planned.1.plannedId: named-again']);
    const both = await Promise.all([salmah.raw('placePurchases', input), salmah.raw('placePurchases', input)]);
    expect(both.map((each) => each.status).sort()).toEqual([200, 422]);
    expect(both.filter((each) => each.status > 200).flatMap(codesOf)).toEqual(['planned.0: planned-not-placeable']);
    // The promise taken back leaves what was ordered; the rest goes.
    const { version } = await salmah.get<{ version: number }>(`/api/orders/${orderId}`);
    await salmah.does('takeBackPromise', { orderId, version });
    expect(await planned(row!.planned!.id)).toMatchObject({ state: 'placed' });
    expect((await bench(`orderId=${orderId}`)).rows).toEqual([]);
  });

  it('pages through lines and plans alike, each once', async () => {
    await promised('FV-1200', '1');
    const all = (await bench()).rows.map((row) => row.key);
    const seen: string[] = [];
    for (let cursor = ''; ;) {
      const page = await bench(`rows=2${cursor && `&cursor=${encodeURIComponent(cursor)}`}`);
      seen.push(...page.rows.map((row) => row.key));
      if (!page.next) break;
      cursor = page.next;
    }
    expect(seen).toEqual(all);
    expect(new Set(seen).size).toBe(all.length);
  });

  it('is made firm: promising and planning leave it as it is, until it is planned again', async () => {
    const { orderId, lineId } = await promised('FV-1200', '4');
    const [top] = await world.serving.database.rows<{ id: number; number: string }>(
      `SELECT id, number FROM planned_order p WHERE company_id = ? AND open
          AND id IN (SELECT t.planned_order_id FROM planned_tie t WHERE t.company_id = p.company_id AND t.order_line_id = ?)`,
      [world.masters.companyId, lineId],
    );
    const [bought] = (await bench(`orderId=${orderId}`)).rows;
    expect(codesOf(await salmah.raw('makeFirm', { orderIds: [top!.id, bought!.planned!.id], firm: true }))).toEqual([
      'orderIds.1: planned-is-bought',
    ]);
    expect(codesOf(await salmah.raw('makeFirm', { orderIds: [top!.id], firm: false }))).toEqual([
      'orderIds.0: planned-not-workable',
    ]);
    await salmah.does('makeFirm', { orderIds: [top!.id], firm: true });
    expect((await allPlanned()).find((each) => each.id === top!.id)).toMatchObject({ state: 'firm' });
    // All of the line comes from it: nothing is left to be asked for.
    expect((await salmah.get<Ask>(`/api/orders/${orderId}/promise`)).lines).toEqual([]);
    expect(await moves()).toEqual([]);
    const { rows } = await salmah.get<{ rows: TodayRow[] }>('/api/today');
    const soon = (await allPlanned()).filter((each) => each.kind !== 'buy' && each.start <= addDays(WORK_DATE, 3));
    expect(
      rows
        .filter((row) => row.kind === 'plan-to-begin')
        .map((row) => row.document.number)
        .sort(),
    ).toEqual(soon.map((each) => each.number).sort());
    await salmah.does('makeFirm', { orderIds: [top!.id], firm: false });
    expect((await salmah.get<Ask>(`/api/orders/${orderId}/promise`)).lines).toHaveLength(1);
  });

  it('stands where all are asked again, whoever was promised first (T9)', async () => {
    // The later one is asked for sooner and ranks before: it takes nothing from who was promised before it.
    const first = await promised('SK-D4', '6', 'have');
    const second = await promised('SK-D4', '6', 'have');
    const third = await promised('FV-900', '5', 'nothing');
    await world.serving.database.run(
      'UPDATE sales_order SET order_date = order_date - INTERVAL 9 DAY WHERE company_id = ? AND id IN (?)',
      [world.masters.companyId, [second.orderId, third.orderId]],
    );
    expect(first.day < second.day).toBe(true);
    expect(await moves()).toEqual([]);
    // What they run on stands still for a fortnight: those that cannot keep their days are told, the others stay.
    const [hold] = await world.serving.database.rows<{ centre: number; day: Day }>(
      `SELECT h.work_centre_id AS centre, MIN(h.day) AS day FROM centre_hold h
         JOIN planned_operation o ON o.company_id = h.company_id AND o.id = h.planned_operation_id
         JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id
        WHERE h.company_id = ? AND p.id IN (SELECT t.planned_order_id FROM planned_tie t WHERE t.company_id = p.company_id AND t.order_line_id = ?) GROUP BY h.work_centre_id ORDER BY day LIMIT 1`,
      [world.masters.companyId, third.lineId],
    );
    await world.serving.database.run(
      `INSERT INTO centre_downtime (company_id, work_centre_id, first_day, last_day, machines, why)
        SELECT company_id, id, ?, ? + INTERVAL 14 DAY, machines, 'overhaul' FROM work_centre WHERE company_id = ? AND id = ?`,
      [hold!.day, hold!.day, world.masters.companyId, hold!.centre],
    );
    const moved = await moves();
    expect(moved).toContain(third.lineId);
    expect(moved).not.toContain(first.lineId);
    // Its order says so; the other says nothing. (T9)
    const broken = async (orderId: number) =>
      (
        await salmah.get<{ lines: { lineId: number; was: Day; is: Day; why: string }[] }>(
          `/api/orders/${orderId}/promise/broken`,
        )
      ).lines;
    const [line, ...more] = await broken(third.orderId);
    expect([line!.lineId, line!.was, more]).toEqual([third.lineId, third.day, []]);
    expect(line!.is > third.day && line!.why !== '').toBe(true);
    expect(await broken(first.orderId)).toEqual([]);
  });
});
