import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { until } from '../testing/process';
import { World, type Visitor } from '../testing/world';

describe('sessions left alone', () => {
  let world: World;
  let now = Date.now();
  beforeAll(async () => {
    world = await World.make({ now: () => new Date(now) });
  });
  afterAll(() => world.end());

  const minutesLater = (minutes: number) => {
    now += minutes * 60_000;
    world.serving.sessions.forget();
  };
  const asks = async (visitor: Visitor, headers: Record<string, string> = {}) =>
    (await fetch(`${world.serving.address}/api/today`, { headers: { cookie: visitor.cookie, ...headers } })).status;
  const alone = { 'X-Kampong-Untouched': 'yes' };

  it('end after half an hour without a person, whatever their screens read by themselves', async () => {
    const salmah = await world.visitor();
    minutesLater(29);
    expect(await asks(salmah)).toBe(200);
    minutesLater(29);
    expect(await asks(salmah, alone)).toBe(200);
    expect(await asks(salmah, { Accept: 'text/event-stream' })).toBe(200);
    minutesLater(2);
    expect(await asks(salmah, alone)).toBe(401);
    // One that ended is not begun again by coming back.
    expect(await asks(salmah)).toBe(401);
  });

  it('go on as long as somebody works, up to twelve hours', async () => {
    const salmah = await world.visitor();
    for (let half = 1; half <= 47; half += 1) {
      minutesLater(15);
      expect(await asks(salmah)).toBe(200);
    }
    minutesLater(16);
    expect(await asks(salmah)).toBe(401);
  });

  it('hear that their person signed in elsewhere; the new one, and other people, do not', async () => {
    const [first, joko] = await Promise.all([world.visitor(), world.visitor('joko')]);
    const heard = new Map<Visitor, string>();
    const listen = async (visitor: Visitor) => {
      const answer = await fetch(`${world.serving.address}/api/events`, { headers: { cookie: visitor.cookie } });
      heard.set(visitor, '');
      void (async () => {
        for await (const chunk of Readable.fromWeb(answer.body as ReadableStream))
          heard.set(visitor, heard.get(visitor)! + String(chunk));
      })().catch(() => undefined);
      await until('the stream is ready', () => heard.get(visitor)!.includes('event: ready'));
    };
    await Promise.all([listen(first), listen(joko)]);
    const second = await world.visitor();
    await listen(second);
    await until('the first is told', () => heard.get(first)!.includes('event: elsewhere'));
    expect(heard.get(first)).toMatch(/event: elsewhere\ndata: \{"at":"[^"]+","from":"127\.0\.0\.1"\}/);
    // Told in the same round as the first one was.
    expect(heard.get(joko)).not.toContain('elsewhere');
    expect(heard.get(second)).not.toContain('elsewhere');
  });
});
