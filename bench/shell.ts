import { chromium } from '@playwright/test';
import Koa from 'koa';
import compress from 'koa-compress';
import serve from 'koa-static';
import { readFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { constants } from 'node:zlib';
import type { Figure } from './measure';

/** Bytes sent and time until the page stands, cold, against an empty Material frame built and served alike. */
export async function benchShell(): Promise<Figure[]> {
  const { buildWeb } = (await import('../tools/lib/build.mjs' as string)) as {
    buildWeb(project: string): Promise<void>;
  };
  await buildWeb('shell-floor');
  const frames = [await host('dist/web/browser'), await host('dist/shell-floor/browser')];
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
  });
  const cold = async (frame: number, selector: string) => {
    const context = await browser.newContext();
    const page = await context.newPage();
    const session = await context.newCDPSession(page);
    await session.send('Network.enable');
    let bytes = 0;
    session.on('Network.loadingFinished', (event) => (bytes += event.encodedDataLength));
    const begun = performance.now();
    await page.goto(frames[frame]!.address);
    await page.locator(selector).first().waitFor();
    const took = performance.now() - begun;
    await context.close();
    return { bytes, took };
  };
  const bytes: number[] = [];
  const times: number[] = [];
  const all = { ours: { bytes: 0, took: 0 }, theirs: { bytes: 0, took: 0 } };
  const runs = 7;
  for (let run = 0; run <= runs; run += 1) {
    const ours = await cold(0, '.todo');
    const theirs = await cold(1, 'h1');
    // The first pair warms the browser and is not counted.
    if (run === 0) continue;
    bytes.push(ours.bytes / theirs.bytes);
    times.push(ours.took / theirs.took);
    for (const key of ['bytes', 'took'] as const) {
      all.ours[key] += ours[key] / runs;
      all.theirs[key] += theirs[key] / runs;
    }
  }
  await browser.close();
  for (const frame of frames) frame.close();
  const kilo = (value: number) => `${(value / 1024).toFixed(0)} kB`;
  const ms = (value: number) => `${value.toFixed(0)} ms`;
  return [
    {
      name: 'shell, bytes',
      ours: kilo(all.ours.bytes),
      theirs: kilo(all.theirs.bytes),
      ratios: bytes,
      aim: 'at most 1.5',
    },
    {
      name: 'shell, first usable page',
      ours: ms(all.ours.took),
      theirs: ms(all.theirs.took),
      ratios: times,
      aim: 'at most 1.5',
    },
  ];
}

/** Serves a built application with the server's own compression; answers the few reads Today makes. */
async function host(folder: string): Promise<{ address: string; close(): void }> {
  const app = new Koa();
  // A browser that is closed lets go of what it was sent.
  app.silent = true;
  app.use(compress({ threshold: 1400, br: { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } } }));
  app.use(async (ctx, next) => {
    const answer = CANNED[ctx.path];
    if (ctx.path === '/api/events') {
      ctx.status = 204;
    } else if (answer) ctx.body = answer;
    else return next();
  });
  app.use(serve(folder, { index: false }));
  app.use(async (ctx) => {
    ctx.type = 'html';
    ctx.body = await readFile(`${folder}/index.html`, 'utf8');
  });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`,
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}

const COMPANY = { id: 1, code: 'HBW', name: 'Hulu Bening Water Works', currency: 'MYR', tint: '#0d5552' };
const CANNED: Record<string, unknown> = {
  '/api/session': {
    session: {
      person: { id: 1, name: 'Salmah' },
      company: COMPANY,
      companies: [COMPANY],
      role: 'Order administrator',
      rights: [],
      workDate: '2027-03-01',
      demo: true,
      token: 't',
    },
  },
  '/api/today': {
    more: 0,
    rows: Array.from({ length: 20 }, (_, index) => ({
      band: 'now',
      kind: 'not-invoiced',
      document: { kind: 'SO', id: index + 1, number: `SO-${1000 + index}` },
      party: 'Teratai Bay Resort',
      count: 1,
      day: null,
      amount: '5920',
      currency: 'MYR',
      share: 0.5,
      note: '',
      orderLineId: null,
    })),
  },
};
