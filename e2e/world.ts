import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { CHANDRA, HAFIZ, layDemo, PEOPLE, SELLERS, placeOf, type Place } from '../demo';
import { connect } from '../server/db';
import { migrate } from '../server/db/migrate';
import { copyOfTemplate } from '../server/testing/copy';
import { startServer as start } from '../server/testing/process';
import { verify } from '../server/verify';

export interface Demo {
  address: string;
  url: string;
  verify(): Promise<string[]>;
}

async function startDemo(): Promise<Demo & { end(): Promise<void> }> {
  const { url, drop } = await copyOfTemplate('demo', async (from) => {
    await migrate(from, 'server/db/sql');
    const laid = connect(from, 4);
    await layDemo(laid, { seed: 7, moreOrders: 0, workDate: '2027-03-01', fixed: true });
    await laid.close();
    return '';
  });
  const database = connect(url, 4);
  const { child, address } = await startServer(url);
  return {
    address,
    url,
    verify: () => verify(database),
    async end() {
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await database.close();
      await ended;
      await drop();
    },
  };
}

export function startServer(url: string, port = '0'): ReturnType<typeof start> {
  return start(url, { PORT: port, CHECK_ANSWERS: 'yes' });
}

/** A demo for each file; what the browser complains of fails the test. */
export const test = base.extend<{ quiet: void }, { demo: Demo }>({
  demo: [
    async ({}, use) => {
      const demo = await startDemo();
      await use(demo);
      const differences = await demo.verify();
      await demo.end();
      expect(differences).toEqual([]);
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  baseURL: async ({ demo }, use) => use(demo.address),
  quiet: [
    async ({ page }, use) => {
      const complaints: string[] = [];
      page.on('pageerror', (error) => complaints.push(error.message));
      page.on('console', (message) => {
        // Refusals are answers too; the browser logs their status.
        if (message.type() === 'error' && !/status of (4\d\d|503)|net::ERR/.test(message.text()))
          complaints.push(message.text());
      });
      await use();
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export async function signIn(page: Page, name = 'salmah'): Promise<void> {
  const person = [...PEOPLE, HAFIZ, ...SELLERS, CHANDRA].find((each) => each.signIn === name)!;
  await page.goto('/');
  await page.getByLabel('Name').fill(person.signIn);
  await page.getByLabel('Password').fill(person.password);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Monday 1 March' })).toBeVisible();
}

/** A cell of the grid, by its row and the column's id. */
export function cell(page: Page, row: number, column: string): Locator {
  return page.locator(`k-grid .ag-row[row-index="${row}"] [col-id="${column}"]`);
}

/** Types into a grid cell with the mouse, leaving it with Tab. */
export async function typeCell(page: Page, row: number, column: string, text: string): Promise<void> {
  await cell(page, row, column).dblclick();
  await page.keyboard.press('Control+A');
  await page.keyboard.type(text);
  await page.keyboard.press('Tab');
}

/** Finds an item in a grid's item cell with the mouse. */
export async function pickItem(page: Page, row: number, number: string): Promise<void> {
  await cell(page, row, 'item').dblclick();
  await page.getByRole('combobox', { name: 'Item' }).fill(number);
  await page.locator('.lookup-editor [role="option"]', { hasText: number }).first().click();
  await expect(cell(page, row, 'item')).toHaveText(number);
}

export function sheet(page: Page): Locator {
  return page.locator('k-sheet');
}

/** Where a document of the demo is, by what it is. */
export function pathOfDemo(demo: Demo, what: Place): Promise<string> {
  return placeOf(demo.url, what);
}
