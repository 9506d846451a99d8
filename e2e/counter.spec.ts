import type { Page } from '@playwright/test';
import { expect, sheet, signIn, test } from './world';

const field = (page: Page) => page.getByRole('combobox', { name: /^Bar code/ });

/** What is typed or scanned into the one field, and taken. */
async function write(page: Page, text: string): Promise<void> {
  await field(page).fill(text);
  if (/[a-z]/i.test(text)) await expect(page.locator('#one-field-choices [role="option"]').first()).toBeVisible();
  await page.keyboard.press('Enter');
}

const line = (page: Page, item: string) => page.getByRole('row', { name: new RegExp(item) });

test('agreed and paid ahead at the counter, called up at the till: only what was added is paid, part is not taken along', async ({
  page,
}) => {
  await signIn(page, 'hafiz');
  await page.goto('/counter');
  // Who, what, how many, by keyboard alone.
  await expect(field(page)).toBeFocused();
  await write(page, 'kasturi bottling');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('for Kasturi Bottling');
  await write(page, '2 x salt');
  await expect(line(page, 'SALT-25')).toContainText('agreed in AG-');
  await expect(line(page, 'SALT-25')).toContainText('49.00');
  await expect(page.getByRole('group', { name: 'What is to pay' })).toContainText('Paid ahead');
  const order = (await page.getByRole('link', { name: /^SO-/ }).innerText()).trim();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status').filter({ hasText: 'Kept for the till' })).toContainText(order);

  await page.goto('/till');
  await write(page, order);
  await expect(line(page, 'SALT-25')).toBeVisible();
  const pay = page.getByRole('group', { name: 'What is to pay' });
  await expect(pay).not.toContainText('To pay');
  // Something more, of which one is fetched another day.
  await write(page, '3 x fc-20');
  await expect(line(page, 'FC-20')).toBeVisible();
  await expect(pay).toContainText('To pay');
  // Slowly kept, it is handed over as it was typed all the same.
  await page.route('**/api/till/slip?**', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    await route.continue();
  });
  await page.getByLabel('Taken along of FC-20').fill('2');
  await page.keyboard.press('Tab');
  await write(page, '100.00');
  await page.keyboard.press('Control+Enter');
  const notice = page.getByRole('status').filter({ hasText: 'Handed over' });
  await notice.getByRole('link').click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/SL-\d+ for Kasturi Bottling/);
  await expect(page.getByText('Not taken along')).toContainText('1 FC-20');
  await expect(page.getByText('paid ahead before')).toBeVisible();
  await expect(page.getByText('deposit for what waits')).toBeVisible();

  // The back office sees it at once, as any order.
  await page.getByRole('link', { name: order, exact: true }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(`${order} for Kasturi Bottling`);
});

test('what needs a licence is refused by name without one, and goes with it', async ({ page }) => {
  await signIn(page, 'hafiz');
  await page.goto('/till');
  await write(page, 'uncle lim');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('for Uncle Lim');
  await write(page, 'hy-25');
  await expect(line(page, 'HY-25')).toContainText(/Uncle Lim .*handling permit/);
  await write(page, 'rahim');
  await page.getByRole('button', { name: /^Throw SO-/ }).click();
  await write(page, 'kavitha');
  await write(page, 'salt');
  await expect(line(page, 'SALT-25')).toBeVisible();
  // Nobody in particular needs none for salt.
  await page.getByRole('button', { name: /^Throw SO-/ }).click();
  await expect(page.getByText('Scan a slip, or write what is bought.')).toBeVisible();
});

