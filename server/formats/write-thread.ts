import { setPdf } from './set-pdf';
import type { WriteAsk } from './write-file';
import { csvOf, xlsxOf } from './write-table';

/** Makes one file: what the threads of the pool do. */
export default function write(ask: WriteAsk): Promise<Buffer> | Buffer {
  if (ask.kind === 'pdf') return setPdf(ask.unset);
  return ask.kind === 'csv' ? csvOf(ask.table) : xlsxOf(ask.name, ask.table);
}
