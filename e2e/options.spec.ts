import { expect, sheet, signIn, test } from './world';

test('a skid with larger pumps: chosen by what goes together, made so, and worked on in its own way', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Rumah');
  await page.getByRole('option', { name: /Rumah Hijau Growers/ }).click();
  await page.getByLabel('Their reference').fill('RH-300');
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('SK-D2\t4\t\t30/3');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
  await page.getByRole('button', { name: 'Options…' }).click();
  await expect(sheet(page).getByRole('radio', { name: 'PM-15, as usual' })).toBeChecked();
  await sheet(page)
    .getByRole('radio', { name: /^PM-30/ })
    .check();
  await expect(sheet(page).getByText('PM-30 goes only with SK-PANEL-R')).toBeVisible();
  await expect(sheet(page).getByRole('button', { name: 'Take these' })).toBeDisabled();
  await sheet(page)
    .getByRole('radio', { name: /^SK-PANEL-R/ })
    .check();
  await expect(sheet(page).getByText('MYR +1,940.00 on each')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Take these' }).click();
  await expect(page.getByRole('row', { name: /SK-D2 .* with PM-30, SK-PANEL-R/ })).toBeVisible();
  // What is short of it is said while it is typed; and that it is more than they may owe, once it is asked for.
  await expect(page.getByText('SK-D2 takes 8 of PM-30; 6 are free')).toBeVisible();
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByRole('alert').getByText(/above their credit limit of 40,?000\.00/)).toBeVisible();
  await page.getByRole('gridcell', { name: '4', exact: true }).click();
  await page.keyboard.type('1');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  const line = page.getByRole('row', { name: /SK-D2 .* AS-\d+ firm/ });
  await expect(line).toBeVisible();

  await page
    .getByRole('region', { name: 'Dock' })
    .getByRole('link', { name: /Supply, AS-\d+/ })
    .click();
  await expect(page.getByRole('heading', { name: /^AS-\d+ assembles 1 SK-D2/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^PM-30 / })).toBeVisible();
  await expect(page.getByRole('row', { name: /^PM-15 / })).toHaveCount(0);
  await expect(page.getByText(/earns [\d,.]+, [\d.]+ %/)).toBeVisible();

  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Operations…' }).click();
  await sheet(page).getByRole('button', { name: 'Add an operation' }).click();
  await sheet(page).getByLabel('Operation 4').fill('Paint');
  await sheet(page).getByLabel('Work centre 4').selectOption('Assembly benches');
  await sheet(page).getByLabel('Minutes 4').fill('30');
  await expect(sheet(page).getByText(/\d+ minutes instead of \d+/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Change them' }).click();
  await expect(page.getByRole('row', { name: /^40 Paint Assembly benches / })).toBeVisible();
});

test('the workshop by day says what is behind and what waits, and leads to the bench', async ({ page }) => {
  await signIn(page, 'meilin');
  await page.goto('/workshop');
  await page.getByRole('link', { name: 'By day' }).click();
  await expect(page.getByRole('heading', { name: /^The workshop by day/ })).toBeVisible();
  const all = page.getByRole('radio', { name: /^All of it \d+/ });
  await expect(all).toBeChecked();
  const pieces = page.getByRole('link', { name: /^(PR|AS)-\d+ .* done/ });
  await expect(pieces.first()).toBeVisible();
  const many = await pieces.count();
  await all.press('ArrowRight');
  await expect(page.getByRole('radio', { name: /^To begin \d+/ })).toBeChecked();
  expect(await pieces.count()).toBeLessThanOrEqual(many);
  await all.click();
  const first = await pieces.first().getAttribute('aria-label');
  await pieces.first().click();
  await expect(page.getByRole('heading', { name: first!.split(' ')[0]! })).toBeVisible();
});