test('a card that is silent is asked again and charged once; goods come back to it', async ({ page }) => {
  await signIn(page, 'hafiz');
  await page.goto('/till');
  await write(page, '7 x fc-10');
  await expect(line(page, 'FC-10')).toBeVisible();
  await page.getByRole('button', { name: 'Card', exact: true }).click();
  const pay = page.getByRole('group', { name: 'What is to pay' });
  await expect(pay).toContainText(/Card/);
  if (await page.getByRole('button', { name: 'Ask again' }).isVisible()) {
    await page.getByRole('button', { name: 'Ask again' }).click();
  }
  await expect(page.getByRole('button', { name: 'Give back' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await page.getByRole('status').filter({ hasText: 'Handed over' }).getByRole('link').click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/SL-\d+/);
  await page.getByRole('button', { name: 'Bring back…' }).click();
  await sheet(page)
    .getByLabel(/^FC-10, at most 7/)
    .fill('2');
  await sheet(page).getByLabel('Why').fill('Too many');
  await sheet(page).getByRole('button', { name: 'Take it back' }).click();
  await page.getByRole('status').filter({ hasText: 'Brought back' }).getByRole('link').click();
  await expect(page.getByText('Card', { exact: true })).toBeVisible();
});

test('what is sold while the server is away is kept on the device, and sent once when it is back', async ({
  page,
  context,
}) => {
  await signIn(page, 'hafiz');
  await page.goto('/till');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Till');
  const slips = async () => {
    const answer = await page.request.get('/api/slips');
    return ((await answer.json()) as { rows: unknown[] }).rows.length;
  };
  const before = await slips();
  await expect(page.getByText(/This device can sell while the server is away/)).toBeVisible();
  await context.setOffline(true);
  await field(page).fill('salt');
  await page.getByRole('link', { name: 'Sell while the server is away' }).click();
  const away = page.getByLabel(/^Bar code, number or name/);
  await away.fill('3 x salt-25');
  await away.press('Enter');
  await expect(page.getByLabel('How many of SALT-25')).toHaveValue('3');
  await away.fill('200.00');
  await away.press('Enter');
  await expect(page.getByText(/change$/)).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Kept on this device.')).toBeVisible();
  await expect(page.getByText('waits for the server')).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByRole('link', { name: /^SL-/ })).toBeVisible({ timeout: 20_000 });
  expect(await slips()).toBe(before + 1);
  // Read again it is still there, and is not sent a second time.
  await page.reload();
  await expect(page.getByRole('link', { name: /^SL-/ })).toBeVisible();
  expect(await slips()).toBe(before + 1);
  await page.getByRole('link', { name: /^SL-/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/SL-\d+/);
});

test('a drawer is counted at night: what is short asks why', async ({ page }) => {
  await signIn(page, 'hafiz');
  await page.goto('/drawers');
  await page.getByRole('link', { name: 'DR-0002' }).click();
  await page.getByRole('button', { name: 'Put in or take out…' }).click();
  await sheet(page)
    .getByLabel(/^Amount/)
    .fill('-20');
  await sheet(page).getByLabel('Why').fill('Stamps');
  await sheet(page).getByRole('button', { name: 'Move the money' }).click();
  await expect(page.getByText('Stamps, Hafiz')).toBeVisible();
  await page.getByRole('button', { name: 'Close it…' }).click();
  await sheet(page).getByLabel('How many of 20').fill('5');
  await expect(sheet(page)).toContainText('should be in it');
  await sheet(page).getByRole('button', { name: 'Close the drawer' }).click();
  await expect(sheet(page).getByText(/less in the drawer than should be/)).toBeVisible();
  await sheet(page).getByLabel('Why it differs, where it does').fill('Given out wrong');
  await sheet(page).getByRole('button', { name: 'Close the drawer' }).click();
  await expect(page.getByText('Given out wrong')).toBeVisible();
  await page.goto('/till');
  await expect(page.getByRole('button', { name: 'Open the drawer…' })).toBeVisible();
});

test('a weekly order is typed as it is said, a date of it skipped; what it makes goes with its round', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/standing-orders');
  await page.getByRole('button', { name: 'New standing order…' }).click();
  await sheet(page).getByLabel('Customer').fill('Rumah');
  await page.getByRole('option', { name: /Rumah Hijau/ }).click();
  await sheet(page).getByLabel('How often, as you say it').fill('every Tuesday and Friday');
  await sheet(page).getByLabel('Item 1').fill('SALT');
  await page.getByRole('option', { name: /SALT-25/ }).click();
  await sheet(page).getByLabel('How many 1').fill('30');
  await expect(sheet(page).getByText('Its next dates')).toBeVisible();
  await expect(sheet(page).getByRole('listitem').first()).toContainText('Tue 2 Mar');
  await sheet(page).getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/ST-\d+ for Rumah Hijau Growers/);
  const date = (name: string) => page.getByRole('row', { name: new RegExp(name) });
  await date('Fri 12 Mar').getByRole('button', { name: 'Skip…' }).click();
  await sheet(page).getByLabel('Why').fill('Away that week');
  await sheet(page).getByRole('button', { name: 'Skip it' }).click();
  await expect(date('Fri 12 Mar')).toContainText('skipped: Away that week');
  if (await date('Tue 2 Mar').getByRole('button', { name: 'Make it now' }).isVisible()) {
    await date('Tue 2 Mar').getByRole('button', { name: 'Make it now' }).click();
  }
  await expect(date('Tue 2 Mar').getByRole('link', { name: /SO-/ })).toBeVisible();

  await page.goto('/rounds');
  await page.getByRole('link', { name: 'Tue 2 Mar' }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Northern round, Tue 2 Mar');
  await page.getByRole('button', { name: 'Load all that can go' }).click();
  await expect(page.getByRole('button', { name: 'All that can go is loaded' })).toBeVisible();
  await page.getByRole('button', { name: 'Ship what is loaded' }).first().click();
  await expect(page.getByText('Went out on this day')).toBeHidden();
  await expect(page.getByRole('status').filter({ hasText: 'Shipped:' })).toBeVisible();
});
