import type { Context } from 'koa';
import { readConfig } from '../config';
import { createMetrics } from '../metrics';
import { World } from '../testing/world';
import { loadOf, type Kind } from './load';

const LITTLE = { AT_WORK: '2', WAITING: '3', AT_ONCE_EACH: '4' };

/** A request of that session, as far as admitting one looks at it. */
function requestOf(session: string) {
  const headers = new Map<string, string>();
  const ctx = {
    ip: '192.0.2.1',
    state: { reference: '4f3a91c2' },
    status: 200,
    cookies: { get: () => session },
    req: { destroyed: false, complete: false },
    set: (name: string, value: string) => headers.set(name, value),
  };
  return { ctx: ctx as unknown as Context, headers };
}

describe('load', () => {
  const config = readConfig({ DATABASE_URL: 'mysql://nowhere', ...LITTLE });
  const admitting = () => {
    const metrics = createMetrics();
    const admitted = loadOf(config, metrics);
    let begun = 0;
    const ends: (() => void)[] = [];
    const ask = (session: string, kind: Kind = 'read') => {
      const { ctx, headers } = requestOf(session);
      const done = admitted(kind)(ctx, () => {
        begun += 1;
        return new Promise<void>((end) => ends.push(end));
      });
      return { ctx, headers, done };
    };
    const begunNow = async () => (await new Promise(setImmediate), begun);
    return { ask, begunNow, endOne: () => ends.shift()!(), metrics };
  };

  it('works on so many, lets so many wait, and turns the next away at once with when to come again', async () => {
    const { ask, begunNow, endOne, metrics } = admitting();
    const asked = ['a', 'b', 'c', 'd', 'e'].map((session) => ask(session));
    expect(await begunNow()).toBe(2);
    const late = ask('f');
    await late.done;
    expect(late.ctx.status).toBe(503);
    expect(['2', '3', '4']).toContain(late.headers.get('Retry-After'));
    expect(JSON.parse(String(late.ctx.body)).refusals[0].code).toBe('too-busy');
    // Another kind has room of its own.
    const other = ask('f', 'act');
    expect(await begunNow()).toBe(3);
    expect(await metrics.text()).toContain(
      'kampong_requests{kind="read",state="at-work"} 2\nkampong_requests{kind="read",state="waiting"} 3\n',
    );
    expect(await metrics.text()).toContain('kampong_shed_total{kind="read",why="full"} 1');
    // Each that ends makes room for one that waits.
    for (let left = 6; left > 0; left -= 1) {
      endOne();
      await begunNow();
    }
    await Promise.all([...asked, other].map(({ done }) => done));
    expect(asked.map(({ ctx }) => ctx.status)).toEqual([200, 200, 200, 200, 200]);
  });

  it('lets no session have more than its share, at work and waiting; ended ones count no more', async () => {
    const { ask, begunNow, endOne } = admitting();
    const own = [1, 2, 3, 4].map(() => ask('a'));
    const fifth = ask('a');
    await fifth.done;
    expect([fifth.ctx.status, fifth.headers.has('Retry-After')]).toEqual([429, true]);
    const neighbour = ask('b');
    for (let left = 5; left > 0; left -= 1) {
      await begunNow();
      endOne();
    }
    await Promise.all([...own, neighbour].map(({ done }) => done));
    const again = ask('a');
    await begunNow();
    endOne();
    await again.done;
    expect(again.ctx.status).toBe(200);
  });

  it('does not work for who went away while waiting', async () => {
    const { ask, begunNow, endOne } = admitting();
    const first = [ask('a'), ask('b')];
    const gone = ask('c');
    (gone.ctx.req as { destroyed: boolean }).destroyed = true;
    expect(await begunNow()).toBe(2);
    endOne();
    endOne();
    await Promise.all([...first, gone].map(({ done }) => done));
    expect(await begunNow()).toBe(2);
  });

  it('an error of the work makes room as its end does', async () => {
    const admitted = loadOf(config, createMetrics());
    const fails = () => admitted('read')(requestOf('a').ctx, () => Promise.reject(new Error('no')));
    for (let turn = 0; turn < 10; turn += 1) await expect(fails()).rejects.toThrow('no');
  });
});

describe('a server with little room', () => {
  let world: World;
  beforeAll(async () => {
    world = await World.make(undefined, { ...LITTLE, METRICS_PORT: '0' });
  });
  afterAll(() => world.end());

  const figures = async () => (await fetch(`http://127.0.0.1:${world.serving.metricsPort}/metrics`)).text();

  it('turns away over HTTP, by the name that its log knows, and counts it', async () => {
    const salmah = await world.visitor();
    const asked = await Promise.all(
      Array.from({ length: 24 }, () =>
        fetch(`${world.serving.address}/api/today`, { headers: { cookie: salmah.cookie } }),
      ),
    );
    const away = asked.filter(({ status }) => status === 429);
    expect(asked.filter(({ status }) => status === 200).length).toBeGreaterThanOrEqual(4);
    expect(away.length).toBe(24 - asked.filter(({ status }) => status === 200).length);
    expect(away.length).toBeGreaterThan(0);
    const problem = (await away[0]!.json()) as { reference: string };
    expect(problem.reference).toMatch(/^[0-9a-f]{8}$/);
    expect(away[0]!.headers.get('X-Request-Id')).toBe(problem.reference);
    expect(await figures()).toContain(`kampong_shed_total{kind="read",why="one-session"} ${away.length}`);
  });

  it('tells acts by name and outcome, times by route, its pool and what the database says', async () => {
    const salmah = await world.visitor();
    await salmah.refused('putInForce', { id: 999_999, version: 1 });
    await salmah.does('moveWorkDate', { workDate: '2027-03-02' }).catch(() => undefined);
    await salmah.get('/api/orders/999999');
    const text = await figures();
    expect(text).toContain('kampong_acts_total{act="putInForce",outcome="refused"} 1');
    expect(text).toMatch(/kampong_request_seconds_count\{method="GET",route="\/api\/orders\/:id",status="404"\} 1/);
    expect(text).toMatch(/kampong_pool\{state="free"\} \d/);
    expect(text).toMatch(/kampong_lock_waits_total \d/);
    expect(text).toContain('kampong_database_up 1');
    expect(text).not.toContain('/api/orders/999999');
  });
});
