import { Worker } from 'node:worker_threads';
import type { XmlElement } from '@core/formats';
import { refuse, type Refusal } from '@core/refusals';
import { builtThread } from './built-thread';
import { READ_BOUNDS, READ_COSTS } from './read-bounds';
import type { Unread } from './read-table';

export interface ReadAsk {
  name: string;
  content: Uint8Array;
  /** Rows at most, the heading and empty ones too. */
  rows: number;
}

/** Files that are read at once; the others wait, each for the one before it. */
const AT_ONCE = 2;
let reading = 0;
const waiting: (() => void)[] = [];

/** A CSV or XLSX file as rows of text, read on a thread of its own; a refusal where it is none, or above its bounds. */
export const tableIn = (name: string, content: Buffer, costs = READ_COSTS, rows: number = READ_BOUNDS.rows) =>
  readOnThread<string[][]>({ name, content, rows }, costs);

/** An XML file's root element, the same way. */
export const xmlIn = (name: string, content: Buffer, costs = READ_COSTS) =>
  readOnThread<XmlElement>({ name, content, rows: READ_BOUNDS.rows }, costs);

async function readOnThread<Found extends object>(ask: ReadAsk, costs: typeof READ_COSTS): Promise<Found | Refusal> {
  if (reading >= AT_ONCE) await new Promise<void>((go) => waiting.push(go));
  reading += 1;
  const found = await onThread<Found>(ask, costs).finally(() => {
    reading -= 1;
    waiting.shift()?.();
  });
  if (typeof found !== 'string') return found;
  if (found === 'too-long') return refuse('file-too-long', 'file', { most: String(ask.rows - 1) });
  return refuse(found === 'too-heavy' ? 'file-too-heavy' : 'file-unreadable', 'file', { name: ask.name });
}

/** What the thread says; `too-heavy` where it took more memory or time than it may. */
function onThread<Found>(ask: ReadAsk, { megabytes, seconds }: typeof READ_COSTS): Promise<Found | Unread> {
  return new Promise((found, failed) => {
    const worker = new Worker(builtThread('read-file.js'), {
      workerData: ask,
      resourceLimits: { maxOldGenerationSizeMb: megabytes, maxYoungGenerationSizeMb: 32, stackSizeMb: 4 },
    });
    const end = (what: Found | Unread) => {
      clearTimeout(timer);
      found(what);
      void worker.terminate();
    };
    const timer = setTimeout(() => end('too-heavy'), seconds * 1000);
    worker.once('message', end);
    worker.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'ERR_WORKER_OUT_OF_MEMORY' || error instanceof RangeError) end('too-heavy');
      else {
        clearTimeout(timer);
        failed(error);
      }
    });
  });
}
