import { Actor } from '../sample/actor';
import { layOpeningStock } from '../sample/opening-stock';
import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

interface Movement {
  reverses: { number: string } | null;
  reversedBy: { id: number; number: string } | null;
  reason: string;
  lines: { quantity: string; cost: string; otherHalf: { id: number } | null }[];
}

describe('P1 reversals', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    const actor = new Actor(
      world.serving.database,
      world.masters.companyId,
      world.masters.people.get('joko')!,
      'stock',
    );
    await layOpeningStock(world.serving.database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const teratai = () => world.masters.customers.get('Teratai Bay Resort')!;
  async function ordered(lines: Record<string, unknown>[]) {
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: teratai().id,
      shipToId: teratai().shipTos[0],
      customerReference: 'R-1',
      lines: lines.map((line) => ({ id: null, shipDate: '2027-03-20', ...line })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const sheet = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    return { id: order!.id, lineIds: sheet.lines.map((line) => line.id) };
  }
  const line = async (orderId: number) =>
    (
      await salmah.get<{
        state: string;
        lines: { shipped: string; invoiced: string; reserved: string; tied: string }[];
      }>(`/api/orders/${orderId}`)
    ).lines[0]!;
  const stockOf = async (number: string) =>
    (
      await world.serving.database.rows<{ onHand: string; reserved: string; value: string }>(
        'SELECT on_hand, reserved, value FROM stock WHERE item_id = ?',
        [world.item(number)],
      )
    )[0]!;
  const reverse = (kind: 'RC' | 'SH', id: number) =>
    salmah.does('reverseMovement', { kind, id, reason: 'Counted wrong' });

  it('L2 takes both halves of a drop shipment back at once, from either, and it can go again', async () => {
    const agreement = await agreed(world, salmah);
    const { orderId, orderLineId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '12');
    const shippedOf = async () =>
      (await salmah.get<{ values: { shipped: string } }>(`/api/agreements/${agreement.id}`)).values.shipped;
    const made = await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '5' }] });
    expect(await shippedOf()).toBe('3700');
    const shipment = made.find((each) => each.kind === 'SH')!;
    const taken = await reverse('SH', shipment.id);
    expect(taken.map((each) => each.kind)).toEqual(['RC', 'SH']);
    expect(await line(orderId)).toMatchObject({ shipped: '0', tied: '12' });
    expect(await shippedOf()).toBe('0');
    const original = await salmah.get<Movement>(`/api/shipments/${shipment.id}`);
    expect(original.reversedBy?.id).toBe(taken[1]!.id);
    const reversal = await salmah.get<Movement>(`/api/shipments/${taken[1]!.id}`);
    expect(reversal).toMatchObject({
      reverses: { number: shipment.number },
      reason: 'Counted wrong',
      lines: [{ quantity: '-5', cost: '-3100', otherHalf: { id: taken[0]!.id } }],
    });
    const thread = await salmah.get<{
      undone: { document: { number: string }; by: { number: string } }[];
      beads: { stage: string; part: unknown }[];
    }>(`/api/threads/${orderLineId}`);
    expect(thread.undone.map((each) => each.by.number).sort()).toEqual(taken.map((each) => each.number).sort());
    expect(thread.beads.filter((bead) => bead.stage === 'shipped').map((bead) => bead.part)).toEqual([null]);
    // Neither is reversed twice, nor a reversal.
    expect((await salmah.refused('reverseMovement', { kind: 'SH', id: shipment.id, reason: 'x' })).codes).toEqual([
      'reversed-already',
      'reversed-already',
    ]);
    expect((await salmah.refused('reverseMovement', { kind: 'RC', id: taken[0]!.id, reason: 'x' })).codes).toEqual([
      'is-reversal',
      'is-reversal',
    ]);
    await salmah.does('shipLines', { orderId, lines: [{ lineId: orderLineId, quantity: '12' }] });
    expect(await shippedOf()).toBe('8880');
  });

  it('twice at the same moment it is taken back once', async () => {
    const agreement = await agreed(world, salmah);
    const { purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '4');
    const made = await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '4' }] });
    const answers = await Promise.all(
      made.map(({ kind, id }) => salmah.raw('reverseMovement', { kind, id, reason: 'Never left' })),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
  });

  it('an untied tie with a history: all of it reversed, it can be parted', async () => {
    const agreement = await agreed(world, salmah);
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '3');
    const made = await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '1' }] });
    await reverse('RC', made.find((each) => each.kind === 'RC')!.id);
    const [tie] = await world.serving.database.rows<{ id: number }>(
      'SELECT t.id FROM tie t JOIN sales_order_line l ON l.id = t.order_line_id WHERE l.order_id = ?',
      [orderId],
    );
    await salmah.does('untie', { tieIds: [tie!.id] });
    expect(await line(orderId)).toMatchObject({ tied: '0', shipped: '0' });
  });

  it('goods from stock come back at what they cost; what was held for a special order is held again', async () => {
    const before = await stockOf('FC-10');
    const order = await ordered([{ itemId: world.item('FC-10'), quantity: '30', route: 'stock' }]);
    const made = await salmah.does('shipLines', {
      orderId: order.id,
      lines: [{ lineId: order.lineIds[0]!, quantity: '20' }],
    });
    expect(await stockOf('FC-10')).not.toEqual(before);
    await reverse('SH', made[0]!.id);
    expect(await stockOf('FC-10')).toEqual(before);
    expect(await line(order.id)).toMatchObject({ shipped: '0' });
  });

  it('L3 a special order: its shipment goes back to being held, its receipt only once that is done', async () => {
    const order = await ordered([{ itemId: world.item('VA-50A'), quantity: '3', route: 'special' }]);
    const bench = await salmah.get<{ rows: { proposal: { vendorId: number } }[] }>(`/api/bench?orderId=${order.id}`);
    const [purchase] = await salmah.does('placePurchases', {
      lines: [{ orderLineId: order.lineIds[0]!, vendorId: bench.rows[0]!.proposal.vendorId }],
    });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
    const [receipt] = await salmah.does('receiveGoods', {
      purchaseId: purchase!.id,
      lines: [{ lineId: lines[0]!.id, quantity: '3' }],
    });
    const [shipment] = await salmah.does('shipLines', {
      orderId: order.id,
      lines: [{ lineId: order.lineIds[0]!, quantity: '2' }],
    });
    expect((await salmah.refused('reverseMovement', { kind: 'RC', id: receipt!.id, reason: 'x' })).sentences).toEqual([
      `${receipt!.number} brought 3 of VA-50A and only 1 of them can be had; take back what they went out with first.`,
    ]);
    await reverse('SH', shipment!.id);
    expect(await line(order.id)).toMatchObject({ shipped: '0', reserved: '3' });
    await reverse('RC', receipt!.id);
    expect(await line(order.id)).toMatchObject({ reserved: '0', tied: '3' });
    expect(await stockOf('VA-50A')).toMatchObject({ onHand: '0', reserved: '0', value: '0' });
  });

  it('an invoice goes first: taken back whole, it is invoiced again, and then the shipment can go', async () => {
    const order = await ordered([{ itemId: world.item('FC-10'), quantity: '10', route: 'stock' }]);
    const [shipment] = await salmah.does('shipLines', {
      orderId: order.id,
      lines: [{ lineId: order.lineIds[0]!, quantity: '10' }],
    });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: order.id });
    expect((await salmah.refused('reverseMovement', { kind: 'SH', id: shipment!.id, reason: 'x' })).sentences).toEqual([
      `${shipment!.number} is covered by ${invoice!.number}; reverse that first.`,
    ]);
    const taking = { invoiceId: invoice!.id, kind: 'reversal', reason: 'Wrong price', lines: [] };
    const [note] = await salmah.does('creditInvoice', taking);
    const credit = await salmah.get<{ kind: string; total: string; left: string; lines: { quantity: string }[] }>(
      `/api/credit-notes/${note!.id}`,
    );
    expect(credit).toMatchObject({ kind: 'reversal', total: '64.66', left: '0', lines: [{ quantity: '10' }] });
    expect((await salmah.refused('creditInvoice', taking)).codes).toEqual(['credited-already']);
    const sheet = await salmah.get<{ state: string }>(`/api/orders/${order.id}`);
    expect(sheet.state).toBe('confirmed');
    expect(await line(order.id)).toMatchObject({ shipped: '10', invoiced: '0' });
    const [again] = await salmah.does('invoiceCustomer', { orderId: order.id });
    expect((await salmah.get<{ total: string }>(`/api/customer-invoices/${again!.id}`)).total).toBe('64.66');
    await salmah.does('creditInvoice', { ...taking, invoiceId: again!.id });
    await reverse('SH', shipment!.id);
    expect(await line(order.id)).toMatchObject({ shipped: '0', invoiced: '0' });
  });
});
