import { randomUUID } from 'node:crypto';
import { addDays } from '@core/kernel';
import { answers, Ground, type GroundRows } from '@core/promise';
import { Actor } from '../../sample/actor';
import { layOpeningStock } from '../../sample/opening-stock';
import { fixedTerm } from '../../sample/terms';
import { layWorks } from '../../sample/works';
import { runAct } from '../../acts';
import { agreed, releaseOf, World, WORK_DATE, type Visitor } from '../../testing/world';
import { startPlanning } from './planning';
import { startRepromise } from '../again/repromise';

interface Proposal {
  at: number;
  kind: 'place' | 'move' | 'cancel';
  obtained: string;
  item: { id: number; number: string };
  quantity: string;
  source: { kind: string; id: number; number: string } | null;
  start: string | null;
  from: string | null;
  to: string | null;
  for: { kind: string; number: string; party: string; quantity: string; day: string }[];
  taken: { kind: string; id: number; number: string } | null;
}
interface Planning {
  run: {
    madeAt: string;
    by: string;
    since: number;
    id: number;
    state: string;
    total: number;
    items: string[];
    proposals: Proposal[];
    short: { item: { number: string }; why: string }[];
  } | null;
}
interface PegRows {
  depth: number;
  kind: string;
  number: string;
  item: { number: string } | null;
  quantity: string;
  held: boolean;
}

const UNTIL = addDays(WORK_DATE, 120);

