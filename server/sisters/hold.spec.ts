import { pino } from 'pino';
import type * as z from 'zod';
import type { possibleDays } from '@api/promise';
import type { HoldRow, openSister } from '@api/sisters';
import type { openOrder } from '@api/orders';
import { systemClock } from '../clock';
import { tick } from '../jobs/jobs';
import type { Sisters } from '../sample/sisters';
import { sistersWorld } from '../testing/sisters-world';
import { WORK_DATE, type Visitor, type World } from '../testing/world';

type Held = z.output<typeof HoldRow>;
type Days = z.output<typeof possibleDays.out>;

describe('X4 promise through a sister', () => {
  let world: World;
  let sisters: Sisters;
  let salmah: Visitor;
  let chandra: Visitor;

  beforeAll(async () => {
    ({ world, sisters, salmah, chandra } = await sistersWorld());
    const { database } = world.serving;
    await database.run('UPDATE item_vendor SET preferred = (vendor_id = ?) WHERE company_id = ? AND item_id = ?', [
      sisters.vendorId,
      sisters.hbw,
      world.item('FV-900'),
    ]);
    await database.run(
      "UPDATE item SET promise_method = 'atp', obtained = 'make', make_days = 15 WHERE company_id = ? AND number = 'FV-900'",
      [sisters.mbf],
    );
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const ordered = async (quantity: string, route: 'drop' | 'special' | 'stock' = 'special') => {
    const { id: customerId, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('FV-900'), quantity, shipDate: '2027-05-03', route };
    const [made] = await salmah.does('saveOrder', {
      ...{ id: null, version: null, customerId, shipToId: shipTos[0], customerReference: '', lines: [line] },
    });
    const { lines } = await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${made!.id}`);
    return { ...made!, lineId: lines[0]!.id };
  };
  const held = async (orderId: number) => (await salmah.get<{ rows: Held[] }>(`/api/orders/${orderId}/holds`)).rows;
  const daysFor = async (
    who: Visitor,
    itemId: number,
    quantity: string,
    route: string,
    asked: string | null = null,
  ) => {
    const line = { key: 'a', itemId, route, locationId: 0, quantity, asked };
    const { body } = await who.post('/api/promise/days', { orderId: null, lines: [line] });
    return (body as Days).lines[0]!;
  };
  const hers = (quantity: string) => daysFor(chandra, sisters.items.get('FV-900')!, quantity, 'stock');

  it('answers for our line: from when she could ship, straight or on the way to us', async () => {
    const today = (await hers('4')).first!;
    const straight = await daysFor(salmah, world.item('FV-900'), '4', 'drop', '2027-02-20');
    expect(straight.first).toBe(today);
    expect(straight.why).toBe(`Muara Bening Fabrication could ship it on Mon 1 Mar`);
    const before = await daysFor(salmah, world.item('FV-900'), '4', 'special');
    const { half } = await salmah.get<z.output<typeof openSister.out>>(`/api/sisters/${sisters.mbf}`);
    const kept = { ...half, customerId: null, vendorId: half.vendor!.id, customer: undefined, vendor: undefined };
    await salmah.does('keepSister', { sisterId: sisters.mbf, ...kept, transitDays: 2 });
    const after = await daysFor(salmah, world.item('FV-900'), '4', 'special', '2027-03-02');
    expect(before.first! < after.first!).toBe(true);
    expect(after.why).toMatch(/^Muara Bening Fabrication could ship it on .*, it is 2 working days on the way/);
    expect(after.word).toContain('cannot be before');
    expect(after.instead).toBe(after.first);
    // More than she has: her own lead time counts, not ours of her.
    const all = await daysFor(salmah, world.item('FV-900'), '40', 'drop');
    expect(all.first).toBe((await hers('40')).first);
    expect(all.first! > today).toBe(true);
    // From our own shelf nobody else is asked.
    expect((await daysFor(salmah, world.item('FV-900'), '4', 'stock')).why).not.toContain('Muara');
  });

  it('holds what she has and makes until a day, and lets it go', async () => {
    const order = await ordered('12');
    const before = (await hers('6')).first!;
    const [row] = await held(order.id);
    expect(row).toMatchObject({ open: '12', sister: 'Muara Bening Fabrication', first: before, hold: null });
    const asked = { orderId: order.id, lineIds: [order.lineId] };
    // Twice at once is once.
    const twice = await Promise.all([salmah.raw('holdAtSister', asked), salmah.raw('holdAtSister', asked)]);
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 422]);
    expect((await salmah.refused('holdAtSister', asked)).codes).toEqual(['lineIds.0: held-already']);
    const [kept] = await held(order.id);
    expect(kept!.hold).toMatchObject({ until: '2027-03-06' });
    expect((await hers('6')).first! > before).toBe(true);
    // She sees it as a draft that says whom it is for.
    const { rows } = await chandra.get<{ rows: { number: string; customerReference: string; state: string }[] }>(
      '/api/orders',
    );
    expect(rows.find(({ number }) => number === kept!.hold!.number)).toMatchObject({
      state: 'draft',
      customerReference: `${order.number}, held until 2027-03-06`,
    });
    // At what she would ask of us.
    const { id: draftId } = (await chandra.get<{ rows: { id: number; number: string }[] }>('/api/orders')).rows.find(
      ({ number }) => number === kept!.hold!.number,
    )!;
    expect(await chandra.get(`/api/orders/${draftId}`)).toMatchObject({ lines: [{ unitPrice: '931' }] });
    // Nothing is to be done with it there.
    expect(JSON.stringify(await chandra.get('/api/today'))).not.toContain(kept!.hold!.number);
    await salmah.does('letHoldGo', { id: kept!.hold!.id });
    expect((await hers('6')).first).toBe(before);
    expect((await held(order.id))[0]!.hold).toBeNull();
    expect((await salmah.refused('letHoldGo', { id: kept!.hold!.id })).codes).toEqual(['hold-over']);
    // Held again, she lets it go.
    await salmah.does('holdAtSister', asked);
    await chandra.does('letHoldGo', { id: (await held(order.id))[0]!.hold!.id });
    expect((await hers('6')).first).toBe(before);
  });

  it('is used by the order it was held for', async () => {
    const order = await ordered('12');
    await salmah.does('holdAtSister', { orderId: order.id, lineIds: [order.lineId] });
    await salmah.does('confirmOrder', { id: order.id, version: 1 });
    await salmah.does('placePurchases', { lines: [{ orderLineId: order.lineId, vendorId: sisters.vendorId }] });
    const { rows } = await chandra.get<{ rows: { id: number; kind: string; revision: number }[] }>('/api/tray');
    const { id, kind, revision } = rows[0]!;
    const [sold] = await chandra.does('takeOffer', { id, kind, revision, lines: [] });
    expect(await chandra.get(`/api/orders/${sold!.id}`)).toMatchObject({
      state: 'confirmed',
      lines: [{ quantity: '12' }],
    });
    expect((await held(order.id))[0]).toMatchObject({ open: '0', hold: null });
    const states = await world.serving.database.rows<{ state: string }>('SELECT state FROM sister_hold ORDER BY id');
    expect(states.map(({ state }) => state)).toEqual(['let-go', 'let-go', 'used']);
    expect((await salmah.refused('holdAtSister', { orderId: order.id, lineIds: [order.lineId] })).codes).toEqual([
      'lineIds.0: not-of-sister',
    ]);
    await chandra.does('cancelOrder', { id: sold!.id, version: 2, reason: 'a test' });
  });

  it('holds for what is to be bought still, whatever of the rest went out', async () => {
    const order = await ordered('5');
    await salmah.does('confirmOrder', { id: order.id, version: 1 });
    const lines = [{ orderLineId: order.lineId, vendorId: sisters.vendorId, quantity: '2', reason: 'the rest later' }];
    const [bought] = await salmah.does('placePurchases', { lines });
    const { lines: placed } = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${bought!.id}`);
    expect((await held(order.id))[0]).toMatchObject({ open: '3' });
    await salmah.does('receiveGoods', {
      purchaseId: bought!.id,
      lines: [{ lineId: placed[0]!.id, quantity: '2', numbers: ['HX-1', 'HX-2'] }],
    });
    await salmah.does('shipLines', { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] });
    expect((await held(order.id))[0]).toMatchObject({ open: '3' });
  });

  it('lapses by itself', async () => {
    const order = await ordered('3', 'drop');
    await salmah.does('holdAtSister', { orderId: order.id, lineIds: [order.lineId] });
    const look = () => tick({ database: world.serving.database, clock: systemClock, log: pino({ level: 'silent' }) });
    await world.workOn('2027-03-06');
    await look();
    expect((await held(order.id))[0]!.hold).not.toBeNull();
    await world.workOn('2027-03-07');
    await look();
    expect((await held(order.id))[0]!.hold).toBeNull();
    await world.workOn(WORK_DATE);
    const [last] = await world.serving.database.rows<{ state: string }>(
      'SELECT state FROM sister_hold ORDER BY id DESC LIMIT 1',
    );
    expect(last).toEqual({ state: 'lapsed' });
  });

  it('holds nothing of whom it is not bought, nor where she does not hold', async () => {
    const stocked = await ordered('2', 'stock');
    const ask = async (order: { id: number; lineId: number }) =>
      (await salmah.refused('holdAtSister', { orderId: order.id, lineIds: [order.lineId] })).codes;
    expect(await ask(stocked)).toEqual(['lineIds.0: unknown']);
    expect(await held(stocked.id)).toEqual([]);
    const order = await ordered('2');
    await world.serving.database.run('UPDATE sister SET hold_days = 0 WHERE company_id = ?', [sisters.mbf]);
    expect(await ask(order)).toEqual(['lineIds.0: holds-nothing']);
  });
});
