import { agreed, placed, releaseOf, World, type Visitor } from '../testing/world';

describe('S8 an order is cancelled with what was bought for it', () => {
  let world: World;
  let salmah: Visitor;
  let agreement: { id: number; lineId: number };

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah, {}, '500');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const bought = () => placed(world, salmah, agreement, '12');
  const order = (id: number) =>
    salmah.get<{ state: string; version: number; lines: { ties: unknown[]; needsPurchase: boolean }[] }>(
      `/api/orders/${id}`,
    );
  const purchase = (id: number) =>
    salmah.get<{ state: string; shipTo: object | null; lines: { untied: string }[] }>(`/api/purchases/${id}`);
  const cancelling = async ({ orderId, purchaseId }: { orderId: number; purchaseId: number }, fate?: string) => ({
    id: orderId,
    version: (await order(orderId)).version,
    reason: 'given up',
    supplies: fate ? [{ purchaseId, fate }] : [],
  });

  it.each([
    ['cancel', { state: 'cancelled' }],
    ['loose', { state: 'placed', lines: [{ untied: '12' }] }],
    ['stock', { state: 'placed', shipTo: null }],
  ])('%s', async (fate, left) => {
    const ids = await bought();
    const before = await salmah.get<{ lines: { released: string }[] }>(`/api/agreements/${agreement.id}`);
    expect((await salmah.refused('cancelOrder', await cancelling(ids))).codes).toEqual(['supply-unasked']);
    await salmah.does('cancelOrder', await cancelling(ids, fate));
    expect(await order(ids.orderId)).toMatchObject({ state: 'cancelled', lines: [{ ties: [], needsPurchase: false }] });
    expect(await purchase(ids.purchaseId)).toMatchObject(left);
    const after = await salmah.get<{ lines: { released: string }[] }>(`/api/agreements/${agreement.id}`);
    expect(Number(before.lines[0]!.released) - Number(after.lines[0]!.released)).toBe(12);
    // What was done with the purchase is told of it.
    const { changes } = await salmah.get<{ changes: { act: string }[] }>(`/api/trail/PO/${ids.purchaseId}`);
    expect(changes).toHaveLength(2);
  });

  it('asks for the right to change what was bought', async () => {
    const ids = await bought();
    await world.serving.database.run(
      "UPDATE role SET rights = JSON_REMOVE(rights, JSON_UNQUOTE(JSON_SEARCH(rights, 'one', 'purchases'))) WHERE name = 'Order administrator'",
    );
    world.serving.sessions.forget();
    expect((await salmah.refused('cancelOrder', await cancelling(ids, 'loose'))).codes).toEqual(['no-right']);
    await world.serving.database.run(
      "UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'purchases') WHERE name = 'Order administrator'",
    );
    world.serving.sessions.forget();
    await salmah.does('cancelOrder', await cancelling(ids, 'loose'));
  });

  it('of two orders that share a purchase, one can only be parted', async () => {
    const first = await bought();
    const [other] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '3'));
    await salmah.does('confirmOrder', { id: other!.id, version: 1 });
    // The purchase is made larger, and what is more of it tied to the other.
    const sheet = await salmah.get<{ version: number; lines: { id: number; dueDate: string }[] }>(
      `/api/purchases/${first.purchaseId}`,
    );
    await salmah.does('changePurchase', {
      purchaseId: first.purchaseId,
      version: sheet.version,
      reason: 'for another order too',
      locationId: 0,
      lines: [{ id: first.purchaseLineId, itemId: null, quantity: '15', dueDate: sheet.lines[0]!.dueDate, price: '' }],
    });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${other!.id}`);
    await salmah.does('tieLine', { orderLineId: lines[0]!.id, purchaseLineId: first.purchaseLineId, quantity: '3' });
    const { rows } = await salmah.get<{ rows: { fates: string[]; others: string[] }[] }>(
      `/api/orders/${first.orderId}/supplies`,
    );
    expect(rows).toMatchObject([{ fates: ['loose'], others: [other!.number] }]);
    expect((await salmah.refused('cancelOrder', await cancelling(first, 'cancel'))).codes).toEqual([
      'supplies.0.fate: supply-for-others',
    ]);
    await salmah.does('cancelOrder', await cancelling(first, 'loose'));
    expect(await purchase(first.purchaseId)).toMatchObject({ state: 'placed', lines: [{ untied: '12' }] });
  });

  it('a cancelling that meets a receipt is wholly done, or not at all', async () => {
    for (let at = 0; at < 5; at += 1) {
      const ids = await bought();
      const cancel = await cancelling(ids, ['cancel', 'loose', 'stock'][at % 3]);
      const receive = { purchaseId: ids.purchaseId, lines: [{ lineId: ids.purchaseLineId, quantity: '5' }] };
      const [cancelled, received] = await Promise.all([
        salmah.raw('cancelOrder', cancel),
        salmah.raw('receiveGoods', receive),
      ]);
      expect([200, 409, 422]).toContain(cancelled.status);
      expect([200, 409, 422]).toContain(received.status);
      const { state } = await order(ids.orderId);
      expect(state).toBe(cancelled.status === 200 ? 'cancelled' : 'confirmed');
      if (cancelled.status !== 200) expect(received.status).toBe(200);
      expect(await world.verify()).toEqual([]);
    }
  });
});
