import { CHANDRA } from '../sample/people';
import type { Sisters } from '../sample/sisters';
import { startServer } from '../testing/process';
import { sistersWorld } from '../testing/sisters-world';
import { Visitor, type World } from '../testing/world';

const PIECES = 8;

describe('X4 a server killed between two companies', () => {
  let world: World;
  let sisters: Sisters;
  let salmah: Visitor;
  let chandra: Visitor;

  beforeAll(async () => {
    ({ world, sisters, salmah, chandra } = await sistersWorld());
  });
  afterAll(() => world.end());

  it('leaves her shipment, our receipt and our shipment all there or none, each once', async () => {
    const { database } = world.serving;
    const shipToId = world.masters.customers.get('Kasturi Bottling')!.shipTos[0]!;
    const line = {
      id: null,
      itemId: world.item('FV-900'),
      quantity: String(PIECES),
      shipDate: '2027-04-01',
      route: 'drop',
    };
    const customerId = world.masters.customers.get('Kasturi Bottling')!.id;
    const [ours] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId,
      customerReference: '',
      lines: [line],
    });
    await salmah.does('confirmOrder', { id: ours!.id, version: 1 });
    const [row] = await database.rows<{ id: number }>('SELECT id FROM sales_order_line WHERE order_id = ?', [ours!.id]);
    await salmah.does('placePurchases', { lines: [{ orderLineId: row!.id, vendorId: sisters.vendorId }] });
    const [offer] = await database.rows<{ id: number; kind: string; revision: number }>(
      'SELECT id, kind, revision FROM offer WHERE company_id = ?',
      [sisters.mbf],
    );
    const [sold] = await chandra.does('takeOffer', { ...offer, lines: [] });
    const [hers] = await database.rows<{ id: number }>('SELECT id FROM sales_order_line WHERE order_id = ?', [
      sold!.id,
    ]);
    const ship = { orderId: sold!.id, lines: [{ lineId: hers!.id, quantity: '1' }] };
    const { child, address } = await startServer(world.url);
    const there = new Visitor(address);
    await there.signIn(CHANDRA.signIn, CHANDRA.password);
    let answered = 0;
    const keys = Array.from({ length: PIECES }, (_, at) => `through-${at}`);
    const sent = keys.map(async (key) => {
      const { status } = await there.raw('shipLines', ship, key);
      if (status === 200) answered += 1;
      if (answered === 2) child.kill('SIGKILL');
    });
    const ends = await Promise.allSettled(sent);
    expect(ends.some(({ status }) => status === 'rejected')).toBe(true);
    const moved = async () => {
      const [at] = await database.rows<{ hers: string; ours: string; received: string; pairs: number }>(
        `SELECT (SELECT shipped FROM sales_order_line WHERE id = ?) AS hers, (SELECT shipped FROM sales_order_line WHERE id = ?) AS ours,
                (SELECT SUM(quantity) FROM receipt_line WHERE company_id = ?) AS received, (SELECT COUNT(*) FROM sister_move) AS pairs`,
        [hers!.id, row!.id, sisters.hbw],
      );
      return at!;
    };
    const after = await moved();
    expect([after.ours, after.received, String(after.pairs)]).toEqual([after.hers, after.hers, after.hers]);
    expect(Number(after.hers)).toBeGreaterThanOrEqual(answered);
    expect(await world.verify()).toEqual([]);
    // Sent again with their keys, each is there once.
    for (const key of keys) await chandra.does('shipLines', ship, key);
    expect((await moved()).ours).toBe(String(PIECES));
    expect(await world.verify()).toEqual([]);
  }, 120_000);
});
