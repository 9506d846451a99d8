import { cell, expect, sheet, signIn, test } from './world';

/** Puts rows of a spreadsheet onto the clipboard's way into the focused cell. */
const PASTE = (text: string) => {
  const data = new DataTransfer();
  data.setData('text/plain', text);
  document.activeElement!.dispatchEvent(
    new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
  );
};

test('prices pasted into their list, one of them bad, price the next order', async ({ page }) => {
  await signIn(page);
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('keep prices');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /Kept prices/ })).toBeVisible();
  await cell(page, 0, 'item').click();
  await page.evaluate(
    PASTE,
    'PM-15\tKasturi Bottling\t\tpiece\t2\t1,111\tMYR\t\t\nXX-9\t\tGrowers\tpiece\t\t4\tMYR\nRO-2540\t\tGrowers\tbox\t\t4\tMYR',
  );
  await page.getByRole('button', { name: 'Keep 3 changes' }).click();
  await expect(page.getByText('The item is not known in this company; choose one from the list.')).toBeVisible();
  await expect(page.getByText('RO-2540 is not sold in that unit; choose from piece.')).toBeVisible();
  await expect(cell(page, 2, 'item')).toHaveClass(/cell-bad/);

  // What is typed outlives the page; the bad rows are mended or taken out, and nothing was written before.
  await page.reload();
  await expect(page.getByRole('button', { name: 'Keep 3 changes' })).toBeVisible();
  await cell(page, 2, 'item').click();
  await page.keyboard.press('Control+Delete');
  await cell(page, 2, 'unit').dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('piece');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep 2 changes' }).click();
  await expect(page.getByText('2 changes kept.')).toBeVisible();

  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Kasturi');
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await page.getByRole('button', { name: 'Paste…' }).click();
  await page.getByLabel('Rows from a spreadsheet').fill('PM-15\t2');
  await page.getByRole('button', { name: 'Add 1 line' }).click();
  await expect(cell(page, 0, 'amount')).toHaveText('2,222.00');
});

test('an allowance lessens an invoice, and is told on it', async ({ page }) => {
  await signIn(page);
  await page.goto('/lists?list=allowances');
  await cell(page, 0, 'measure').click();
  await page.evaluate(PASTE, 'quantity\tSinar Laut Ferries\t\t1\t\t4');
  await page.getByRole('button', { name: 'Keep 1 change' }).click();
  await expect(page.getByText('1 change kept.')).toBeVisible();

  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Sinar');
  await page.getByRole('option', { name: /Sinar Laut Ferries/ }).click();
  await page.getByLabel('Their reference').fill('SLF-9');
  await page.getByRole('button', { name: 'Paste…' }).click();
  await page.getByLabel('Rows from a spreadsheet').fill('SALT-25\t10\t\t\t30');
  await page.getByRole('button', { name: 'Add 1 line' }).click();
  await expect(cell(page, 0, 'amount')).toHaveText('300.00');
  await cell(page, 0, 'route').dblclick();
  await page.getByRole('option', { name: 'our stock', exact: true }).click();
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await page.getByRole('button', { name: 'Ship…' }).click();
  await sheet(page).getByRole('button', { name: 'Ship', exact: true }).click();
  await page.getByRole('button', { name: 'Invoice what went out…' }).click();
  await expect(
    page.getByRole('row', { name: /Allowance by quantity: 4 % from 1 units; 10 units here −12\.00/ }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Post the invoice' }).click();
  await page.getByRole('status').getByRole('link', { name: /CI-/ }).click();
  await expect(page.getByText('Allowance by quantity: 4 % from 1 units; 10 units here')).toBeVisible();
});

test('a rate that is kept is what goods are received at, and their invoice tells what it moved', async ({ page }) => {
  await signIn(page);
  await page.goto('/lists?list=rates');
  await cell(page, 0, 'currency').click();
  await page.evaluate(PASTE, 'usd\t1/3\t4.6');
  await page.getByRole('button', { name: 'Keep 1 change' }).click();
  await expect(page.getByText('1 change kept.')).toBeVisible();

  await page.goto('/purchases?q=Samudra&state=placed');
  await cell(page, 0, 'number').getByRole('link').click();
  await expect(page.getByText('Samudra Membrane Export').first()).toBeVisible();
  await page.getByRole('button', { name: 'Receive…' }).click();
  await sheet(page).getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByText(/Received:/)).toBeVisible();

  // An invoice of a day before the new rate: what the currency moved is told apart from their price.
  await page.getByRole('button', { name: 'Their invoice…' }).click();
  await sheet(page).getByLabel('Their invoice number').fill('SME-90001');
  await sheet(page).getByLabel('Invoice date').fill('27/2');
  await sheet(page)
    .getByLabel(/Price of FC-10/)
    .fill('0.75');
  await expect(sheet(page).getByText('MYR 28,546.86 at 4.4885', { exact: false })).toBeVisible();
  await expect(sheet(page).getByText(/the rate gains MYR 660\.08 since it came/)).toBeVisible();
  await expect(sheet(page).getByText(/USD 80\.00 differs from what was ordered/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Enter the invoice' }).click();
  await page.getByRole('tab', { name: 'Documents' }).click();
  await page
    .getByRole('link', { name: /^RC-\d+$/ })
    .first()
    .click();
  await expect(page.getByText('USD at 4.6')).toBeVisible();
});
