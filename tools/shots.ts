import { chromium } from '@playwright/test';
import { fork } from 'node:child_process';
import { PEOPLE, placeOf, type Place } from '../demo';
import { prepare } from './prepare';

/** Name, address or what of the demo, and the button or tab that opens what is the view. */
const VIEWS: readonly [name: string, where: `/${string}` | Place, opens?: string, tab?: string][] = [
  ['today', '/today'],
  ['agreement', 'ahead'],
  ['fulfilment', '/insight'],
  ['customer', '/customers/1'],
  ['order', 'order'],
  ['bench', '/bench'],
  ['to-go-out', '/to-go-out?days=30'],
  ['till', 'waiting'],
  ['standing-order', '/standing-orders/2'],
  ['promotion', '/promotions/1'],
  ['tray', '/tray'],
  ['workshop', '/workshop'],
  ['work-centre', '/workshop/at'],
  ['serial-number', 'skid'],
  ['kept-item', '/kept/item/1'],
  ['trail', '/trail'],
];

/**
 * One picture of each main view from the demo, into docs/screenshots/; those of a first visit, of files brought in and of
 * people are of an installation without it.
 */
async function main(): Promise<void> {
  const url = process.env['DATABASE_URL']!;
  await prepare({ url, workDate: '2027-03-01', seed: 7, moreOrders: 0, demo: true, say: () => undefined });
  const child = fork('dist/server/main.js', [], {
    env: { ...process.env, PORT: '0', LOG_LEVEL: 'error' },
    execArgv: [],
  });
  const address = await new Promise<string>((resolve) =>
    child.once('message', (message) => resolve((message as { address: string }).address)),
  );
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
  await page.goto(address);
  await page.getByLabel('Name').fill(PEOPLE[0].signIn);
  await page.getByLabel('Password').fill(PEOPLE[0].password);
  await page.keyboard.press('Enter');
  await page.waitForURL('**/today');
  for (const [name, where, opens, tab] of VIEWS) {
    await page.goto(address + (where.startsWith('/') ? where : await placeOf(url, where as Place)));
    await page.locator('.title h1').waitFor();
    if (opens) await page.getByRole('button', { name: opens }).click();
    if (tab) await page.getByRole('tab', { name: tab }).click();
    await page.waitForTimeout(1200);
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
  }
  await browser.close();
  child.kill('SIGTERM');
}

main().then(
  () => process.exit(0),
  (error: Error) => {
    console.error(error.message);
    process.exit(1);
  },
);
