import { addDays } from '@core/kernel';
import { answers, check, Ground, repromise, type GroundRows, type Way } from '@core/promise';
import { Actor } from '../../sample/actor';
import { layOpeningStock } from '../../sample/opening-stock';
import { layWorks } from '../../sample/works';
import { repromiseRun } from '../again/repromise-run';
import { openLines } from '../ground/open-lines';
import { groundOfRun } from '../again/repromise';
import { standingPlans } from '../again/standing-plans';
import { plannedFor } from './planned-for';
import { settledRun, refusalsOf, World, WORK_DATE, type Visitor } from '../../testing/world';

interface Ask {
  order: { id: number; version: number };
  rows: GroundRows;
  lines: { id: number; item: { id: number; number: string }; quantity: string; asked: string; planned: number }[];
}
interface Planned {
  rows: {
    id: number;
    kind: string;
    number: string;
    item: { number: string };
    quantity: string;
    due: string;
    for: { number: string } | null;
  }[];
}

interface Run {
  run: {
    id: number;
    state: string;
    moved: { lineId: number; item: string; was: string; is: string | null; why: string; taken: boolean }[];
  } | null;
}

const COMING = {
  day: '2027-03-04',
  quantity: '5',
  source: { kind: 'PO', id: 1, number: 'PO-1', party: 'Arus' },
};

