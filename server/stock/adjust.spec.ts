import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { listStock } from '@api/stock';
import { World, type Visitor } from '../testing/world';

type Stock = z.output<typeof listStock.out>;
type Trail = z.output<typeof openTrail.out>;

describe('W6 stock put right by hand', () => {
  let world: World;
  let joko: Visitor;
  let salmah: Visitor;
  let itemId: number;
  let east: number;

  beforeAll(async () => {
    world = await World.make();
    joko = await world.visitor('joko');
    salmah = await world.visitor();
    itemId = world.item('GAC-25');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const rows = async (query = '') => (await salmah.get<Stock>(`/api/stock?q=GAC-25${query}`)).rows;
  const adjust = (was: string, now: string, change: Record<string, unknown> = {}) => ({
    itemId,
    locationId: 0,
    was,
    now,
    unitCost: '',
    reason: 'counted',
    ...change,
  });

  it('begins where nothing was known, at what one costs, and stands in the list', async () => {
    expect(await rows()).toEqual([]);
    expect((await joko.refused('adjustStock', adjust('0', '10'))).codes).toEqual(['unitCost: required']);
    const [journal] = await joko.does('adjustStock', adjust('0', '10', { unitCost: '12.5' }));
    expect(await rows()).toMatchObject([
      {
        item: { number: 'GAC-25' },
        location: { name: 'Main store' },
        onHand: '10',
        held: '0',
        free: '10',
        worth: '125',
      },
    ]);
    const trail = await salmah.get<Trail>(`/api/trail/JR/${journal!.id}`);
    expect(trail.adjustment).toEqual({ carried: false, reason: 'counted', reverses: null, reversedBy: null });
    expect(trail.journals[0]!.entries.map(({ name, debit, credit }) => [name, debit, credit])).toEqual([
      ['Inventory', '125', null],
      ['Stock differences', null, '125'],
    ]);
  });

  it('tells what comes, and is told to stock keepers without what it is worth', async () => {
    await salmah.does('enterPurchase', {
      vendorId: world.masters.vendors.get('V-104'),
      shipToId: null,
      lines: [{ itemId, quantity: '6', dueDate: '2027-03-09' }],
    });
    expect((await rows())[0]).toMatchObject({ coming: '6' });
    const [own] = (await joko.get<Stock>('/api/stock?q=GAC-25')).rows;
    expect(own).toMatchObject({ onHand: '10', worth: '' });
  });

  it('lessened and taken back, once, each by a journal that says why', async () => {
    const [less] = await joko.does('adjustStock', adjust('10', '7', { reason: 'torn bags' }));
    expect((await rows())[0]).toMatchObject({ onHand: '7', worth: '87.5' });
    const back = { journalId: less!.id, reason: 'found behind the rack' };
    const answers = await Promise.all(Array.from({ length: 6 }, () => joko.raw('takeBackAdjustment', back)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422, 422, 422, 422, 422]);
    expect((await rows())[0]).toMatchObject({ onHand: '10', worth: '125' });
    const trail = await salmah.get<Trail>(`/api/trail/JR/${less!.id}`);
    const by = trail.adjustment!.reversedBy!;
    expect((await joko.refused('takeBackAdjustment', { journalId: by.id, reason: 'x' })).codes).toEqual([
      'is-reversal',
    ]);
    expect((await salmah.get<Trail>(`/api/trail/JR/${by.id}`)).adjustment).toMatchObject({
      reason: 'found behind the rack',
      reverses: { id: less!.id },
    });
  });

  it('by two at once counts once: the other is told what is there by now', async () => {
    const answers = await Promise.all(
      ['11', '12', '13', '14'].map((now) => joko.raw('adjustStock', adjust('10', now))),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422, 422, 422]);
    const [row] = await rows();
    expect((await joko.refused('adjustStock', adjust('10', '20'))).sentences[0]).toContain(
      `${row!.onHand} are there by now`,
    );
    // Of an item that was never anywhere no row of stock could be locked.
    const fresh = world.item('VA-50A');
    const first = await Promise.all(
      ['1', '2', '3'].map((now) => joko.raw('adjustStock', adjust('0', now, { itemId: fresh, unitCost: '900' }))),
    );
    expect(first.map(({ status }) => status).sort()).toEqual([200, 422, 422]);
  });

  it('never below what is held, nor of what is no adjustment', async () => {
    const [row] = await rows();
    const customer = world.masters.customers.get('Padi Emas Food Works')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: customer.id,
      shipToId: customer.shipTos[0],
      customerReference: '',
      lines: [{ id: null, itemId, quantity: '4', route: 'stock', shipDate: '2027-03-20' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    await salmah.does('supplyLine', { orderLineId: lines[0]!.id, route: 'stock', reserve: '4', lift: false });
    expect((await joko.refused('adjustStock', adjust(row!.onHand, '3'))).codes).toEqual(['now: below-held']);
    await joko.does('adjustStock', adjust(row!.onHand, '4'));
    expect((await rows())[0]).toMatchObject({ onHand: '4', held: '4', free: '0' });
    east = await world.secondPlace(salmah);
    const moved = adjust('0', '2', { locationId: east, unitCost: '13' });
    await joko.does('adjustStock', moved);
    const [carried] = await joko.does('moveBetween', { itemId, from: east, to: 0, quantity: '1' });
    const refused = await joko.refused('takeBackAdjustment', { journalId: carried!.id, reason: 'x' });
    expect(refused.codes).toEqual(['no-adjustment']);
    expect(await rows(`&location=${east}`)).toMatchObject([{ onHand: '1', worth: '13' }]);
  });

  it('what came at nothing leaves, and is taken back, at nothing', async () => {
    const item = world.item('SALT-25');
    const given = await joko.does('adjustStock', adjust('0', '3', { itemId: item, unitCost: '0' }));
    await joko.does('adjustStock', adjust('3', '1', { itemId: item }));
    await joko.does('adjustStock', adjust('1', '3', { itemId: item }));
    await joko.does('moveBetween', { itemId: item, from: 0, to: east, quantity: '1' });
    await joko.does('moveBetween', { itemId: item, from: east, to: 0, quantity: '1' });
    await joko.does('takeBackAdjustment', { journalId: given[0]!.id, reason: 'never came' });
    const left = (await salmah.get<Stock>('/api/stock?q=SALT-25')).rows;
    expect(left.map(({ onHand, worth }) => [onHand, worth])).toEqual([
      ['0', '0'],
      ['0', '0'],
    ]);
  });

  it('is listed page by page, each place once', async () => {
    const seen: string[] = [];
    for (let next: string | null = ''; next !== null;) {
      const page: Stock = await salmah.get(`/api/stock?rows=1${next ? `&cursor=${encodeURIComponent(next)}` : ''}`);
      seen.push(...page.rows.map(({ item, location }) => `${item.number} ${location.id}`));
      next = page.next;
    }
    expect(seen).toEqual([...new Set(seen)].sort());
    expect(seen.length).toBeGreaterThanOrEqual(3);
  });

  it('G7 waits for a second person where what is written off does', async () => {
    const [row] = await rows('&location=0');
    await salmah.does('keepSecondPerson', { kinds: ['write-off'] });
    const { status } = await joko.raw('adjustStock', adjust(row!.onHand, '4.5', { reason: 'swept up' }));
    expect(status).toBe(202);
    expect((await rows('&location=0'))[0]).toMatchObject({ onHand: row!.onHand });
  });
});
