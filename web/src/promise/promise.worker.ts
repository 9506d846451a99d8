import { check, shorten } from '@core/promise';
import type { Question, Reply } from './worker-computer';

/** Computes what-ifs away from the page; the same core the server runs. */
addEventListener('message', ({ data }: MessageEvent<Question>) => {
  const { id, rows, asks } = data;
  let reply: Reply;
  try {
    reply =
      data.what === 'check'
        ? { id, what: 'check', lines: check(rows, asks, data.together) }
        : { id, what: 'shorten', ways: shorten(rows, asks[0]!) };
  } catch (error) {
    reply = { id, what: 'failed', message: (error as Error).message };
  }
  postMessage(reply);
});
