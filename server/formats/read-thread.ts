import { parentPort, workerData } from 'node:worker_threads';
import type { ReadAsk } from './read-file';
import { readTable } from './read-table';
import { readXml } from './xml';

const { name, content, rows } = workerData as ReadAsk;

const read = name.toLowerCase().endsWith('.xml')
  ? Promise.resolve(readXml(Buffer.from(content)) ?? 'unreadable')
  : readTable(name, content, rows);
void read.then((found) => parentPort!.postMessage(found));
