import { expect, pathOfDemo, sheet, signIn, startServer, test, typeCell, cell } from './world';

test('what another person does appears by itself, and the last units go once', async ({
  page,
  browser,
  baseURL,
  demo,
}) => {
  await signIn(page);
  await page.goto(await pathOfDemo(demo, 'ahead'));
  const before = await cell(page, 0, 'released').textContent();

  const other = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await signIn(other, 'rashid');
  await other.goto(page.url());
  for (const person of [page, other]) {
    await person.getByRole('button', { name: 'Release…' }).click();
    await sheet(person).getByLabel('Their reference').fill('TBR-BOTH');
    await sheet(person).getByLabel('Quantity of RO-4040').fill('30');
  }
  await expect(sheet(page).getByText('MYR 22,200.00')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Release as a sales order' }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Teratai Bay Resort/ })).toBeVisible();
  await sheet(other).getByRole('button', { name: 'Release as a sales order' }).click();
  await expect(sheet(other).getByText(/30 pieces of RO-4040 are more than the \d+ left on AG-\d+/)).toBeVisible();
  // What was typed is still there, and the page behind already shows the new figure.
  await expect(sheet(other).getByLabel('Quantity of RO-4040')).toHaveValue('30');
  await expect(cell(other, 0, 'released')).not.toHaveText(before!);
  await other.context().close();
});

test('an old version is refused and nothing typed is lost', async ({ page, browser, baseURL, demo }) => {
  await signIn(page);
  await page.goto(await pathOfDemo(demo, 'draft'));
  await page.getByLabel('About').fill('Membranes, as Salmah wants it');
  await typeCell(page, 0, 'committed', '44');

  const other = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await signIn(other, 'rashid');
  await other.goto(page.url());
  await other.getByLabel('About').fill('Membranes, as Rashid wants it');
  await other.getByRole('button', { name: 'Save the draft' }).click();
  await expect(other.getByRole('status').filter({ hasText: 'Draft saved' })).toBeVisible();

  await expect(page.getByText('was saved by somebody else while you typed')).toBeVisible();
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByText(/AG-\d+ was changed by Rashid meanwhile/)).toBeVisible();
  await expect(page.getByRole('cell', { name: 'Membranes, as Rashid wants it' })).toBeVisible();
  await expect(page.getByLabel('About')).toHaveValue('Membranes, as Salmah wants it');
  await expect(cell(page, 0, 'committed')).toHaveText('44');
  await page.getByRole('button', { name: 'Keep mine' }).click();
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Draft saved' })).toBeVisible();
  await other.reload();
  await expect(other.getByLabel('About')).toHaveValue('Membranes, as Salmah wants it');
  await other.context().close();
});

test('a draft survives a reload, and a lost server is said and forgiven', async ({ page, demo }) => {
  const { child, address } = await startServer(demo.url);
  await page.goto(address);
  await page.getByLabel('Name').fill('salmah');
  await page.getByLabel('Password').fill('jetty-lantern');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Monday 1 March' })).toBeVisible();
  await page.goto(`${address}/agreements/new`);
  await page.getByLabel('About').fill('Typed before the reload');
  // What the page reads to choose from does not come either.
  await page.route('**/api/item-groups*', (route) => route.abort());
  await page.reload();
  await expect(page.getByLabel('About')).toHaveValue('Typed before the reload');

  child.kill('SIGKILL');
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByText('Kampong cannot be reached just now')).toBeVisible();
  await expect(page.getByLabel('About')).toHaveValue('Typed before the reload');
  await expect(page.getByText('Not connected; trying again')).toBeVisible();

  const again = await startServer(demo.url, new URL(address).port);
  await expect(page.getByText('Not connected; trying again')).toBeHidden({ timeout: 15_000 });
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByText('The customer is needed.')).toBeVisible();
  again.child.kill('SIGTERM');
});
