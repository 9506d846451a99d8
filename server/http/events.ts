import { PassThrough } from 'node:stream';
import type { Logger } from 'pino';
import type { DocumentRef } from '@core/kernel';
import type { Sql, Columns } from '../db';
import type { Metrics } from '../metrics';
import type { Events, Listening } from '../room';
import type { AccessLog } from '../access/tables';
import type { Audit } from '../acts/tables';

export interface Change {
  id: number;
  act: string;
  personId: number;
  documents: DocumentRef[];
}

const READY = 'event: ready\ndata: {}\n\n';
const BEAT_MS = 1000;
const KEEP_ALIVE_BEATS = 15;
/** Streams of one session; opening another ends the oldest. */
const MOST_STREAMS = 8;
/** Ids may commit out of order: those below the newest are looked at again for a while. */
const OVERLAP = 200;

export function eventsOn(sql: Sql, log: Logger, { eventLag, streams }: Metrics): Events {
  /** Oldest first. */
  const listeners = new Map<PassThrough, Listening>();
  /** Those who have not been told yet that what comes from now on reaches them. */
  const unready = new Set<PassThrough>();
  let newest = 0;
  let newestAccess = 0;
  let seen = new Set<number>();
  /** False until it is known what was there before anybody listened: until then nothing is told. */
  let begun = false;
  let timer: NodeJS.Timeout | undefined;
  let reading = false;
  let again = false;
  let beats = 0;

  async function begin(): Promise<void> {
    const [row] = await sql.rows<{ id: number | null }>('SELECT MAX(id) AS id FROM audit');
    newest = row?.id ?? 0;
    const [access] = await sql.rows<{ id: number | null }>('SELECT MAX(id) AS id FROM access_log');
    newestAccess = access?.id ?? 0;
    const recent = await sql.rows<{ id: number }>('SELECT id FROM audit WHERE id > ?', [newest - OVERLAP]);
    seen = new Set(recent.map((each) => each.id));
    begun = true;
  }

  async function beat(): Promise<void> {
    if (reading) {
      again = true;
      return;
    }
    reading = true;
    try {
      do {
        again = false;
        await tell();
      } while (again);
    } catch (error) {
      log.warn({ err: error }, 'events could not be read; trying again');
    } finally {
      reading = false;
    }
  }

  async function tell(): Promise<void> {
    if (!begun) await begin();
    for (const stream of unready) stream.write(READY);
    unready.clear();
    const rows = await sql.rows<Columns<Audit, 'id companyId act personId documents'> & { age: number }>(
      `SELECT id, company_id, act, person_id, documents, TIMESTAMPDIFF(MICROSECOND, at, UTC_TIMESTAMP(3)) / 1e6 AS age
         FROM audit WHERE id > ? ORDER BY id`,
      [newest - OVERLAP],
    );
    for (const row of rows) {
      if (seen.has(row.id)) continue;
      seen.add(row.id);
      newest = Math.max(newest, row.id);
      eventLag.observe(row.age);
      const change: Change = {
        id: row.id,
        act: row.act,
        personId: row.personId,
        // Which documents; what of them is another is for who opens them.
        documents: (JSON.parse(row.documents) as DocumentRef[]).map(({ kind, id, number }) => ({ kind, id, number })),
      };
      const text = `event: change\nid: ${row.id}\ndata: ${JSON.stringify(change)}\n\n`;
      for (const [stream, { companyId }] of listeners) if (companyId === row.companyId) stream.write(text);
    }
    for (const id of seen) if (id <= newest - OVERLAP) seen.delete(id);
    await tellElsewhere();
    beats += 1;
    if (beats % KEEP_ALIVE_BEATS !== 0) return;
    await recheck([...listeners]);
    for (const stream of listeners.keys()) stream.write(': here\n\n');
  }

  /** Tells a person's other sessions that they signed in anew: it may have been somebody else. */
  async function tellElsewhere(): Promise<void> {
    const rows = await sql.rows<Columns<AccessLog, 'id personId sessionMark origin at'>>(
      "SELECT id, person_id, session_mark, origin, at FROM access_log WHERE id > ? AND what = 'signed-in' ORDER BY id",
      [newestAccess],
    );
    for (const { id, personId, sessionMark, origin, at } of rows) {
      newestAccess = id;
      const text = `event: elsewhere\ndata: ${JSON.stringify({ at, from: origin })}\n\n`;
      for (const [stream, by] of listeners) {
        if (by.personId === personId && by.mark !== sessionMark) stream.write(text);
      }
    }
  }

  const streamsOf = (session: string) => [...listeners].filter(([, by]) => by.session === session);

  /** Ends a stream: nothing is written to it from now on. */
  function drop(stream: PassThrough): void {
    listeners.delete(stream);
    streams.set(listeners.size);
    unready.delete(stream);
    stream.end();
    stopWhenAlone();
  }

  async function recheck(some: [PassThrough, Listening][]): Promise<void> {
    await Promise.all(
      some.map(async ([stream, { holds }]) => {
        if (!(await holds())) drop(stream);
      }),
    );
  }

  function stopWhenAlone(): void {
    if (listeners.size > 0) return;
    clearInterval(timer);
    timer = undefined;
    // What happens while nobody listens is told to nobody.
    begun = false;
  }

  return {
    recheck: (session) => recheck(streamsOf(session)),
    listen(by) {
      const own = streamsOf(by.session);
      if (own.length >= MOST_STREAMS) drop(own[0]![0]);
      const stream = new PassThrough();
      stream.write('retry: 1500\n\n');
      listeners.set(stream, by);
      streams.set(listeners.size);
      stream.on('close', () => drop(stream));
      unready.add(stream);
      timer ??= setInterval(() => void beat(), BEAT_MS);
      void beat();
      return stream;
    },
    poke() {
      if (listeners.size > 0) void beat();
    },
    close() {
      clearInterval(timer);
      for (const stream of [...listeners.keys()]) drop(stream);
    },
  };
}
