import { chromium, type Page } from '@playwright/test';
import { PEOPLE } from '../server/sample/people';
import { median, type Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

const LINES = 200;

declare global {
  interface Window {
    paints: number[];
  }
}

/** From a key to what it paints while a line is typed, in an order of 200 lines against one that is empty. */
export async function benchKeys(stage: Stage): Promise<Figure[]> {
  const { masters, actor } = stage;
  const { id: customerId, shipTos } = masters.customers.get('Kasturi Bottling')!;
  const line = {
    id: null,
    itemId: masters.items.get('SALT-25')!.id,
    quantity: '5',
    shipDate: '2027-03-12',
    route: 'stock',
  };
  const [id] = await actor.does(
    'saveOrder',
    {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: '',
      lines: Array.from({ length: LINES }, () => line),
    },
    WORK_DATE,
  );
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  const ours = await orderIn(stage, browser, `/orders/${id}`);
  const theirs = await orderIn(stage, browser, '/orders/new');
  const ratios: number[] = [];
  const all = { ours: 0, theirs: 0 };
  const runs = 7;
  for (let run = 0; run <= runs; run += 1) {
    const [mine, floor] = [await typed(ours), await typed(theirs)];
    // The first pair warms the browser and is not counted.
    if (run === 0) continue;
    ratios.push(mine / floor);
    all.ours += mine / runs;
    all.theirs += floor / runs;
  }
  await browser.close();
  const ms = (value: number) => `${value.toFixed(1)} ms`;
  return [{ name: 'key to paint', ours: ms(all.ours), theirs: ms(all.theirs), ratios, aim: 'at most 1.5' }];
}

export type Browser = Awaited<ReturnType<typeof chromium.launch>>;

/** A page that keeps how long each key took to what it paints, in milliseconds. */
export async function watchedPage(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.addInitScript(() => {
    window.paints = [];
    document.addEventListener(
      'keydown',
      () => {
        const begun = performance.now();
        // The frame that the key leads to, and what runs right after it is painted.
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => window.paints.push(performance.now() - begun);
          port2.postMessage(null);
        });
      },
      true,
    );
  });
  return page;
}

/** One that somebody is signed in on. */
export async function signedIn(stage: Stage, browser: Browser): Promise<Page> {
  const page = await watchedPage(browser);
  const salmah = PEOPLE.find(({ signIn }) => signIn === 'salmah')!;
  await page.goto(stage.address.href);
  await page.getByLabel('Name').fill(salmah.signIn);
  await page.getByLabel('Password').fill(salmah.password);
  await page.keyboard.press('Enter');
  await page.waitForURL('**/today');
  return page;
}

async function orderIn(stage: Stage, browser: Browser, path: string): Promise<Page> {
  const page = await signedIn(stage, browser);
  await page.goto(new URL(path, stage.address).href);
  await page.locator('k-order k-grid [row-index="0"] [col-id="quantity"]').waitFor();
  return page;
}

/** The median of the keys of forty quantities, each typed and kept. */
async function typed(page: Page): Promise<number> {
  await page.evaluate(() => (window.paints = []));
  await page.locator('k-order k-grid [row-index="0"] [col-id="quantity"]').click();
  for (let at = 0; at < 40; at += 1) {
    await page.keyboard.press(String(1 + (at % 9)));
    await page.keyboard.press('Enter');
  }
  return median(await page.evaluate(() => window.paints));
}
