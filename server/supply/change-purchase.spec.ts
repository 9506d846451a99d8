import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { changePurchase, openPurchase } from '@api/purchasing';
import { supplyDesk } from '../testing/supply-desk';
import { kill, startServer } from '../testing/process';
import { Visitor, World } from '../testing/world';

type Sheet = z.output<typeof openPurchase.out>;
type Preview = z.output<typeof changePurchase.preview>;

describe('S8 a placed purchase order that is changed', () => {
  let world: World;
  let salmah: Visitor;
  const { ordered, orderOf, vendor, place, receive } = supplyDesk(
    () => world,
    () => salmah,
  );

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const sheet = (id: number) => salmah.get<Sheet>(`/api/purchases/${id}`);
  async function entered(...quantities: string[]): Promise<Sheet> {
    const [made] = await salmah.does('enterPurchase', {
      vendorId: vendor('V-101'),
      shipToId: null,
      lines: quantities.map((quantity) => ({ itemId: world.item('RO-4040'), quantity, dueDate: '2027-03-20' })),
    });
    return sheet(made!.id);
  }
  type Typed = { id: number | null; itemId: number | null; quantity: string; price: string; dueDate: string };
  const typed = (purchase: Sheet, ...changes: Partial<Typed>[]) => ({
    purchaseId: purchase.id,
    version: purchase.version,
    reason: 'they called',
    lines: purchase.lines.map((line, at) => ({
      id: line.id,
      itemId: null,
      quantity: line.quantity,
      price: '',
      dueDate: line.dueDate,
      ...changes[at],
    })),
  });
  const preview = async (input: unknown) =>
    ((await salmah.post('/api/acts/changePurchase/preview', input)).body as { effects: Preview }).effects;
  const changesOf = async (id: number) =>
    (await salmah.get<z.output<typeof openTrail.out>>(`/api/trail/PO/${id}`)).changes;

  it('does what it showed, is told field by field, and goes out again as a revision', async () => {
    const before = await entered('10', '4');
    const input = {
      ...typed(before, { quantity: '14', dueDate: '2027-03-25' }, { price: '600' }),
      lines: [
        ...typed(before, { quantity: '14', dueDate: '2027-03-25' }, { price: '600' }).lines,
        { id: null, itemId: world.item('RO-2540'), quantity: '2', price: '', dueDate: '2027-03-28' },
      ],
    };
    const shown = await preview(input);
    expect(shown).toMatchObject({ was: '8680', net: '11885', state: 'placed', effects: [] });
    await salmah.does('changePurchase', input);
    const after = await sheet(before.id);
    expect(after).toMatchObject({
      net: shown.net,
      revision: 1,
      version: before.version + 1,
      firstDueDate: '2027-03-20',
    });
    expect(
      after.lines.map(({ lineNo, quantity, unitPrice, dueDate }) => [lineNo, quantity, unitPrice, dueDate]),
    ).toEqual([
      [1, '14', '620', '2027-03-25'],
      [2, '4', '600', '2027-03-20'],
      [3, '2', '402.5', '2027-03-28'],
    ]);
    const [last] = await changesOf(before.id);
    expect(last).toMatchObject({ reason: 'they called', fields: shown.fields });
    expect(shown.fields).toHaveLength(4);
    const paper = await fetch(`${world.serving.address}/api/documents/PO/${before.id}/pdf`, {
      headers: { cookie: salmah.cookie },
    });
    expect(paper.status).toBe(200);
  });

  it('says whose orders it keeps waiting, and holds to what they are tied for', async () => {
    const order = await ordered('Teratai Bay Resort', {
      item: 'RO-4040',
      quantity: '6',
      route: 'special',
      shipDate: '2027-03-22',
    });
    const [placed] = await place({ orderLineId: order.lineIds[0]!, vendorId: vendor('V-101')! });
    const before = await sheet(placed!.id);
    const input = typed(before, { quantity: '9', dueDate: '2027-03-24' });
    expect((await preview(input)).effects).toEqual([
      expect.stringMatching(/^SO-\d+ line 1 ships Mon 22 Mar 2027, before it comes$/),
      '3 of line 1 come to our stock',
    ]);
    await salmah.does('changePurchase', input);
    expect((await sheet(before.id)).lines[0]).toMatchObject({
      untied: '3',
      ties: [{ differs: expect.stringContaining('date') }],
    });
    const less = typed(await sheet(before.id), { quantity: '5' });
    expect((await salmah.refused('changePurchase', less)).codes).toEqual(['lines.0.quantity: below-orders-tied']);
    // Cancelled, its order waits on the bench again.
    const now = await sheet(before.id);
    const cancel = { purchaseId: now.id, version: now.version, reason: '' };
    expect((await salmah.refused('cancelPurchase', cancel)).codes).toEqual(['reason: required']);
    await salmah.does('cancelPurchase', { ...cancel, reason: 'found it elsewhere' });
    expect(await sheet(now.id)).toMatchObject({ state: 'cancelled', lines: [{ quantity: '0', ties: [] }] });
    expect((await orderOf(order.id)).lines[0]).toMatchObject({ tied: '0', needsPurchase: true });
    expect((await changesOf(now.id))[0]).toMatchObject({
      reason: 'found it elsewhere',
      fields: [{ what: 'quantity of line 1', was: '9', is: '0' }],
    });
    const again = { ...cancel, version: now.version + 1, reason: 'x' };
    expect((await salmah.refused('cancelPurchase', again)).codes).toContain('purchase-not-open');
  });

  it('of two who change it one is told what the other did; a change and a receipt take turns', async () => {
    const before = await entered('10');
    const joko = await world.visitor('joko');
    const both = await Promise.all([
      salmah.raw('changePurchase', typed(before, { quantity: '12' })),
      salmah.raw('changePurchase', typed(before, { quantity: '15' })),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await joko.raw('changePurchase', typed(await sheet(before.id), { quantity: '16' }))).status).toBe(403);
    for (let round = 0; round < 4; round += 1) {
      const now = await sheet(before.id);
      const came = Number(now.lines[0]!.received);
      await Promise.all([
        salmah.raw('receiveGoods', { purchaseId: now.id, lines: [{ lineId: now.lines[0]!.id, quantity: '3' }] }),
        salmah.raw('changePurchase', typed(now, { quantity: String(came + 1) })),
      ]);
      const { lines } = await sheet(before.id);
      expect(Number(lines[0]!.quantity)).toBeGreaterThanOrEqual(came);
    }
  });

  it('sent twice with one key changes it once; killed in the middle it is changed whole or not at all', async () => {
    const before = await entered('10', '4');
    const input = typed(before, { quantity: '11' }, { dueDate: '2027-03-30' });
    const key = '00000000-0000-4000-8000-0000000000c8';
    const twice = await Promise.all([
      salmah.raw('changePurchase', input, key),
      salmah.raw('changePurchase', input, key),
    ]);
    expect(twice.map(({ status }) => status)).toEqual([200, 200]);
    expect((await sheet(before.id)).revision).toBe(1);
    const { child, address } = await startServer(world.url);
    const other = new Visitor(address);
    await other.signIn('salmah', 'jetty-lantern');
    const now = await sheet(before.id);
    const sent = other.raw('changePurchase', typed(now, { quantity: '20' }, { quantity: '20' })).catch(() => null);
    await new Promise((resolve) => setTimeout(resolve, 6));
    await kill(child);
    await sent;
    const after = await sheet(before.id);
    expect([
      ['11', '4', 1],
      ['20', '20', 2],
    ]).toContainEqual([...after.lines.map(({ quantity }) => quantity), after.revision]);
  });

  it('never below what was received, whatever it is then', async () => {
    const before = await entered('10');
    await receive(before.id, before.lines[0]!.id, '4');
    const now = await sheet(before.id);
    expect((await salmah.refused('changePurchase', typed(now, { quantity: '3', price: '600' }))).codes).toEqual([
      'lines.0.quantity: below-received',
      'lines.0.price: price-received',
    ]);
    await salmah.does('changePurchase', typed(now, { quantity: '4' }));
    expect(await sheet(before.id)).toMatchObject({ state: 'placed', lines: [{ quantity: '4', received: '4' }] });
  });
});
