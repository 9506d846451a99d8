import { AxeBuilder } from '@axe-core/playwright';
import { test as base, expect, type Page } from '@playwright/test';
import { connect } from '../server/db';
import { migrate } from '../server/db/migrate';
import { newFirstWord } from '../server/setup';
import { copyOfTemplate } from '../server/testing/copy';
import { verify } from '../server/verify';
import { cell, sheet, startServer } from './world';

interface Empty {
  address: string;
  /** The word the last start printed. */
  word(): Promise<string>;
}

/** An installation nobody has begun in, for each test. */
const test = base.extend<{ empty: Empty }>({
  empty: async ({}, use) => {
    const { url, drop } = await copyOfTemplate('empty', async (from) => {
      await migrate(from, 'server/db/sql');
      return '';
    });
    const database = connect(url, 2);
    const { child, address } = await startServer(url);
    await use({ address, word: async () => (await newFirstWord(database))! });
    const differences = await verify(database);
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await database.close();
    await ended;
    await drop();
    expect(differences).toEqual([]);
  },
  baseURL: async ({ empty }, use) => use(empty.address),
});

async function serious(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode(true).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id} at ${nodes[0]?.html.slice(0, 160)}`);
}

/** Writes the letter of the first visitor and sends it. */
async function begin(page: Page, word: string): Promise<void> {
  await page.goto('/');
  await expect(page).toHaveURL(/\/begin$/);
  await page.getByLabel('name of the company', { exact: true }).fill('Sungai Jernih Pools');
  await page.getByLabel('currency', { exact: true }).selectOption('MYR');
  await page.getByLabel('your name').fill('Zainab');
  await page.getByLabel('sign-in name').fill('zainab');
  await page.getByLabel('password').fill('river-otter-lamp');
  await page.getByLabel('word printed at the start').fill(word);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Before the first order', exact: true })).toBeVisible();
}

/** Takes the first order, to where it may be shipped. */
async function firstOrder(page: Page, customer: string, item: string): Promise<void> {
  await page.goto('/orders/new');
  await page.getByLabel('Customer', { exact: true }).fill(customer);
  await page.getByRole('option', { name: new RegExp(customer) }).click();
  await page.getByRole('button', { name: 'Paste…' }).click();
  await page.getByLabel('Rows from a spreadsheet').fill(`${item}\t4`);
  await page.getByRole('button', { name: 'Add 1 line' }).click();
  await expect(cell(page, 0, 'amount')).not.toHaveText('');
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page).toHaveURL(/\/orders\/\d+/);
  await expect(page.getByText('SO-0001').first()).toBeVisible();
}

test('by hand: a letter, an item, a customer, an order', async ({ page, empty }) => {
  const word = await empty.word();
  await page.goto('/');
  await expect(page).toHaveURL(/\/begin$/);
  expect(await serious(page)).toEqual([]);
  // Left half-way, nothing is lost but the words nobody else may know.
  await page.getByLabel('name of the company', { exact: true }).fill('Sungai Jernih');
  await page.getByLabel('password').fill('river-otter-lamp');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('This is not the word that was printed')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('name of the company', { exact: true })).toHaveValue('Sungai Jernih');
  await expect(page.getByLabel('password')).toHaveValue('');
  await begin(page, word);

  await page.goto('/kept/item/new');
  await page.getByLabel('Number', { exact: true }).fill('CL-10');
  await page.getByLabel('Name', { exact: true }).last().fill('Chlorine tablets, 10 kg');
  await page.getByLabel('Unit', { exact: true }).fill('tub');
  await page.getByLabel('List price', { exact: true }).fill('185');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name: /Chlorine tablets/ })).toBeVisible();
  expect(await serious(page)).toEqual([]);

  await page.goto('/kept/customer/new');
  await page.getByLabel('Number', { exact: true }).fill('C-1');
  await page.getByLabel('Name', { exact: true }).last().fill('Kolam Sri Ayu');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name: /Kolam Sri Ayu/ })).toBeVisible();
  await page.getByRole('button', { name: 'Another… row of Addresses' }).click();
  await page.getByLabel('Called').fill('Pump house');
  await page.getByLabel('Street').fill('Jalan Renang 2');
  await page.getByLabel('Town').fill('Ipoh');
  await page.getByLabel('Country').fill('MY');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText('Jalan Renang 2')).toBeVisible();

  await page.goto('/opening');
  await page.getByLabel(/Pasted from a spreadsheet/).fill('CL-10\tMAIN\t40\t121');
  await expect(page.getByText('worth 4,840.00 together')).toBeVisible();
  await page.getByRole('button', { name: 'Post 1 line' }).click();
  await expect(page.getByText('1 line on hand.')).toBeVisible();
  // What the customer owed before: one line is not theirs to have; posted again it changes nothing.
  await page.getByRole('link', { name: 'Owed by customers' }).click();
  const owed = 'Kolam Sri Ayu\tOLD-7\t2020-01-14\t2020-02-13\t1,240.50';
  const pasted = page.getByLabel(/Pasted from a spreadsheet: customer/);
  await pasted.fill(`Customer\tNumber\tInvoiced\tDue\tOwed\n${owed}\nKolam Sri Ayu\tCI-0001\t1/1/20\t1/1/20\t5`);
  await expect(page.getByText('Kampong will number an invoice of its own CI-0001')).toBeVisible();
  await page.getByRole('button', { name: 'Take the good lines' }).click();
  await expect(page.getByText('1 invoice opened.')).toBeVisible();
  await pasted.fill(owed);
  await expect(page.getByText('1 line stands so already')).toBeVisible();
  await page.getByRole('button', { name: 'Post 1 line' }).click();
  await expect(page.getByText('All of it stands so already.')).toBeVisible();

  await firstOrder(page, 'Kolam', 'CL-10');
  await page.getByRole('button', { name: 'Ship…' }).click();
  await sheet(page).getByRole('button', { name: 'Ship', exact: true }).click();
  await page.getByRole('button', { name: 'Invoice what went out…' }).click();
  await page.getByRole('button', { name: 'Post the invoice' }).click();
  await expect(page.getByRole('status').getByRole('link', { name: /CI-/ })).toBeVisible();
  await page.goto('/today');
  await expect(page.getByRole('heading', { name: /^\w+day / })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Before the first order', exact: true })).toBeHidden();
});

test('from five files, in the wrong order; then somebody is let in, limited, and put out of use', async ({
  page,
  empty,
  browser,
}) => {
  await begin(page, await empty.word());
  await page.goto('/bring-in');
  const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page
    .locator('input[type=file]')
    .setInputFiles([
      file('sells.csv', 'Item,Vendor,Price,Lead days\nCL-10,V-1,121,4'),
      file('addresses.csv', 'Customer,Called,Street,Town,Country\nC-1,Pump house,Jalan Renang 2,Ipoh,MY'),
      file('customers.csv', 'Number,Name,Currency,Pays\nC-1,Kolam Sri Ayu,MYR,30 days\nC-2,Odd,XQZ,30 days'),
      file('items.csv', 'Number;Name;Unit;List price;Supplied by;We keep it\nCL-10;Chlorine;tub;185;our stock;yes'),
      file('vendors.csv', 'Number,Name,Currency\nV-1,Kapur Jernih,MYR'),
    ]);
  await expect(page.locator('tbody')).toHaveCount(5);
  await expect(page.getByText('The currency is not known in this company')).toBeVisible();
  expect(await serious(page)).toEqual([]);
  const take = (name: string) => page.locator('tbody', { hasText: name }).getByRole('button', { name: /^Take/ });
  for (const name of ['customers.csv', 'items.csv', 'vendors.csv', 'addresses.csv', 'sells.csv']) {
    await take(name).click();
    await expect(page.locator('tbody', { hasText: name }).getByText('taken', { exact: true })).toBeVisible();
  }
  await firstOrder(page, 'Kolam', 'CL-10');

  await page.goto('/people');
  expect(await serious(page)).toEqual([]);
  await page.getByLabel('Who', { exact: true }).fill('Karim');
  await page.getByLabel('As', { exact: true }).selectOption({ label: 'Stock keeper' });
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.locator('.made code').innerText();
  const context = await browser.newContext();
  const karim = await context.newPage();
  await karim.goto(link);
  await karim.getByLabel('Sign in as').fill('karim');
  await karim.getByLabel('Password').fill('pallet-otter-sun');
  await karim.getByRole('button', { name: 'Come in' }).click();
  await expect(karim.getByRole('link', { name: 'Stock' })).toBeVisible();
  await expect(karim.getByRole('link', { name: 'Billing' })).toBeHidden();
  await page.reload();
  await page.getByRole('row', { name: /karim/ }).getByRole('button', { name: 'Put out of use' }).click();
  await expect(page.getByText('Karim works here no more')).toBeVisible();
  await karim.goto('/stock');
  await expect(karim).toHaveURL(/\/sign-in/);
  await context.close();
});

test('a second company sees nothing of the first', async ({ page, empty }) => {
  await begin(page, await empty.word());
  await page.goto('/kept/vendor/new');
  await page.getByLabel('Number', { exact: true }).fill('V-1');
  await page.getByLabel('Name', { exact: true }).last().fill('Kapur Jernih');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name: /Kapur Jernih/ })).toBeVisible();
  await page.goto('/companies/new');
  await page.getByLabel('name of the company', { exact: true }).fill('Tasik Jernih Supplies');
  await page.getByLabel('currency', { exact: true }).selectOption('SGD');
  await page.getByRole('button', { name: 'Make the company' }).click();
  await expect(page.getByText('Tasik Jernih Supplies').first()).toBeVisible();
  await page.goto('/lists?list=vendors');
  await expect(page.getByRole('heading', { name: /Vendors/ })).toBeVisible();
  await expect(page.getByText('Kapur Jernih')).toBeHidden();
});
