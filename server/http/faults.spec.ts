import { createServer } from 'node:net';
import { pino } from 'pino';
import { PEOPLE } from '../sample/people';
import { readConfig } from '../config';
import { faultOf } from '../db';
import { migrate } from '../db/migrate';
import { serve } from '../serve';
import { startServer } from '../testing/process';
import { agreed, placed, releaseOf, Visitor, World } from '../testing/world';

describe('faults', () => {
  let world: World;
  beforeAll(async () => {
    world = await World.make();
  });
  afterAll(() => world.end());

  it('a server killed in the middle of a load of acts leaves 0 differences, and each act once', async () => {
    const salmah = await world.visitor();
    const agreement = await agreed(world, salmah, {}, '100000');
    const { child, address } = await startServer(world.url);
    const visitor = new Visitor(address);
    const me = PEOPLE[0];
    await visitor.signIn(me.signIn, me.password);
    const sent: { key: string; input: unknown }[] = [];
    let answered = 0;
    const client = async (number: number) => {
      for (let turn = 0; turn < 200; turn += 1) {
        const key = `kill-${number}-${turn}`;
        const input = releaseOf(world, agreement, '1', { customerReference: key });
        sent.push({ key, input });
        await visitor.raw('releaseAgreement', input, key);
        answered += 1;
        if (answered === 40) child.kill('SIGKILL');
      }
    };
    const ends = await Promise.allSettled(Array.from({ length: 12 }, (_, number) => client(number)));
    expect(ends.some((end) => end.status === 'rejected')).toBe(true);
    expect(answered).toBeGreaterThanOrEqual(40);
    expect(await world.verify()).toEqual([]);
    // Whoever got no answer sends again with the same key: nothing is lost and nothing doubled.
    for (const { key, input } of sent) await salmah.does('releaseAgreement', input, key);
    const [orders] = await world.serving.database.rows<{ count: number }>(
      "SELECT COUNT(*) AS count FROM sales_order WHERE customer_reference LIKE 'kill-%'",
    );
    expect(orders!.count).toBe(sent.length);
    expect(await world.verify()).toEqual([]);
  }, 120_000);

  it('sixteen clients on one agreement never lose or double a unit', async () => {
    const salmah = await world.visitor();
    const agreement = await agreed(world, salmah, {}, '50');
    const answers = await Promise.all(
      Array.from({ length: 64 }, () => salmah.raw('releaseAgreement', releaseOf(world, agreement, '1'))),
    );
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(50);
    expect(answers.filter((answer) => answer.status === 422)).toHaveLength(14);
    expect(await world.verify()).toEqual([]);
  });

  it('receipts racing on one line ship it once', async () => {
    const salmah = await world.visitor();
    const ids = await placed(world, salmah, await agreed(world, salmah), '6');
    const answers = await Promise.all([
      ...Array.from({ length: 6 }, () =>
        salmah.raw('receiveGoods', {
          purchaseId: ids.purchaseId,
          lines: [{ lineId: ids.purchaseLineId, quantity: '2' }],
        }),
      ),
      ...Array.from({ length: 6 }, () =>
        salmah.raw('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '2' }] }),
      ),
    ]);
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(3);
    expect(await world.verify()).toEqual([]);
  });

  it('an unreachable database is a clear sentence, and it goes on when it is back', async () => {
    // A port that answers nothing stands for a database that is away.
    const gate = createServer((socket) => socket.destroy());
    await new Promise<void>((resolve) => gate.listen(0, '127.0.0.1', resolve));
    const { port } = gate.address() as { port: number };
    const config = readConfig({ DATABASE_URL: `mysql://u:p@127.0.0.1:${port}/k`, PORT: '0', LOG_LEVEL: 'silent' });
    const serving = await serve(config, pino({ level: 'silent' }));
    const answer = await new Visitor(serving.address).signIn('salmah', 'jetty-lantern');
    expect(answer.status).toBe(503);
    expect(answer.body).toMatchObject({ refusals: [{ code: 'database-away' }] });
    expect(JSON.stringify(answer.body)).not.toMatch(/127\.0\.0\.1|PROTOCOL|ECONN/);
    expect((await fetch(`${serving.address}/healthz`)).status).toBe(200);
    expect((await fetch(`${serving.address}/readyz`)).status).toBe(503);
    await serving.stop();
    gate.close();
  });

  it('goes on after every connection was cut', async () => {
    const salmah = await world.visitor();
    const [me] = await world.serving.database.rows<{ id: number }>('SELECT CONNECTION_ID() AS id');
    const others = await world.serving.database.rows<{ id: number }>(
      'SELECT ID AS id FROM information_schema.PROCESSLIST WHERE ID <> ? AND USER = SUBSTRING_INDEX(CURRENT_USER(), "@", 1) AND DB = DATABASE()',
      [me!.id],
    );
    expect(others.length).toBeGreaterThan(0);
    for (const { id } of others) await world.serving.database.run(`KILL ${id}`).catch(() => undefined);
    await salmah.get('/api/today').catch(() => undefined);
    const again = await salmah.get<{ rows: unknown[] }>('/api/today');
    expect(again.rows.length).toBeGreaterThan(0);
  });

  it('a taken port is one sentence', async () => {
    const port = new URL(world.serving.address).port;
    const config = readConfig({ DATABASE_URL: world.url, PORT: port, LOG_LEVEL: 'silent' });
    await expect(serve(config, pino({ level: 'silent' }))).rejects.toThrow(`Port ${port} on 127.0.0.1 is taken`);
  });

  it('names every wrong setting at once', () => {
    expect(() => readConfig({ PORT: '99999', LOG_LEVEL: 'loud' })).toThrow(/DATABASE_URL.*PORT.*LOG_LEVEL/);
  });

  it('migrates once, whoever starts, and refuses a changed file', async () => {
    expect(await Promise.all([migrate(world.url, 'server/db/sql'), migrate(world.url, 'server/db/sql')])).toEqual([
      [],
      [],
    ]);
    await world.serving.database.run("UPDATE migration SET hash = 'x' WHERE name LIKE '0001%'");
    await expect(migrate(world.url, 'server/db/sql')).rejects.toThrow('was changed after it was applied');
  });

  it.each([
    [{ errno: 1213 }, 'again'],
    [{ errno: 1062 }, 'twin'],
    [{ errno: 1205 }, 'wait'],
    [{ code: 'ECONNREFUSED' }, 'away'],
    [{ errno: 1047 }, 'away'],
    [{ errno: 4025 }, 'none'],
    [new Error('other'), 'none'],
  ])('tells %j as %s', (error, fault) => expect(faultOf(error)).toBe(fault));
});
