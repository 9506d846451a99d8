import { addDays, daysBetween } from '@core/kernel';
import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { changeOrder, openOrder } from '@api/orders';
import { Actor } from '../sample/actor';
import { layOpeningStock } from '../sample/opening-stock';
import { agreed, World, WORK_DATE, type Visitor } from '../testing/world';

type Sheet = z.output<typeof openOrder.out>;
type Preview = z.output<typeof changeOrder.preview>;
type Line = Record<string, unknown>;

describe('S8 a confirmed order that is changed', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    [salmah, joko] = [await world.visitor(), await world.visitor('joko')];
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const sheet = (id: number) => salmah.get<Sheet>(`/api/orders/${id}`);
  const line = (item: string, quantity: string, more: Line = {}): Line => ({
    id: null,
    itemId: world.item(item),
    quantity,
    shipDate: '2027-03-20',
    route: 'stock',
    ...more,
  });
  async function confirmed(...lines: Line[]): Promise<Sheet> {
    const { id: customerId, shipTos } = world.masters.customers.get('Teratai Bay Resort')!;
    const head = { id: null, version: null, customerId, shipToId: shipTos[0], customerReference: 'C-1' };
    const [order] = await salmah.does('saveOrder', { ...head, lines });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return sheet(order!.id);
  }
  const typed = (order: Sheet, change: (line: Line, at: number) => Line = (each) => each, more: Line = {}) => ({
    id: order.id,
    version: order.version,
    shipToId: order.shipTo!.id,
    customerReference: order.customerReference,
    reason: 'they called',
    lines: order.lines.map((each, at) =>
      change(
        {
          id: each.id,
          itemId: each.item.id,
          quantity: each.quantity,
          shipDate: each.shipDate,
          route: each.route,
          locationId: each.location?.id ?? 0,
          agreementLineId: each.agreementLineId,
        },
        at,
      ),
    ),
    ...more,
  });
  const preview = async (input: unknown) =>
    (await salmah.post('/api/acts/changeOrder/preview', input)).body as { effects: Preview };
  const quantity = (to: string) => (each: Line) => ({ ...each, quantity: to });

  it('takes on quantity, day, reference and lines, counts on its agreement, and keeps each field as it was', async () => {
    const agreement = await agreed(world, salmah);
    const order = await confirmed(line('RO-4040', '10', { route: 'drop', agreementLineId: agreement.lineId }));
    const input = {
      ...typed(order, (each) => ({ ...each, quantity: '14', shipDate: '2027-03-24' })),
      customerReference: 'C-2',
    };
    input.lines.push(line('SALT-25', '5'));
    const { effects } = await preview(input);
    expect(effects.fields).toEqual([
      { what: 'their reference', was: 'C-1', is: 'C-2' },
      { what: 'quantity of line 1', was: '10', is: '14' },
      { what: 'ship date of line 1', was: '2027-03-20', is: '2027-03-24' },
      { what: 'line 2', was: '', is: expect.stringMatching(/^5 SALT-25 at [\d.]+, 2027-03-20$/) },
    ]);
    expect(effects.effects).toEqual([expect.stringMatching(/^AG-\d+ gives 4 more$/), '14 of RO-4040 are to be bought']);
    expect(Number(effects.net) > Number(effects.was)).toBe(true);
    await salmah.does('changeOrder', input);
    const now = await sheet(order.id);
    expect(now).toMatchObject({
      state: 'confirmed',
      version: order.version + 1,
      revision: 1,
      customerReference: 'C-2',
    });
    expect(now.lines.map((each) => [each.lineNo, each.item.number, each.quantity, each.shipDate])).toEqual([
      [1, 'RO-4040', '14', '2027-03-24'],
      [2, 'SALT-25', '5', '2027-03-20'],
    ]);
    expect([now.net, now.firstShipDate]).toEqual([effects.net, '2027-03-20']);
    const { lines } = await salmah.get<{ lines: { released: string }[] }>(`/api/agreements/${agreement.id}`);
    expect(lines[0]!.released).toBe('14');
    const trail = await salmah.get<z.output<typeof openTrail.out>>(`/api/trail/SO/${order.id}`);
    expect(trail.changes[0]).toMatchObject({ act: 'changed', reason: 'they called', fields: effects.fields });
    await salmah.does(
      'changeOrder',
      typed(now, (each, at) => (at === 0 ? { ...each, quantity: '3' } : each)),
    );
    const after = await salmah.get<{ lines: { released: string }[] }>(`/api/agreements/${agreement.id}`);
    expect([after.lines[0]!.released, (await sheet(order.id)).revision]).toEqual(['3', 2]);
    const over = typed(await sheet(order.id), (each, at) => (at === 0 ? { ...each, quantity: '500' } : each));
    expect((await salmah.refused('changeOrder', over)).codes).toEqual(['lines.0.quantity: above-limit']);
  });

  it('lets go of what is held and no longer asked for, and holds more where that is always done', async () => {
    const order = await confirmed(line('PM-15', '5'), line('PM-15', '2'));
    const held = async () => (await sheet(order.id)).lines.map(({ reserved }) => reserved);
    expect(await held()).toEqual(['5', '2']);
    const less = typed(order, (each, at) => ({ ...each, quantity: at === 0 ? '3' : '4' }));
    expect((await preview(less)).effects.effects).toEqual(['2 held for line 1 are free again']);
    await salmah.does('changeOrder', less);
    expect(await held()).toEqual(['3', '4']);
    await salmah.does('changeOrder', typed(await sheet(order.id), quantity('40')));
    // Sixty are there.
    expect(await held()).toEqual(['40', '20']);
    await salmah.does('changeOrder', typed(await sheet(order.id), quantity('1')));
    expect(await held()).toEqual(['1', '1']);
  });

  it('keeps what went out: neither fewer, nor at another price', async () => {
    const order = await confirmed(line('GAC-25', '10'));
    await joko.does('shipLines', { orderId: order.id, lines: [{ lineId: order.lines[0]!.id, quantity: '4' }] });
    const now = await sheet(order.id);
    const refused = async (change: Line) =>
      (
        await salmah.refused(
          'changeOrder',
          typed(now, (each) => ({ ...each, ...change })),
        )
      ).codes;
    expect(await refused({ quantity: '3' })).toEqual(['lines.0.quantity: below-moved']);
    expect(await refused({ price: '99' })).toEqual(['lines.0.price: price-shipped']);
    await salmah.does('changeOrder', typed(now, quantity('4')));
    expect((await sheet(order.id)).lines[0]).toMatchObject({ quantity: '4', shipped: '4' });
    await salmah.does('invoiceCustomer', { orderId: order.id });
    const closed = await sheet(order.id);
    expect(closed.state).toBe('closed');
    expect((await salmah.refused('changeOrder', typed(closed, quantity('9')))).codes).toEqual(['order-not-confirmed']);
  });

  it('keeps what purchases bring: below that both ends are changed; above it the rest is to be bought', async () => {
    const order = await confirmed(line('RO-4040', '6', { route: 'drop', agreementLineId: null }));
    const vendorId = world.masters.vendors.get('V-101')!;
    const [purchase] = await salmah.does('placePurchases', {
      lines: [{ orderLineId: order.lines[0]!.id, vendorId }],
    });
    const now = await sheet(order.id);
    expect((await salmah.refused('changeOrder', typed(now, quantity('5')))).codes).toEqual([
      'lines.0.quantity: below-supply-tied',
    ]);
    const other = world.masters.customers.get('Teratai Bay Resort')!.shipTos[1];
    expect((await salmah.refused('changeOrder', typed(now, undefined, { shipToId: other }))).codes).toEqual([
      'shipToId: ship-to-tied',
    ]);
    const more = typed(now, (each) => ({ ...each, quantity: '9', shipDate: '2027-04-02' }));
    expect((await preview(more)).effects.effects).toEqual([
      '3 of RO-4040 are to be bought',
      `${purchase!.number} keeps its due date; change both ends to move it along`,
    ]);
    await salmah.does('changeOrder', more);
    expect((await sheet(order.id)).lines[0]).toMatchObject({ tied: '6', quantity: '9', needsPurchase: true });
  });

  it('moves what was bought along where that is asked: quantity, days and address on both ends, each with its reason', async () => {
    const vendorId = world.masters.vendors.get('V-101')!;
    const other = world.masters.customers.get('Teratai Bay Resort')!.shipTos[1]!;
    const order = await confirmed(
      line('RO-4040', '6', { route: 'drop', agreementLineId: null }),
      line('RO-4040', '8', { route: 'special', agreementLineId: null }),
    );
    const placed = await salmah.does('placePurchases', {
      lines: order.lines.map(({ id }) => ({ orderLineId: id, vendorId })),
    });
    const purchases = async () =>
      Promise.all(
        placed.map(({ id }) =>
          salmah.get<{
            revision: number;
            net: string;
            shipTo: { id: number } | null;
            lines: { quantity: string; dueDate: string }[];
          }>(`/api/purchases/${id}`),
        ),
      );
    const before = await purchases();
    const straight = before.findIndex(({ shipTo }) => shipTo !== null);
    const change = {
      ...typed(await sheet(order.id), (each, at) => ({
        ...each,
        quantity: at === 0 ? '9' : '5',
        shipDate: '2027-04-02',
      })),
      shipToId: other,
      along: true,
    };
    const shown = (await preview(change)).effects;
    expect(shown.purchases).toEqual(placed.map(({ number }) => number));
    await salmah.does('changeOrder', change);
    const now = await sheet(order.id);
    expect(
      now.lines.map(({ quantity: is, tied, shipDate, needsPurchase }) => [is, tied, shipDate, needsPurchase]),
    ).toEqual([
      ['9', '9', '2027-04-02', false],
      ['5', '5', '2027-04-02', false],
    ]);
    const after = await purchases();
    const by = daysBetween('2027-03-20', '2027-04-02');
    after.forEach((purchase, at) => {
      const drop = at === straight;
      expect(purchase.revision).toBe(before[at]!.revision + 1);
      expect(purchase.shipTo?.id ?? null).toBe(drop ? other : null);
      expect(purchase.lines[0]).toMatchObject({
        quantity: drop ? '9' : '5',
        dueDate: addDays(before[at]!.lines[0]!.dueDate, by),
      });
    });
    const trail = await salmah.get<z.output<typeof openTrail.out>>(`/api/trail/PO/${placed[straight]!.id}`);
    expect(trail.changes[0]).toMatchObject({
      act: 'changed',
      reason: 'they called',
      fields: expect.arrayContaining([{ what: 'quantity of line 1', was: '6', is: '9' }]) as unknown,
    });
    for (const { what, was, is } of trail.changes[0]!.fields.filter(({ was: text }) => !text.includes('-'))) {
      expect(shown.effects).toContain(`${placed[straight]!.number}: ${what} ${was} → ${is}`);
    }
  });

  it('does not go below what came, nor without the right to change purchases', async () => {
    const order = await confirmed(line('RO-4040', '6', { route: 'special', agreementLineId: null }));
    const [purchase] = await salmah.does('placePurchases', {
      lines: [{ orderLineId: order.lines[0]!.id, vendorId: world.masters.vendors.get('V-101')! }],
    });
    const { lines } = await joko.get<{ lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
    await joko.does('receiveGoods', { purchaseId: purchase!.id, lines: [{ lineId: lines[0]!.id, quantity: '4' }] });
    const now = await sheet(order.id);
    const fewer = (to: string) => ({ ...typed(now, quantity(to)), along: true });
    expect((await salmah.refused('changeOrder', fewer('3'))).codes).toEqual(['lines.0.quantity: below-moved']);
    const { database } = world.serving;
    const [role] = await database.rows<{ id: number; rights: string }>(
      "SELECT id, rights FROM role WHERE name = 'Order administrator' AND company_id = ?",
      [world.masters.companyId],
    );
    const may = (rights: string) => database.run('UPDATE role SET rights = ? WHERE id = ?', [rights, role!.id]);
    await may(JSON.stringify((JSON.parse(role!.rights) as string[]).filter((right) => right !== 'purchases')));
    // What one may is known for a moment; who signs in now may less.
    const other = await world.visitor();
    expect((await other.refused('changeOrder', fewer('5'))).codes).toEqual(['no-right']);
    await may(role!.rights);
    await (await world.visitor()).does('changeOrder', fewer('5'));
    expect((await sheet(order.id)).lines[0]).toMatchObject({ quantity: '5', tied: '5', reserved: '4' });
  });

  it('is refused where something stays, where nothing changes, and without a reason, each at its place', async () => {
    const order = await confirmed(line('SALT-25', '5'), line('GAC-25', '2'));
    const codes = async (input: unknown) => (await salmah.refused('changeOrder', input)).codes;
    expect(await codes(typed(order))).toEqual(['order-unchanged']);
    expect(await codes(typed(order, quantity('6'), { reason: ' ' }))).toEqual(['reason: required']);
    const swapped = typed(order, (each, at) => (at === 0 ? { ...each, itemId: world.item('GAC-25') } : each));
    expect(await codes(swapped)).toEqual(['lines.0.itemId: line-stays']);
    const elsewhere = typed(order, (each, at) => (at === 1 ? { ...each, route: 'special' } : each));
    expect(await codes(elsewhere)).toEqual(['lines.1.route: line-supplied']);
    const fewer = typed(order);
    expect(await codes({ ...fewer, lines: fewer.lines.slice(1) })).toEqual(['lines: line-confirmed']);
    expect(await codes(typed(order, (each) => ({ ...each, shipDate: '2027-02-01' })))).toEqual([
      'lines.0.shipDate: ship-date-past',
      'lines.1.shipDate: ship-date-past',
    ]);
    expect(await codes(typed(order, quantity('6'), { version: 1 }))).toEqual(['stale']);
    const draft = await salmah.does('saveOrder', {
      ...typed(order),
      id: null,
      version: null,
      customerId: order.customer.id,
      lines: [line('SALT-25', '1')],
    });
    const open = await sheet(draft[0]!.id);
    expect(await codes(typed(open, quantity('6')))).toEqual(['order-not-confirmed']);
    // A line whose day is past stays as it is while another is changed.
    await world.workOn('2027-03-25');
    await salmah.does(
      'changeOrder',
      typed(order, (each, at) => (at === 0 ? { ...each, quantity: '6', shipDate: '2027-03-30' } : each)),
    );
    expect((await sheet(order.id)).lines.map((each) => each.shipDate)).toEqual(['2027-03-30', '2027-03-20']);
    await world.workOn(WORK_DATE);
  });

  it('is changed by one of two at once, and races a shipment without losing either', async () => {
    const order = await confirmed(line('GAC-25', '10'));
    const both = await Promise.all([
      salmah.raw('changeOrder', typed(order, quantity('12'))),
      salmah.raw('changeOrder', typed(order, quantity('8'))),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const now = await sheet(order.id);
    const [ship] = await Promise.all([
      joko.raw('shipLines', { orderId: order.id, lines: [{ lineId: now.lines[0]!.id, quantity: '8' }] }),
      salmah.raw('changeOrder', typed(now, quantity('5'))),
    ]);
    const after = (await sheet(order.id)).lines[0]!;
    // Either it shipped first, or five were left of it.
    expect([after.quantity, after.shipped]).toEqual(ship.status === 200 ? [now.lines[0]!.quantity, '8'] : ['5', '0']);
  });

  it('is opened again where it was closed short, at what it came to, and taken of its agreement again', async () => {
    const agreement = await agreed(world, salmah);
    const lines = [
      line('GAC-25', '10', { agreementLineId: null }),
      line('RO-4040', '4', { route: 'drop', agreementLineId: agreement.lineId }),
    ];
    const order = await confirmed(...lines);
    await joko.does('shipLines', { orderId: order.id, lines: [{ lineId: order.lines[0]!.id, quantity: '3' }] });
    await salmah.does('invoiceCustomer', { orderId: order.id });
    const lineIds = order.lines.map(({ id }) => id);
    const released = async () =>
      (await salmah.get<{ lines: { released: string }[] }>(`/api/agreements/${agreement.id}`)).lines[0]!.released;
    const asked = { id: order.id, version: order.version, lineIds, reason: '' };
    expect((await salmah.refused('closeShort', asked)).codes).toEqual(['reason: required']);
    await salmah.does('closeShort', { ...asked, reason: 'they closed the wing' });
    const closed = await sheet(order.id);
    expect([closed.state, closed.lines.map(({ cancelled }) => cancelled), await released()]).toEqual([
      'closed',
      ['7', '4'],
      '0',
    ]);
    const trail = await salmah.get<z.output<typeof openTrail.out>>(`/api/trail/SO/${order.id}`);
    expect(trail.changes[0]).toMatchObject({
      act: 'closed short',
      reason: 'they closed the wing',
      fields: [
        { what: 'given up of line 1', was: '0', is: '7' },
        { what: 'given up of line 2', was: '0', is: '4' },
      ],
    });
    await salmah.does('openAgain', { id: order.id, version: closed.version, lineIds });
    const again = await sheet(order.id);
    expect(again).toMatchObject({ state: 'confirmed', net: order.net });
    expect(again.lines.map((each) => [each.cancelled, each.amount])).toEqual(
      order.lines.map((each) => ['0', each.amount]),
    );
    expect([await released(), again.lines[1]!.needsPurchase]).toEqual(['4', true]);
    const twice = await salmah.refused('openAgain', { id: order.id, version: again.version, lineIds });
    expect(twice.codes).toEqual(['lines: nothing-closed']);
    // An agreement that is used up meanwhile has no room for it.
    await salmah.does('closeShort', { ...asked, version: again.version, lineIds: [lineIds[1]], reason: 'no' });
    await confirmed(line('RO-4040', '100', { route: 'drop', agreementLineId: agreement.lineId }));
    const full = await sheet(order.id);
    expect((await salmah.refused('openAgain', { id: order.id, version: full.version, lineIds })).codes).toEqual([
      'lines: above-limit',
    ]);
  });

  it('is cancelled with what is left of it: what was closed short went back before, and stays so', async () => {
    const agreement = await agreed(world, salmah);
    const drop = { route: 'drop', agreementLineId: agreement.lineId };
    const order = await confirmed(line('RO-4040', '6', drop), line('RO-4040', '5', drop));
    const [first] = order.lines;
    const close = { id: order.id, version: order.version, lineIds: [first!.id], reason: 'too many' };
    await salmah.does('closeShort', close);
    await salmah.does('cancelOrder', { id: order.id, version: order.version + 1, reason: 'they closed' });
    const { lines } = await salmah.get<{ lines: { released: string }[] }>(`/api/agreements/${agreement.id}`);
    expect(lines[0]!.released).toBe('0');
    const over = await sheet(order.id);
    expect([over.state, over.lines.map(({ closedShort }) => closedShort)]).toEqual(['cancelled', [false, false]]);
    const again = { id: order.id, version: over.version, lineIds: [first!.id] };
    expect((await salmah.refused('openAgain', again)).codes).toEqual(['lines: nothing-closed']);
  });

  it('counts against the credit limit only where it grows', async () => {
    const { database } = world.serving;
    const order = await confirmed(line('GAC-25', '10'));
    await database.run("UPDATE customer SET credit_limit = 1 WHERE name = 'Teratai Bay Resort'");
    expect((await salmah.refused('changeOrder', typed(order, quantity('11')))).codes).toEqual([
      'creditReason: over-credit',
    ]);
    await salmah.does('changeOrder', typed(order, quantity('9')));
    const rashid = await world.visitor('rashid');
    const more = typed(await sheet(order.id), quantity('11'), { creditReason: 'they pay tomorrow' });
    await rashid.does('changeOrder', more);
    await database.run("UPDATE customer SET credit_limit = NULL WHERE name = 'Teratai Bay Resort'");
  });
});