describe('planning', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    await layWorks(database, world.masters, WORK_DATE);
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const planned = async (items: readonly string[] = [], until = UNTIL) => {
    await salmah.does('startPlanning', { until, itemIds: items.map((item) => world.item(item)) });
    for (let turn = 0; turn < 200; turn += 1) {
      const { run } = await salmah.get<Planning>('/api/planning?rows=2000');
      if (run && !['waiting', 'running'].includes(run.state)) return run;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('the run does not end');
  };
  const takeAll = async () => {
    const run = await planned();
    if (run.proposals.length > 0)
      await salmah.does('takeProposals', { id: run.id, at: run.proposals.map((each) => each.at) });
  };
  const ordered = async (item: string, quantity: string, shipDate: string, route = 'stock') => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-9',
      lines: [{ id: null, itemId: world.item(item), quantity, shipDate, route }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return order!;
  };
  const bought = async (vendor: string, item: string, quantity: string, dueDate: string) => {
    const { rows } = await salmah.get<{ rows: { id: number }[] }>(`/api/vendors?q=${vendor}`);
    const [order] = await salmah.does('enterPurchase', {
      vendorId: rows[0]!.id,
      shipToId: null,
      lines: [{ itemId: world.item(item), quantity, dueDate }],
    });
    return order!;
  };

  it('says for whom and when it was made, and how much moved since', async () => {
    const run = await planned();
    expect(run).toMatchObject({ by: 'Salmah', since: 0 });
    expect(Math.abs(Date.parse(run.madeAt) - Date.now())).toBeLessThan(60_000);
    const { id } = await ordered('SK-D4', '1', '2027-06-01');
    expect((await salmah.get<Planning>('/api/planning')).run!.since).toBe(2);
    await salmah.does('cancelOrder', { id, version: 2 });
    expect((await planned()).since).toBe(0);
  });

  it('proposes what is needed level by level, and taken as a whole proposes nothing the next time', async () => {
    const order = await ordered('SK-D4', '9', '2027-04-05');
    const run = await planned();
    expect(run.short).toEqual([]);
    const of = (item: string) => run.proposals.filter((each) => each.item.number === item);
    expect(of('SK-D4')).toMatchObject([
      {
        kind: 'place',
        obtained: 'assemble',
        quantity: '9',
        to: '2027-04-05',
        for: [{ kind: 'SO', number: order.number, party: 'Kasturi Bottling', quantity: '9' }],
      },
    ]);
    // 9 skids of 10 m with a twentieth lost, 36 pumps less what is there: needed when the assembly begins.
    const [skid] = of('SK-D4');
    const tube = of('TUBE-12')[0];
    if (tube) expect(tube.to! <= skid!.start!).toBe(true);
    expect(of('SK-FRAME')[0]).toMatchObject({ for: [{ kind: 'proposal', number: 'SK-D4' }] });

    const made = await salmah.does('takeProposals', { id: run.id, at: run.proposals.map((each) => each.at) });
    const assembly = made.find((document) => document.kind === 'AS')!;
    const sheet = await salmah.get<{
      components: { item: { number: string }; quantity: string; neededOn: string }[];
      operations: { minutes: number; firstDay: string; lastDay: string }[];
      due: string;
    }>(`/api/planned/${assembly.id}`);
    expect(sheet.components.map((each) => [each.item.number, each.quantity, each.neededOn])).toEqual([
      ['SK-FRAME', '9', skid!.start],
      ['PM-15', '36', skid!.start],
      ['SK-PANEL', '9', skid!.start],
      ['TUBE-12', '94.5', skid!.start],
    ]);
    expect(sheet.operations.map((each) => each.minutes)).toEqual([20 + 9 * 120, 15 + 9 * 100, 15 + 9 * 60]);
    expect(sheet.operations.at(-1)!.lastDay < sheet.due).toBe(true);
    expect(made.some((document) => document.kind === 'PO')).toBe(true);

    const shown = (await salmah.get<Planning>('/api/planning')).run!;
    expect(shown.proposals.every((each) => each.taken !== null)).toBe(true);
    const again = await salmah.refused('takeProposals', { id: run.id, at: [run.proposals[0]!.at] });
    expect(again.codes).toEqual(['at.0: proposal-taken']);
    expect((await planned()).proposals).toEqual([]);
  });

  it('reads from a supply up to the customer, and down to what is wanting', async () => {
    const order = await ordered('SK-D2', '2', '2027-05-10');
    const run = await planned();
    const skid = run.proposals.find((each) => each.item.number === 'SK-D2')!;
    const [assembly] = await salmah.does('takeProposals', { id: run.id, at: [skid.at] });
    const { up, down } = await salmah.get<{ up: PegRows[]; down: PegRows[] }>(`/api/pegging/AS/${assembly!.id}`);
    expect(up).toMatchObject([{ depth: 0, kind: 'SO', number: order.number, quantity: '2', held: false }]);
    expect(new Set(down.map((row) => row.item!.number))).toEqual(new Set(['SK-FRAME', 'PM-15', 'SK-PANEL', 'TUBE-12']));
    // Its parts are not ordered yet: nothing serves it, and it says so.
    expect(down.some((row) => row.kind === 'missing')).toBe(true);
    await takeAll();
    const after = await salmah.get<{ up: PegRows[]; down: PegRows[] }>(`/api/pegging/SO/${order.id}`);
    expect(after.down[0]).toMatchObject({
      depth: 0,
      kind: 'AS',
      number: assembly!.number,
      work: { quantity: '2', finished: '0', operation: { name: 'Mount pumps', done: '0' } },
    });
    expect(after.down.some((row) => row.kind === 'missing')).toBe(false);
    const part = after.down.find((row) => row.depth === 1 && row.kind === 'PO')!;
    expect(part).toBeDefined();
    expect(await salmah.get('/api/pegging/PO/999999')).toMatchObject({ status: 404 });
  });

  it('moves a purchase that comes too late and cancels one nobody needs, and the vendor answers anew', async () => {
    await takeAll();
    const lamps = await bought('Arus', 'UV-LAMP', '300', '2027-05-31');
    const run = await planned(['UV-LAMP']);
    expect(run.items).toEqual(['UV-LAMP']);
    expect(run.proposals).toMatchObject([
      { kind: 'cancel', item: { number: 'UV-LAMP' }, quantity: '300', source: { kind: 'PO', id: lamps.id } },
    ]);
    // Somebody needs them by now, before they come: it moves instead.
    await ordered('UV-LAMP', '300', '2027-04-12');
    const refused = await salmah.refused('takeProposals', { id: run.id, at: [run.proposals[0]!.at] });
    expect(refused.codes).toEqual(['at.0: plan-moved']);
    const next = await planned(['UV-LAMP']);
    expect(next.proposals).toMatchObject([
      { kind: 'move', source: { id: lamps.id }, from: '2027-05-31', to: '2027-04-12' },
    ]);
    await salmah.does('answerPurchase', {
      purchaseId: lamps.id,
      version: 1,
      lines: [
        {
          purchaseLineId: (await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${lamps.id}`)).lines[0]!.id,
          dueDate: '2027-05-31',
          stops: false,
        },
      ],
    });
    await salmah.does('takeProposals', { id: next.id, at: [next.proposals[0]!.at] });
    const sheet = await salmah.get<{ answeredOn: string | null; lines: { dueDate: string }[] }>(
      `/api/purchases/${lamps.id}`,
    );
    expect(sheet.lines[0]!.dueDate).toBe('2027-04-12');
    expect(sheet.answeredOn).toBeNull();
    expect((await planned(['UV-LAMP'])).proposals).toEqual([]);
  });

  it('moves and cancels planned orders with what they need', async () => {
    await takeAll();
    const order = await ordered('FV-900', '2', '2027-06-14');
    await takeAll();
    const vessel = async () =>
      (
        await salmah.get<{
          rows: { id: number; item: { number: string }; start: string; due: string; state: string; for: unknown }[];
        }>('/api/planned?rows=200')
      ).rows.filter((row) => row.item.number.startsWith('FV-') && row.for === null);
    const before = await vessel();
    expect(before.find((row) => row.item.number === 'FV-900')).toMatchObject({ due: '2027-06-14' });
    // It is cancelled, and another asks for the same four weeks earlier.
    const cancel = async (id: number) =>
      salmah.does('cancelOrder', {
        id,
        version: (await salmah.get<{ version: number }>(`/api/orders/${id}`)).version,
      });
    await cancel(order.id);
    const earlier = await ordered('FV-900', '2', '2027-05-17');
    const run = await planned(['FV-900']);
    const moves = run.proposals.filter((each) => each.kind === 'move');
    expect(moves.map((each) => each.item.number)).toEqual(expect.arrayContaining(['FV-900', 'FV-SHELL9']));
    await salmah.does('takeProposals', { id: run.id, at: run.proposals.map((each) => each.at) });
    const after = await vessel();
    expect(after.find((row) => row.item.number === 'FV-900')).toMatchObject({ due: '2027-05-17' });
    expect((await planned(['FV-900'])).proposals).toEqual([]);
    // That is cancelled as well: what was planned for it goes, level by level.
    await cancel(earlier.id);
    await takeAll();
    expect((await vessel()).filter((row) => row.item.number === 'FV-900')).toEqual([]);
    expect((await planned()).proposals).toEqual([]);
  });

  it('frees what was planned for a line that went out from elsewhere, level by level', async () => {
    await takeAll();
    const order = await ordered('UV-40', '2', '2027-06-28');
    await takeAll();
    const ask = await salmah.get<{
      order: { version: number };
      rows: GroundRows;
      lines: { id: number; asked: string }[];
    }>(`/api/orders/${order.id}/promise`);
    const [line] = ask.lines;
    const asked = { key: '', itemId: world.item('UV-40'), quantity: '2', asked: line!.asked };
    const [found] = answers(new Ground(ask.rows), [asked], () => 'nothing');
    await salmah.does('acceptPromise', {
      orderId: order.id,
      version: ask.order.version,
      lines: [{ lineId: line!.id, way: 'nothing', asked: line!.asked, day: addDays(WORK_DATE, found!.day!) }],
    });
    const held = async () => {
      const { rows } = await salmah.get<{
        rows: { id: number; item: { number: string }; for: { id: number } | null }[];
      }>('/api/planned?rows=200');
      const own = rows.find((row) => row.item.number === 'UV-40' && row.for?.id === order.id);
      return { rows, own, below: rows.filter((row) => row.for?.id === own?.id) };
    };
    const before = await held();
    expect(before.below.length).toBeGreaterThan(0);
    // Two from the shelf go out instead; nothing waits for the planned one any more.
    await salmah.does('shipLines', { orderId: order.id, lines: [{ lineId: line!.id, quantity: '2' }] });
    const run = await planned(['UV-40']);
    expect(run.proposals.filter((each) => each.kind === 'cancel').map((each) => each.source!.id)).toContain(
      before.own!.id,
    );
    await takeAll();
    await takeAll();
    const after = await held();
    for (const { id } of [before.own!, ...before.below]) expect(after.rows.some((row) => row.id === id)).toBe(false);
  });

  it('is begun once, and all lines asked again once, where several begin at the same moment', async () => {
    const { database } = world.serving;
    const { companyId, personId } = await world.doer('salmah');
    const doer = { companyId, personId, rights: ['plan' as const], workDate: WORK_DATE, origin: 'test' };
    for (const [act, input] of [
      [startPlanning, { until: '2027-05-30', itemIds: [] }],
      [startRepromise, {}],
    ] as const) {
      await database.run("UPDATE promise_run SET state = 'done' WHERE state IN ('waiting', 'running')");
      const begun = await Promise.all(
        Array.from({ length: 6 }, () => runAct(database, act.asked(input), doer, randomUUID())),
      );
      expect(begun.filter((answer) => answer.ok)).toHaveLength(1);
    }
    await database.run("UPDATE promise_run SET state = 'done' WHERE state IN ('waiting', 'running')");
  });

  it('lets one of two take the same proposal', async () => {
    await takeAll();
    await ordered('UV-LAMP', '500', '2027-06-01');
    const run = await planned(['UV-LAMP']);
    const input = { id: run.id, at: run.proposals.map((each) => each.at) };
    expect(input.at.length).toBeGreaterThan(0);
    const other = await world.visitor('meilin');
    const done = await Promise.all([salmah.raw('takeProposals', input), other.raw('takeProposals', input)]);
    expect(done.map((each) => each.status).sort()).toEqual([200, 422]);
    expect((await planned(['UV-LAMP'])).proposals).toEqual([]);
  });

  it('counts what agreements expect, and leaves special orders to the bench', async () => {
    await takeAll();
    const before = await planned(['UV-LAMP']);
    expect(before.proposals).toEqual([]);
    await ordered('UV-LAMP', '7', '2027-05-03', 'special');
    expect((await planned(['UV-LAMP'])).proposals).toEqual([]);
    // Lamps are agreed, four thousand expected in April. A release uses the plan up: no more is placed for it.
    const lines = [fixedTerm(world.item('UV-LAMP'), '5000', '45')];
    const agreement = await agreed(world, salmah, { lines, restPlan: 'none' });
    await salmah.does('savePlan', {
      id: agreement.id,
      version: 2,
      autoRelease: false,
      leadDays: 0,
      lines: [
        {
          agreementLineId: agreement.lineId,
          calls: [{ day: '2027-04-12', quantity: '4000', skipped: false, rule: '' }],
        },
      ],
    });
    const lamps = async () => {
      const { proposals } = await planned(['UV-LAMP']);
      const sum = (all: { quantity: string }[]) => all.reduce((total, each) => total + Number(each.quantity), 0);
      // What moves is there already.
      const placed = proposals.filter((each) => each.kind === 'place');
      return { placed: sum(placed), expected: sum(placed.flatMap((each) => each.for)), proposals };
    };
    const first = await lamps();
    expect(first.proposals.flatMap((each) => each.for).some((each) => each.kind === 'AG')).toBe(true);
    expect(first.placed).toBeGreaterThan(3000);
    const [release] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '1000'));
    const drafted = await lamps();
    expect([drafted.placed, drafted.expected]).toEqual([first.placed, first.expected]);
    await salmah.does('confirmOrder', { id: release!.id, version: 1 });
    const after = await lamps();
    expect([after.placed, after.expected]).toEqual([first.placed, first.expected]);
    const ofPlan = after.proposals.flatMap((each) => each.for).filter((each) => each.kind === 'AG');
    expect(ofPlan.reduce((total, each) => total + Number(each.quantity), 0)).toBeLessThanOrEqual(3000);
    // Membranes are bought for each order by itself: what is expected of them is not planned.
    await agreed(world, salmah);
    expect((await planned(['RO-4040'])).proposals).toEqual([]);
  });

  it('counts what is left of an agreement and in no plan, as the agreement says (A7)', async () => {
    await takeAll();
    const lines = [fixedTerm(world.item('UV-LAMP'), '1000', '45')];
    /** What planning finds needed for an agreement on which days. */
    const neededFor = async (change: object) => {
      const agreement = await agreed(world, salmah, { lines, lastDay: '2027-05-28', ...change });
      const { number } = await salmah.get<{ number: string }>(`/api/agreements/${agreement.id}`);
      const read = async () => {
        const { proposals } = await planned(['UV-LAMP']);
        const own = proposals.flatMap((each) => each.for).filter((each) => each.number === number);
        return {
          total: own.reduce((sum, each) => sum + Number(each.quantity), 0),
          days: new Set(own.map((each) => each.day)),
        };
      };
      const end = () => salmah.does('pauseAgreement', { id: agreement.id, version: 2, pause: true });
      return { agreement, read, end };
    };
    const none = await neededFor({ restPlan: 'none' });
    expect((await none.read()).total).toBe(0);
    await none.end();

    const last = await neededFor({ restPlan: 'last', probabilityPercent: '60' });
    const before = await last.read();
    expect([...before.days]).toEqual(['2027-05-28']);
    expect(before.total).toBeGreaterThan(800);
    const free = 1000 - before.total;
    // By how likely it is, where the company says so.
    await salmah.does('weighPlanning', { byProbability: true });
    expect((await last.read()).total).toBe(600 - free);
    await salmah.does('weighPlanning', { byProbability: false });
    await last.end();

    const spread = await neededFor({});
    const weeks = await spread.read();
    // Its first weeks may be served by what is there until somebody later needs it.
    expect(weeks.total).toBeGreaterThan(700);
    expect(weeks.total).toBeLessThanOrEqual(1000 - free);
    expect(weeks.days.size).toBeGreaterThan(8);
    // What is released counts itself and no longer as left.
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, spread.agreement, '400'));
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    expect((await spread.read()).total).toBeLessThanOrEqual(600);
    await spread.end();
  });

  it('refuses a day it does not look at, an item that is not there, and a run beside a run', async () => {
    const refused = await salmah.refused('startPlanning', { until: '2020-01-01', itemIds: [999999] });
    expect(refused.codes).toEqual(['until: beyond-horizon', 'itemIds.0: unknown']);
    const { database } = world.serving;
    await database.run(
      `INSERT INTO promise_run (company_id, kind, person_id, work_date, until_day, state)
         VALUES (?, 'plan', ?, ?, ?, 'running')`,
      [world.masters.companyId, world.masters.people.get('meilin')!, WORK_DATE, UNTIL],
    );
    const { run } = await salmah.get<Planning>('/api/planning');
    expect((await salmah.refused('startPlanning', { until: UNTIL, itemIds: [] })).codes).toEqual(['planning-going']);
    await salmah.does('stopRepromise', { id: run!.id });
    expect((await salmah.get<Planning>('/api/planning')).run!.state).toBe('stopped');
  });
});
