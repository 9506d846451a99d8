import { cell, expect, pickItem, sheet, signIn, test, typeCell } from './world';

test('a confirmed order is changed with a reason, closed short in part, and opened again', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Kasturi');
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await page.getByLabel('Their reference').fill('KB-1');
  await pickItem(page, 0, 'GAC-25');
  await typeCell(page, 0, 'quantity', '6');
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Kasturi Bottling\s*confirmed/ })).toBeVisible();

  // Begun and left: nothing is another.
  await page.getByRole('button', { name: 'Change…' }).click();
  await typeCell(page, 0, 'quantity', '60');
  await page.getByRole('button', { name: 'Leave it as it was' }).click();
  await expect(page.getByRole('row', { name: /GAC-25 .* 6 bag/ })).toBeVisible();

  // What was typed of a change comes back with the page.
  await page.getByRole('button', { name: 'Change…' }).click();
  await typeCell(page, 0, 'quantity', '9');
  await page.getByLabel('Their reference').fill('KB-2');
  await pickItem(page, 1, 'SALT-25');
  await typeCell(page, 1, 'quantity', '4');
  await page.reload();
  await expect(page.getByRole('heading', { name: /being changed/ })).toBeVisible();
  await expect(cell(page, 0, 'quantity')).toHaveText('9');
  await page.getByRole('button', { name: 'Keep the change…' }).click();
  await expect(sheet(page).getByRole('row', { name: 'quantity of line 1 6 9' })).toBeVisible();
  await expect(sheet(page).getByRole('row', { name: 'their reference KB-1 KB-2' })).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Change it' }).click();
  await expect(sheet(page).getByText('The reason is needed.')).toBeVisible();
  await sheet(page).getByLabel('Why').fill('They rang: more, and salt');
  await sheet(page).getByRole('button', { name: 'Change it' }).click();
  await expect(page.getByRole('heading', { name: /confirmed · revision 1 · 2 lines/ })).toBeVisible();
  const dock = page.getByRole('region', { name: 'Dock' });
  await dock.getByRole('tab', { name: 'Changes' }).click();
  await expect(dock.getByText('They rang: more, and salt')).toBeVisible();
  await expect(dock.getByText('quantity of line 1 6 → 9')).toBeVisible();

  // What stands against it is said at its cell, before any reason is asked for.
  await page.getByRole('button', { name: 'Ship…' }).click();
  await sheet(page).getByRole('button', { name: /^Ship/ }).click();
  await expect(page.getByText(/SH-\d+/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Change…' }).click();
  await typeCell(page, 0, 'quantity', '2');
  await page.getByRole('button', { name: 'Keep the change…' }).click();
  await expect(page.getByText(/9 of GAC-25 came for SO-\d+/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Leave it as it was' }).click();
});

test('what was bought for an order moves along with its change, both ends in one act', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders?q=SO-0052');
  await page.locator('.ag-row').first().dblclick();
  await expect(page.getByRole('heading', { name: /SO-0052/ })).toBeVisible();
  await page.getByRole('button', { name: 'Change…' }).click();
  await typeCell(page, 0, 'quantity', '12');
  await page.getByRole('button', { name: 'Keep the change…' }).click();
  await expect(sheet(page).getByText('PO-0060: quantity of line 1 16 → 12.')).toBeVisible();
  // Left where it is, the purchase still brings sixteen: that is said, and refused.
  await sheet(page).getByLabel('PO-0060 moves along').uncheck();
  await expect(
    sheet(page)
      .getByText(/PO-0060/)
      .last(),
  ).toContainText('16');
  await sheet(page).getByLabel('PO-0060 moves along').check();
  await sheet(page).getByLabel('Why').fill('They need fewer');
  await sheet(page).getByRole('button', { name: 'Change it' }).click();
  await expect(page.getByRole('heading', { name: /SO-0052.*confirmed · revision \d+/ })).toBeVisible();
  const dock = page.getByRole('region', { name: 'Dock' });
  await dock.getByRole('link', { name: 'PO-0060' }).first().click();
  await expect(page.getByRole('heading', { name: /PO-0060/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /12/ }).first()).toBeVisible();
  await dock.getByRole('tab', { name: 'Changes' }).click();
  await expect(dock.getByText('quantity of line 1 16 → 12')).toBeVisible();
});

test('what leaves for another place is under way until it is said to be there', async ({ page }) => {
  await signIn(page, 'joko');
  await page.goto('/stock?q=SALT-25');
  await page.getByRole('link', { name: 'Move…' }).click();
  await sheet(page).getByLabel('To', { exact: true }).selectOption('East coast store');
  await sheet(page).getByLabel('How many, bag').fill('12');
  await sheet(page).getByLabel('They arrive').fill('+3');
  await expect(sheet(page).getByText(/12, under way until /)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Move them' }).click();
  await expect(page.getByText(/Moved: JR-\d+/)).toBeVisible();
  await page.goto('/stock?q=SALT-25');
  await expect(page.getByRole('row', { name: /SALT-25 .* Under way 12 / })).toBeVisible();
  await expect(page.getByRole('row', { name: /SALT-25 .* East coast store – – – 12 / })).toBeVisible();

  await page.getByRole('link', { name: 'Under way' }).click();
  await page.waitForURL('**/carriages');
  await page.getByRole('row', { name: /SALT-25/ }).click();
  await page.getByRole('button', { name: 'Another day…' }).click();
  await sheet(page).getByLabel('They arrive').fill('+5');
  await expect(sheet(page).getByText(/promised from that day on/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Keep the day' }).click();
  await page.getByRole('button', { name: 'SALT-25 arrived…' }).click();
  await sheet(page).getByLabel('How many, bag').fill('13');
  await expect(sheet(page).getByText(/12 of SALT-25 are under way/)).toBeVisible();
  await sheet(page).getByLabel('How many, bag').fill('5');
  await expect(sheet(page).getByText('7 stay under way')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'They are here' }).click();
  await expect(page.getByRole('img', { name: '5 of 12 arrived' })).toBeVisible();
  await page.getByRole('status').getByRole('link', { name: /JR-/ }).click();
  await page.getByRole('button', { name: 'Take it back…' }).click();
  await sheet(page).getByLabel('Why').fill('Counted the wrong pallet');
  await sheet(page).getByRole('button', { name: 'Take it back', exact: true }).click();
  await expect(page.getByText(/Taken back by/).first()).toBeVisible();
});
