import type * as z from 'zod';
import type { listSerials, openSerial, serialsHere } from '@api/serial';
import type { openOrder } from '@api/orders';
import type { alsoWaiting, openCount, openShipment } from '@api/stock';
import type { openWork, openWorkReport } from '@api/workshop';
import { World, WORK_DATE, type Visitor } from '../testing/world';

type Pieces = z.output<typeof listSerials.out>['rows'];
type Piece = z.output<typeof openSerial.out>;

describe('P6 W7 pieces with numbers of their own', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    const { database } = world.serving;
    salmah = await world.visitor();
    joko = await world.visitor('joko');
    for (const item of ['SK-FRAME', 'SK-PANEL', 'TUBE-12', 'FV-SHELL9', 'FV-HEAD', 'FV-NOZZLE']) {
      const [stock] = await database.rows<{ onHand: string }>('SELECT on_hand FROM stock WHERE item_id = ?', [
        world.item(item),
      ]);
      const adjusted = { itemId: world.item(item), locationId: 0, was: stock?.onHand ?? '0', now: '300' };
      await salmah.does('adjustStock', { ...adjusted, unitCost: '10', reason: 'opened' });
    }
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const pieces = async (item: string, query = '') =>
    (await salmah.get<{ rows: Pieces }>(`/api/serials?item=${world.item(item)}&rows=200${query}`)).rows;
  const piece = async (item: string, number: string) => {
    const found = (await pieces(item, `&q=${number}`)).find((each) => each.number === number)!;
    return salmah.get<Piece>(`/api/serials/${found.id}`);
  };
  const stock = async (item: string, locationId = 0) => {
    const [row] = await world.serving.database.rows<{ onHand: string }>(
      'SELECT on_hand FROM stock WHERE item_id = ? AND location_id = ?',
      [world.item(item), locationId],
    );
    return row?.onHand ?? '0';
  };
  const ordered = async (item: string, quantity: string, route: string) => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item(item), quantity, shipDate: '2027-04-15', route };
    const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-9' };
    const [order] = await salmah.does('saveOrder', { ...head, lines: [line] });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const sheet = await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${order!.id}`);
    return { orderId: order!.id, number: order!.number, lineId: sheet.lines[0]!.id, planned: sheet.lines[0]!.planned };
  };
  const line = async (orderId: number) =>
    (await salmah.get<z.output<typeof openOrder.out>>(`/api/orders/${orderId}`)).lines[0]!;
  const numbersOf = async (orderId: number) =>
    (await line(orderId)).numbers.map(({ number, place }) => [number, place]);
  const bought = async (orderLineId: number, vendorId: number) => {
    const [purchase] = await salmah.does('placePurchases', { lines: [{ orderLineId, vendorId }] });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
    return { purchaseId: purchase!.id, lineId: lines[0]!.id };
  };
  const report = (workId: number, change: Record<string, unknown> = {}) => ({
    workId,
    operationId: null,
    good: '1',
    scrapped: '',
    used: [],
    worked: [],
    finish: false,
    ...change,
  });

  it('are of an item that is kept by number from a day on: none may be here without', async () => {
    const keep = (item: string, pattern: string) => ({ itemId: world.item(item), pattern });
    expect((await salmah.refused('keepByNumber', keep('UV-LAMP', 'L#'))).codes).toEqual(['number-stock']);
    expect((await salmah.refused('keepByNumber', keep('TUBE-12', 'T#'))).codes).toEqual(['number-whole']);
    expect((await salmah.refused('keepByNumber', keep('VA-50A', 'V'))).codes).toEqual(['pattern: not-a-pattern']);
    expect((await joko.refused('keepByNumber', keep('VA-50A', ''))).codes).toEqual(['no-right']);
    const preview = await salmah.post('/api/acts/keepByNumber/preview', keep('VA-50A', 'V-{YY}-##'));
    expect(preview.body).toMatchObject({ effects: { pattern: 'V-{YY}-##', next: 'V-27-01' } });
    await salmah.does('keepByNumber', keep('VA-50A', ''));
    const here = await salmah.get<z.output<typeof serialsHere.out>>(`/api/items/${world.item('VA-50A')}/serials`);
    expect(here).toEqual({ pattern: '', next: '', location: 0, rows: [] });
    const none = await salmah.get<z.output<typeof serialsHere.out>>(`/api/items/${world.item('FC-10')}/serials`);
    expect(none.pattern).toBeNull();
  });

  it('come with a receipt by the numbers typed, are held for their line, go out and come back by number', async () => {
    const order = await ordered('VA-50A', '3', 'special');
    const purchase = await bought(order.lineId, world.masters.vendors.get('V-102')!);
    const receive = (quantity: string, numbers: string[]) => ({
      purchaseId: purchase.purchaseId,
      lines: [{ lineId: purchase.lineId, quantity, numbers }],
    });
    expect((await joko.refused('receiveGoods', receive('2', []))).codes).toEqual(['lines.0.numbers: numbers-needed']);
    expect((await joko.refused('receiveGoods', receive('2', ['IJ-1']))).codes).toEqual([
      'lines.0.numbers: numbers-not-as-many',
    ]);
    expect((await joko.refused('receiveGoods', receive('2', ['IJ-1', 'ij-1']))).codes).toEqual([
      'lines.0.numbers: number-twice',
    ]);
    const [receipt] = await joko.does('receiveGoods', receive('3', ['IJ-1', 'IJ-2', 'IJ-3']));
    expect(await numbersOf(order.orderId)).toEqual([
      ['IJ-1', 'ours'],
      ['IJ-2', 'ours'],
      ['IJ-3', 'ours'],
    ]);
    expect((await pieces('VA-50A'))[0]).toMatchObject({
      number: 'IJ-1',
      place: 'ours',
      location: 'Main store',
      line: { order: { number: order.number }, lineNo: 1, party: 'Kasturi Bottling', held: true },
      born: { kind: 'RC', number: receipt!.number },
      bornOn: WORK_DATE,
    });
    const ship = (quantity: string, numbers?: string[]) => ({
      orderId: order.orderId,
      lines: [{ lineId: order.lineId, quantity, ...(numbers ? { numbers } : {}) }],
    });
    expect((await joko.refused('shipLines', ship('1', ['IJ-9']))).codes).toEqual(['lines.0.numbers: number-unknown']);
    const preview = await joko.post('/api/acts/shipLines/preview', ship('1', ['IJ-2']));
    expect(preview.body).toMatchObject({
      effects: { numbers: [{ itemId: world.item('VA-50A'), number: 'IJ-2', place: 'customer' }] },
    });
    const [shipment] = await joko.does('shipLines', ship('1', ['IJ-2']));
    expect((await joko.refused('shipLines', ship('1', ['IJ-2']))).sentences).toEqual([
      `IJ-2 is not at Main store: it went out with ${order.number} line 1. Take another.`,
    ]);
    const sheet = await salmah.get<z.output<typeof openShipment.out>>(`/api/shipments/${shipment!.id}`);
    expect(sheet.lines[0]!.numbers).toMatchObject([{ number: 'IJ-2', place: 'customer' }]);
    // What moved on must come back before its receipt can go.
    expect((await joko.refused('reverseMovement', { kind: 'RC', id: receipt!.id, reason: 'x' })).codes).toEqual([
      'goods-gone',
    ]);
    await joko.does('reverseMovement', { kind: 'SH', id: shipment!.id, reason: 'not yet' });
    expect(await numbersOf(order.orderId)).toHaveLength(3);
    await joko.does('reverseMovement', { kind: 'RC', id: receipt!.id, reason: 'wrong ones' });
    expect(await numbersOf(order.orderId)).toEqual([]);
    expect((await piece('VA-50A', 'IJ-2')).life.map(({ what, location }) => [what, location])).toEqual([
      ['received', 'Main store'],
      ['shipped', 'Main store'],
      ['taken-back', 'Main store'],
      ['taken-back', 'Main store'],
    ]);
    // The same pieces come again: their life goes on.
    await joko.does('receiveGoods', receive('3', ['IJ-2', 'IJ-3', 'IJ-4']));
    expect((await pieces('VA-50A')).map(({ number, place }) => [number, place])).toEqual([
      ['IJ-1', 'out'],
      ['IJ-2', 'ours'],
      ['IJ-3', 'ours'],
      ['IJ-4', 'ours'],
    ]);
    await joko.does('shipLines', ship('3'));
    expect((await numbersOf(order.orderId)).map(([, place]) => place)).toEqual(['customer', 'customer', 'customer']);
    // One of three comes back with a credit note: it is asked which.
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: order.orderId });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/customer-invoices/${invoice!.id}`);
    const credit = (numbers: string[]) => ({
      invoiceId: invoice!.id,
      kind: 'return',
      reason: 'leaks',
      lines: [{ invoiceLineId: lines[0]!.id, quantity: '1', unitPrice: '', numbers }],
    });
    expect((await salmah.refused('creditInvoice', credit([]))).codes).toEqual(['lines.0.numbers: numbers-which']);
    expect((await salmah.refused('creditInvoice', credit(['IJ-1']))).codes).toEqual([
      'lines.0.numbers: number-not-out',
    ]);
    await salmah.does('creditInvoice', credit(['IJ-3']));
    expect(await piece('VA-50A', 'IJ-3')).toMatchObject({ place: 'ours', line: null });
    expect((await piece('VA-50A', 'IJ-3')).life.at(-1)).toMatchObject({ what: 'returned', document: { kind: 'CN' } });
  });

  it('of a drop shipment are told where the vendor tells them, and go straight on', async () => {
    const order = await ordered('VA-50A', '2', 'drop');
    const purchase = await bought(order.lineId, world.masters.vendors.get('V-102')!);
    const move = (by: object) => ({ lines: [{ quantity: '1', ...by }] });
    await joko.does('receiveGoods', {
      purchaseId: purchase.purchaseId,
      ...move({ lineId: purchase.lineId, numbers: ['DR-1'] }),
    });
    await joko.does('shipLines', { orderId: order.orderId, ...move({ lineId: order.lineId }) });
    expect(await numbersOf(order.orderId)).toEqual([['DR-1', 'customer']]);
    expect((await piece('VA-50A', 'DR-1')).life.map(({ what }) => what)).toEqual(['received', 'shipped']);
    const { document } = (await piece('VA-50A', 'DR-1')).life[0]!;
    await joko.does('reverseMovement', { kind: 'RC', id: document.id, reason: 'lost on the way' });
    expect(await piece('VA-50A', 'DR-1')).toMatchObject({ place: 'out' });
  });

  it('are made by the pattern, for their line as soon as they are, with the parts that went into each', async () => {
    const order = await ordered('SK-D2', '2', 'assemble');
    const work = order.planned[0]!;
    const [first] = await salmah.does('reportWork', report(work.id));
    expect(await numbersOf(order.orderId)).toEqual([['D2-27-001', 'ours']]);
    const open = () => salmah.get<z.output<typeof openWork.out>>(`/api/workshop/${work.id}`);
    expect(await open()).toMatchObject({
      byNumber: true,
      numbers: [{ number: 'D2-27-001', place: 'ours' }],
      components: [
        { byNumber: false, numbers: [] },
        { byNumber: true, numbers: [{ number: 'P15-00001' }, { number: 'P15-00002' }] },
        {},
        {},
      ],
    });
    const told = await salmah.get<z.output<typeof openWorkReport.out>>(`/api/work-reports/${first!.id}`);
    expect(told).toMatchObject({ numbers: [{ number: 'D2-27-001' }], components: [{}, { numbers: [{}, {}] }, {}, {}] });
    const skid = await piece('SK-D2', 'D2-27-001');
    expect(skid.parts.map(({ number, item }) => [number, item])).toEqual([
      ['P15-00001', 'PM-15'],
      ['P15-00002', 'PM-15'],
    ]);
    expect(await piece('PM-15', 'P15-00002')).toMatchObject({
      place: 'used',
      work: { number: work.number },
      within: { number: 'D2-27-001' },
      above: [{ number: 'D2-27-001', item: 'SK-D2' }],
    });
    // The rest is assembled as it ships, with a number that was typed; its pumps are others, typed too.
    const pumps = (numbers: string[]) => [{ componentId: 0, quantity: '2', numbers }];
    const componentId = (await open()).components[1]!.id;
    const using = (numbers: string[]) => pumps(numbers).map((each) => ({ ...each, componentId }));
    expect(
      (await salmah.refused('reportWork', report(work.id, { used: using(['P15-00001', 'P15-00003']) }))).codes,
    ).toEqual(['used.0.numbers: number-elsewhere']);
    expect((await salmah.refused('reportWork', report(work.id, { numbers: ['D2-27-001'] }))).codes).toEqual([
      'numbers: number-exists',
    ]);
    const [second] = await salmah.does(
      'reportWork',
      report(work.id, { used: using(['P15-00009', 'P15-00008']), numbers: ['D2-27-007'] }),
    );
    expect((await piece('SK-D2', 'D2-27-007')).parts.map(({ number }) => number)).toEqual(['P15-00008', 'P15-00009']);
    await salmah.does('takeBackWork', { reportId: second!.id, reason: 'not so' });
    expect(await piece('SK-D2', 'D2-27-007')).toMatchObject({ place: 'out', parts: [] });
    expect(await piece('PM-15', 'P15-00008')).toMatchObject({ place: 'ours', within: null, work: null });
    const ship = {
      orderId: order.orderId,
      lines: [{ lineId: order.lineId, quantity: '2', numbers: ['D2-27-001', 'D2-X'] }],
    };
    const [shipment] = await joko.does('shipLines', ship);
    expect(await numbersOf(order.orderId)).toEqual([
      ['D2-27-001', 'customer'],
      ['D2-X', 'customer'],
    ]);
    expect((await piece('SK-D2', 'D2-X')).life.map(({ what }) => what)).toEqual(['made', 'shipped']);
    await joko.does('reverseMovement', { kind: 'SH', id: shipment!.id, reason: 'wrong address' });
    expect(await piece('SK-D2', 'D2-X')).toMatchObject({ place: 'out', parts: [] });
    expect(await numbersOf(order.orderId)).toEqual([['D2-27-001', 'ours']]);
    // The pattern goes on after the highest it could have made.
    await joko.does('shipLines', { orderId: order.orderId, lines: [{ lineId: order.lineId, quantity: '2' }] });
    expect((await numbersOf(order.orderId)).map(([number]) => number)).toEqual(['D2-27-001', 'D2-27-008']);
  });

  it('cannot be finished without numbers where none are made: it is said where to type them', async () => {
    const keep = { itemId: world.item('FV-900'), pattern: '' };
    await salmah.does('keepByNumber', keep);
    const [made] = await salmah.does('newWork', { itemId: world.item('FV-900'), quantity: '2', due: null });
    const refused = await salmah.refused('reportWork', report(made!.id, { good: '2' }));
    expect([refused.codes, refused.sentences]).toEqual([
      ['numbers: numbers-needed'],
      ['Type the serial numbers of the 2 FV-900 that come; no pattern makes them.'],
    ]);
    await salmah.does('reportWork', report(made!.id, { good: '2', numbers: ['FV-A', 'FV-B'] }));
    await salmah.does('keepByNumber', { ...keep, pattern: 'FV9-{YY}-###' });
    expect((await pieces('FV-900')).map(({ number, place, line: own }) => [number, place, own])).toEqual([
      ['FV-A', 'ours', null],
      ['FV-B', 'ours', null],
      ['FV9-27-001', 'ours', null],
    ]);
  });

  it('go along with another order as they are chosen there', async () => {
    const first = await ordered('PM-15', '1', 'stock');
    const other = await ordered('PM-15', '2', 'stock');
    const { orders } = await joko.get<z.output<typeof alsoWaiting.out>>(`/api/orders/${first.orderId}/also-waiting`);
    const waiting = orders.find(({ order }) => order.id === other.orderId)!.lines[0]!;
    expect(waiting).toMatchObject({ id: other.lineId, byNumber: true, locationId: 0 });
    const free = (await pieces('PM-15')).filter(({ place, line: own }) => place === 'ours' && own === null);
    const chosen = free.slice(-2).map(({ number }) => number);
    const ship = (numbers: string[]) => ({
      orderId: first.orderId,
      lines: [{ lineId: first.lineId, quantity: '1' }],
      others: [{ orderId: other.orderId, lines: [{ lineId: other.lineId, quantity: '2', numbers }] }],
    });
    expect((await joko.refused('shipLines', ship(chosen.slice(1)))).codes).toEqual([
      'others.0.lines.0.numbers: numbers-not-as-many',
    ]);
    await joko.does('shipLines', ship(chosen));
    expect(await numbersOf(other.orderId)).toEqual(chosen.map((number) => [number, 'customer']));
    expect((await numbersOf(first.orderId)).map(([, place]) => place)).toEqual(['customer']);
  });

  it('change place by number, are put right by number, and come back with what takes that back', async () => {
    const between = { itemId: world.item('PM-15'), from: 0, to: 1, quantity: '2' };
    await joko.does('moveBetween', { ...between, numbers: ['P15-00020', 'P15-00021'] });
    expect(await piece('PM-15', 'P15-00020')).toMatchObject({ place: 'ours', location: 'East coast store' });
    expect((await piece('PM-15', 'P15-00020')).life.map(({ what }) => what)).toEqual([
      'found',
      'moved-out',
      'moved-in',
    ]);
    expect((await joko.refused('moveBetween', { ...between, numbers: ['P15-00020', 'P15-00022'] })).codes).toEqual([
      'numbers: number-elsewhere',
    ]);
    const was = await stock('PM-15', 1);
    const put = (now: string, numbers: string[]) => ({
      itemId: world.item('PM-15'),
      locationId: 1,
      was,
      now,
      unitCost: '',
      reason: 'looked',
      numbers,
    });
    const [lost] = await joko.does('adjustStock', put('1', ['P15-00020']));
    expect(await piece('PM-15', 'P15-00020')).toMatchObject({ place: 'out' });
    await joko.does('takeBackAdjustment', { journalId: lost!.id, reason: 'it stood behind the door' });
    expect((await piece('PM-15', 'P15-00020')).life.at(-1)).toMatchObject({
      what: 'taken-back',
      location: 'East coast store',
    });
    const [found] = await joko.does('adjustStock', put('3', ['P15-X']));
    expect(await piece('PM-15', 'P15-X')).toMatchObject({ place: 'ours', born: { kind: 'JR' } });
    await joko.does('moveBetween', { ...between, from: 1, to: 0, quantity: '1', numbers: ['P15-X'] });
    // There is as many as it brought, and not the piece itself.
    expect((await joko.refused('takeBackAdjustment', { journalId: found!.id, reason: 'x' })).codes).toEqual([
      'number-moved-on',
    ]);
  });

  it('are counted by number: what is missing goes, what is found comes, and both come back', async () => {
    const [count] = await joko.does('beginCount', {
      locationId: 1,
      groupId: null,
      itemIds: [world.item('PM-15')],
      blind: false,
    });
    const open = () => salmah.get<z.output<typeof openCount.out>>(`/api/counts/${count!.id}`);
    const [row] = (await open()).rows;
    expect(row).toMatchObject({ byNumber: true, numbers: [], expected: ['P15-00020', 'P15-00021'] });
    const enter = (counted: string, numbers: string[]) => ({
      countId: count!.id,
      lines: [{ lineId: row!.id, counted, unitCost: '', numbers }],
    });
    expect((await joko.refused('enterCount', enter('2', ['P15-00020']))).codes).toEqual([
      'lines.0.numbers: numbers-not-as-many',
    ]);
    expect((await joko.refused('enterCount', enter('1', ['P15-00022']))).codes).toEqual([
      'lines.0.numbers: number-exists',
    ]);
    await joko.does('enterCount', enter('2', ['P15-00021', 'P15-F']));
    expect((await open()).rows[0]!.numbers).toEqual([
      { number: 'P15-00020', says: 'missing' },
      { number: 'P15-00021', says: 'here' },
      { number: 'P15-F', says: 'found' },
    ]);
    const post = async () => ({ countId: count!.id, version: (await open()).version, reason: 'counted' });
    await joko.does('postCount', await post());
    expect(await piece('PM-15', 'P15-00020')).toMatchObject({ place: 'out' });
    expect(await piece('PM-15', 'P15-F')).toMatchObject({ place: 'ours', born: { kind: 'CT' } });
    await joko.does('takeBackCount', { countId: count!.id, reason: 'another shelf' });
    expect(await piece('PM-15', 'P15-00020')).toMatchObject({ place: 'ours' });
    expect(await piece('PM-15', 'P15-F')).toMatchObject({ place: 'out' });
  });

  it('does not tell who counts blind which should be there', async () => {
    const [count] = await joko.does('beginCount', {
      locationId: 1,
      groupId: null,
      itemIds: [world.item('PM-15')],
      blind: true,
    });
    const open = () => joko.get<z.output<typeof openCount.out>>(`/api/counts/${count!.id}`);
    const [row] = (await open()).rows;
    expect(row!.expected).toEqual([]);
    await joko.does('enterCount', {
      countId: count!.id,
      lines: [{ lineId: row!.id, counted: '1', unitCost: '', numbers: ['P15-00021'] }],
    });
    expect((await open()).rows[0]!.numbers).toEqual([{ number: 'P15-00021', says: 'here' }]);
    // A piece that left meanwhile is none that is missing: it is counted again.
    await joko.does('moveBetween', {
      itemId: world.item('PM-15'),
      from: 1,
      to: 0,
      quantity: '1',
      numbers: ['P15-00020'],
    });
    const { version } = await open();
    expect((await joko.refused('postCount', { countId: count!.id, version, reason: 'counted' })).codes).toEqual([
      'lines.0.counted: number-elsewhere',
    ]);
    await joko.does('cancelCount', { countId: count!.id, version });
  });

  it('is held for one: nobody else takes it, neither to ship nor to move', async () => {
    const order = await ordered('SK-D2', '1', 'assemble');
    await salmah.does('reportWork', report(order.planned[0]!.id));
    const [[number]] = (await numbersOf(order.orderId)) as [[string]];
    const other = await ordered('SK-D2', '1', 'stock');
    const here = await salmah.get<z.output<typeof serialsHere.out>>(
      `/api/items/${world.item('SK-D2')}/serials?line=${order.lineId}`,
    );
    expect(here.rows).toMatchObject([{ number, own: true, held: `${order.number} line 1` }]);
    await salmah.does('reportWork', {
      ...report((await salmah.does('newWork', { itemId: world.item('SK-D2'), quantity: '1', due: null }))[0]!.id),
    });
    const take = { orderId: other.orderId, lines: [{ lineId: other.lineId, quantity: '1', numbers: [number] }] };
    expect((await joko.refused('shipLines', take)).sentences).toEqual([
      `${number} is held for ${order.number} line 1; take another, or let it go there first.`,
    ]);
    // Let go of there, it is anybody's.
    await salmah.does('supplyLine', { orderLineId: order.lineId, route: 'stock', reserve: '0', lift: true });
    expect(await numbersOf(order.orderId)).toEqual([]);
    await joko.does('shipLines', take);
    expect(await numbersOf(other.orderId)).toEqual([[number, 'customer']]);
  });

  it('ships once where two ship one number at the same moment', async () => {
    const orders = [await ordered('PM-15', '1', 'stock'), await ordered('PM-15', '1', 'stock')];
    const answers = await Promise.all(
      orders.map(({ orderId, lineId }) =>
        joko.raw('shipLines', { orderId, lines: [{ lineId, quantity: '1', numbers: ['P15-00030'] }] }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    expect((await piece('PM-15', 'P15-00030')).life.filter(({ what }) => what === 'shipped')).toHaveLength(1);
  });

  it('numbers each once where two report pieces at the same moment', async () => {
    const made = [];
    for (let at = 0; at < 3; at += 1) {
      made.push((await salmah.does('newWork', { itemId: world.item('SK-D2'), quantity: '2', due: null }))[0]!.id);
    }
    const before = (await pieces('SK-D2')).length;
    await Promise.all(made.map((id) => salmah.does('reportWork', report(id, { good: '2' }))));
    const numbers = (await pieces('SK-D2')).map(({ number }) => number);
    expect(numbers).toHaveLength(before + 6);
    expect(new Set(numbers).size).toBe(numbers.length);
  });

  it('a mistyped number is written as it is, and a part put into the product it really is in', async () => {
    const wrong = await piece('PM-15', 'P15-X');
    const correct = (change: object) => ({
      serialId: wrong.id,
      was: 'P15-X',
      number: 'P15-00099',
      reason: 'misread',
      ...change,
    });
    expect((await joko.refused('correctNumber', correct({ number: 'P15-00021' }))).codes).toEqual([
      'number: number-exists',
    ]);
    expect((await joko.refused('correctNumber', correct({ was: 'P15-Y' }))).codes).toEqual(['number-changed']);
    await joko.does('correctNumber', correct({}));
    expect(await piece('PM-15', 'P15-00099')).toMatchObject({ id: wrong.id });
    const [made] = await salmah.does('newWork', { itemId: world.item('SK-D2'), quantity: '2', due: null });
    await salmah.does('reportWork', report(made!.id, { good: '2' }));
    const { numbers } = await salmah.get<z.output<typeof openWork.out>>(`/api/workshop/${made!.id}`);
    const [one, other] = await Promise.all(numbers.map(({ id }) => salmah.get<Piece>(`/api/serials/${id}`)));
    const part = one!.parts[0]!;
    expect((await salmah.get<Piece>(`/api/serials/${part.id}`)).products.map(({ id }) => id)).toEqual([
      one!.id,
      other!.id,
    ]);
    await salmah.does('putPart', { serialId: part.id, productId: other!.id });
    expect(await salmah.get<Piece>(`/api/serials/${part.id}`)).toMatchObject({ within: { id: other!.id } });
    expect((await salmah.refused('putPart', { serialId: part.id, productId: wrong.id })).codes).toEqual([
      'productId: number-not-product',
    ]);
    expect((await salmah.refused('putPart', { serialId: wrong.id, productId: other!.id })).codes).toEqual([
      'number-not-part',
    ]);
    await salmah.does('putPart', { serialId: part.id, productId: null });
    expect(await salmah.get<Piece>(`/api/serials/${part.id}`)).toMatchObject({ within: null });
  });

  it('are listed by number, page by page, and found by it', async () => {
    const all: string[] = [];
    let cursor: string | null = '';
    while (cursor !== null) {
      const page: { rows: Pieces; next: string | null } = await salmah.get(
        `/api/serials?place=ours&rows=7&cursor=${encodeURIComponent(cursor)}`,
      );
      all.push(...page.rows.map(({ number, item }) => `${number} ${item.number}`));
      cursor = page.next;
    }
    const [count] = await world.serving.database.rows<{ many: number }>(
      "SELECT COUNT(*) AS many FROM serial WHERE place = 'ours'",
    );
    expect(all).toHaveLength(count!.many);
    expect([...all].sort((a, b) => a.localeCompare(b))).toEqual(all);
    const found = await salmah.get<{ rows: { kind: string; number: string; name: string }[] }>('/api/find?q=IJ-3');
    expect(found.rows).toMatchObject([{ kind: 'serial', number: 'IJ-3', name: 'Actuated valve, 50 mm' }]);
    expect((await pieces('VA-50A', '&place=customer')).map(({ number }) => number)).toEqual(['IJ-2', 'IJ-4']);
    expect(await salmah.post('/api/acts/putPart', {})).toMatchObject({ status: 400 });
    expect(await salmah.get<{ status: number }>('/api/serials/999999')).toMatchObject({ status: 404 });
  });
});
