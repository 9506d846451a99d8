import type { Page } from '@playwright/test';
import { expect, sheet, signIn, test } from './world';

/** Finds by the find-or-do box and goes there, keys only. */
async function find(page: Page, words: string, entry: RegExp): Promise<void> {
  await page.keyboard.press('Control+K');
  await expect(page.getByRole('combobox', { name: 'Find or do' })).toBeFocused();
  await page.keyboard.type(words);
  await expect(page.getByRole('option', { name: entry }).first()).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
}

/** Presses Tab until the control with that label has the focus. */
async function tabTo(page: Page, label: string): Promise<void> {
  for (let tries = 0; tries < 40; tries += 1) {
    const name = await page.evaluate(() => {
      const at = document.activeElement as HTMLInputElement | null;
      return at?.getAttribute('aria-label') ?? at?.labels?.[0]?.textContent ?? at?.textContent ?? '';
    });
    if (name.trim() === label) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`no Tab leads to ${label}`);
}

test('by keyboard alone: from a new agreement to the vendor invoice', async ({ page }) => {
  await signIn(page);
  await find(page, 'New agr', /New agreement/);
  await expect(page.getByRole('heading', { name: /New agreement/ })).toBeVisible();

  await tabTo(page, 'Customer');
  await page.keyboard.type('nilam');
  await expect(page.getByRole('option', { name: /Nilam Dialysis Centre/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Customer')).toHaveValue('Nilam Dialysis Centre');
  await tabTo(page, 'Last day');
  await page.keyboard.type('+200');
  await page.keyboard.press('Alt+G');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await page.keyboard.type('2540');
  await expect(page.locator('.lookup-editor [role="option"]')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.locator('k-grid [row-index="0"] [col-id="item"]')).toHaveText('RO-2540');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('30');
  await page.keyboard.press('Tab');
  await expect(page.locator('k-grid [row-index="0"] [col-id="committed"]')).toHaveText('30');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /AG-\d+ with Nilam Dialysis Centre\s*in force/ })).toBeVisible();

  await page.keyboard.press('Control+Enter');
  await expect(sheet(page).getByLabel('Quantity of RO-2540')).toBeFocused();
  await page.keyboard.type('9');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('+15');
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.type('ND-55');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /SO-\d+ for Nilam Dialysis Centre\s*draft/ })).toBeVisible();

  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /SO-\d+ for Nilam Dialysis Centre\s*confirmed/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(sheet(page)).toContainText('Arus Membrane Supply to');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status')).toContainText('Placed: PO-');
  await expect(page.getByRole('button', { name: 'Ship…' })).toBeVisible();

  await page.keyboard.press('Control+Enter');
  await expect(sheet(page).getByLabel('Quantity of RO-2540')).toHaveValue('9');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status')).toContainText('Shipped: SH-');
  await expect(page.getByRole('button', { name: 'Invoice what went out…' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(sheet(page)).toContainText('Tax 6 %');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status')).toContainText('Invoiced: CI-');

  const purchase = /PO-\d{4}/.exec((await page.locator('k-thread').textContent()) ?? '')![0];
  await find(page, purchase, new RegExp(purchase));
  await expect(page.getByRole('heading', { name: new RegExp(purchase) })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(sheet(page).getByLabel('Their invoice number')).toBeFocused();
  await page.keyboard.type('ARUS-KEYS');
  await expect(sheet(page)).toContainText('Input tax');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status')).toContainText('Entered: VI-');
  await expect(page.getByRole('heading', { name: new RegExp(`${purchase} .*closed`) })).toBeVisible();

  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+2');
  await expect(page).toHaveURL(/agreements$/);
});
