import { expect, pickItem, signIn, test, typeCell } from './world';
import type { Page } from '@playwright/test';

/** A new draft order for that customer; its number. */
async function draftFor(page: Page, customer: string): Promise<string> {
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill(customer);
  await page.getByRole('option', { name: customer }).click();
  await pickItem(page, 0, 'SALT-25');
  await typeCell(page, 0, 'quantity', '3');
  await page.getByRole('button', { name: 'Save the draft' }).click();
  const heading = page.getByRole('heading', { name: /^SO-\d+ for/ });
  await expect(heading).toBeVisible();
  return /SO-\d+/.exec((await heading.textContent()) ?? '')![0];
}

/** To another document by its number, as one does from the middle of typing. */
async function find(page: Page, number: string): Promise<void> {
  await page.keyboard.press('Control+K');
  await page.keyboard.type(number);
  await expect(page.getByRole('option', { name: number })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: new RegExp(`^${number} for`) })).toBeVisible();
}

test('what is typed in one draft never stands in the next of its kind, and waits where it was typed', async ({
  page,
}) => {
  await signIn(page);
  const one = await draftFor(page, 'Teratai Bay Resort');
  const other = await draftFor(page, 'Kolam Ceria Swim Club');
  const reference = page.getByLabel('Their reference');

  await reference.fill('typed in the other');
  await find(page, one);
  await expect(reference).toHaveValue('');
  await reference.fill('typed in the one');
  await find(page, other);
  await expect(reference).toHaveValue('typed in the other');
  await find(page, one);
  await expect(reference).toHaveValue('typed in the one');

  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Draft saved' })).toBeVisible();
  await page.reload();
  await expect(reference).toHaveValue('typed in the one');
  await find(page, other);
  await expect(reference).toHaveValue('typed in the other');
});
