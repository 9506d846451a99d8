import type { TodayRow } from '@api/today';
import { placed, releaseOf, agreed, World, WORK_DATE, type Visitor } from '../testing/world';

describe('Today', () => {
  let world: World;
  let salmah: Visitor;
  let agreement: { id: number; lineId: number };

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah);
  });
  afterAll(() => world.end());

  const rows = async (visitor = salmah) => (await visitor.get<{ rows: TodayRow[] }>('/api/today')).rows;
  /** What is said of a document, in its bands. */
  const of = async (id: number, kind: string) =>
    (await rows())
      .filter(({ document }) => document.kind === kind && document.id === id)
      .map((row) => `${row.band} ${row.kind}`);

  it('shows each step of an order while it waits for a person, and no longer', async () => {
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '4'));
    expect(await of(order!.id, 'SO')).toEqual(['now order-draft']);
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    expect(await of(order!.id, 'SO')).toEqual(['now line-without-supply']);
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '4');
    expect(await of(orderId, 'SO')).toEqual([]);
    expect(await of(purchaseId, 'PO')).toEqual(['coming purchase-coming']);
    // Due by the day it is due.
    await world.workOn('2027-03-12');
    expect(await of(purchaseId, 'PO')).toEqual(['now purchase-due']);
    await world.workOn(WORK_DATE);
    const lines = [{ lineId: purchaseLineId, quantity: '4' }];
    await salmah.does('receiveGoods', { purchaseId, lines });
    expect(await of(orderId, 'SO')).toEqual(['now not-invoiced']);
    expect(await of(purchaseId, 'PO')).toEqual(['waiting vendor-not-invoiced']);
    const [invoice] = await salmah.does('invoiceCustomer', { orderId });
    expect(await of(orderId, 'SO')).toEqual([]);
    expect(await of(invoice!.id, 'CI')).toEqual(['waiting invoice-owed']);
  });

  it('tells with a row whose it is, of when, how much and how far', async () => {
    const { orderId } = await placed(world, salmah, agreement, '3');
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '5'));
    const row = (await rows()).find(({ document }) => document.id === order!.id && document.kind === 'SO')!;
    expect(row).toMatchObject({
      party: 'Teratai Bay Resort',
      day: '2027-03-12',
      amount: '3700',
      currency: 'MYR',
      share: 0,
      document: { number: order!.number },
    });
    expect(row.orderLineId).not.toBeNull();
    expect(orderId).not.toBe(order!.id);
  });

  it('shows an agreement while it is a draft, and once its dates have passed', async () => {
    await world.workOn('2028-01-02');
    expect(await of(agreement.id, 'AG')).toContain('now agreement-past');
    await world.workOn(WORK_DATE);
    expect(await of(agreement.id, 'AG')).not.toContain('now agreement-past');
    const [draft] = await salmah.does('copyAgreement', { id: agreement.id });
    expect(await of(draft!.id, 'AG')).toEqual(['now agreement-draft']);
  });

  it('is of one company alone', async () => {
    const { companyId, sisterId } = world.masters;
    await world.serving.database.run('UPDATE session SET company_id = ?', [sisterId]);
    world.serving.sessions.forget();
    expect(await rows()).toEqual([]);
    await world.serving.database.run('UPDATE session SET company_id = ?', [companyId]);
    world.serving.sessions.forget();
    expect((await rows()).length).toBeGreaterThan(3);
  });
});