describe('promising', () => {
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

  const ordered = async (lines: readonly (readonly [item: string, quantity: string])[], confirmed = true) => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-9',
      lines: lines.map(([item, quantity]) => ({
        id: null,
        itemId: world.item(item),
        quantity,
        shipDate: '2027-03-08',
        route: 'stock',
      })),
    });
    if (confirmed) await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return order!.id;
  };
  const ground = (id: number) => salmah.get<Ask>(`/api/orders/${id}/promise`);
  const answered = async (id: number, way: Way) => {
    const ask = await ground(id);
    if (!ask.lines) throw new Error(JSON.stringify(ask));
    const asks = ask.lines.map((line) => ({
      key: String(line.id),
      itemId: line.item.id,
      quantity: line.quantity,
      asked: line.asked,
    }));
    const found = answers(new Ground(ask.rows), asks, () => way);
    return {
      ask,
      found,
      input: {
        orderId: id,
        version: ask.order.version,
        lines: ask.lines.map((line, index) => ({
          lineId: line.id,
          way,
          asked: line.asked,
          day: addDays(WORK_DATE, found[index]!.day!),
        })),
      },
    };
  };
  const planned = () => salmah.get<Planned>('/api/planned?rows=200');

  it('answers from what is there and coming, leaving the line’s own demand out (T1)', async () => {
    // 6 there, 2 kept back: the third order, of one, finds nothing left.
    const ids = [];
    for (const quantity of ['2', '2', '1']) ids.push(await ordered([['UV-40', quantity]]));
    const { rows, lines } = await ground(ids[2]!);
    expect(rows.demands.map((demand) => demand.quantity)).toEqual(['2', '2']);
    const asked = { key: '', itemId: lines[0]!.item.id, quantity: '1', asked: null };
    expect(answers(new Ground(rows), [asked], () => 'atp')[0]).toMatchObject({ day: null, parts: [] });
    // The second sees the other two: one of its two is there.
    expect((await answered(ids[1]!, 'atp')).found[0]).toMatchObject({ day: null, parts: [] });
    const one = { key: '', itemId: lines[0]!.item.id, quantity: '1', asked: '2027-03-08' };
    expect(answers(new Ground((await ground(ids[1]!)).rows), [one], () => 'atp')[0]!.day).toBe(7);
    const of = await salmah.get<GroundRows>(`/api/items/${world.item('UV-40')}/availability`);
    expect(of.demands.map((demand) => [demand.quantity, demand.source.party])).toEqual([
      ['2', 'Kasturi Bottling'],
      ['2', 'Kasturi Bottling'],
      ['1', 'Kasturi Bottling'],
    ]);
    expect(of.components).toEqual([]);
    expect(await salmah.get('/api/items/999999/availability')).toMatchObject({ status: 404 });
  });

  it('tries what is only typed, and leaves out what it is typed over (T10)', async () => {
    const id = await ordered([['SALT-25', '1']], false);
    const own = await ground(id);
    const typed = (orderId: number | null, item = 'SALT-25') => ({
      orderId,
      lines: [
        { itemId: world.item(item), locationId: 0, quantity: '2', asked: '2027-03-09', straight: false },
        { itemId: world.item(item), locationId: 0, quantity: '1', asked: null, straight: true },
      ],
    });
    const tried = (await salmah.post('/api/promise/try', typed(id))).body as Ask;
    expect(tried.rows).toEqual(own.rows);
    expect(tried.order.id).toBe(0);
    expect(tried.lines).toMatchObject([
      { id: 1, quantity: '2', asked: '2027-03-09', straight: false },
      { id: 2, quantity: '1', asked: WORK_DATE, straight: true },
    ]);
    expect((await salmah.post('/api/promise/try', { orderId: null, lines: [] })).status).toBe(400);
    const count = async () =>
      (await world.serving.database.rows<{ count: number }>('SELECT COUNT(*) AS count FROM sales_order'))[0]!.count;
    const before = await count();
    await salmah.post('/api/promise/try', typed(null));
    expect(await count()).toBe(before);
  });

  it('S10 finds the first day typed lines can ship, what makes it, and what is to be said of theirs', async () => {
    const line = (key: string, item: string, more: Record<string, unknown> = {}) => ({
      key,
      itemId: world.item(item),
      route: 'stock',
      locationId: 0,
      quantity: '1',
      asked: null,
      ...more,
    });
    const lines = [
      line('here', 'SALT-25', { asked: '2027-03-06' }),
      line('drop', 'RO-4040', { route: 'drop', asked: '2027-03-04' }),
      line('made', 'SK-D2', { route: 'make', quantity: '40' }),
      line('nothing', 'SALT-25', { quantity: '0' }),
      { ...line('unknown', 'SALT-25'), itemId: 999_999 },
      line('nowhere', 'SALT-25', { locationId: 77 }),
    ];
    const answer = await salmah.post('/api/promise/days', { orderId: null, lines });
    const days = (answer.body as { lines: Record<string, string | null>[] }).lines;
    expect(days.map(({ key }) => key)).toEqual(['here', 'drop', 'made']);
    expect(days[0]).toMatchObject({
      first: '2027-03-01',
      word: 'we do not work on Sat 6 Mar; Mon 8 Mar is next',
      instead: '2027-03-08',
    });
    expect(days[1]).toMatchObject({
      first: '2027-03-12',
      word: 'cannot be before Fri 12 Mar: Arus Membrane Supply needs 8 working days',
      instead: '2027-03-12',
    });
    expect(days[2]!.first! > '2027-03-01').toBe(true);
    expect(days[2]!.why).not.toBe('');
    // What is typed over a kept order finds what that asks for free.
    const free = (
      await world.serving.database.rows<{ free: string }>(
        'SELECT on_hand - reserved AS free FROM stock WHERE item_id = ? AND location_id = 0',
        [world.item('GAC-25')],
      )
    )[0]!.free;
    const id = await ordered([['GAC-25', free]]);
    const all = [line('all', 'GAC-25', { quantity: free })];
    const over = async (orderId: number | null) =>
      ((await salmah.post('/api/promise/days', { orderId, lines: all })).body as { lines: { first: string }[] })
        .lines[0]!.first;
    expect(await over(id)).toBe(WORK_DATE);
    expect((await over(null)) > WORK_DATE).toBe(true);
    const twice = [line('a', 'GAC-25'), line('a', 'GAC-25')];
    expect((await salmah.post('/api/promise/days', { orderId: null, lines: twice })).status).toBe(422);
  });

  it('promises what goes straight to the customer by its vendor’s days alone (L2 T3)', async () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('RO-4040'), quantity: '2', shipDate: '2027-03-04', route: 'drop' };
    const [order] = await salmah.does('saveOrder', {
      ...{ id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-9' },
      lines: [line],
    });
    const ask = await ground(order!.id);
    expect(ask.lines).toMatchObject([{ straight: true, quantity: '2' }]);
    const asked = { key: '', itemId: ask.lines[0]!.item.id, quantity: '2', asked: '2027-03-04' };
    const of = (way: Way, straight: boolean) => answers(new Ground(ask.rows), [{ ...asked, straight }], () => way)[0]!;
    expect(of('atp', true)).toMatchObject({ day: null, trouble: { kind: 'straight' } });
    const day = addDays(WORK_DATE, of('lead', true).day!);
    // What comes to our place first must be received.
    expect(addDays(WORK_DATE, of('lead', false).day!) >= day).toBe(true);
    const accept = (promised: string, way: Way) => ({
      orderId: order!.id,
      version: ask.order.version,
      lines: [{ lineId: ask.lines[0]!.id, way, asked: '2027-03-04', day: promised }],
    });
    expect((await salmah.refused('acceptPromise', accept(day, 'have'))).codes).toEqual(['lines.0.day: no-promise']);
    expect(await salmah.does('acceptPromise', accept(day, 'lead'))).toEqual([]);
    const [kept] = (await salmah.get<{ lines: { shipDate: string; promised: string }[] }>(`/api/orders/${order!.id}`))
      .lines;
    expect(kept).toMatchObject({ shipDate: day, promised: day });
  });

  it('what is held for others is promised to nobody (T1 S3)', async () => {
    const item = 'SALT-25';
    const { rows } = await ground(await ordered([[item, '1']], false));
    const [{ onHand } = rows.items[0]!] = rows.items;
    const id = await ordered([[item, onHand]]);
    const [line] = (await ground(id)).lines;
    await salmah.does('supplyLine', { orderLineId: line!.id, route: 'stock', reserve: onHand, lift: false });
    // All of it is held for the 8th; more comes before: none of what is there can be had today.
    const more = await ordered([[item, '5']]);
    const seen = await ground(more);
    expect(seen.rows.items[0]).toMatchObject({ onHand, held: onHand });
    expect(seen.rows.demands).toEqual([]);
    const coming = { ...seen.rows, supplies: [{ ...rows.supplies[0]!, ...COMING, itemId: seen.lines[0]!.item.id }] };
    const asked = { key: '', itemId: seen.lines[0]!.item.id, quantity: '5', asked: null };
    expect(answers(new Ground(coming), [asked], () => 'atp')[0]!.day).toBe(3);
    // The line it is held for needs no promise.
    expect((await ground(id)).lines).toEqual([]);
    const up = await salmah.get<{ down: { kind: string; quantity: string; held: boolean }[] }>(`/api/pegging/SO/${id}`);
    expect(up.down).toMatchObject([{ kind: 'stock', quantity: onHand, held: true }]);
  });

  it('plans what is accepted at every level, holds its capacity, and answers the same when asked again (T8)', async () => {
    const id = await ordered([['FV-900', '3']]);
    const { input, ask } = await answered(id, 'nothing');
    const before = (await planned()).rows.length;
    await salmah.does('acceptPromise', input);
    const { rows } = await planned();
    const own = rows.slice().filter((row) => row.for !== null);
    expect(own.length).toBeGreaterThan(before);
    const vessel = own.find((row) => row.item.number === 'FV-900')!;
    expect(vessel).toMatchObject({ kind: 'make', quantity: '3', for: { kind: 'SO', id } });
    const shell = own.find((row) => row.item.number === 'FV-SHELL9')!;
    expect(shell.for).toMatchObject({ kind: 'PR', number: vessel.number });
    expect(own.find((row) => row.item.number === 'PLATE-8')!.for).toMatchObject({ number: shell.number });
    const load = await salmah.get<{ centres: { code: string; days: { minutes: number }[] }[] }>('/api/load?days=90');
    const welded = load.centres
      .find((centre) => centre.code === 'WELD')!
      .days.reduce((sum, day) => sum + day.minutes, 0);
    expect(welded).toBe(30 + 3 * 240);
    // Asked again: its own plan is left out, and the day is the same.
    const again = await answered(id, 'nothing');
    expect(again.input.lines[0]!.day).toBe(input.lines[0]!.day);
    expect(again.ask.lines[0]!.planned).toBe(1);
    // The next order finds the centres taken.
    const next = await ordered([['FV-900', '3']]);
    const later = await answered(next, 'nothing');
    const [order] = later.found[0]!.need!.parts;
    // Two machines from 8 to 16, both taken until 14:15: beside that, and then the whole of the next morning.
    expect(
      order?.kind === 'make' && order.operations[0]!.slices.map(({ from, until, machines }) => [from, until, machines]),
    ).toEqual([
      [855, 960, 2],
      [480, 750, 2],
    ]);
    expect(ask.lines).toHaveLength(1);
  });

  it('refuses a day that is another one by now, and tells it (T8)', async () => {
    const first = await ordered([['SK-D2', '4']]);
    const second = await ordered([['SK-D2', '4']]);
    const seen = await answered(second, 'have');
    await salmah.does('acceptPromise', (await answered(first, 'have')).input);
    expect((await salmah.refused('acceptPromise', seen.input)).codes).toEqual(['lines.0.day: promise-moved']);
    const anew = await answered(second, 'have');
    expect(anew.input.lines[0]!.day > seen.input.lines[0]!.day).toBe(true);
    await salmah.does('acceptPromise', anew.input);
  });

  it('lets two accept at once and never plans on the same capacity twice', async () => {
    const ids = [await ordered([['FV-1200', '2']]), await ordered([['FV-1200', '2']])];
    const seen = [await answered(ids[0]!, 'nothing'), await answered(ids[1]!, 'nothing')];
    const done = await Promise.all(seen.map((each) => salmah.raw('acceptPromise', each.input)));
    expect(done.filter((each) => each.status === 200)).toHaveLength(1);
    const refused = done.filter((each) => each.status !== 200).map(refusalsOf);
    expect(refused.map((each) => each.codes)).toEqual([['lines.0.day: promise-moved']]);
  });

  it('takes a promise back as one act: its orders are cancelled and its capacity free', async () => {
    const id = await ordered([['FV-900', '2']], false);
    const before = await salmah.get('/api/load?days=120');
    const { input } = await answered(id, 'nothing');
    await salmah.does('acceptPromise', input);
    expect(await salmah.get('/api/load?days=120')).not.toEqual(before);
    const sheet = await salmah.get<{ version: number; lines: { shipDate: string }[] }>(`/api/orders/${id}`);
    expect(sheet.lines[0]!.shipDate).toBe(input.lines[0]!.day);
    await salmah.does('takeBackPromise', { orderId: id, version: sheet.version });
    expect(await salmah.get('/api/load?days=120')).toEqual(before);
    const after = await salmah.get<{ version: number; lines: { shipDate: string }[] }>(`/api/orders/${id}`);
    expect(after.lines[0]!.shipDate).toBe('2027-03-08');
    const nothing = await salmah.refused('takeBackPromise', { orderId: id, version: after.version });
    expect(nothing.codes).toEqual(['nothing-promised']);
  });

  it('asks all open lines again after a vendor slipped, and takes some of what moves (T9)', async () => {
    const { id: vendorId } = (await salmah.get<{ rows: { id: number; name: string }[] }>('/api/vendors?q=Arus'))
      .rows[0]!;
    const [bought] = await salmah.does('enterPurchase', {
      vendorId,
      shipToId: null,
      lines: [{ itemId: world.item('UV-LAMP'), quantity: '400', dueDate: '2027-03-10' }],
    });
    const ids = [];
    for (const quantity of ['60', '70', '80', '90']) ids.push(await ordered([['UV-LAMP', quantity]]));
    for (const id of ids) await salmah.does('acceptPromise', (await answered(id, 'atp')).input);
    const settled = () => settledRun<NonNullable<Run['run']>>(salmah, '/api/repromise');
    await salmah.does('startRepromise', {});
    const before = await settled();
    expect(before.state).toBe('done');
    expect(before.moved.filter((line) => line.item === 'UV-LAMP')).toEqual([]);

    const sheet = await salmah.get<{ version: number; lines: { id: number }[] }>(`/api/purchases/${bought!.id}`);
    await salmah.does('answerPurchase', {
      purchaseId: bought!.id,
      version: sheet.version,
      lines: [{ purchaseLineId: sheet.lines[0]!.id, dueDate: '2027-03-11', stops: false }],
    });
    await salmah.does('startRepromise', {});
    const after = await settled();
    const lamps = after.moved.filter((line) => line.item === 'UV-LAMP');
    expect(lamps.map((line) => [line.was, line.is])).toEqual(
      Array.from({ length: 4 }, () => ['2027-03-10', '2027-03-11']),
    );
    expect(lamps[0]!.why).toMatch(/^PO-\d+ of Arus Membrane Supply comes then$/);
    const [first, second, third] = lamps;
    await salmah.does('applyRepromise', { id: after.id, lineIds: [first!.lineId, second!.lineId] });
    const order = await salmah.get<{ lines: { shipDate: string; promised: string }[] }>(`/api/orders/${ids[0]}`);
    expect(order.lines[0]).toMatchObject({ shipDate: '2027-03-11', promised: '2027-03-11' });
    // Their customer is told of both in one message that waits to be sent.
    const drafts = await salmah.get<{ rows: { id: number; party: string; subject: string; body: string }[] }>(
      '/api/message-drafts',
    );
    expect(drafts.rows).toHaveLength(1);
    expect(drafts.rows[0]).toMatchObject({
      party: 'Kasturi Bottling',
      subject: expect.stringMatching(/^New days for SO-\d+ and SO-\d+$/),
    });
    expect(drafts.rows[0]!.body).toContain('70 pieces of UV-LAMP, going out Thu 11 Mar, not Wed 10 Mar (1 day later)');
    await salmah.does('dropDraft', { id: drafts.rows[0]!.id });
    expect((await salmah.refused('dropDraft', { id: drafts.rows[0]!.id })).status).toBe(404);
    // Taken already; and what was changed since is not taken.
    const again = await salmah.refused('applyRepromise', { id: after.id, lineIds: [first!.lineId, third!.lineId] });
    expect(again.codes).toEqual(['lineIds.0: promise-changed']);
    const { run } = await salmah.get<Run>('/api/repromise');
    expect(run!.moved.filter((line) => line.item === 'UV-LAMP').map((line) => line.taken)).toEqual([
      false,
      false,
      true,
      true,
    ]);
  });

  it('promises from columns as from rows (T9)', async () => {
    const { database } = world.serving;
    const { companyId } = world.masters;
    const all = await database.rows<{ id: number }>('SELECT id FROM sales_order_line WHERE company_id = ?', [
      companyId,
    ]);
    const lines = await openLines(
      database,
      companyId,
      all.map((line) => line.id),
    );
    const rows = await groundOfRun(database, companyId, WORK_DATE, lines);
    expect(new Set(lines.map((line) => line.way)).size).toBeGreaterThan(2);
    for (const late of [WORK_DATE, '2027-03-11', '2027-05-11']) {
      const again = await repromiseRun(database, companyId, late, () => undefined);
      const planned = await plannedFor(
        database,
        companyId,
        lines.map((line) => line.lineId),
      );
      const plans = await standingPlans(database, companyId, planned);
      expect(again).toEqual(repromise({ ...(await groundOfRun(database, companyId, late, lines)) }, lines, plans));
    }
    expect(rows.supplies.length).toBeGreaterThan(0);
  });

  it('takes up a run whose server died, and refuses a second one while the first goes on', async () => {
    const { database } = world.serving;
    const left = (state: string, seconds: number) =>
      database.run(
        `INSERT INTO promise_run (company_id, person_id, work_date, state, beat_at)
           VALUES (?, ?, ?, ?, NOW(3) - INTERVAL ? SECOND)`,
        [world.masters.companyId, world.masters.people.get('meilin')!, WORK_DATE, state, seconds],
      );
    await left('running', 1);
    expect((await salmah.refused('startRepromise', {})).codes).toEqual(['run-going']);
    await database.run('UPDATE promise_run SET beat_at = NOW(3) - INTERVAL 60 SECOND');
    await salmah.does('startRepromise', {});
    const states = async () =>
      (await database.rows<{ state: string }>('SELECT DISTINCT state FROM promise_run')).map((row) => row.state);
    for (let turn = 0; turn < 200 && (await states()).join() !== 'done'; turn += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(await states()).toEqual(['done']);
    // Stopped while it waits: nothing of it is shown.
    await left('waiting', 0);
    const { run } = await salmah.get<Run>('/api/repromise');
    await salmah.does('stopRepromise', { id: run!.id });
    expect((await salmah.get<Run>('/api/repromise')).run!.state).toBe('stopped');
  });

  it('promises all lines of an order for one day, and keeps the days they were asked for', async () => {
    const id = await ordered([
      ['FV-900', '6'],
      ['TUBE-12', '3'],
    ]);
    const ask = await ground(id);
    const asks = ask.lines.map((line) => ({
      key: String(line.id),
      itemId: line.item.id,
      quantity: line.quantity,
      asked: line.asked,
      way: 'have' as const,
    }));
    const told = check(ask.rows, asks, true).map((line) => line.chosen.day!);
    expect(new Set(told).size).toBe(1);
    const lines = ask.lines.map((line) => ({ lineId: line.id, way: 'have', asked: line.asked, day: told[0] }));
    const input = { orderId: id, version: ask.order.version, lines };
    // Asked each for its own day, the tube would go earlier.
    expect((await salmah.refused('acceptPromise', input)).codes).toEqual(['lines.1.day: promise-moved']);
    await salmah.does('acceptPromise', { ...input, together: true });
    const { lines: after } = await ground(id);
    expect(after.map((line) => line.asked)).toEqual(ask.lines.map((line) => line.asked));
    const sheet = await salmah.get<{ lines: { shipDate: string }[] }>(`/api/orders/${id}`);
    expect(sheet.lines.map((line) => line.shipDate)).toEqual([told[0], told[0]]);
  });

  it('says why there is no date, at the line', async () => {
    const id = await ordered([['UV-40', '500']]);
    const ask = await ground(id);
    const refused = await salmah.refused('acceptPromise', {
      orderId: id,
      version: ask.order.version,
      lines: [{ lineId: ask.lines[0]!.id, way: 'atp', asked: '2027-03-08', day: '2027-03-08' }],
    });
    expect(refused.codes).toEqual(['lines.0.day: no-promise']);
    expect(refused.sentences[0]).toContain('UV-40');
  });

  it('a machine that is out takes its minutes of the centre, and what was planned on it moves (T5 T9)', async () => {
    const id = await ordered([['FV-1200', '4']]);
    const { input } = await answered(id, 'nothing');
    await salmah.does('acceptPromise', input);
    const capacity = async () =>
      (
        await salmah.get<{ centres: { code: string; days: { day: string; capacity: number; minutes: number }[] }[] }>(
          '/api/load?days=60',
        )
      ).centres.find((centre) => centre.code === 'WELD')!.days;
    const before = await capacity();
    const busy = before.filter((day) => day.minutes > 0).at(-1)!;
    const out = {
      list: 'machines-out',
      changes: [
        {
          id: null,
          stamp: '',
          cells: { centre: 'WELD', firstDay: WORK_DATE, lastDay: busy.day, machines: '2', why: 'Torch broken' },
        },
      ],
      removed: [],
    };
    await salmah.does('keepList', out);
    const after = await capacity();
    expect(after.find((day) => day.day === busy.day)!.capacity).toBe(0);
    expect(after.at(-1)!.capacity).toBe(before.at(-1)!.capacity);
    await salmah.does('startRepromise', {});
    let run: Run['run'] = null;
    for (let turn = 0; turn < 200 && run?.state !== 'done'; turn += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      ({ run } = await salmah.get<Run>('/api/repromise'));
    }
    const moved = run!.moved.find((line) => line.lineId === input.lines[0]!.lineId)!;
    expect(moved.is! > moved.was).toBe(true);
    const wrong = { ...out.changes[0]!, cells: { ...out.changes[0]!.cells, firstDay: '2027-09-09' } };
    const refused = await salmah.refused('keepList', { ...out, changes: [wrong] });
    expect(refused.codes[0]).toMatch(/^changes\.0\.lastDay: /);
    await world.serving.database.run('DELETE FROM centre_downtime');
  });

  it('hours by weekday and overtime, as they are typed, are what a centre can do (T5)', async () => {
    const { centres } = await salmah.get<{ centres: { code: string; days: { capacity: number }[] }[] }>(
      '/api/load?days=90',
    );
    const can = (code: string) => centres.find((centre) => centre.code === code)!.days.map((day) => day.capacity);
    // Half an hour of break; a Saturday morning of overtime on both benches.
    expect(can('LINE').slice(0, 6)).toEqual([450, 450, 450, 450, 450, 0]);
    expect([can('BENCH')[67], can('BENCH')[68], can('BENCH')[69]]).toEqual([960, 480, 0]);
    type Listed = { rows: { id: number; stamp: string; cells: Record<string, string> }[] };
    const { rows } = await salmah.get<Listed>('/api/lists/work-centres');
    const weld = rows.find((row) => row.cells['code'] === 'WELD')!;
    const keep = (hours: string) => ({
      list: 'work-centres',
      changes: [{ id: weld.id, stamp: weld.stamp, cells: { ...weld.cells, hours } }],
      removed: [],
    });
    expect((await salmah.refused('keepList', keep('8 to 16'))).codes).toEqual(['changes.0.hours: not-hours']);
    await salmah.does('keepList', keep('Mon-Thu 6-14, fri 6-12'));
    const kept = (await salmah.get<Listed>('/api/lists/work-centres')).rows.find((row) => row.id === weld.id)!;
    expect(kept.cells['hours']).toBe('Mon-Thu 06:00-14:00; Fri 06:00-12:00');
    const changed = await salmah.get<{ centres: { code: string; days: { capacity: number }[] }[] }>('/api/load');
    expect(
      changed.centres
        .find((centre) => centre.code === 'WELD')!
        .days.slice(0, 6)
        .map((day) => day.capacity),
    ).toEqual([960, 960, 960, 960, 720, 0]);
    await world.serving.database.run("UPDATE work_centre SET hours = '08:00-16:00' WHERE code = 'WELD'");
  });

  it('plans anew what a slower work centre moves, for the days the run told (T8 T9)', async () => {
    const { database } = world.serving;
    await database.run("UPDATE work_centre SET hours = '08:00-10:00' WHERE code IN ('WELD', 'BENCH')");
    await salmah.does('startRepromise', {});
    let run: Run['run'] = null;
    for (let turn = 0; turn < 200 && run?.state !== 'done'; turn += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      ({ run } = await salmah.get<Run>('/api/repromise'));
    }
    const made = run!.moved.filter((line) => /^(FV|SK)-/.test(line.item) && line.is !== null);
    expect(made.length).toBeGreaterThan(0);
    for (const line of made) expect(line.is! > line.was).toBe(true);
    const before = (await planned()).rows.map((row) => row.number);
    await salmah.does('applyRepromise', { id: run!.id, lineIds: made.map((line) => line.lineId) });
    const after = (await planned()).rows;
    for (const line of made)
      expect(after.some((row) => row.item.number === line.item && !before.includes(row.number))).toBe(true);
    const { run: now } = await salmah.get<Run>('/api/repromise');
    expect(
      now!.moved.filter((line) => made.some((each) => each.lineId === line.lineId)).every((line) => line.taken),
    ).toBe(true);
  });
});
