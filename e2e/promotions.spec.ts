import type { Page } from '@playwright/test';
import { expect, sheet, signIn, test } from './world';

const field = (page: Page) => page.getByRole('combobox', { name: /^Bar code/ });
const line = (page: Page, item: string) => page.getByRole('row', { name: new RegExp(item) });

/** A slip of one item at the counter, kept for the till. */
async function keep(page: Page, text: string, item: string): Promise<string> {
  await page.goto('/counter');
  await field(page).fill(text);
  await expect(page.locator('#one-field-choices [role="option"]').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(line(page, item).first()).toBeVisible();
  return (await page.getByRole('link', { name: /^SO-/ }).innerText()).trim();
}

test('a promotion takes off and gives free goods while its budget lasts, and runs out', async ({ page }) => {
  await signIn(page);
  await page.goto('/promotions?do=new');
  await sheet(page).getByLabel('Name').fill('Valve days');
  await sheet(page).getByLabel('Last day').fill('31/3');
  await sheet(page).getByLabel('May cost at most, MYR').fill('100');
  await sheet(page).getByLabel('Item 1').fill('VA-50');
  await page.getByRole('option', { name: /VA-50A/ }).click();
  await sheet(page).getByLabel('Gives 1').selectOption({ label: 'so much off each' });
  await sheet(page).getByRole('button', { name: 'Keep it' }).click();
  await expect(sheet(page).getByText(/^The amount /)).toBeVisible();
  await sheet(page).getByLabel('Off each 1').fill('40');
  await sheet(page).getByRole('button', { name: 'Another line' }).click();
  await sheet(page).getByLabel('Item 2').fill('FC-10');
  await page.getByRole('option', { name: /FC-10/ }).click();
  await sheet(page).getByLabel('Gives 2').selectOption({ label: 'goods for nothing' });
  await sheet(page).getByLabel('For every so many 2').fill('5');
  await sheet(page).getByLabel('So many free 2').fill('1');
  await sheet(page).getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/PM-\d+ Valve days/);
  await expect(page.getByText('for every 5 bought 1 free')).toBeVisible();
  const address = page.url();

  // Twice off, and a third time there is too little left of it.
  const first = await keep(page, '2 x va-50a', 'VA-50A');
  await page.getByRole('link', { name: first, exact: true }).click();
  await expect(page.getByRole('row', { name: /VA-50A/ })).toContainText('PM-');
  await keep(page, '1 x va-50a', 'VA-50A');
  await page.goto(address);
  await expect(page.getByText('MYR 20.00 left of 100.00')).toBeVisible();
  // What is left still gives goods for nothing, as a line of their own.
  const free = await keep(page, '10 x fc-10', 'FC-10');
  await expect(line(page, 'FC-10')).toHaveCount(2);
  await expect(line(page, 'FC-10').nth(1)).toContainText('0.00');
  await page.getByRole('link', { name: free, exact: true }).click();
  await expect(page.getByText(/free, PM-/)).toBeVisible();
  await page.goto(address);
  await expect(page.getByText('Of it invoiced').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop it…' }).click();
  await sheet(page).getByLabel('Why').fill('Enough is given');
  await sheet(page).getByRole('button', { name: 'Stop it' }).click();
  await expect(page.getByText('stopped: Enough is given')).toBeVisible();
});

test('commission goes on a statement, is paid once, and is seen by who earned it', async ({ page }) => {
  await signIn(page);
  await page.goto('/commission');
  const whose = page.getByLabel('Whose commission');
  await whose.selectOption({ label: await whose.locator('option', { hasText: 'Tomás' }).innerText() });
  await expect(page.getByText(/of Tomás on no statement yet/)).toBeVisible();
  await page.getByRole('button', { name: 'Make a statement…' }).click();
  await sheet(page).getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/CS-\d+ for Tomás/);
  await page.getByRole('button', { name: 'Pay it…' }).click();
  await sheet(page).getByRole('button', { name: 'Pay it' }).click();
  await expect(page.getByText(/, paid$/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pay it…' })).toBeHidden();
  const number = (await page.getByRole('heading', { level: 1 }).innerText()).slice(0, 7);

  await page.context().clearCookies();
  await signIn(page, 'tomas');
  await page.goto('/commission');
  await expect(page.getByRole('link', { name: number })).toBeVisible();
  await expect(page.getByLabel('Whose commission')).toHaveCount(0);
  await page.getByRole('link', { name: number }).click();
  await expect(page.getByRole('cell', { name: /% of/ }).first()).toBeVisible();
});

test('a claim on a vendor is settled against an invoice of theirs', async ({ page }) => {
  await signIn(page);
  await page.goto('/claims');
  await page.getByRole('link', { name: 'CL-0001' }).click();
  await expect(page.getByText('MYR 650.00, 325.00 of it open')).toBeVisible();
  await page.getByRole('button', { name: 'Settle against an invoice…' }).click();
  await expect(sheet(page).getByText('MYR 325.00 of both is settled.')).toBeVisible();
  await sheet(page)
    .getByLabel(/^Amount/)
    .fill('1000');
  await sheet(page).getByRole('button', { name: 'Settle it' }).click();
  await expect(sheet(page).getByText(/more than can be settled/)).toBeVisible();
  await sheet(page)
    .getByLabel(/^Amount/)
    .fill('300');
  await sheet(page).getByRole('button', { name: 'Settle it' }).click();
  await expect(page.getByText('25.00 of it open')).toBeVisible();
});
