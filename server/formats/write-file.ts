import pLimit, { type LimitFunction } from 'p-limit';
import type { Piscina } from 'piscina';
import type { Unset } from './pdf';
import { builtThread } from './built-thread';
import type { Table } from './write-table';

/** A file to be made of plain data. */
export type WriteAsk =
  { kind: 'pdf'; unset: Unset } | { kind: 'csv'; table: Table } | { kind: 'xlsx'; name: string; table: Table };

/** For whom a file is made: each person's one after the other; and when it is not wanted any more. */
export interface Making {
  person: number;
  signal: AbortSignal;
}

/** Files made at once; people who type keep a core. */
const THREADS = 2;
const MEGABYTES = 512;
const IDLE_MS = 30_000;

let pool: Promise<Piscina> | undefined;
const ofPerson = new Map<number, LimitFunction>();

/** The threads, loaded and begun when the first file is made. */
const threads = () =>
  (pool ??= import('piscina').then(
    ({ default: Pool }) =>
      new Pool({
        filename: builtThread('write-file.js'),
        maxThreads: THREADS,
        minThreads: 0,
        idleTimeout: IDLE_MS,
        concurrentTasksPerWorker: 1,
        resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
      }),
  ));

/**
 * The file, made on a thread of its own: nobody who types waits for it. A person's files are made one after the other;
 * one that is not wanted any more is given up, also in the middle (its thread ends). Rejects with an AbortError then.
 */
export async function madeFile(ask: WriteAsk, { person, signal }: Making): Promise<Buffer> {
  const limit = ofPerson.get(person) ?? pLimit(1);
  ofPerson.set(person, limit);
  try {
    return await limit(async () => {
      signal.throwIfAborted();
      return Buffer.from((await (await threads()).run(ask, { signal })) as Uint8Array);
    });
  } finally {
    if (limit.activeCount + limit.pendingCount === 0) ofPerson.delete(person);
  }
}
