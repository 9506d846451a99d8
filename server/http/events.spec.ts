import type { PassThrough } from 'node:stream';
import { pino } from 'pino';
import type { Sql } from '../db';
import { until } from '../testing/process';
import { agreed, releaseOf, World } from '../testing/world';
import { createMetrics } from '../metrics';
import { eventsOn } from './events';

/** An audit of so many rows; the first so many reads of it fail. */
function auditOf(rows: number, failing = 0) {
  const audit = Array.from({ length: rows }, (_, at) => rowOf(at + 1));
  let fails = failing;
  const reads = {
    rows: (text: string, values: readonly number[] = []) => {
      if ((fails -= 1) >= 0) return Promise.reject(new Error('away'));
      if (text.includes('access_log')) return Promise.resolve([]);
      if (text.includes('MAX(id)')) return Promise.resolve([{ id: audit.length }]);
      return Promise.resolve(audit.filter(({ id }) => id > values[0]!));
    },
  };
  return { sql: reads as unknown as Sql, add: () => audit.push(rowOf(audit.length + 1)) };
}
/** A document as an act keeps it, with what of it is another by now. */
const CHANGED = JSON.stringify([
  {
    kind: 'SO',
    id: 7,
    number: 'SO-7',
    reason: 'they rang',
    fields: [{ what: 'price of line 1', was: '12', is: '11' }],
  },
]);
const rowOf = (id: number) => ({ id, companyId: 1, act: `act${id}`, personId: 1, documents: CHANGED, age: 0.001 });
const log = pino({ level: 'silent' });

const BY = { companyId: 1, personId: 1, mark: 'a', session: 'a', holds: () => Promise.resolve(true) };

/** What a stream says, once it has said `what`. */
async function heardOn(stream: PassThrough, what: string): Promise<string> {
  let heard = '';
  for await (const chunk of stream) {
    heard += String(chunk);
    if (heard.includes(what)) break;
  }
  return heard;
}

describe('the first listener', () => {
  it('is told what comes from now on, not all that ever was, however early somebody looks', async () => {
    const audit = auditOf(1000);
    const events = eventsOn(audit.sql, log, createMetrics());
    const stream = events.listen(BY);
    events.poke();
    events.poke();
    setTimeout(() => {
      audit.add();
      events.poke();
    }, 20);
    const heard = await heardOn(stream, 'act1001');
    expect(heard).toContain('event: ready');
    expect(heard.match(/event: change/g)).toHaveLength(1);
    // Which documents, and not what of them is another.
    expect(heard).toContain('"documents":[{"kind":"SO","id":7,"number":"SO-7"}]');
    events.close();
  });

  it('hears on where the database was away at the start', async () => {
    const audit = auditOf(3, 1);
    const events = eventsOn(audit.sql, log, createMetrics());
    const stream = events.listen(BY);
    setTimeout(() => events.poke(), 5);
    setTimeout(() => {
      audit.add();
      events.poke();
    }, 20);
    const heard = await heardOn(stream, 'act4');
    expect(heard).toContain('event: ready');
    expect(heard.match(/event: change/g)).toHaveLength(1);
    events.close();
  });

  it('is not told what happened while nobody listened', async () => {
    const audit = auditOf(3);
    const events = eventsOn(audit.sql, log, createMetrics());
    await heardOn(events.listen(BY), 'event: ready');
    await new Promise(setImmediate);
    for (let more = 0; more < 300; more += 1) audit.add();
    const second = events.listen(BY);
    setTimeout(() => {
      audit.add();
      events.poke();
    }, 20);
    expect((await heardOn(second, 'act304')).match(/event: change/g)).toHaveLength(1);
    events.close();
  });
});

describe('streams', () => {
  it('end with their session, and the oldest where one session opens too many', async () => {
    const events = eventsOn(auditOf(1).sql, log, createMetrics());
    let holds = true;
    const others = events.listen(BY);
    const own = Array.from({ length: 9 }, () =>
      events.listen({ ...BY, session: 'b', holds: () => Promise.resolve(holds) }),
    );
    const open = () => own.filter((stream) => !stream.writableEnded).length;
    expect(own[0]!.writableEnded).toBe(true);
    expect(open()).toBe(8);
    await events.recheck('b');
    expect(open()).toBe(8);
    holds = false;
    await events.recheck('b');
    expect(open()).toBe(0);
    expect(others.writableEnded).toBe(false);
    events.close();
  });
});

describe('events', () => {
  it('tell the screens of a company what was committed, and not those of another', async () => {
    const world = await World.make();
    const salmah = await world.visitor();
    const sister = await world.visitor('rashid');
    await sister.post('/api/company', { companyId: world.masters.sisterId });
    const ends = new AbortController();
    const heard: Record<'here' | 'sister', string> = { here: '', sister: '' };
    const listen = async (who: 'here' | 'sister', cookie: string) => {
      const response = await fetch(`${world.serving.address}/api/events`, { headers: { cookie }, signal: ends.signal });
      expect(response.headers.get('content-type')).toContain('text/event-stream');
      void (async () => {
        for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>)
          heard[who] += Buffer.from(chunk).toString();
      })().catch(() => undefined);
    };
    await listen('here', salmah.cookie);
    await listen('sister', sister.cookie);
    await until('ready', () => heard.here.includes('event: ready'));
    const agreement = await agreed(world, salmah);
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '1'));
    await until('the release is told', () => heard.here.includes(order!.number));
    expect(heard.here).toContain('"act":"releaseAgreement"');
    expect(heard.sister).not.toContain(order!.number);
    // The sister's other company tells her nothing more once she goes there; signed out, nobody is told anything.
    const ended = (cookie: string) =>
      fetch(`${world.serving.address}/api/events`, { headers: { cookie } }).then((response) => response.text());
    const gone = ended(sister.cookie);
    await sister.post('/api/company', { companyId: world.masters.companyId });
    expect(await gone).toContain('retry');
    const out = ended(salmah.cookie);
    await salmah.post('/api/sign-out', {});
    expect(await out).toContain('retry');
    ends.abort();
    await world.end();
  });
});
