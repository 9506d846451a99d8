import type * as z from 'zod';
import type { openWork } from '@api/workshop';
import { World, type Visitor } from '../testing/world';

type Work = z.output<typeof openWork.out>;

describe('W1 how one order is worked on, changed for it alone', () => {
  let world: World;
  let meilin: Visitor;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    meilin = await world.visitor('meilin');
    salmah = await world.visitor();
    const adjusted = { itemId: world.item('FV-SHELL9'), locationId: 0, was: '0', now: '20', unitCost: '100' };
    await salmah.does('adjustStock', { ...adjusted, reason: 'opened' });
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const open = (id: number) => meilin.get<Work>(`/api/workshop/${id}`);
  const made = async () => {
    const [work] = await meilin.does('newWork', { itemId: world.item('FV-900'), quantity: '2', due: null });
    return open(work!.id);
  };
  const as = ({ operations }: Work) =>
    operations.map(({ id, no, name, centre, minutes }) => ({
      id: id as number | null,
      no,
      name,
      centreId: centre.id,
      minutes: String(minutes),
    }));
  const changing = (work: Work, operations: ReturnType<typeof as>) => ({
    workId: work.document.id,
    version: work.version,
    operations,
  });
  const cost = (work: Work) => Number(work.plannedCost);

  it('adds, leaves out and moves, with cost and day said before and kept after; its quantity takes its own along', async () => {
    const work = await made();
    const [weld, line, test] = as(work);
    const inspect = { id: null, no: 25, name: 'Inspect the welds', centreId: test!.centreId, minutes: '90' };
    const typed = changing(work, [{ ...line!, minutes: String(Number(line!.minutes) + 60) }, inspect, test!]);
    const { body } = await meilin.post('/api/acts/changeOperations/preview', typed);
    const { effects } = body as { effects: { cost: string; was: string; due: string; minutes: number } };
    expect(effects.was).toBe(work.plannedCost);
    expect(effects.minutes).toBe(Number(line!.minutes) + 60 + 90 + Number(test!.minutes));
    await meilin.does('changeOperations', typed);
    const now = await open(work.document.id);
    expect(now.operations.map(({ no, name, minutes }) => [no, name, minutes])).toEqual([
      [line!.no, line!.name, Number(line!.minutes) + 60],
      [25, 'Inspect the welds', 90],
      [test!.no, test!.name, Number(test!.minutes)],
    ]);
    expect([now.due, now.plannedCost]).toEqual([effects.due, effects.cost]);
    // What went in at the operation left out goes in at the next.
    const numbers = now.operations.map(({ no }) => no);
    expect(now.components.every(({ operationNo }) => operationNo === null || numbers.includes(operationNo))).toBe(true);
    expect(work.components.some(({ operationNo }) => operationNo === weld!.no)).toBe(true);
    expect((await meilin.refused('changeOperations', typed)).codes).toEqual(['stale']);
    // For twice as many, as it is worked on now and not as its item is.
    await meilin.does('changeWork', {
      workId: work.document.id,
      version: now.version,
      quantity: '4',
      due: null,
    });
    const twice = await open(work.document.id);
    expect(twice.operations.map(({ name, minutes }) => [name, minutes])).toEqual(
      now.operations.map(({ name, minutes }) => [name, minutes * 2]),
    );
    expect(cost(twice)).toBeGreaterThan(cost(now));
  });

  it('keeps what pieces passed, and has all of them reported to the end', async () => {
    const work = await made();
    const [weld, line, test] = as(work);
    const report = { workId: work.document.id, good: '1', scrapped: '', used: [], worked: [], finish: false };
    await meilin.does('makeFirm', { orderIds: [work.document.id], firm: false });
    await meilin.does('makeFirm', { orderIds: [work.document.id], firm: true });
    await salmah.does('reportWork', { ...report, operationId: weld!.id });
    const begun = await open(work.document.id);
    const shorter = changing(begun, [{ ...weld!, minutes: '1' }, line!, test!]);
    const refused = await meilin.refused('changeOperations', shorter);
    expect(refused.codes).toEqual(['operations.0.minutes: operation-begun']);
    const alone = await meilin.refused('changeOperations', changing(begun, [weld!]));
    expect(alone.codes).toEqual(['operation-must-follow']);
    const paint = { id: null, no: 90, name: 'Paint', centreId: line!.centreId, minutes: '30' };
    await meilin.does('changeOperations', changing(begun, [weld!, line!, test!, paint]));
    const now = await open(work.document.id);
    expect(now.operations.map(({ name, done }) => [name, done])).toEqual([
      ['Weld', '1'],
      [line!.name, '0'],
      [test!.name, '0'],
      ['Paint', '0'],
    ]);
    // All of it, as a whole: the new operation with it.
    await salmah.does('reportWork', { ...report, good: '2', operationId: null, finish: true });
    const over = await open(work.document.id);
    expect([over.state, over.finished, over.operations[3]!.done]).toEqual(['finished', '2', '2']);
    const late = await meilin.refused('changeOperations', changing(over, [weld!]));
    expect(late.codes).toEqual(['work-not-open']);
  });

  it('goes through no work centre where all of them are left out', async () => {
    const work = await made();
    await meilin.does('changeOperations', changing(work, []));
    const now = await open(work.document.id);
    expect(now.operations).toEqual([]);
    expect(now.components.map(({ operationNo }) => operationNo)).toEqual(now.components.map(() => null));
    await meilin.does('changeWork', { workId: work.document.id, version: now.version, quantity: '3', due: null });
    expect((await open(work.document.id)).operations).toEqual([]);
  });

  it('is not for whoever only reports work', async () => {
    const work = await made();
    const suresh = await world.visitor('suresh');
    expect((await suresh.refused('changeOperations', changing(work, []))).codes).toEqual(['no-right']);
  });
});
