import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { openWork } from '@api/workshop';
import { World, type Visitor } from '../testing/world';

type Work = z.output<typeof openWork.out>;
type Trail = z.output<typeof openTrail.out>;

describe('what is made and assembled to order (W2 P5)', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    salmah = await world.visitor();
    joko = await world.visitor('joko');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const ordered = async (item: string, quantity: string, route: string, shipDate = '2027-03-30') => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item(item), quantity, shipDate, route };
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-9',
      lines: [line],
    });
    const made = await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines, version } = await opened(order!.id);
    return { orderId: order!.id, lineId: lines[0]!.id, work: made[0] ?? null, version };
  };
  interface Line {
    id: number;
    reserved: string;
    shipped: string;
    making: string;
    planned: { id: number; number: string; state: string }[];
  }
  const opened = (id: number) => salmah.get<{ version: number; lines: Line[] }>(`/api/orders/${id}`);
  const line = async (id: number) => (await opened(id)).lines[0]!;
  const work = (id: number) => salmah.get<Work>(`/api/workshop/${id}`);
  const journals = async (kind: string, id: number) =>
    (await salmah.get<Trail>(`/api/trail/${kind}/${id}`)).journals.flatMap(({ entries }) =>
      entries.map(({ name, debit, credit }) => [name, debit ?? `-${credit}`]),
    );

  it('has its assembly order from its confirmation on, leads to it, and ships what is assembled in the same act', async () => {
    const { orderId, lineId, work: assembly } = await ordered('SK-D2', '2', 'assemble');
    expect(assembly).toMatchObject({ kind: 'AS' });
    expect(await line(orderId)).toMatchObject({
      making: '2',
      planned: [{ id: assembly!.id, number: assembly!.number, state: 'firm' }],
    });
    expect(await work(assembly!.id)).toMatchObject({
      state: 'firm',
      quantity: '2',
      untied: '0',
      for: [{ order: { id: orderId }, quantity: '2', made: '0' }],
    });
    // One of the two goes out: it is assembled as it goes.
    const ship = (quantity: string) => ({ orderId, lines: [{ lineId, quantity }] });
    const preview = await joko.post('/api/acts/shipLines/preview', ship('1'));
    expect(preview.body).toMatchObject({ effects: { assembled: [{ document: assembly, quantity: '1' }] } });
    const [shipment, report] = await joko.does('shipLines', ship('1'));
    expect([shipment!.kind, report!.kind]).toEqual(['SH', 'WR']);
    expect(await line(orderId)).toMatchObject({ shipped: '1', reserved: '0', making: '1' });
    expect(await work(assembly!.id)).toMatchObject({
      state: 'running',
      finished: '1',
      components: [{ used: '1' }, { used: '2' }, { used: '1' }, { used: '6.3' }],
      operations: [{ done: '1' }, { done: '1' }, { done: '1' }],
    });
    const out = (await work(assembly!.id)).reports[0]!.outputCost;
    expect(await journals('SH', shipment!.id)).toEqual([
      ['Cost of sales', out],
      ['Inventory', `-${out}`],
    ]);
    // Taken back, all of it is: the skid is here no more, its parts are.
    await joko.does('reverseMovement', { kind: 'SH', id: shipment!.id, reason: 'wrong address' });
    expect(await line(orderId)).toMatchObject({ shipped: '0', reserved: '0', making: '2' });
    expect(await work(assembly!.id)).toMatchObject({
      state: 'firm',
      finished: '0',
      inWork: '0',
      components: [{ used: '0' }, {}, {}, {}],
    });
    await joko.does('shipLines', ship('2'));
    expect(await line(orderId)).toMatchObject({ shipped: '2', making: '0' });
    expect(await work(assembly!.id)).toMatchObject({ state: 'finished', finished: '2', inWork: '0' });
  });

  it('tells what it earns while it is for somebody, to whoever sees costs', async () => {
    const { orderId, work: assembly } = await ordered('SK-D2', '2', 'assemble');
    const { net } = await salmah.get<{ net: string }>(`/api/orders/${orderId}`);
    const { plannedCost, earning } = await work(assembly!.id);
    expect(earning).toMatchObject({ quantity: '2', sold: net, cost: plannedCost });
    expect(Number(earning!.earns)).toBeCloseTo(Number(net) - Number(plannedCost), 2);
    const suresh = await world.visitor('suresh');
    expect((await suresh.get<Work>(`/api/workshop/${assembly!.id}`)).earning).toMatchObject({ sold: '', earns: '' });
    await salmah.does('untieWork', { plannedId: assembly!.id, orderLineId: (await line(orderId)).id });
    expect((await work(assembly!.id)).earning).toBeNull();
  });

  it('has the thread of what is made from its draft on: nobody will invoice it to us', async () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-11' };
    const line = { id: null, itemId: world.item('SK-D2'), quantity: '1', shipDate: '2027-03-30', route: 'assemble' };
    const [order] = await salmah.does('saveOrder', { ...head, lines: [line] });
    const { lines } = await opened(order!.id);
    const { beads } = await salmah.get<{ beads: { stage: string }[] }>(`/api/threads/${lines[0]!.id}`);
    expect(beads.map(({ stage }) => stage)).toEqual(['ordered', 'supply', 'received', 'shipped', 'invoiced', 'paid']);
  });

  it('says which parts are short while it is typed', async () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const typed = (quantity: string, route: string) => ({
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-10',
      lines: [{ id: null, itemId: world.item('SK-D2'), quantity, shipDate: '2027-03-30', route }],
    });
    const said = async (quantity: string, route: string) => {
      const { body } = await salmah.post('/api/acts/saveOrder/preview', typed(quantity, route));
      const { warnings } = body as { warnings: { code: string; field: string; sentence: string }[] };
      return warnings.filter(({ code }) => code === 'parts-short');
    };
    expect(await said('1', 'assemble')).toEqual([]);
    const [panel] = (await said('900', 'assemble')).filter(({ sentence }) => sentence.includes('SK-PANEL'));
    expect(panel).toMatchObject({ field: 'lines.0.quantity' });
    expect(panel!.sentence).toMatch(/^SK-D2 takes 900 of SK-PANEL; \d+ are free, and /);
  });

  it('ships nothing of it where a component is short, and says which', async () => {
    const { orderId, lineId } = await ordered('SK-D2', '9', 'assemble');
    const refused = await joko.refused('shipLines', { orderId, lines: [{ lineId, quantity: '9' }] });
    expect(new Set(refused.codes)).toEqual(new Set(['lines.0.quantity: component-short']));
    expect(refused.sentences.join(' ')).toMatch(/SK-PANEL/);
    expect(await line(orderId)).toMatchObject({ shipped: '0', reserved: '0', making: '9' });
  });

  it('takes part of it from stock: what is held is not assembled, and what is assembled not held', async () => {
    const { orderId, lineId } = await ordered('UV-40', '2', 'stock');
    const supply = (route: string, reserve: string) => ({ orderLineId: lineId, route, reserve, lift: false });
    await salmah.does('supplyLine', supply('stock', '1'));
    const [assembly] = await salmah.does('supplyLine', { ...supply('assemble', '1'), lift: true });
    expect(await line(orderId)).toMatchObject({ reserved: '1', making: '1' });
    expect(await work(assembly!.id)).toMatchObject({ quantity: '1' });
    expect((await salmah.refused('supplyLine', supply('assemble', '2'))).codes).toEqual(['reserve: above-free']);
    expect((await salmah.refused('supplyLine', { ...supply('stock', ''), lift: true })).codes).toEqual([
      'route: line-made',
    ]);
    await joko.does('shipLines', { orderId, lines: [{ lineId, quantity: '2' }] });
    expect(await line(orderId)).toMatchObject({ shipped: '2', reserved: '0', making: '0' });
    expect(await work(assembly!.id)).toMatchObject({ state: 'finished', finished: '1' });
  });

  it('is made to order at every level, goes out as it is made, and no further', async () => {
    const { orderId, lineId, work: made } = await ordered('FV-900', '2', 'make');
    expect(made).toMatchObject({ kind: 'PR' });
    expect((await work(made!.id)).below.map(({ item, quantity }) => [item.number, quantity])).toContainEqual([
      'FV-SHELL9',
      '2',
    ]);
    const shipped = (quantity: string) => ({ orderId, lines: [{ lineId, quantity }] });
    // There is one in stock, but it is not this one's.
    expect((await joko.refused('shipLines', shipped('1'))).codes).toEqual(['lines.0.quantity: not-made-yet']);
    const [shells] = (await work(made!.id)).below;
    await salmah.does('makeFirm', { orderIds: [shells!.document.id], firm: true });
    const report = { operationId: null, scrapped: '', used: [], worked: [], finish: false };
    await joko.does('reportWork', { ...report, workId: shells!.document.id, good: '2' });
    expect((await work(made!.id)).components[0]).toMatchObject({ covered: '0', free: '2' });
    await joko.does('reportWork', { ...report, workId: made!.id, good: '1' });
    expect(await line(orderId)).toMatchObject({ reserved: '1', making: '1' });
    expect((await joko.refused('shipLines', shipped('2'))).codes).toEqual(['lines.0.quantity: not-made-yet']);
    await joko.does('shipLines', shipped('1'));
    // The rest is given up: what runs goes on for nobody.
    await salmah.does('closeShort', {
      id: orderId,
      version: (await opened(orderId)).version,
      lineIds: [lineId],
      reason: 'not wanted',
    });
    expect(await work(made!.id)).toMatchObject({ state: 'running', untied: '1', for: [{ quantity: '1', made: '1' }] });
  });

  it('is not made any more where the order is cancelled before it was begun', async () => {
    const { orderId, work: made, version } = await ordered('FV-900', '3', 'make');
    await salmah.does('cancelOrder', { id: orderId, version });
    expect(await work(made!.id)).toMatchObject({ state: 'cancelled' });
    const below = (await work(made!.id)).below;
    expect(below.map(({ state }) => state)).toEqual([]);
  });

  it('says when it can be made later than it ships, and what is missing to make it at all', async () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const draft = async (item: string, shipDate: string, route: string) => {
      const lines = [{ id: null, itemId: world.item(item), quantity: '1', shipDate, route }];
      const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-9' };
      const [order] = await salmah.does('saveOrder', { ...head, lines });
      return salmah.post('/api/acts/confirmOrder/preview', { id: order!.id, version: 1 });
    };
    expect((await draft('SK-D4', '2027-03-02', 'assemble')).body).toMatchObject({ warnings: [{ code: 'made-late' }] });
    expect(
      (
        await salmah.refused('saveOrder', {
          id: null,
          version: null,
          customerId: id,
          shipToId: shipTos[0],
          customerReference: 'KB-9',
          lines: [{ id: null, itemId: world.item('PM-15'), quantity: '1', shipDate: '2027-03-30', route: 'make' }],
        })
      ).codes,
    ).toEqual(['lines.0.route: route-not-kept']);
  });

  it('is assembled of what a count says is gone by one of the two, when they are posted at the same moment', async () => {
    const frame = world.item('SK-FRAME');
    const { orderId, lineId } = await ordered('SK-D2', '2', 'assemble');
    const begun = { locationId: 0, groupId: null, itemIds: [frame], blind: false };
    const [count] = await joko.does('beginCount', begun);
    const sheet = await salmah.get<{ rows: { id: number; known: string }[] }>(`/api/counts/${count!.id}`);
    const [row] = sheet.rows;
    await joko.does('enterCount', { countId: count!.id, lines: [{ lineId: row!.id, counted: '1', unitCost: '' }] });
    const { version } = await salmah.get<{ version: number }>(`/api/counts/${count!.id}`);
    const answers = await Promise.all([
      joko.raw('shipLines', { orderId, lines: [{ lineId, quantity: '2' }] }),
      salmah.raw('postCount', { countId: count!.id, version, reason: 'not to be found' }),
    ]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    const [stock] = await world.serving.database.rows<{ onHand: string }>(
      'SELECT on_hand FROM stock WHERE item_id = ? AND location_id = 0',
      [frame],
    );
    const shipped = answers[0]!.status === 200;
    expect(stock).toEqual({ onHand: shipped ? String(Number(row!.known) - 2) : '1' });
    expect((await line(orderId)).shipped).toBe(shipped ? '2' : '0');
    if (!shipped) await salmah.does('takeBackCount', { countId: count!.id, reason: 'behind a pallet' });
    else await joko.does('cancelCount', { countId: count!.id, version });
  });

  it('is made once, when it is shipped and reported at the same moment', async () => {
    const { orderId, lineId, work: assembly } = await ordered('SK-D2', '1', 'assemble');
    const typed = { operationId: null, good: '1', scrapped: '', used: [], worked: [], finish: false };
    const [ship, report] = await Promise.all([
      joko.raw('shipLines', { orderId, lines: [{ lineId, quantity: '1' }] }),
      salmah.raw('reportWork', { workId: assembly!.id, ...typed }),
    ]);
    // Reported first, it is held and goes out of stock; shipped first, nothing is left to report.
    expect(ship!.status).toBe(200);
    expect([200, 422]).toContain(report!.status);
    expect(await line(orderId)).toMatchObject({ shipped: '1', reserved: '0', making: '0' });
    const made = await work(assembly!.id);
    expect(made).toMatchObject({ state: 'finished', finished: '1' });
    expect(made.reports).toHaveLength(1);
  });

  it('is laid for another quantity or another day as long as nobody began it', async () => {
    const { work: made } = await ordered('UV-40', '2', 'assemble');
    const change = async (quantity: string, due: string | null) => ({
      workId: made!.id,
      version: (await work(made!.id)).version,
      quantity,
      due,
    });
    expect((await salmah.refused('changeWork', await change('1', null))).codes).toEqual(['quantity: below-tied']);
    await salmah.does('changeWork', await change('4', '2027-04-20'));
    expect(await work(made!.id)).toMatchObject({
      quantity: '4',
      untied: '2',
      due: '2027-04-20',
      components: [{ quantity: '4' }, { quantity: '8' }],
    });
    const report = {
      workId: made!.id,
      operationId: null,
      good: '1',
      scrapped: '',
      used: [],
      worked: [],
      finish: false,
    };
    await joko.does('reportWork', report);
    expect((await salmah.refused('changeWork', await change('5', null))).codes).toEqual(['work-runs']);
  });
});
