import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { listWork, openWork, openWorkReport, workForLine } from '@api/workshop';
import { World, WORK_DATE, type Visitor } from '../testing/world';

type Work = z.output<typeof openWork.out>;
type Report = z.output<typeof openWorkReport.out>;
type Trail = z.output<typeof openTrail.out>;
type Fits = z.output<typeof workForLine.out>;

describe('W3 what is made', () => {
  let world: World;
  let meilin: Visitor;
  let salmah: Visitor;
  let suresh: Visitor;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    meilin = await world.visitor('meilin');
    salmah = await world.visitor();
    suresh = await world.visitor('suresh');
    for (const item of ['SK-FRAME', 'SK-PANEL', 'PM-15', 'TUBE-12']) {
      const { onHand: was } = await onHand(item);
      const adjusted = { itemId: world.item(item), locationId: 0, was, now: '200', unitCost: '100', reason: 'opened' };
      await salmah.does('adjustStock', adjusted);
    }
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const make = async (item: string, quantity: string) => {
    const [made] = await meilin.does('newWork', { itemId: world.item(item), quantity, due: null });
    return made!.id;
  };
  const open = (id: number) => salmah.get<Work>(`/api/workshop/${id}`);
  const report = (workId: number, change: Record<string, unknown> = {}) => ({
    workId,
    operationId: null,
    good: '',
    scrapped: '',
    used: [],
    worked: [],
    finish: false,
    ...change,
  });

  const refusedCodes = async (by: Visitor, name: string, input: unknown) => (await by.refused(name, input)).codes;
  const journalOf = async (id: number) =>
    (await salmah.get<Trail>(`/api/trail/WR/${id}`)).journals.flatMap(({ entries }) =>
      entries.map(({ name, debit, credit }) => [name, debit ?? `-${credit}`]),
    );
  /** A confirmed order of one line, and that line. */
  const ordered = async (item: string, quantity: string, shipDate = '2027-03-15') => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item(item), quantity, shipDate, route: 'stock' };
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-9',
      lines: [line],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const [row] = await world.serving.database.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE order_id = ?',
      [order!.id],
    );
    return { orderId: order!.id, lineId: row!.id };
  };
  const lineOf = async (lineId: number) => {
    const [row] = await world.serving.database.rows<{ reserved: string; shipped: string }>(
      'SELECT reserved, shipped FROM sales_order_line WHERE id = ?',
      [lineId],
    );
    return row!;
  };
  const onHand = async (item: string) => {
    const [row] = await world.serving.database.rows<{ onHand: string; value: string }>(
      'SELECT on_hand, value FROM stock WHERE item_id = ? AND location_id = 0',
      [world.item(item)],
    );
    return row ?? { onHand: '0', value: '0' };
  };

  it('is made a piece at a time at what it was reckoned to cost; the last one finishes it', async () => {
    const id = await make('UV-40', '2');
    expect(await open(id)).toMatchObject({ state: 'firm', finished: '0', untied: '2', plannedCost: '1242' });
    const [first] = await suresh.does('reportWork', report(id, { good: '1' }));
    expect(await open(id)).toMatchObject({
      state: 'running',
      finished: '1',
      usedCost: '621',
      outputCost: '621',
      inWork: '0',
      operations: [{ done: '1', minutesDone: 45, minutes: 90 }],
      components: [{ used: '1' }, { used: '2' }],
    });
    expect(await journalOf(first!.id)).toEqual([
      ['Work in progress', '621'],
      ['Inventory', '-594'],
      ['Labour absorbed', '-27'],
      ['Inventory', '621'],
      ['Work in progress', '-621'],
    ]);
    // One lamp more than planned, and a quarter of an hour less: that is left over at the end.
    const lamp = (await open(id)).components[1]!.id;
    const [operation] = (await open(id)).operations;
    const [last] = await suresh.does(
      'reportWork',
      report(id, {
        good: '1',
        used: [{ componentId: lamp, quantity: '3' }],
        worked: [{ operationId: operation!.id, minutes: '30' }],
      }),
    );
    expect(await journalOf(last!.id)).toEqual([
      ['Work in progress', '708'],
      ['Inventory', '-690'],
      ['Labour absorbed', '-18'],
      ['Inventory', '621'],
      ['Production variance', '87'],
      ['Work in progress', '-708'],
    ]);
    expect(await open(id)).toMatchObject({ state: 'finished', finished: '2', inWork: '0', finishedOn: WORK_DATE });
    expect(await refusedCodes(suresh, 'reportWork', report(id, { good: '1' }))).toEqual(['work-not-firm']);
  });

  it('goes through its operations one after the other, no more than passed the one before; what is lost is scrap', async () => {
    const id = await make('SK-D2', '3');
    const { operations } = await open(id);
    const at = (place: number, change: Record<string, unknown>) =>
      report(id, { operationId: operations[place]!.id, ...change });
    expect(await refusedCodes(suresh, 'reportWork', at(1, { good: '1' }))).toEqual(['good: above-passed']);
    await suresh.does('reportWork', at(0, { good: '2' }));
    expect(await open(id)).toMatchObject({
      state: 'running',
      finished: '0',
      operations: [{ done: '2' }, { done: '0' }, {}],
    });
    expect(Number((await open(id)).inWork)).toBeGreaterThan(0);
    expect(await refusedCodes(suresh, 'reportWork', at(1, { good: '3' }))).toEqual(['good: above-passed']);
    expect(await refusedCodes(suresh, 'reportWork', at(0, { good: '2' }))).toEqual(['good: above-ordered']);
    await suresh.does('reportWork', at(1, { good: '1', scrapped: '1' }));
    const lost = await open(id);
    expect(lost).toMatchObject({ scrapped: '1', operations: [{ done: '2' }, { done: '1', scrapped: '1' }, {}] });
    // The rest of it as a whole: what was not reported yet of its operations goes with it.
    const [rest] = await suresh.does('reportWork', report(id, { good: '2' }));
    expect(await open(id)).toMatchObject({
      state: 'finished',
      finished: '2',
      inWork: '0',
      operations: [{ done: '3' }, { done: '2', scrapped: '1' }, { done: '2' }],
    });
    const sheet = await salmah.get<Report>(`/api/work-reports/${rest!.id}`);
    expect(sheet.operations.map(({ no, done }) => [no, done])).toEqual([
      [10, '1'],
      [20, '1'],
      [30, '2'],
    ]);
  });

  it('is for order lines tied before or after, in parts and several; what is made is held for the first to ship', async () => {
    const id = await make('SK-D2', '4');
    const later = await ordered('SK-D2', '2', '2027-04-20');
    const sooner = await ordered('SK-D2', '3', '2027-04-12');
    const { fits } = await salmah.get<Fits>(`/api/order-lines/${sooner.lineId}/work`);
    expect(fits.map(({ plannedId, untied, wanted }) => [plannedId, untied, wanted])).toEqual([[id, '4', '3']]);
    const lines = (await salmah.get<Fits>(`/api/workshop/${id}/lines`)).fits;
    expect(lines.map(({ orderLineId }) => orderLineId)).toEqual([sooner.lineId, later.lineId]);
    const tie = (lineId: number, quantity: string) => ({ plannedId: id, orderLineId: lineId, quantity });
    expect(await refusedCodes(meilin, 'tieWork', { ties: [tie(sooner.lineId, '3'), tie(later.lineId, '2')] })).toEqual([
      'ties.1.quantity: above-tieable',
    ]);
    await meilin.does('tieWork', { ties: [tie(sooner.lineId, '3'), tie(later.lineId, '1')] });
    expect(await open(id)).toMatchObject({
      untied: '0',
      for: [
        { order: { id: sooner.orderId }, quantity: '3', made: '0' },
        { order: { id: later.orderId }, quantity: '1', made: '0' },
      ],
    });
    await suresh.does('reportWork', report(id, { good: '2' }));
    expect(await lineOf(sooner.lineId)).toEqual({ reserved: '2', shipped: '0' });
    // Running, one of them is let go of; what was made stays where it is held.
    await meilin.does('untieWork', { plannedId: id, orderLineId: later.lineId });
    await meilin.does('untieWork', { plannedId: id, orderLineId: sooner.lineId });
    expect(await refusedCodes(meilin, 'untieWork', { plannedId: id, orderLineId: sooner.lineId })).toEqual([
      'all-made',
    ]);
    expect(await open(id)).toMatchObject({ untied: '2', for: [{ quantity: '2', made: '2' }] });
    await meilin.does('tieWork', { ties: [tie(later.lineId, '2')] });
    const [last] = await suresh.does('reportWork', report(id, { good: '2' }));
    expect(await lineOf(later.lineId)).toEqual({ reserved: '2', shipped: '0' });
    await salmah.does('shipLines', { orderId: later.orderId, lines: [{ lineId: later.lineId, quantity: '1' }] });
    expect(await refusedCodes(suresh, 'takeBackWork', { reportId: last!.id, reason: 'not ours' })).toEqual([
      'made-goods-gone',
    ]);
  });

  it('is taken back by a report that names it: parts, work, what came out, whom it was held for', async () => {
    const line = await ordered('UV-40', '2', '2027-04-12');
    const id = await make('UV-40', '2');
    await meilin.does('tieWork', { ties: [{ plannedId: id, orderLineId: line.lineId, quantity: '2' }] });
    const before = [await onHand('UV-40'), await onHand('UV-LAMP')];
    const [first] = await suresh.does('reportWork', report(id, { good: '1', finish: true }));
    expect(await open(id)).toMatchObject({ state: 'finished', for: [{ quantity: '1', made: '1' }] });
    expect(await refusedCodes(suresh, 'takeBackWork', { reportId: first!.id, reason: ' ' })).toEqual([
      'reason: required',
    ]);
    const [back] = await suresh.does('takeBackWork', { reportId: first!.id, reason: 'wrong order' });
    expect(await open(id)).toMatchObject({
      state: 'firm',
      finished: '0',
      inWork: '0',
      for: [{ quantity: '2', made: '0' }],
      components: [{ used: '0' }, { used: '0' }],
      operations: [{ done: '0', minutesDone: 0 }],
    });
    expect([await onHand('UV-40'), await onHand('UV-LAMP')]).toEqual(before);
    expect(await lineOf(line.lineId)).toEqual({ reserved: '0', shipped: '0' });
    expect(await refusedCodes(suresh, 'takeBackWork', { reportId: first!.id, reason: 'again' })).toEqual([
      'reversed-already',
    ]);
    expect(await refusedCodes(suresh, 'takeBackWork', { reportId: back!.id, reason: 'again' })).toEqual([
      'is-reversal',
    ]);
    expect(await salmah.get<Report>(`/api/work-reports/${back!.id}`)).toMatchObject({
      reason: 'wrong order',
      good: '-1',
      reverses: { id: first!.id },
    });
    await meilin.does('cancelWork', { workId: id, version: (await open(id)).version });
    expect(await open(id)).toMatchObject({ state: 'cancelled' });
  });

  it('takes components that are changed for this order alone, none that was used or is planned for it', async () => {
    const id = await make('UV-40', '2');
    const { components, version, plannedCost } = await open(id);
    const row = (at: number, change: Record<string, unknown> = {}) => ({
      id: components[at]!.id,
      itemId: components[at]!.item.id,
      quantity: components[at]!.quantity,
      operationNo: components[at]!.operationNo,
      ...change,
    });
    const change = (rows: unknown[], seen = version) => ({ workId: id, version: seen, components: rows });
    const added = { id: null, itemId: world.item('TUBE-12'), quantity: '4.5', operationNo: 10 };
    expect(
      await refusedCodes(
        meilin,
        'changeParts',
        change([row(0), { ...added, itemId: world.item('UV-40'), quantity: '4' }]),
      ),
    ).toEqual(['components.1.itemId: goes-into-itself']);
    expect(await refusedCodes(meilin, 'changeParts', change([row(0, { quantity: '1.5' })]))).toEqual([
      'components.0.quantity: whole-pieces',
    ]);
    await meilin.does('changeParts', change([row(0), row(1, { quantity: '6' }), added]));
    const changed = await open(id);
    expect(changed.components.map(({ item, quantity }) => [item.number, quantity])).toEqual([
      ['UV-HOUSING', '2'],
      ['UV-LAMP', '6'],
      ['TUBE-12', '4.5'],
    ]);
    expect(Number(changed.plannedCost)).toBeGreaterThan(Number(plannedCost));
    await suresh.does('reportWork', report(id, { good: '1' }));
    const running = await open(id);
    expect(running.components.map(({ used }) => used)).toEqual(['1', '3', '2.25']);
    const [housing, lamp, tube] = running.components;
    const keep = ({ id: own, item, quantity, operationNo }: Work['components'][number]) => ({
      id: own,
      itemId: item.id,
      quantity,
      operationNo,
    });
    expect(await refusedCodes(meilin, 'changeParts', change([keep(housing!), keep(lamp!)], running.version))).toEqual([
      'component-used',
    ]);
    expect(
      await refusedCodes(
        meilin,
        'changeParts',
        change([keep(housing!), { ...keep(lamp!), quantity: '2' }, keep(tube!)], running.version),
      ),
    ).toEqual(['components.1.quantity: below-used']);
    await meilin.does(
      'changeParts',
      change([keep(housing!), { ...keep(lamp!), quantity: '4' }, keep(tube!)], running.version),
    );
    await suresh.does('reportWork', report(id, { good: '1' }));
    expect(await open(id)).toMatchObject({
      state: 'finished',
      inWork: '0',
      components: [{ used: '2' }, { used: '4' }, { used: '4.5' }],
    });
  });

  it('refuses what is not there, and what cannot be', async () => {
    const id = await make('UV-40', '90');
    const codes = (change: Record<string, unknown>) => refusedCodes(suresh, 'reportWork', report(id, change));
    expect(await codes({})).toEqual(['good: nothing-reported']);
    expect(await codes({ finish: true })).toEqual(['finish: nothing-made']);
    expect(await codes({ good: 'two' })).toEqual(['good: not-a-number']);
    expect(await codes({ good: '1.5' })).toEqual(['good: whole-pieces']);
    expect(await codes({ good: '91' })).toEqual(['good: above-ordered']);
    expect(await codes({ good: '90' })).toEqual(['good: component-short', 'good: component-short']);
    expect(await codes({ operationId: 999999, good: '1' })).toEqual(['operationId: unknown']);
    expect(await codes({ good: '1', used: [{ componentId: 999999, quantity: '1' }] })).toEqual([
      'used.0.componentId: unknown',
    ]);
    const [operation] = (await open(id)).operations;
    expect(await codes({ good: '1', worked: [{ operationId: operation!.id, minutes: 'ten' }] })).toEqual([
      'worked.0.minutes: not-minutes',
    ]);
    const [planned] = await meilin.does('newWork', { itemId: world.item('SK-D4'), quantity: '1', due: '2027-03-20' });
    await meilin.does('makeFirm', { orderIds: [planned!.id], firm: false });
    expect(await refusedCodes(suresh, 'reportWork', report(planned!.id, { good: '1' }))).toEqual(['work-not-firm']);
    expect(await refusedCodes(meilin, 'newWork', { itemId: world.item('FC-10'), quantity: '1', due: null })).toEqual([
      'itemId: nothing-makes',
    ]);
    expect((await suresh.refused('newWork', { itemId: world.item('UV-40'), quantity: '1', due: null })).status).toBe(
      403,
    );
  });

  it('finishes its last piece once, when two report it at the same moment', async () => {
    const id = await make('SK-D2', '1');
    const answers = await Promise.all(
      [suresh, salmah].map((each) => each.raw('reportWork', report(id, { good: '1' }))),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
    expect(await open(id)).toMatchObject({ state: 'finished', finished: '1' });
    expect((await open(id)).reports).toHaveLength(1);
  });

  it('stands in the list with whom it is for and what it lacks, and at its work centre', async () => {
    const { rows } = await salmah.get<z.output<typeof listWork.out>>('/api/workshop?q=UV-40');
    const nine = rows.find(({ quantity }) => quantity === '90')!;
    expect(nine.lacks.map(({ item }) => item.number)).toEqual(['UV-HOUSING', 'UV-LAMP']);
    const finished = await salmah.get<z.output<typeof listWork.out>>('/api/workshop?state=finished');
    expect(finished.rows.length).toBeGreaterThan(3);
    const [operation] = (await open(nine.document.id)).operations;
    const centre = await suresh.get<{ rows: { work: { id: number }; ready: string; lacks: unknown[] }[] }>(
      `/api/work-centres/${operation!.centre.id}/next`,
    );
    expect(centre.rows.find(({ work }) => work.id === nine.document.id)).toMatchObject({ ready: '90' });
    // Whoever stands at none yet is at the first there is.
    const first = await suresh.get<{ centre: { id: number }; centres: { id: number }[] }>('/api/work-centres/0/next');
    expect(first.centre).toEqual(first.centres[0]);
  });
});
