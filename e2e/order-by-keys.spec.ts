import type { Page } from '@playwright/test';
import { expect, signIn, test } from './world';

/** Presses keys one by one, and counts each. */
class Keys {
  count = 0;
  constructor(private readonly page: Page) {}

  async press(...keys: string[]): Promise<void> {
    for (const key of keys) {
      await this.page.keyboard.press(key);
      this.count += 1;
    }
  }

  async type(text: string): Promise<void> {
    await this.press(...[...text].map((key) => (key === ' ' ? 'Space' : key)));
  }
}

test('an order of three lines for whoever has that phone, in forty keys', async ({ page }) => {
  await signIn(page);
  const keys = new Keys(page);
  const cell = (row: number, column: string) =>
    page.locator(`k-order k-grid [row-index="${row}"] [col-id="${column}"]`);

  await keys.press('Control+k');
  await keys.type('n o 2202');
  await expect(page.getByRole('option', { name: /New order.*Kolam Ceria/ }).first()).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await keys.press('Enter');
  // The cursor stands on the item of the first line.
  await expect(page.getByLabel('Customer')).toHaveValue('Kolam Ceria Swim Club');
  await expect(page.locator('k-order .ag-cell-focus[col-id="item"]')).toBeVisible();
  let row = 0;
  for (const [words, number, quantity] of [
    ['GAC', 'GAC-25', '2'],
    ['SALT', 'SALT-25', '5'],
    ['UV', 'UV-40', '1'],
  ] as const) {
    await keys.type(words);
    await expect(page.locator('.lookup-editor [role="option"]').first()).toContainText(number);
    await keys.press('Tab');
    await expect(cell(row, 'item')).toHaveText(number);
    await keys.type(quantity);
    await keys.press('Enter');
    await expect(cell(row, 'quantity')).toHaveText(quantity);
    row += 1;
    await expect(page.locator(`k-order [row-index="${row}"] .ag-cell-focus[col-id="item"]`)).toBeVisible();
  }
  await keys.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/SO-\d+ for Kolam Ceria Swim Club/);
  expect(keys.count).toBeLessThanOrEqual(40);
  await expect(page.getByRole('link', { name: 'GAC-25' })).toBeVisible();
});

test('Home and End stay in the row, and two boxes are two boxes', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new?customer=C-202');
  await expect(page.locator('k-order .ag-cell-focus[col-id="item"]')).toBeVisible();
  await page.keyboard.type('FC-10');
  await expect(page.locator('.lookup-editor [role="option"]').first()).toContainText('FC-10');
  await page.keyboard.press('Tab');
  await page.keyboard.type('2 box');
  await page.keyboard.press('Enter');
  await expect(page.locator('k-order [row-index="0"] [col-id="unit"]')).toHaveText('box');
  await expect(page.locator('k-order [row-index="0"] [col-id="quantity"]')).toHaveText('2');
  await page.keyboard.press('End');
  await expect(page.locator('k-order [row-index="1"] .ag-cell-focus[col-id="route"]')).toBeVisible();
  await page.keyboard.press('Home');
  await expect(page.locator('k-order [row-index="1"] .ag-cell-focus[col-id="line"]')).toBeVisible();
});
