import type * as z from 'zod';
import type { PurchaseRow, PurchaseSheet } from '@api/purchasing';
import { agreed, placed, World, type Visitor } from '../testing/world';

type Row = z.output<typeof PurchaseRow>;

describe('purchase orders', () => {
  let world: World;
  let salmah: Visitor;
  let drop: Awaited<ReturnType<typeof placed>>;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    drop = await placed(world, salmah, await agreed(world, salmah), '4');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const entered = (change: Record<string, unknown> = {}, quantity = '10') => ({
    vendorId: world.masters.vendors.get('V-101'),
    shipToId: null,
    lines: [{ itemId: world.item('RO-4040'), quantity, dueDate: '2027-03-20' }],
    ...change,
  });
  const list = (query = '') => salmah.get<{ rows: Row[]; next: string | null }>(`/api/purchases?${query}`);
  const sheet = (id: number) => salmah.get<z.output<typeof PurchaseSheet>>(`/api/purchases/${id}`);

  it('are listed newest first, page by page, by state and by what is looked for', async () => {
    const [own] = await salmah.does('enterPurchase', entered());
    const first = await list('rows=1');
    const second = await list(`rows=1&cursor=${first.next}`);
    expect([...first.rows, ...second.rows].map((row) => row.id)).toEqual([own!.id, drop.purchaseId]);
    expect(second.next).toBeNull();
    expect((await list('q=Teratai')).rows.map((row) => row.id)).toEqual([drop.purchaseId]);
    expect((await list(`q=${own!.number}`)).rows.map((row) => row.id)).toEqual([own!.id]);
    expect((await list('state=closed')).rows).toEqual([]);
    expect((await list('state=placed')).rows).toHaveLength(2);
  });

  it('tell who they are for, where they come to, and how far they are', async () => {
    expect(await sheet(drop.purchaseId)).toMatchObject({
      state: 'placed',
      customer: { name: 'Teratai Bay Resort' },
      location: null,
      answeredOn: null,
      shares: { received: 0, invoiced: 0 },
      lines: [{ quantity: '4', untied: '0', ties: [{ quantity: '4', order: { id: drop.orderId }, differs: '' }] }],
    });
    await salmah.does('receiveGoods', {
      purchaseId: drop.purchaseId,
      lines: [{ lineId: drop.purchaseLineId, quantity: '1' }],
    });
    const after = await sheet(drop.purchaseId);
    expect(after.shares.received).toBe(0.25);
    expect(after.documents.map(({ document }) => document.kind).sort()).toEqual(['RC', 'SH', 'SO']);
  });

  it('to our own place are for nobody', async () => {
    const [own] = await salmah.does('enterPurchase', entered());
    const { customer, location, lines } = await sheet(own!.id);
    expect([customer, location?.id, lines[0]!.untied, lines[0]!.ties]).toEqual([null, 0, '10', []]);
  });

  it.each([
    ['no vendor', { vendorId: null }, ['vendorId: required']],
    ['a vendor that is not there', { vendorId: 999_999 }, ['vendorId: required']],
    ['an address that is not there', { shipToId: 999_999 }, ['shipToId: unknown']],
    ['a place that is not there', { locationId: 99 }, ['locationId: unknown']],
    ['no line', { lines: [] }, ['lines: no-lines']],
  ])('with %s are refused', async (_what, change, codes) => {
    expect((await salmah.refused('enterPurchase', entered(change))).codes).toEqual(codes);
  });

  it.each([
    ['0', 'lines.0.quantity: not-above-zero'],
    ['-1', 'lines.0.quantity: not-above-zero'],
    ['some', 'lines.0.quantity: not-a-number'],
  ])('of %s pieces are refused', async (quantity, code) => {
    expect((await salmah.refused('enterPurchase', entered({}, quantity))).codes).toEqual([code]);
  });

  it('that are not there are said to be not there', async () => {
    expect(await sheet(999_999)).toMatchObject({ status: 404 });
  });

  it('L10 tell what came beyond what was asked, and where it went', async () => {
    const [made] = await salmah.does('enterPurchase', {
      vendorId: world.masters.vendors.get('V-103'),
      shipToId: null,
      lines: [{ itemId: world.item('SALT-25'), quantity: '100', dueDate: '2027-03-05' }],
    });
    const before = await sheet(made!.id);
    await salmah.does('receiveGoods', {
      purchaseId: made!.id,
      lines: [{ lineId: before.lines[0]!.id, quantity: '104' }],
    });
    expect(await sheet(made!.id)).toMatchObject({
      over: '4',
      openDue: null,
      shares: { received: 1 },
      lines: [{ quantity: '100', received: '104' }],
    });
    expect((await list(`q=${made!.number}`)).rows).toMatchObject([{ over: '4', openDue: null }]);
    expect((await sheet(drop.purchaseId)).over).toBe('0');
  });

  it('L3 name all whose orders wait for what comes to our place, and are late only for what is to come', async () => {
    const orders = await Promise.all(
      ['Teratai Bay Resort', 'Kasturi Bottling'].map(async (name) => {
        const { id, shipTos } = world.masters.customers.get(name)!;
        const [order] = await salmah.does('saveOrder', {
          id: null,
          version: null,
          customerId: id,
          shipToId: shipTos[0],
          customerReference: 'S-1',
          lines: [{ id: null, itemId: world.item('RO-4040'), quantity: '2', route: 'special', shipDate: '2027-03-20' }],
        });
        await salmah.does('confirmOrder', { id: order!.id, version: 1 });
        return (await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`)).lines[0]!.id;
      }),
    );
    const vendorId = world.masters.vendors.get('V-101')!;
    const [made] = await salmah.does('placePurchases', {
      lines: orders.map((orderLineId) => ({ orderLineId, vendorId })),
    });
    const before = await sheet(made!.id);
    expect(before).toMatchObject({ customer: null, forWhom: ['Kasturi Bottling', 'Teratai Bay Resort'] });
    expect(before.openDue).toBe(before.firstDueDate);
    // Due after it is to ship, until all of it came.
    const later = before.lines.map(({ id }) => ({ purchaseLineId: id, dueDate: '2027-03-24', stops: false }));
    await salmah.does('answerPurchase', { purchaseId: made!.id, version: before.version, lines: later });
    const differs = async () => (await sheet(made!.id)).lines.flatMap(({ ties }) => ties.map((tie) => tie.differs));
    expect(await differs()).toEqual(['date', 'date']);
    const [line] = before.lines;
    await salmah.does('receiveGoods', { purchaseId: made!.id, lines: [{ lineId: line!.id, quantity: '3' }] });
    expect(await differs()).toEqual(['', 'date']);
    await salmah.does('receiveGoods', { purchaseId: made!.id, lines: [{ lineId: line!.id, quantity: '1' }] });
    expect(await differs()).toEqual(['', '']);
    expect((await sheet(made!.id)).openDue).toBeNull();
  });
});
