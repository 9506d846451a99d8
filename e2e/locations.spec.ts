import { cell, expect, sheet, signIn, test } from './world';

test('what is there is told by location, and a line goes out from where it is', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Kasturi');
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await page.getByLabel('Their reference').fill('KB-EAST');

  // From the shelf of the second place.
  await page.getByRole('button', { name: 'Fill…' }).click();
  await sheet(page).getByRole('radio', { name: 'Shelf' }).click();
  await sheet(page).getByLabel('Look for a number or name').fill('GAC');
  await sheet(page).getByLabel('Take of GAC-25 at EAST, bag').fill('3');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
  await expect(page.getByRole('row', { name: /GAC-25 .* our stock at EAST/ })).toBeVisible();
  const dock = page.getByRole('region', { name: 'Dock' });
  await dock.getByRole('tab', { name: 'Availability' }).click();
  const east = dock.getByRole('radio', { name: /^East coast store: \d+/ });
  await expect(east).toBeChecked();
  await expect(dock.getByText(/^3 GAC-25 at EAST can be had on /)).toBeVisible();
  // The purchase that comes there stands behind it; the main store has nothing to do with it.
  await expect(dock.getByRole('row', { name: /PO-\d+ Delima Chemicals \+20/ })).toBeVisible();
  await dock.getByRole('radio', { name: /^Main store: / }).click();
  await expect(dock.getByText(/^3 GAC-25 can be had on /)).toBeVisible();
  await expect(dock.getByText('Delima Chemicals')).toBeHidden();

  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByRole('row', { name: /GAC-25 .* \d+ free at EAST/ })).toBeVisible();

  // From the main store after all: held there, and shipped from there.
  await page.getByRole('button', { name: 'Supply of line 1…' }).click();
  await sheet(page).getByLabel('Supplied by').selectOption('our stock');
  await sheet(page).getByRole('button', { name: 'Keep it so' }).click();
  const row = page.getByRole('row', { name: /GAC-25 .* \d+ free/ });
  await expect(row).toBeVisible();
  await expect(row).not.toContainText('EAST');
  await page.getByRole('button', { name: 'Ship…' }).click();
  await sheet(page).getByRole('button', { name: /^Ship/ }).click();
  await expect(page.getByText(/SH-\d+/).first()).toBeVisible();
  await page.getByRole('link', { name: 'GAC-25' }).click();
  await expect(page.getByRole('row', { name: /^SH-\d+ .* Main store -?−?3 / })).toBeVisible();

  // Carried to where they are wanted.
  await page.getByRole('button', { name: 'Move…' }).click();
  await sheet(page).getByLabel('From').selectOption('Main store');
  await sheet(page).getByLabel('To', { exact: true }).selectOption('East coast store');
  await sheet(page).getByLabel('How many, bag').fill('9999');
  await expect(sheet(page).getByRole('alert')).toContainText('free at Main store');
  await sheet(page).getByLabel('How many, bag').fill('2');
  await sheet(page).getByRole('button', { name: 'Move them' }).click();
  await expect(page.getByText(/Moved: JR-\d+/)).toBeVisible();
  await expect(page.getByRole('row', { name: /^JR-\d+ .* East coast store 2 / })).toBeVisible();
});

test('stock is put right with its reason, and taken back by a journal that names it', async ({ page }) => {
  await signIn(page);
  await page.goto('/stock?q=SALT-25');
  const here = cell(page, 0, 'here');
  await expect(here).toHaveText(/^\d+$/);
  const known = Number(await here.innerText());
  await page.getByRole('button', { name: 'Put SALT-25 right…' }).click();
  await sheet(page).getByLabel('There are, bag').fill(String(known));
  await sheet(page).getByLabel('Why').fill('counted');
  await expect(sheet(page).getByText(/there is nothing to put right/)).toBeVisible();
  await sheet(page)
    .getByLabel('There are, bag')
    .fill(String(known - 2));
  await expect(sheet(page).getByText(/2 bags fewer, MYR .* to stock differences/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Put it right' }).click();
  await expect(here).toHaveText(String(known - 2));

  await page.getByRole('status').getByRole('link').click();
  await expect(page.getByText('counted')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back…' }).click();
  await sheet(page).getByLabel('Why').fill('behind the rack');
  await sheet(page).getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Taken back by', { exact: true })).toBeVisible();
  await page.goto('/stock?q=SALT-25');
  await expect(here).toHaveText(String(known));
});
