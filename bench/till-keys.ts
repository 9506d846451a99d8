import { chromium, type Page } from '@playwright/test';
import { signedIn, watchedPage } from './keys';
import type { Figure } from './measure';
import { counterOf } from './sale';
import type { Stage } from './stage';

const WORDS = 'softener salt ';

/** From a key to what it paints while something is typed at the till, against a page that has one field and nothing else. */
export async function benchTillKeys(stage: Stage): Promise<Figure[]> {
  await counterOf(stage);
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  const ours = await signedIn(stage, browser);
  await ours.goto(new URL('/till', stage.address).href);
  await ours.locator('#one-field').waitFor();
  const theirs = await watchedPage(browser);
  await theirs.goto('data:text/html,<input id="one-field" autocomplete="off">');
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
  return [
    { name: 'key at the till to paint, 95 %', ours: ms(all.ours), theirs: ms(all.theirs), ratios, aim: 'at most 2' },
  ];
}

/** What 95 in 100 of the keys of some words take at most, a person’s hand apart. */
async function typed(page: Page): Promise<number> {
  await page.locator('#one-field').fill('');
  await page.evaluate(() => (window.paints = []));
  for (let at = 0; at < 3; at += 1) {
    await page.locator('#one-field').pressSequentially(WORDS, { delay: 60 });
    await page.locator('#one-field').fill('');
  }
  const paints = (await page.evaluate(() => window.paints)).sort((a, b) => a - b);
  return paints[Math.floor(paints.length * 0.95)]!;
}
