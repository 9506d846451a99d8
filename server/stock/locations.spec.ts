import { addDays, itemAt, locationAt, pointOf } from '@core/kernel';
import { Actor } from '../sample/actor';
import { EAST, layOpeningStock } from '../sample/opening-stock';
import { settledRun, World, WORK_DATE, type Visitor } from '../testing/world';

interface Sheet {
  version: number;
  lines: {
    id: number;
    location: { id: number; code: string } | null;
    reserved: string;
    free: string;
    shipped: string;
  }[];
}
interface ItemSheet {
  onHand: string;
  places: { location: { id: number; name: string }; onHand: string; free: string }[];
}
interface Availability {
  places: { id: number }[];
  items: { id: number; number: string; onHand: string; sellers: unknown[] }[];
  supplies: { itemId: number; quantity: string; source: { number: string } }[];
  demands: { itemId: number; quantity: string }[];
}

describe('S1 T1 goods at several locations', () => {
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

  const line = (item: string, quantity: string, more: Record<string, unknown> = {}) => ({
    id: null,
    itemId: world.item(item),
    quantity,
    shipDate: '2027-03-20',
    route: 'stock',
    locationId: EAST,
    ...more,
  });
  const draft = (lines: unknown[], version: number | null = null, id: number | null = null) => {
    const { id: customerId, shipTos } = world.masters.customers.get('Teratai Bay Resort')!;
    return { id, version, customerId, shipToId: shipTos[0], customerReference: 'L-1', lines };
  };
  async function ordered(...lines: unknown[]) {
    const [order] = await salmah.does('saveOrder', draft(lines));
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return { id: order!.id, lines: (await sheet(order!.id)).lines };
  }
  const sheet = (id: number) => salmah.get<Sheet>(`/api/orders/${id}`);
  const places = async (item: string) => {
    const found = await salmah.get<ItemSheet>(`/api/items/${world.item(item)}`);
    return found.places.map((each) => [each.location.id, each.onHand, each.free]);
  };

  it('keeps the list of them; the main one and those in use stay', async () => {
    const { rows } = await salmah.get<{ rows: { id: number; stamp: string; cells: { code: string } }[] }>(
      '/api/lists/locations',
    );
    expect(rows.map((row) => [row.id, row.cells.code])).toEqual([
      [EAST, 'EAST'],
      [0, 'MAIN'],
    ]);
    for (const { id, stamp } of rows) {
      const refused = await salmah.refused('keepList', {
        list: 'locations',
        changes: [],
        removed: [{ id, stamp }],
      });
      expect(refused.codes).toEqual(['removed.0: row-in-use']);
    }
    const main = rows[1]!;
    const named = { id: 0, stamp: main.stamp, cells: { code: 'MAIN', name: 'Klang store' } };
    await salmah.does('keepList', { list: 'locations', changes: [named], removed: [] });
    const found = await salmah.get<{ rows: { name: string }[] }>('/api/locations');
    expect(found.rows.map((row) => row.name)).toEqual(['Klang store', 'East coast store']);
  });

  it('ships from where the line says, and takes it back to there', async () => {
    expect(await places('UV-40')).toEqual([
      [0, '6', '6'],
      [EAST, '3', '3'],
    ]);
    const { id, lines } = await ordered(line('UV-40', '2'), line('UV-40', '5', { locationId: 0 }));
    expect(lines.map((each) => [each.location!.code, each.free])).toEqual([
      ['EAST', '3'],
      ['MAIN', '6'],
    ]);
    const ship = (quantities: string[]) => ({
      orderId: id,
      lines: quantities.map((quantity, at) => ({ lineId: lines[at]!.id, quantity })),
    });
    const shipments = await joko.does('shipLines', ship(['2', '1']));
    // One from each place.
    expect(shipments).toHaveLength(2);
    expect(await places('UV-40')).toEqual([
      [0, '5', '5'],
      [EAST, '1', '1'],
    ]);
    for (const { id: shipmentId } of shipments) {
      await joko.does('reverseMovement', { kind: 'SH', id: shipmentId, reason: 'Wrong ones' });
    }
    expect(await places('UV-40')).toEqual([
      [0, '6', '6'],
      [EAST, '3', '3'],
    ]);
    await joko.does('shipLines', ship(['2', '1']));
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: id });
    const { lines: invoiced } = await salmah.get<{ lines: { id: number }[] }>(`/api/customer-invoices/${invoice!.id}`);
    await salmah.does('creditInvoice', {
      invoiceId: invoice!.id,
      kind: 'return',
      reason: 'Cracked',
      lines: [{ invoiceLineId: invoiced[0]!.id, quantity: '1', unitPrice: '' }],
    });
    expect(await places('UV-40')).toEqual([
      [0, '5', '5'],
      [EAST, '2', '2'],
    ]);
  });

  it('refuses more than is there, whatever is elsewhere, and a location that is none', async () => {
    const { id, lines } = await ordered(line('GAC-25', '60'));
    const refused = await joko.refused('shipLines', { orderId: id, lines: [{ lineId: lines[0]!.id, quantity: '41' }] });
    expect(refused.codes).toEqual(['lines.0.quantity: above-on-hand']);
    expect(refused.sentences[0]).toContain('41 of GAC-25 at EAST is more than the 40 on hand');
    expect((await salmah.refused('saveOrder', draft([line('GAC-25', '1', { locationId: 9 })]))).codes).toEqual([
      'lines.0.locationId: unknown',
    ]);
  });

  it('S3 a line may go out from elsewhere: what is held for it is let go there and held here', async () => {
    const { id, lines } = await ordered(line('GAC-25', '30', { locationId: 0 }));
    const supply = { orderLineId: lines[0]!.id, route: 'stock', reserve: '30', lift: false };
    await salmah.does('supplyLine', supply);
    expect(await places('GAC-25')).toEqual([
      [0, '260', '230'],
      [EAST, '40', '40'],
    ]);
    expect((await salmah.refused('supplyLine', { ...supply, locationId: EAST })).codes).toEqual([
      'lift: line-reserved',
    ]);
    await salmah.does('supplyLine', { ...supply, locationId: EAST, lift: true });
    expect(await places('GAC-25')).toEqual([
      [0, '260', '260'],
      [EAST, '40', '10'],
    ]);
    await salmah.does('cancelOrder', { id, version: (await sheet(id)).version });
    expect(await places('GAC-25')).toEqual([
      [0, '260', '260'],
      [EAST, '40', '40'],
    ]);
  });

  it('L3 a special order is bought to where its line goes out from, and held for it there', async () => {
    const special = { route: 'special' };
    const { id, lines } = await ordered(
      line('RO-4040', '4', special),
      line('RO-4040', '3', { ...special, locationId: 0 }),
    );
    const purchases = await salmah.does('placePurchases', {
      lines: lines.map(({ id: orderLineId }) => ({ orderLineId, vendorId: world.masters.vendors.get('V-101')! })),
    });
    expect(purchases).toHaveLength(2);
    const [east, main] = await Promise.all(
      purchases.map((purchase) =>
        salmah.get<{ location: { id: number }; lines: { id: number }[] }>(`/api/purchases/${purchase.id}`),
      ),
    );
    expect([east!.location.id, main!.location.id]).toEqual([EAST, 0]);
    const [receipt] = await joko.does('receiveGoods', {
      purchaseId: purchases[0]!.id,
      lines: [{ lineId: east!.lines[0]!.id, quantity: '4' }],
    });
    expect((await sheet(id)).lines.map((each) => each.reserved)).toEqual(['4', '0']);
    expect(await places('RO-4040')).toEqual([[EAST, '4', '0']]);
    await joko.does('reverseMovement', { kind: 'RC', id: receipt!.id, reason: 'Wrong ones' });
    expect(await places('RO-4040')).toEqual([]);
    const loose = await salmah.does('enterPurchase', {
      vendorId: world.masters.vendors.get('V-101')!,
      shipToId: null,
      locationId: EAST,
      lines: [{ itemId: world.item('RO-4040'), quantity: '5', dueDate: '2027-03-15' }],
    });
    const { id: other } = await ordered(line('RO-4040', '5', { ...special, locationId: 0 }));
    const [asked] = (await sheet(other)).lines;
    const found = await salmah.get<{ rows: unknown[] }>(`/api/order-lines/${asked!.id}/supplies`);
    expect(found.rows).toEqual([]);
    const [bought] = (await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${loose[0]!.id}`)).lines;
    const tie = { orderLineId: asked!.id, purchaseLineId: bought!.id, quantity: '1' };
    expect((await salmah.refused('tieLine', tie)).codes).toEqual(['purchaseLineId: tie-other-location']);
  });

  it('P3 goods are carried from one place to another, by a journal of its own; two at once never more than is free', async () => {
    const move = { itemId: world.item('GAC-25'), from: 0, to: EAST, quantity: '25' };
    const [journal] = await joko.does('moveBetween', move);
    expect(await places('GAC-25')).toEqual([
      [0, '235', '235'],
      [EAST, '65', '65'],
    ]);
    const trail = await salmah.get<{
      journals: { entries: { debit: string | null; credit: string | null }[] }[];
      stockEntries: { location: string; quantity: string; cost: string }[];
    }>(`/api/trail/JR/${journal!.id}`);
    expect(trail.journals[0]!.entries.map((each) => [each.debit, each.credit])).toEqual([
      ['3287.5', null],
      [null, '3287.5'],
    ]);
    expect(trail.stockEntries.map((each) => [each.location, each.quantity, each.cost])).toEqual([
      ['Klang store', '-25', '-3287.5'],
      ['East coast store', '25', '3287.5'],
    ]);
    // Back again by two at once: one of them finds too few.
    const back = { ...move, from: EAST, to: 0, quantity: '40' };
    const answers = await Promise.all([joko.raw('moveBetween', back), joko.raw('moveBetween', back)]);
    expect(answers.map((each) => each.status).sort()).toEqual([200, 422]);
    await joko.does('moveBetween', { ...move, quantity: '15' });
    expect(await places('GAC-25')).toEqual([
      [0, '260', '260'],
      [EAST, '40', '40'],
    ]);
  });

  it('T1 T2 tells what is there at each, and promises a line of what is at its own', async () => {
    const item = world.item('UV-40');
    const { id, lines } = await ordered(line('UV-40', '1'), line('UV-40', '4', { locationId: 0 }));
    const { id: tooMuch } = await ordered(line('UV-40', '2'));
    const seen = await salmah.get<Availability>(`/api/items/${item}/availability?line=${lines[0]!.id}`);
    expect(seen.places.map((each) => each.id)).toEqual([0, EAST]);
    expect(seen.items.map((each) => [each.id, each.number, each.onHand])).toEqual([
      [item, 'UV-40', '5'],
      [pointOf(item, EAST), 'UV-40 at EAST', '2'],
    ]);
    const owed = (at: number) =>
      seen.demands.filter((each) => locationAt(each.itemId) === at).map((each) => each.quantity);
    // The line that asks is left out; of the first order what is open, or came back, is owed where it goes out from.
    expect([owed(0), owed(EAST)]).toEqual([
      ['4', '4'],
      ['1', '2'],
    ]);
    expect(seen.demands.every((each) => itemAt(each.itemId) === item)).toBe(true);
    // Only bought to the second place, and nobody sells it: what is there by the day, and no more.
    expect(seen.items[1]!.sellers).toEqual([]);
    const told = async (orderId: number) =>
      (
        await salmah.get<{ lines: { ways: { atp: { day: string }; have: { trouble: string } } }[] }>(
          `/api/orders/${orderId}/promise/check`,
        )
      ).lines[0]!.ways;
    expect((await told(tooMuch)).have.trouble).toContain('UV-40 at EAST');
    await salmah.does('cancelOrder', { id: tooMuch, version: 2 });
    expect((await told(id)).atp.day).toBe('2027-03-20');
  });

  it('T11 plans each by itself: what is short there is bought to there', async () => {
    const plan = async () => {
      await salmah.does('startPlanning', { until: addDays(WORK_DATE, 120), itemIds: [world.item('GAC-25')] });
      return settledRun<{
        id: number;
        state: string;
        proposals: { at: number; item: { number: string }; quantity: string }[];
      }>(salmah, '/api/planning');
    };
    // Sixty were ordered from there, of the forty that are.
    const { id, proposals } = await plan();
    expect(proposals.map((each) => each.item.number)).toEqual(['GAC-25 at EAST']);
    const [placed] = await salmah.does('takeProposals', { id, at: [proposals[0]!.at] });
    const purchase = await salmah.get<{ location: { id: number } }>(`/api/purchases/${placed!.id}`);
    expect(purchase.location.id).toBe(EAST);
    expect((await plan()).proposals).toEqual([]);
  });
});
