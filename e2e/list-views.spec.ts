import { expect, sheet, signIn, test } from './world';

test('orders are narrowed to days, sorted, kept as a view, and found again by it', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders');
  await page.getByRole('button', { name: '+ First goes out' }).click();
  await page.keyboard.type('..+60');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/ships=\.\.(%2B|\+)60/);
  await expect(page.getByText('First goes out up to', { exact: false })).toBeVisible();
  const head = page.locator('k-grid .ag-header-cell[col-id="net"]');
  await head.click();
  await expect(head).toHaveAttribute('aria-sort', 'ascending');
  await head.click();
  await expect(head).toHaveAttribute('aria-sort', 'descending');
  // By their place: the grid keeps rows in the page in any order.
  const nets = () =>
    page.locator('k-grid .ag-row').evaluateAll((rows) =>
      rows
        .filter((row) => row.querySelector('[col-id="net"]'))
        .sort((one, other) => Number(one.getAttribute('row-index')) - Number(other.getAttribute('row-index')))
        .map((row) => Number(row.querySelector('[col-id="net"]')!.textContent.replace(/[^\d.]/g, ''))),
    );
  await expect
    .poll(async () => (await nets()).slice(0, 4).every((net, at, all) => at === 0 || net <= all[at - 1]!))
    .toBe(true);

  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Released from' }).click();
  await page.keyboard.press('Escape');
  await expect(page.locator('k-grid .ag-header-cell[col-id="agreement"]')).toHaveCount(0);
  await page.getByRole('button', { name: /Not a view/ }).click();
  await page.getByRole('menuitem', { name: 'Keep this as a view…' }).click();
  await sheet(page).getByLabel('Name').fill('Largest first');
  await sheet(page).getByRole('button', { name: 'Keep the view' }).click();

  // Everything, then the view again: its days, its order, its columns.
  await page.goto('/orders');
  await page.getByRole('button', { name: 'All orders' }).click();
  await page.getByRole('menuitem', { name: /Largest first/ }).click();
  await expect(page).toHaveURL(/sort=net-down/);
  await expect(head).toHaveAttribute('aria-sort', 'descending');
  await expect(page.locator('k-grid .ag-header-cell[col-id="agreement"]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Take off First goes out' }).click();
  await expect(page).not.toHaveURL(/ships=/);
  await page.getByRole('button', { name: /Not a view/ }).click();
  await page.getByRole('menuitem', { name: /Largest first/ }).click();
  await page.getByRole('button', { name: /Largest first/ }).click();
  await page.getByRole('menuitem', { name: 'Drop “Largest first”' }).click();
  await expect(page.getByRole('button', { name: /Not a view/ })).toBeVisible();
});

test('an accounts clerk by keyboard: two orders on one invoice, what is owed by age, a reminder drafted', async ({
  page,
}) => {
  await signIn(page);
  // Two orders of one customer go out.
  for (const reference of ['CLERK-1', 'CLERK-2']) {
    await page.goto('/orders/new?customer=C-208');
    await expect(page.getByLabel('Customer')).toHaveValue('Kasturi Bottling');
    await page.getByRole('button', { name: 'Fill…' }).click();
    await sheet(page).getByRole('radio', { name: 'Shelf' }).click();
    await sheet(page).getByLabel('Look for a number or name').fill('GAC');
    await sheet(page).getByLabel('Take of GAC-25 at EAST, bag').fill('2');
    await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
    await page.getByLabel('Their reference').fill(reference);
    await page.getByRole('button', { name: 'Confirm', exact: true }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText(/SO-\d+ for Kasturi Bottling/);
    await page.getByRole('button', { name: 'Ship…' }).click();
    await sheet(page).getByRole('button', { name: /^Ship/ }).click();
    await expect(page.getByRole('button', { name: /^Invoice/ })).toBeVisible();
  }
  await page.getByRole('button', { name: 'Salmah' }).click();
  await page.getByRole('menuitem', { name: /Sign out/ }).click();

  await signIn(page, 'farida');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('owed by age');
  await expect(page.getByRole('option', { name: /Owed by age/ }).first()).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/open-by-age/);
  await expect(page.getByText('past due', { exact: false }).first()).toBeVisible();
  const late = page.locator('k-grid .ag-row').filter({ hasNotText: /–\s*$/ }).first();
  await late.locator('input[type=checkbox]').focus();
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Draft 1 reminder…' }).press('Enter');
  await expect(sheet(page)).toContainText(/[Rr]eminder: MYR [\d,.]+ past due/);
  await sheet(page).getByRole('button', { name: 'Draft 1 reminder' }).press('Enter');
  await expect(page.getByText('Drafted; they wait in the mail room to be sent.')).toBeVisible();

  await page.goto('/orders?customer=C-208&state=confirmed');
  for (const reference of ['CLERK-1', 'CLERK-2']) {
    await page.locator('k-grid .ag-row').filter({ hasText: reference }).locator('input[type=checkbox]').click();
  }
  await expect(page.getByText('2 marked')).toBeVisible();
  await page.getByRole('button', { name: 'Invoice 2 orders…' }).press('Enter');
  await expect(sheet(page)).toContainText('2 orders on one invoice');
  await sheet(page).getByRole('button', { name: 'Post the invoice' }).press('Enter');
  await page
    .getByRole('link', { name: /^CI-\d+$/ })
    .last()
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/CI-\d+/);
});
