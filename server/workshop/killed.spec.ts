import type * as z from 'zod';
import type { openOrder } from '@api/orders';
import type { openWork } from '@api/workshop';
import { startServer } from '../testing/process';
import { Visitor, World } from '../testing/world';
import { PEOPLE } from '../sample/people';

/** Pieces in all, by so many at once. */
const CLIENTS = 6;
const EACH = 5;

describe('P5 W3 a server killed between components and output', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    salmah = await world.visitor();
    for (const item of ['SK-FRAME', 'PM-15', 'SK-PANEL', 'TUBE-12', 'FV-SHELL9', 'FV-HEAD', 'FV-NOZZLE']) {
      const itemId = world.item(item);
      const [row] = await world.serving.database.rows<{ onHand: string }>(
        'SELECT on_hand FROM stock WHERE item_id = ? AND location_id = 0',
        [itemId],
      );
      const was = row?.onHand ?? '0';
      const more = { itemId, locationId: 0, was, now: String(Number(was) + 5000), unitCost: '9', reason: 'opened' };
      await salmah.does('adjustStock', more);
    }
  }, 120_000);
  afterAll(() => world.end());

  /** Sends an act many times at once to a server that is killed in the middle; what was sent, and how many were answered. */
  const killed = async (name: string, input: unknown) => {
    const { child, address } = await startServer(world.url);
    const visitor = new Visitor(address);
    const { signIn, password } = PEOPLE.find((person) => person.signIn === 'joko')!;
    await visitor.signIn(signIn, password);
    const sent: string[] = [];
    let answered = 0;
    const client = async (number: number) => {
      for (let turn = 0; turn < EACH; turn += 1) {
        const key = `${name}-${number}-${turn}`;
        sent.push(key);
        const { status, body } = await visitor.raw(name, input, key);
        if (status !== 200) throw new Error(JSON.stringify(body));
        answered += 1;
        if (answered === CLIENTS * 2) child.kill('SIGKILL');
      }
    };
    const ends = await Promise.allSettled(Array.from({ length: CLIENTS }, (_, number) => client(number)));
    expect(ends.some((end) => end.status === 'rejected')).toBe(true);
    expect(sent.length).toBeLessThan(CLIENTS * EACH);
    return { sent, answered };
  };

  it('leaves what was assembled and shipped whole, each once', async () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('SK-D2'), quantity: String(CLIENTS * EACH), shipDate: '2027-06-30' };
    const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-K' };
    const rich = await world.visitor('rashid');
    const [order] = await rich.does('saveOrder', { ...head, lines: [{ ...line, route: 'assemble' }] });
    await rich.does('confirmOrder', { id: order!.id, version: 1, creditReason: 'paid in advance' });
    const open = async () => (await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${order!.id}`)).lines[0]!;
    const ship = { orderId: order!.id, lines: [{ lineId: (await open()).id, quantity: '1' }] };
    const { sent, answered } = await killed('shipLines', ship);
    expect(await world.verify()).toEqual([]);
    const shipped = Number((await open()).shipped);
    expect(shipped).toBeGreaterThanOrEqual(answered);
    expect(shipped).toBeLessThanOrEqual(sent.length);
    // Whoever got no answer sends again with the same key: nothing is lost and nothing doubled.
    const joko = await world.visitor('joko');
    for (const key of sent) await joko.does('shipLines', ship, key);
    expect(Number((await open()).shipped)).toBe(sent.length);
    expect(await world.verify()).toEqual([]);
  }, 120_000);

  it('leaves what was reported whole, each once', async () => {
    const quantity = String(CLIENTS * EACH);
    const [work] = await salmah.does('newWork', { itemId: world.item('FV-900'), quantity, due: null });
    const finished = async () =>
      Number((await salmah.get<z.output<typeof openWork.out>>(`/api/workshop/${work!.id}`)).finished);
    const report = {
      workId: work!.id,
      operationId: null,
      good: '1',
      scrapped: '',
      used: [],
      worked: [],
      finish: false,
    };
    const { sent, answered } = await killed('reportWork', report);
    expect(await world.verify()).toEqual([]);
    expect(await finished()).toBeGreaterThanOrEqual(answered);
    const joko = await world.visitor('joko');
    for (const key of sent) await joko.does('reportWork', report, key);
    expect(await finished()).toBe(sent.length);
    expect(await world.verify()).toEqual([]);
  }, 120_000);
});
