import { setTimeout } from 'node:timers/promises';
import { createConnection, type RowDataPacket } from 'mysql2/promise';
import { chanceOf } from '@core/kernel';
import { PEOPLE } from '../sample/people';
import { kill, startServer, until } from '../testing/process';
import { Visitor, World } from '../testing/world';
import { type TieOut, TieWalk, VENDOR, STEPS, brokenTies } from '../testing/tie-walk';

describe('any sequence of acts on ties', () => {
  let world: World;
  let salmah: Visitor;
  let east: number;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    east = await world.secondPlace(salmah);
  });
  afterAll(() => world.end());

  it('L1 L4 L5 L7 keeps ties within both ends, at one address, and every counter true', async () => {
    const done = new Set<string>();
    let refused = 0;
    for (const seed of [1, 2, 3]) {
      const walk = new TieWalk(world, salmah, chanceOf(seed), east);
      for (let at = 1; at <= 200; at += 1) {
        await walk.step();
        if (at % 20 !== 0) continue;
        expect([seed, at, await world.verify()]).toEqual([seed, at, []]);
        expect([seed, at, await brokenTies(world)]).toEqual([seed, at, []]);
      }
      for (const name of walk.done.keys()) done.add(name);
      refused += walk.refused;
    }
    expect(Object.keys(STEPS).filter((name) => !done.has(name))).toEqual([]);
    expect(refused).toBeGreaterThan(40);
  }, 240_000);

  it('L7 P2 a server killed in the middle of a change of 200 ties leaves all of them changed, or none', async () => {
    const { id: customerId, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: '',
      lines: Array.from({ length: 200 }, () => ({
        id: null,
        itemId: world.item('RO-2540'),
        quantity: '5',
        route: 'drop',
        shipDate: '2027-03-20',
      })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const lines = await world.serving.database.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE order_id = ? ORDER BY id',
      [order!.id],
    );
    const vendorId = world.masters.vendors.get(VENDOR)!;
    await salmah.does('placePurchases', { lines: lines.map(({ id }) => ({ orderLineId: id, vendorId })) });
    const rows = async () => {
      const first = await salmah.get<{ rows: TieOut[]; next: string }>(`/api/ties?orderId=${order!.id}`);
      const rest = await salmah.get<{ rows: TieOut[] }>(`/api/ties?orderId=${order!.id}&cursor=${first.next}`);
      return [...first.rows, ...rest.rows];
    };
    // Whoever holds the company's row holds up the record of every act, which is written last.
    const holder = await createConnection(world.url);
    const heldUp = async () => {
      // The database tells its transactions as they were when it was last left alone for a tenth of a second.
      await setTimeout(150);
      const [[row]] = await holder.query<RowDataPacket[]>(
        "SELECT COUNT(*) AS waiting FROM information_schema.innodb_trx WHERE trx_state = 'LOCK WAIT'",
      );
      return row!['waiting'] > 0;
    };
    let cut = 0;
    // Killed as soon as it is asked, and with all of it written but the record.
    for (const late of [false, true, false, true]) {
      const { child, address } = await startServer(world.url);
      const visitor = new Visitor(address);
      await visitor.signIn(PEOPLE[0].signIn, PEOPLE[0].password);
      const before = await rows();
      expect(before).toHaveLength(200);
      const quantity = String(Number(before[0]!.quantity) + 1);
      if (late) {
        await holder.beginTransaction();
        await holder.query('SELECT id FROM company WHERE id = ? FOR UPDATE', [world.masters.companyId]);
      }
      const sent = visitor
        .raw('editPairs', {
          goodOnly: false,
          pairs: before.map((tie) => ({
            tieId: tie.tieId,
            was: { quantity: tie.quantity, shipDate: tie.shipDate, dueDate: tie.dueDate, shipToId: tie.shipToId },
            quantity,
          })),
        })
        .then(
          () => undefined,
          () => (cut += 1),
        );
      if (late) await until('the change is held up', heldUp);
      await kill(child);
      await sent;
      await holder.rollback();
      // The database takes a moment to roll back what was cut off.
      await world.serving.database.rows('SELECT id FROM sales_order WHERE id = ? FOR UPDATE', [order!.id]);
      const after = await rows();
      expect(new Set(after.map((tie) => tie.quantity)).size).toBe(1);
      expect([before[0]!.quantity, quantity]).toContain(after[0]!.quantity);
    }
    expect(cut).toBe(4);
    await holder.end();
    expect(await world.verify()).toEqual([]);
  }, 120_000);
});
