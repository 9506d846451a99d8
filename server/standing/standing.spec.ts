import { layDesk } from '../sample/desk';
import { tick } from '../jobs/jobs';
import { pino } from 'pino';
import { WORK_DATE, World, type Visitor } from '../testing/world';

interface Sheet {
  version: number;
  state: string;
  terms: { fromDay: string; rule: string; lines: { quantity: string }[] }[];
  now: number;
  dates: {
    day: string;
    shipDay: string | null;
    why: string;
    state: string;
    order: { id: number } | null;
    draft: boolean;
  }[];
}

describe('standing orders', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    await world.withWorks();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  beforeEach(() => world.workOn(WORK_DATE));
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const customer = (name: string) => world.masters.customers.get(name)!;
  const clock = { now: () => new Date('2027-03-01T04:00:00Z') };
  const look = () => tick({ database: world.serving.database, clock: clock as never, log: pino({ level: 'silent' }) });
  const typed = (change: Record<string, unknown> = {}) => ({
    id: null,
    version: null,
    customerId: customer('Kolam Ceria Swim Club').id,
    shipToId: customer('Kolam Ceria Swim Club').shipTos[0],
    customerReference: 'Pool salt',
    rule: 'FREQ=WEEKLY;BYDAY=TU',
    firstDay: '2027-03-02',
    lastDay: null,
    aheadDays: '3',
    closed: 'after',
    from: null,
    lines: [{ itemId: world.item('SALT-25'), quantity: '6', unit: '' }],
    ...change,
  });
  const open = (id: number) => salmah.get<Sheet>(`/api/standing-orders/${id}`);
  /** What stands in Today of standing orders. */
  const needs = async () =>
    (await salmah.get<{ rows: { kind: string; document: { id: number }; count: number }[] }>('/api/today')).rows.filter(
      ({ kind }) => kind === 'standing-needs',
    );
  const made = async (change: Record<string, unknown> = {}) => {
    const [standing] = await salmah.does('saveStanding', typed(change));
    return standing!.id;
  };

  it('makes each date once by the clock, so many days ahead, however often it looks, by two servers too', async () => {
    const id = await made();
    await Promise.all([look(), look()]);
    await look();
    const { dates } = await open(id);
    expect(dates.slice(0, 3).map(({ day, state }) => [day, state])).toEqual([
      ['2027-03-02', 'made'],
      ['2027-03-09', 'waits'],
      ['2027-03-16', 'waits'],
    ]);
    const order = await salmah.get<{ state: string; lines: { shipDate: string; quantity: string; route: string }[] }>(
      `/api/orders/${dates[0]!.order!.id}`,
    );
    expect(order).toMatchObject({
      state: 'confirmed',
      lines: [{ shipDate: '2027-03-02', quantity: '6', route: 'stock' }],
    });
    await world.workOn('2027-03-06');
    await look();
    const [count] = await world.serving.database.rows<{ n: number }>(
      'SELECT COUNT(*) AS n FROM standing_date WHERE standing_order_id = ?',
      [id],
    );
    expect(count!.n).toBe(2);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
  });

  it('makes one date once where two ask at once', async () => {
    const id = await made();
    const answers = await Promise.all([1, 2, 3].map(() => salmah.raw('makeStanding', { id, day: '2027-03-09' })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422, 422]);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
    expect((await salmah.refused('makeStanding', { id, day: '2027-03-16' })).codes).toEqual(['standing-not-active']);
    expect(
      (await salmah.refused('setStanding', { id, version: (await open(id)).version, state: 'active' })).codes,
    ).toEqual(['standing-ended']);
  });

  it('skips, or moves off days we are closed, and says why', async () => {
    await world.serving.database.run(
      "INSERT INTO holiday (company_id, calendar_id, day, name) SELECT id, calendar_id, '2027-03-16', 'Founders’ day' FROM company WHERE id = ?",
      [world.masters.companyId],
    );
    const of = async (closed: string) => {
      const id = await made({ closed, firstDay: '2027-03-09' });
      const date = (await open(id)).dates.find(({ day }) => day === '2027-03-16')!;
      await salmah.does('setStanding', { id, version: 2, state: 'ended' });
      return date;
    };
    expect(await of('skip')).toMatchObject({ shipDay: null, state: 'skipped', why: 'Founders’ day' });
    expect(await of('before')).toMatchObject({ shipDay: '2027-03-15', state: 'waits', why: 'Founders’ day' });
    expect(await of('after')).toMatchObject({ shipDay: '2027-03-17', state: 'waits' });
  });

  it('is skipped by hand with why, and made again', async () => {
    const id = await made({ firstDay: '2027-03-09' });
    expect((await salmah.refused('skipStanding', { id, day: '2027-03-09', skipped: true, reason: '' })).codes).toEqual([
      'reason: required',
    ]);
    await salmah.does('skipStanding', { id, day: '2027-03-09', skipped: true, reason: 'The pool is empty' });
    expect((await open(id)).dates[0]).toMatchObject({ state: 'skipped', why: 'The pool is empty', shipDay: null });
    expect((await salmah.refused('makeStanding', { id, day: '2027-03-09' })).codes).toEqual(['day: date-skipped']);
    await salmah.does('skipStanding', { id, day: '2027-03-09', skipped: false, reason: '' });
    await salmah.does('makeStanding', { id, day: '2027-03-09' });
    expect((await salmah.refused('skipStanding', { id, day: '2027-03-09', skipped: true, reason: 'x' })).codes).toEqual(
      ['day: made-already'],
    );
    expect((await salmah.refused('skipStanding', { id, day: '2027-03-10', skipped: true, reason: 'x' })).codes).toEqual(
      ['day: not-a-date-of'],
    );
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
  });

  it('says which dates passed while no server ran, makes none of them late, and goes on', async () => {
    const id = await made();
    await world.workOn('2027-03-20');
    await look();
    const dates = (await open(id)).dates.filter(({ day }) => day < '2027-03-30');
    expect(dates.map(({ day, state, order }) => ({ day, state, order }))).toEqual([
      { day: '2027-03-02', state: 'refused', order: null },
      { day: '2027-03-09', state: 'refused', order: null },
      { day: '2027-03-16', state: 'refused', order: null },
      { day: '2027-03-23', state: 'made', order: expect.anything() as unknown },
    ]);
    expect(dates[0]!.why).toContain('passed');
    expect(await needs()).toMatchObject([{ document: { id }, count: 3 }]);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
    // What is ended asks for nothing more.
    expect(await needs()).toEqual([]);
  });

  it('skips what passed while it was paused', async () => {
    const id = await made();
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'paused' });
    await world.workOn('2027-03-10');
    await look();
    expect((await open(id)).dates.some(({ state }) => state === 'made' || state === 'refused')).toBe(false);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'active' });
    await look();
    expect((await open(id)).dates.slice(0, 3)).toMatchObject([
      { day: '2027-03-02', state: 'skipped', why: 'it was paused' },
      { day: '2027-03-09', state: 'skipped', why: 'it was paused' },
      { day: '2027-03-16', state: 'waits' },
    ]);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
  });

  it('tells how much of a year it covers, of customers who have one', async () => {
    const cover = async () =>
      (
        await salmah.get<{ rows: { customer: { id: number }; standing: string; ordered: string }[] }>(
          '/api/standing-cover',
        )
      ).rows.find((row) => row.customer.id === customer('Kolam Ceria Swim Club').id);
    expect(await cover()).toBeUndefined();
    const id = await made({ firstDay: '2027-03-02', lastDay: '2027-03-31' });
    const [item] = await world.serving.database.rows<{ listPrice: string }>(
      "SELECT list_price FROM item WHERE number = 'SALT-25'",
    );
    // Five Tuesdays of six.
    expect(Number((await cover())!.standing)).toBeCloseTo(5 * 6 * Number(item!.listPrice), 2);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
    expect(await cover()).toBeUndefined();
  });

  it('is changed from a day on: what was made stays, what is to come is as changed', async () => {
    const id = await made();
    await look();
    const { version } = await open(id);
    await salmah.does('saveStanding', {
      ...typed({ id, version, from: '2027-03-10', rule: 'FREQ=WEEKLY;BYDAY=FR' }),
      lines: [{ itemId: world.item('SALT-25'), quantity: '9', unit: '' }],
    });
    const sheet = await open(id);
    expect(sheet.terms.map(({ fromDay, lines }) => [fromDay, lines[0]!.quantity])).toEqual([
      ['2027-03-02', '6'],
      ['2027-03-10', '9'],
    ]);
    expect(sheet.dates.slice(0, 4).map(({ day, state }) => [day, state])).toEqual([
      ['2027-03-02', 'made'],
      ['2027-03-09', 'waits'],
      ['2027-03-12', 'waits'],
      ['2027-03-19', 'waits'],
    ]);
    await salmah.does('makeStanding', { id, day: '2027-03-12' });
    const order = (await open(id)).dates.find(({ day }) => day === '2027-03-12')!.order!;
    expect((await salmah.get<{ lines: { quantity: string }[] }>(`/api/orders/${order.id}`)).lines[0]!.quantity).toBe(
      '9',
    );
    // Two at once: the second sees an older one.
    expect((await salmah.refused('saveStanding', { ...typed({ id, version }) })).codes).toEqual(['stale']);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });
  });

  it('leaves what is refused a draft with the reason, in Today until it is confirmed; and what cannot be ordered as refused', async () => {
    const { id: customerId, shipTos } = customer('Nilam Dialysis Centre');
    // They ask for a reference, and the standing order has none.
    const id = await made({ customerId, shipToId: shipTos[0], customerReference: '' });
    await look();
    const [first] = (await open(id)).dates;
    expect(first).toMatchObject({ state: 'made', draft: true });
    expect(first!.why).toMatch(/Nilam Dialysis Centre/);
    expect(await needs()).toMatchObject([{ document: { id } }]);
    await salmah.does('setStanding', { id, version: (await open(id)).version, state: 'ended' });

    const none = await made({ firstDay: '2027-03-03', rule: 'FREQ=DAILY;COUNT=1' });
    await world.serving.database.run('UPDATE item SET out_of_use = TRUE WHERE id = ?', [world.item('SALT-25')]);
    await look();
    expect((await open(none)).dates[0]).toMatchObject({ state: 'refused', order: null });
    await world.serving.database.run('UPDATE item SET out_of_use = FALSE WHERE id = ?', [world.item('SALT-25')]);
    // Not tried by the clock again; a person makes it.
    await look();
    expect((await open(none)).dates[0]!.state).toBe('refused');
    await salmah.does('makeStanding', { id: none, day: '2027-03-03' });
    expect((await open(none)).dates[0]!.state).toBe('made');
  });

  it('is made for many customers at once; each bad row says so at its place, and none is made', async () => {
    const row = (name: string, quantity: string, change: Record<string, string> = {}) => ({
      customer: name,
      item: 'SALT-25',
      quantity,
      rule: 'FREQ=MONTHLY;BYMONTHDAY=1',
      firstDay: '2027-04-01',
      ...change,
    });
    const paste = (rows: unknown[]) => ({ rows, aheadDays: '5', closed: 'skip' });
    const bad = await salmah.refused(
      'pasteStanding',
      paste([
        row('Nobody', '1'),
        row('Kasturi Bottling', 'x'),
        row('C-208', '2', { item: 'XX' }),
        row('C-208', '2', { rule: 'often' }),
      ]),
    );
    expect(bad.codes).toEqual([
      'rows.0.customer: unknown',
      'rows.1.quantity: not-a-number',
      'rows.2.item: required',
      'rows.3.rule: no-recurrence',
    ]);
    const standing = await salmah.does(
      'pasteStanding',
      paste([row('Kasturi Bottling', '3'), row('C-208', '5', { item: 'GAC-25' }), row('Padi Emas Food Works', '2')]),
    );
    expect(standing).toHaveLength(2);
    expect((await open(standing[0]!.id)).terms[0]!.lines).toHaveLength(2);
    expect((await salmah.refused('pasteStanding', paste([]))).codes).toEqual(['rows: pasted-nothing']);
  });

  it('refuses what says nothing, each at its place', async () => {
    const bad = await salmah.refused(
      'saveStanding',
      typed({
        rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30',
        firstDay: '2027-02-01',
        lastDay: '2027-01-01',
        aheadDays: '-1',
        closed: 'x',
        lines: [],
      }),
    );
    expect(bad.codes).toEqual([
      'lastDay: days-order',
      'firstDay: days-order',
      'rule: no-dates',
      'aheadDays: days-ahead',
      'closed: required',
      'lines: no-lines',
    ]);
    expect(
      (
        await salmah.refused(
          'saveStanding',
          typed({ customerId: null, shipToId: null, lines: [{ itemId: null, quantity: '0', unit: '' }] }),
        )
      ).codes,
    ).toEqual([
      'customerId: required',
      'shipToId: required',
      'lines.0.itemId: required',
      'lines.0.quantity: not-above-zero',
    ]);
    const joko = await world.visitor('joko');
    expect((await joko.refused('saveStanding', typed())).codes).toEqual(['no-right']);
  });
});
