import type * as z from 'zod';
import type { TodayRow } from '@api/today';
import type * as contract from '@api/going-out';
import { Actor } from '../sample/actor';
import { layOpeningStock } from '../sample/opening-stock';
import { systemClock } from '../clock';
import { supplyDesk } from '../testing/supply-desk';
import { World, WORK_DATE, type Visitor } from '../testing/world';
import { lookForShort } from './short';

type Sheet = z.infer<typeof contract.listGoingOut.out>;

describe('S9 what goes out', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;
  const { customer, ordered, vendor, place, receive } = supplyDesk(
    () => world,
    () => salmah,
  );

  beforeEach(async () => {
    world = await World.make();
    const actor = new Actor(
      world.serving.database,
      world.masters.companyId,
      world.masters.people.get('joko')!,
      'stock',
    );
    await layOpeningStock(world.serving.database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
    joko = await world.visitor('joko');
  });
  afterEach(async () => {
    expect(await world.verify()).toEqual([]);
    await world.end();
  });

  const list = (query = 'until=2027-06-30') => salmah.get<Sheet>(`/api/going-out?${query}`);
  const told = async (query?: string) =>
    (await list(query)).rows.map(
      ({ order, lineNo, held, free, now, short, missing }) =>
        `${order.number}/${lineNo} held ${held} free ${free} now ${now} short ${short} missing ${missing}`,
    );
  const freeOf = async (item: string) =>
    Number(
      (
        await world.serving.database.rows<{ free: string }>(
          'SELECT on_hand - reserved AS free FROM stock WHERE item_id = ? AND location_id = 0',
          [world.item(item)],
        )
      )[0]!.free,
    );
  const today = async (visitor = salmah) =>
    (await visitor.get<{ rows: TodayRow[] }>('/api/today')).rows
      .filter(({ kind }) => kind === 'line-short' || kind === 'to-go-out')
      .map(({ band, kind, document, note }) => `${band} ${kind} ${document.number} ${note}`.trim());
  const stock = (item: string, quantity: string, shipDate: string) => ({ item, quantity, shipDate, route: 'stock' });

  it('is all confirmed lines from our place by ship day, with what there is once earlier ones have theirs', async () => {
    const free = await freeOf('SALT-25');
    const late = await ordered('Kasturi Bottling', stock('SALT-25', String(free), '2027-03-12'));
    const early = await ordered('Teratai Bay Resort', stock('SALT-25', '10', '2027-03-08'));
    await ordered('Teratai Bay Resort', { item: 'RO-4040', quantity: '2', route: 'drop' });
    expect(await told()).toEqual([
      `SO-0002/1 held 0 free 10 now 10 short 0 missing 0`,
      `SO-0001/1 held 0 free ${free - 10} now ${free - 10} short 10 missing 10`,
    ]);
    // A day, a customer or a place at a time, and page by page.
    expect(await told('until=2027-03-11')).toHaveLength(1);
    expect((await told('')).map((row) => row.slice(0, 9))).toEqual(['SO-0002/1']);
    const kasturi = customer('Kasturi Bottling').id;
    expect((await told(`until=2027-06-30&customer=${kasturi}`)).map((row) => row.slice(0, 9))).toEqual(['SO-0001/1']);
    expect(await told('until=2027-06-30&location=1')).toEqual([]);
    const first = await list('until=2027-06-30&rows=1');
    const second = await list(`until=2027-06-30&rows=1&cursor=${first.next!}`);
    expect([...first.rows, ...second.rows].map(({ lineId }) => lineId)).toEqual([early.lineIds[0], late.lineIds[0]]);
    expect(second.next).toBeNull();
    expect(await salmah.get('/api/going-out?until=soon')).toMatchObject({ refusals: [{ field: 'until' }] });
  });

  it('ships marked lines of any orders in one act: one shipment and note a customer and address', async () => {
    const one = await ordered(
      'Kasturi Bottling',
      stock('SALT-25', '4', '2027-03-08'),
      stock('FC-20', '1', '2027-03-08'),
    );
    const two = await ordered('Kasturi Bottling', stock('SALT-25', '3', '2027-03-09'));
    const other = await ordered('Teratai Bay Resort', stock('SALT-25', '2', '2027-03-08'));
    const lines = [one.lineIds[0]!, two.lineIds[0]!, other.lineIds[0]!].map((lineId, at) => ({
      lineId,
      quantity: ['4', '2', '2'][at]!,
    }));
    const preview = await joko.post('/api/acts/sendOut/preview', { lines });
    expect((preview.body as { effects: { shipments: { orderId: number | null }[] } }).effects.shipments).toMatchObject([
      { orderId: null, customerId: customer('Kasturi Bottling').id },
      { orderId: other.id, customerId: customer('Teratai Bay Resort').id },
    ]);
    const made = await joko.does('sendOut', { lines });
    expect(made.map(({ kind }) => kind)).toEqual(['SH', 'SH']);
    const shipment = await joko.get<{
      sources: { id: number }[];
      lines: { source: { id: number }; quantity: string }[];
    }>(`/api/shipments/${made[0]!.id}`);
    expect(shipment.sources.map(({ id }) => id)).toEqual([one.id, two.id]);
    expect(shipment.lines.map(({ source, quantity }) => [source.id, quantity])).toEqual([
      [one.id, '4'],
      [two.id, '2'],
    ]);
    // Both orders lead to it, and both say who shipped what.
    for (const id of [one.id, two.id]) {
      const { documents } = await salmah.get<{ documents: { document: { kind: string; id: number } }[] }>(
        `/api/orders/${id}`,
      );
      const shipments = documents.filter(({ document }) => document.kind === 'SH');
      expect(shipments.map(({ document }) => document.id)).toEqual([made[0]!.id]);
    }
    expect(await told()).toEqual([expect.stringContaining('SO-0001/2'), expect.stringContaining('SO-0002/1')]);
    // Taken back, all of it is open again on both.
    await joko.does('reverseMovement', { kind: 'SH', id: made[0]!.id, reason: 'Wrong van' });
    expect((await list()).rows.map(({ order, lineNo, open }) => `${order.number}/${lineNo} ${open}`)).toEqual([
      'SO-0001/1 4',
      'SO-0001/2 1',
      'SO-0002/1 3',
    ]);
    // Each order is invoiced by itself.
    const [again] = await joko.does('sendOut', { lines: lines.slice(0, 2) });
    await salmah.does('invoiceCustomer', { orderId: one.id });
    await salmah.does('invoiceCustomer', { orderId: two.id });
    const refused = await joko.refused('reverseMovement', { kind: 'SH', id: again!.id, reason: 'Wrong van' });
    expect(refused.codes).toEqual(['invoiced-first']);
  });

  it('ships all or none, says what is refused at its line, and each once: clicked twice, or by two at once', async () => {
    const free = await freeOf('SALT-25');
    const one = await ordered('Kasturi Bottling', stock('SALT-25', String(free), '2027-03-08'));
    const two = await ordered('Teratai Bay Resort', stock('SALT-25', '5', '2027-03-09'));
    const drop = await ordered('Teratai Bay Resort', { item: 'RO-4040', quantity: '2', route: 'drop' });
    const ask = (...lines: [number, string][]) => ({
      lines: lines.map(([lineId, quantity]) => ({ lineId, quantity })),
    });
    const both = await joko.refused('sendOut', ask([one.lineIds[0]!, String(free)], [two.lineIds[0]!, '5']));
    expect(both.codes).toEqual(['lines.1.quantity: above-on-hand']);
    const wrong: [number, string][] = [
      [two.lineIds[0]!, '6'],
      [drop.lineIds[0]!, '2'],
      [two.lineIds[0]! + 900, '1'],
    ];
    expect((await joko.refused('sendOut', ask(...wrong))).codes).toEqual([
      'lines.0.quantity: above-open',
      'lines.1.quantity: unknown',
      'lines.2.quantity: unknown',
    ]);
    expect((await joko.refused('sendOut', ask([999_999, '1']))).status).toBe(404);
    const key = '00000000-0000-4000-8000-00000000beef';
    const asked = ask([two.lineIds[0]!, '3']);
    const twice = await Promise.all([joko.raw('sendOut', asked, key), joko.raw('sendOut', asked, key)]);
    expect(twice.map(({ status }) => status)).toEqual([200, 200]);
    expect(twice[0]!.body).toEqual(twice[1]!.body);
    // Two of us want the last of it at once.
    const race = await Promise.all([
      joko.raw('sendOut', ask([one.lineIds[0]!, String(free - 3)])),
      salmah.raw('sendOut', ask([two.lineIds[0]!, '2'])),
    ]);
    expect(race.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  it('is in Today from the moment it is short, with what would end it, until that ends it', async () => {
    const free = await freeOf('SALT-25');
    expect(await today()).toEqual([]);
    const line = await ordered('Kasturi Bottling', stock('SALT-25', String(free + 4), '2027-03-12'));
    expect(await today()).toEqual(['now line-short SO-0001 4 SALT-25||']);
    expect(await today(joko)).toEqual(await today());
    const earlier = await ordered('Teratai Bay Resort', stock('SALT-25', '6', '2027-03-10'));
    expect(await today()).toEqual(['now line-short SO-0001 10 SALT-25||']);
    // Bought, but too late; then received.
    const bought = await salmah.does('enterPurchase', {
      vendorId: vendor('V-103'),
      shipToId: null,
      lines: [{ itemId: world.item('SALT-25'), quantity: '40', dueDate: '2027-03-16' }],
    });
    expect(await today()).toEqual(['now line-short SO-0001 10 SALT-25|2027-03-16|PO-0001']);
    expect((await list()).rows.find(({ order }) => order.id === line.id)).toMatchObject({
      short: '10',
      missing: '0',
      late: [{ quantity: '10', day: '2027-03-16', by: { kind: 'PO', id: bought[0]!.id } }],
    });
    const purchase = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${bought[0]!.id}`);
    await receive(bought[0]!.id, purchase.lines[0]!.id, '40');
    expect(await today()).toEqual([]);
    // On its day it is to go out; on the next it is late; shipped, it is gone.
    await world.workOn('2027-03-10');
    expect(await today()).toEqual(['now to-go-out SO-0002']);
    await joko.does('sendOut', { lines: [{ lineId: earlier.lineIds[0]!, quantity: '6' }] });
    expect(await today()).toEqual([]);
    await world.workOn(WORK_DATE);
  });

  it('L3 what is bought for a line is short while its purchase is late, and another day ends it', async () => {
    const one = await ordered('Kasturi Bottling', {
      item: 'VA-50A',
      quantity: '3',
      route: 'special',
      shipDate: '2027-03-20',
    });
    // It waits on the bench, which says so.
    expect(await today()).toEqual([]);
    await place({ orderLineId: one.lineIds[0]!, vendorId: vendor('V-102') });
    const [row] = (await list()).rows;
    const [by] = [...row!.coming, ...row!.late];
    expect(by).toMatchObject({ quantity: '3', by: { kind: 'PO' } });
    const late = by!.day > '2027-03-20';
    expect(await today()).toEqual(late ? [`coming line-short SO-0001 3 VA-50A|${by!.day}|${by!.by.number}`] : []);
  });

  it('looks at all on a new day, at what changed otherwise, the same whoever looks, and again where it was broken off', async () => {
    const { database } = world.serving;
    const { companyId } = world.masters;
    const free = await freeOf('SALT-25');
    await ordered('Kasturi Bottling', stock('SALT-25', String(free + 4), '2027-03-12'));
    const looks = await Promise.all(
      Array.from({ length: 4 }, () => lookForShort(database, systemClock, companyId, WORK_DATE)),
    );
    expect(looks.filter((changed) => changed === 1)).not.toHaveLength(0);
    expect(await lookForShort(database, systemClock, companyId, WORK_DATE)).toBe(0);
    const kept = () =>
      database.rows('SELECT order_line_id, ship_date, quantity, missing, ends_on, ends_by FROM short_line');
    const before = await kept();
    expect(before).toMatchObject([{ quantity: '4', missing: '4', endsOn: null, endsBy: '' }]);
    // As if nobody had looked.
    await database.run('DELETE FROM short_line');
    await database.run('UPDATE short_look SET looked_on = NULL, audit_id = 4000000000');
    expect(await lookForShort(database, systemClock, companyId, WORK_DATE)).toBe(1);
    expect(await kept()).toEqual(before);
  });
});
