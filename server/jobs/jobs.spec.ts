import { pino } from 'pino';
import { systemClock } from '../clock';
import { kill, startServer, until } from '../testing/process';
import { agreed, releaseOf, World, type Visitor } from '../testing/world';
import { tick } from './jobs';

describe('what is done by the clock', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const parts = () => ({ database: world.serving.database, clock: systemClock, log: pino({ level: 'silent' }) });
  const planned = async (releaseAhead: string, days: readonly string[], quantity = '5') => {
    const agreement = await agreed(world, salmah, { releaseAhead });
    await salmah.does('savePlan', {
      id: agreement.id,
      version: 2,
      shipToId: world.masters.customers.get('Teratai Bay Resort')!.shipTos[1],
      customerReference: 'STANDING-1',
      lines: [
        {
          agreementLineId: agreement.lineId,
          calls: days.map((day) => ({ day, quantity, skipped: day === '2027-03-03', rule: '' })),
        },
      ],
    });
    return agreement;
  };
  const ordersOf = async (id: number) =>
    (
      await salmah.get<{ documents: { document: { kind: string; id: number } }[] }>(`/api/agreements/${id}`)
    ).documents.filter((each) => each.document.kind === 'SO');

  it('A7 releases planned calls some days ahead, each once, however often it runs', async () => {
    const agreement = await planned('7', ['2027-03-02', '2027-03-03', '2027-03-08', '2027-03-09']);
    const byHand = await planned('', ['2027-03-02']);
    await Promise.all([tick(parts()), tick(parts()), tick(parts())]);
    await tick(parts());
    const orders = await ordersOf(agreement.id);
    expect(orders).toHaveLength(1);
    const order = await salmah.get<{
      customerReference: string;
      shipTo: { label: string };
      lines: { shipDate: string; quantity: string }[];
    }>(`/api/orders/${orders[0]!.document.id}`);
    expect(order).toMatchObject({ customerReference: 'STANDING-1', shipTo: { label: 'Hill Villas' } });
    expect(order.lines.map((line) => [line.shipDate, line.quantity])).toEqual([
      ['2027-03-02', '5'],
      ['2027-03-08', '5'],
    ]);
    expect(await ordersOf(byHand.id)).toEqual([]);
    const sheet = await salmah.get<{ lines: { calls: { day: string; made: unknown; rest: string }[] }[] }>(
      `/api/agreements/${agreement.id}`,
    );
    expect(sheet.lines[0]!.calls.map((call) => [call.day, call.made !== null, call.rest])).toEqual([
      ['2027-03-02', true, '0'],
      ['2027-03-03', false, '0'],
      ['2027-03-08', true, '0'],
      ['2027-03-09', false, '5'],
    ]);
    // Planned anew, what was made stays made; a cancelled order does not make its call again by itself.
    await salmah.does('cancelOrder', { id: orders[0]!.document.id, version: 1 });
    await tick(parts());
    expect(await ordersOf(agreement.id)).toHaveLength(1);
  });

  it('A7 by hand up to a day; what real releases used up is not made again', async () => {
    const agreement = await planned('', ['2027-03-10', '2027-03-20', '2027-04-20']);
    await salmah.does('releaseAgreement', releaseOf(world, agreement, '5'));
    const [made] = await salmah.does('releasePlanned', { agreementId: agreement.id, upTo: '2027-03-31' });
    const order = await salmah.get<{ lines: { shipDate: string }[] }>(`/api/orders/${made!.id}`);
    expect(order.lines.map((line) => line.shipDate)).toEqual(['2027-03-20']);
    const nothing = await salmah.refused('releasePlanned', { agreementId: agreement.id, upTo: '2027-03-31' });
    expect(nothing.codes).toEqual(['upTo: nothing-planned']);
  });

  it('A7 what it may not release stands in Today', async () => {
    const agreement = await planned('7', ['2027-03-05'], '5');
    await world.serving.database.run("UPDATE agreement SET plan_reference = '' WHERE id = ?", [agreement.id]);
    await tick(parts());
    expect(await ordersOf(agreement.id)).toEqual([]);
    const { rows } = await salmah.get<{ rows: { kind: string; document: { id: number }; day: string }[] }>(
      '/api/today',
    );
    expect(rows.filter((row) => row.kind === 'call-due' && row.document.id === agreement.id)).toMatchObject([
      { day: '2027-03-05' },
    ]);
    await salmah.does('pauseAgreement', { id: agreement.id, version: 3, pause: true });
  });

  it('forgets the keys of acts after two weeks, and tries that count no more', async () => {
    const { database } = world.serving;
    await salmah.does('fireReminders', {});
    const [newest] = await database.rows<{ idempotencyKey: string }>(
      'SELECT idempotency_key FROM act_key ORDER BY created_at DESC LIMIT 1',
    );
    await database.run('UPDATE act_key SET created_at = created_at - INTERVAL 20 DAY WHERE idempotency_key <> ?', [
      newest!.idempotencyKey,
    ]);
    await database.run(
      "INSERT INTO sign_in_attempt (`key`, points, expire) VALUES ('try:old', 3, 1), ('try:new', 3, ?)",
      [Date.now() + 60_000_000],
    );
    await tick(parts());
    const keys = await database.rows<{ idempotencyKey: string }>('SELECT idempotency_key FROM act_key');
    expect(keys.map(({ idempotencyKey }) => idempotencyKey)).toContain(newest!.idempotencyKey);
    const [old] = await database.rows<{ count: number }>(
      'SELECT COUNT(*) AS count FROM act_key WHERE created_at < NOW() - INTERVAL 15 DAY',
    );
    expect(old!.count).toBe(0);
    const tries = await database.rows<{ key: string }>("SELECT `key` FROM sign_in_attempt WHERE `key` LIKE 'try:%'");
    expect(tries.map(({ key }) => key)).toEqual(['try:new']);
  });

  it('A7 killed in the middle it makes each release once', async () => {
    const agreements: { id: number }[] = [];
    for (let count = 0; count < 12; count += 1) agreements.push(await planned('7', ['2027-03-04', '2027-03-06']));
    const made = async () => {
      const [row] = await world.serving.database.rows<{ count: number }>(
        'SELECT COUNT(*) AS count FROM sales_order WHERE agreement_id IN (?)',
        [agreements.map(({ id }) => id)],
      );
      return row!.count;
    };
    // Killed as soon as so many are there: in the middle, whatever the machine.
    for (const enough of [1, 2, 4]) {
      const { child } = await startServer(world.url, { JOBS: 'yes', JOBS_AT_START: 'yes' });
      await until(`${enough} releases`, async () => (await made()) >= enough);
      await kill(child);
      expect(await world.verify()).toEqual([]);
    }
    expect(await made()).toBeLessThan(agreements.length);
    await tick(parts());
    for (const { id } of agreements) expect(await ordersOf(id)).toHaveLength(1);
  });

  it('A9 each reminder fires once, stands in Today until it is seen to, and is in the calendar', async () => {
    const agreement = await agreed(world, salmah, {
      lastDay: '2027-03-31',
      reminders: [
        { kind: 'days', at: '30' },
        { kind: 'fulfilled', at: '80' },
        { kind: 'pace', at: '-15' },
      ],
    });
    await Promise.all([tick(parts()), tick(parts())]);
    const waiting = async () =>
      (await salmah.get<{ rows: { kind: string; note: string; document: { id: number } }[] }>('/api/today')).rows
        .filter((row) => row.kind === 'agreement-reminder' && row.document.id === agreement.id)
        .map((row) => row.note);
    // 90 days, both ends counted, of which 60 are gone with nothing shipped.
    expect(await waiting()).toEqual(['days 30', 'pace -15']);
    await salmah.does('handleReminder', { agreementId: agreement.id, kind: 'days', at: '30' });
    expect(await waiting()).toEqual(['pace -15']);
    await tick(parts());
    expect(await waiting()).toEqual(['pace -15']);
    const twice = await salmah.refused('handleReminder', { agreementId: agreement.id, kind: 'days', at: '30' });
    expect(twice.codes).toEqual(['not-found']);

    const first = (await salmah.post('/api/calendar', {})).body as { path: string };
    const second = (await salmah.post('/api/calendar', {})).body as { path: string };
    const read = (path: string) => fetch(world.serving.address + path);
    expect((await read(first.path)).status).toBe(404);
    const answer = await read(second.path);
    expect(answer.headers.get('content-type')).toContain('text/calendar');
    const text = (await answer.text()).replaceAll('\r\n ', '');
    const { number } = await salmah.get<{ number: string }>(`/api/agreements/${agreement.id}`);
    expect(text).toContain('BEGIN:VCALENDAR');
    expect(text).toContain(`SUMMARY:${number} with Teratai Bay Resort: pace at −15 points or less`);
    expect(text).toContain(`SUMMARY:${number} with Teratai Bay Resort ends`);
    expect(text).toContain('DTSTART;VALUE=DATE:20270331');
    expect(text).not.toContain('30 days before');
    expect((await read('/api/calendar/not-a-token-of-anybody-at-all.ics')).status).toBe(404);
  });
});
