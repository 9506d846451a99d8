import { World, type Visitor } from '../testing/world';
import { listPairs } from './list-pairs';

interface Row {
  tieId: number;
  quantity: string;
  order: { id: number; number: string };
  purchase: { id: number; number: string };
  shipToId: number;
  shipDate: string;
  dueDate: string;
  differs: string[];
  orderQuantity: string;
  purchaseQuantity: string;
}

describe('the pair edit', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  /** An order of so many drop shipment lines of one item, placed; its ties. */
  async function tied(count: number, customer = 'Nilam Dialysis Centre', quantity = '10'): Promise<Row[]> {
    const { id: customerId, shipTos } = world.masters.customers.get(customer)!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: 'R-1',
      lines: Array.from({ length: count }, () => ({
        id: null,
        itemId: world.item('RO-2540'),
        quantity,
        route: 'drop',
        shipDate: '2027-03-20',
      })),
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const bench = await salmah.get<{ rows: { orderLineId: number }[] }>(`/api/bench?orderId=${order!.id}`);
    const vendorId = world.masters.vendors.get('V-101')!;
    await salmah.does('placePurchases', { lines: bench.rows.map(({ orderLineId }) => ({ orderLineId, vendorId })) });
    return pairsOf(order!.id);
  }
  const pairsOf = async (orderId: number) =>
    (await salmah.get<{ rows: Row[] }>(`/api/ties?orderId=${orderId}`)).rows.reverse();
  const change = (row: Row, to: object) => ({
    tieId: row.tieId,
    was: { quantity: row.quantity, shipDate: row.shipDate, dueDate: row.dueDate, shipToId: row.shipToId },
    ...to,
  });
  const edit = (pairs: object[], goodOnly = false) => salmah.raw('editPairs', { pairs, goodOnly });

  it('L7 changes both documents of many ties at once, and keeps every sum', async () => {
    const rows = await tied(10);
    const preview = await salmah.post('/api/acts/editPairs/preview', {
      pairs: rows.map((row) => change(row, { quantity: '12', shipDate: '2027-03-25', dueDate: '2027-03-24' })),
      goodOnly: false,
    });
    const { effects } = preview.body as {
      effects: { pairs: { salesBy: string; supplyBy: string; differs: string }[] };
    };
    expect(effects.pairs[0]).toMatchObject({ salesBy: '1080', supplyBy: '805', differs: '' });
    expect((await pairsOf(rows[0]!.order.id))[0]!.quantity).toBe('10');
    const answer = await edit(
      rows.map((row) => change(row, { quantity: '12', shipDate: '2027-03-25', dueDate: '2027-03-24' })),
    );
    expect(answer.status).toBe(200);
    const after = await pairsOf(rows[0]!.order.id);
    expect(
      after.every((row) => row.quantity === '12' && row.orderQuantity === '12' && row.purchaseQuantity === '12'),
    ).toBe(true);
    const order = await salmah.get<{ net: string; firstShipDate: string }>(`/api/orders/${rows[0]!.order.id}`);
    expect(order).toMatchObject({ net: '64800', firstShipDate: '2027-03-25' });
  });

  it('L6 shows what is out of step, and brings it into step', async () => {
    const [row] = await tied(1);
    await edit([change(row!, { dueDate: '2027-04-02' })]);
    const [late] = await pairsOf(row!.order.id);
    expect(late!.differs).toEqual(['date']);
    const shown = await salmah.get<{ rows: Row[] }>('/api/ties?show=differs');
    expect(shown.rows.map((each) => each.tieId)).toContain(row!.tieId);
    await edit([change(late!, { shipDate: '2027-04-02' })]);
    expect((await pairsOf(row!.order.id))[0]!.differs).toEqual([]);
  });

  it('L7 sends the order and its purchase to another address', async () => {
    const [row] = await tied(1);
    const [, other] = world.masters.customers.get('Nilam Dialysis Centre')!.shipTos;
    await edit([change(row!, { shipToId: other, quantity: '11', shipDate: '2027-04-02', dueDate: '2027-04-01' })]);
    // Each document keeps what of it is another, as it was and as it is. // S8
    const changed = async (kind: string, id: number) =>
      (
        await salmah.get<{ changes: { fields: { what: string; was: string; is: string }[] }[] }>(
          `/api/trail/${kind}/${id}`,
        )
      ).changes[0]!.fields;
    const fields = await changed('SO', row!.order.id);
    expect(fields.map(({ what, was, is }) => [what, was !== is])).toEqual([
      ['ship to', true],
      ['quantity of line 1', true],
      ['ship date of line 1', true],
    ]);
    expect(fields[1]).toEqual({ what: 'quantity of line 1', was: '10', is: '11' });
    expect(await changed('PO', row!.purchase.id)).toEqual([
      { ...fields[0]! },
      { what: 'quantity of line 1', was: '10', is: '11' },
      { what: 'due date of line 1', was: row!.dueDate, is: '2027-04-01' },
    ]);
    const purchase = await salmah.get<{ shipTo: { id: number } }>(`/api/purchases/${row!.purchase.id}`);
    expect(purchase.shipTo.id).toBe(other);
    expect((await pairsOf(row!.order.id))[0]).toMatchObject({ shipToId: other, differs: [] });
  });

  it('L7 none where one is refused, or the good ones where that is chosen', async () => {
    const rows = await tied(3);
    const pairs = rows.map((row, index) => change(row, { quantity: index === 1 ? '0' : '8' }));
    const all = await edit(pairs);
    expect(all.status).toBe(422);
    expect((await pairsOf(rows[0]!.order.id)).map((row) => row.quantity)).toEqual(['10', '10', '10']);
    expect((await edit(pairs, true)).status).toBe(200);
    expect((await pairsOf(rows[0]!.order.id)).map((row) => row.quantity)).toEqual(['8', '10', '8']);
  });

  it('G2 two people at the same tie: the second is told, and nothing of theirs is done', async () => {
    const rows = await tied(2);
    const answers = await Promise.all(
      ['14', '7'].map((quantity) => edit(rows.map((row) => change(row, { quantity })))),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    const quantities = new Set((await pairsOf(rows[0]!.order.id)).map((row) => row.quantity));
    expect(quantities.size).toBe(1);
  });

  it('L7 a receipt racing a change: never below what came', async () => {
    for (let times = 0; times < 6; times += 1) {
      const [row] = await tied(1);
      const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${row!.purchase.id}`);
      const [received, changed] = await Promise.all([
        salmah.raw('receiveGoods', { purchaseId: row!.purchase.id, lines: [{ lineId: lines[0]!.id, quantity: '6' }] }),
        edit([change(row!, { quantity: '4' })]),
      ]);
      // One of them is first: the other is refused.
      expect([received.status, changed.status].sort()).toEqual([200, 422]);
    }
  });

  it('L4 a receipt racing an untie: goods never come for nobody', async () => {
    for (let times = 0; times < 6; times += 1) {
      const [row] = await tied(1);
      const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${row!.purchase.id}`);
      const answers = await Promise.all([
        salmah.raw('receiveGoods', { purchaseId: row!.purchase.id, lines: [{ lineId: lines[0]!.id, quantity: '10' }] }),
        salmah.raw('untie', { tieIds: [row!.tieId] }),
      ]);
      expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    }
  });

  it('finds ties by order, purchase, customer, vendor and item', async () => {
    const [row] = await tied(1, 'Padi Emas Food Works');
    const found = async (q: string) =>
      (await salmah.get<{ rows: Row[] }>(`/api/ties?q=${encodeURIComponent(q)}`)).rows.map((each) => each.tieId);
    for (const words of [row!.order.number, row!.purchase.number, 'Padi Emas', 'Arus', 'RO-2540', 'Membrane, 2.5']) {
      expect(await found(words)).toContain(row!.tieId);
    }
    expect(await found('nothing like it')).toEqual([]);
    expect(await found("100% '_\\")).toEqual([]);
  });

  it('L6 what the list calls out of step is what the rule does', async () => {
    const rows = await tied(4);
    await edit([change(rows[0]!, { dueDate: '2027-05-01' }), change(rows[1]!, { quantity: '3' })]);
    const sql = world.serving.database;
    const all = (await listPairs(sql, world.masters.companyId, { show: 'open' })).rows;
    const differing = (await listPairs(sql, world.masters.companyId, { show: 'differs' })).rows;
    expect(differing.map((row) => row.tieId)).toEqual(
      all.filter((row) => row.differs.length > 0).map((row) => row.tieId),
    );
  });
});
