import { cell, expect, pathOfDemo, pickItem, sheet, signIn, test, typeCell } from './world';

test('terms are typed as people say them, planned ahead, and split at the limit before anybody is surprised', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/agreements/new');
  await page.getByLabel('Customer').click();
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await page.getByLabel('Last day').fill('31/12');
  await page.getByLabel('Above the limit').selectOption('the rest at the list price');
  await page.getByLabel('Priority').selectOption('1, asked first');
  await page.getByLabel('Notes').fill('Ask for Wani.');
  await pickItem(page, 0, 'RO-4040');
  await typeCell(page, 0, 'committed', '40');
  await typeCell(page, 0, 'price', '10 %');
  await typeCell(page, 0, 'breaks', '20: 12; 15: 11');
  await page.getByRole('button', { name: 'Put in force' }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'The price break from 15 does not come after the one before it' }),
  ).toBeVisible();
  await typeCell(page, 0, 'breaks', '20: 12');
  await typeCell(page, 0, 'multiple', '5');
  await expect(cell(page, 0, 'value')).toHaveText('29,340.00');
  await page.getByRole('button', { name: 'Put in force' }).click();
  await expect(page.getByRole('button', { name: 'Release…' })).toBeVisible();
  await expect(page.getByText('Ask for Wani.')).toBeVisible();
  await expect(page.getByRole('tabpanel')).toContainText('10 % off the list price; 12 % off the list price from 20');
  await expect(page.getByRole('tabpanel')).toContainText('in multiples of 5');

  // Planned: every two months, one of them left out.
  await page.getByRole('button', { name: 'Call-off plan…' }).click();
  await sheet(page).getByLabel('Repeat').fill('every two months');
  await sheet(page).getByLabel('Quantity each').fill('10');
  await sheet(page).getByLabel('From').fill('15/3');
  await expect(sheet(page)).toContainText('5 dates, the last Mon 15 Nov');
  await sheet(page).getByRole('button', { name: 'Add', exact: true }).click();
  await sheet(page).getByLabel('Skip day 3').check();
  await sheet(page).getByLabel('Day 5', { exact: true }).fill('15/2/28');
  await expect(sheet(page).getByRole('alert')).toContainText('is outside it');
  await sheet(page).getByRole('button', { name: 'Remove' }).last().click();
  await sheet(page).getByRole('button', { name: 'Keep the plan' }).click();
  await expect(page.getByRole('status')).toContainText('The call-off plan is kept.');
  await expect(cell(page, 0, 'planned')).toHaveText('30');
  await expect(page.getByRole('tabpanel')).toContainText('About 10 pieces of 40 will be left');

  // A release of 45 of 40: the effect is shown before, and done as shown.
  await page.getByRole('button', { name: 'Release…' }).click();
  await sheet(page).getByLabel('Quantity of RO-4040').fill('43');
  await expect(sheet(page).getByRole('alert')).toContainText('43 is not a multiple of 5');
  await sheet(page).getByLabel('Quantity of RO-4040').fill('45');
  await expect(sheet(page)).toContainText('40 of RO-4040 go at 717.20');
  await expect(sheet(page)).toContainText('MYR 32,763.00 before tax');
  await sheet(page).getByRole('button', { name: 'Release as a sales order' }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Kasturi Bottling/ })).toBeVisible();
  await expect(cell(page, 0, 'quantity')).toHaveText('40');
  await expect(cell(page, 0, 'price')).toHaveText('717.20');
  await expect(cell(page, 1, 'quantity')).toHaveText('5');
  await expect(cell(page, 1, 'price')).toHaveText('815.00');

  // What was released has used up the plan; the table says what the chart draws.
  await page.goBack();
  await expect(cell(page, 0, 'planned')).toHaveText('–');
  await expect(page.getByRole('tabpanel')).toContainText('40 released, not shipped');
  await page.getByRole('button', { name: 'Show as a table' }).click();
  await expect(page.getByRole('tabpanel').getByRole('row', { name: /Mon 8 Mar expected 40/ })).toBeVisible();
});

test('an agreement past its last day is wrapped up from Today, with a decision about what is left', async ({
  page,
  demo,
}) => {
  await signIn(page);
  const row = page.locator('.todo', { hasText: 'AG-0001' });
  await expect(row).toContainText('ended Sun 28 Feb with a remainder');
  await row.getByRole('link', { name: 'Wrap up' }).click();
  await expect(sheet(page)).toContainText(/Left\s*\d+ of/);
  await sheet(page).getByLabel('What is decided').selectOption('End it, nothing is left');
  await expect(sheet(page).getByRole('alert')).toContainText('waive it, extend the agreement, or renew it');
  await sheet(page).getByLabel('What is decided').selectOption('End it and renew it as a draft');
  await sheet(page).getByLabel('Carry over what is left').check();
  await expect(sheet(page)).toContainText('A draft from Tue 2 Mar');
  await sheet(page).getByRole('button', { name: 'End and renew' }).click();
  await expect(page.getByRole('heading', { name: /AG-\d+ with Kasturi Bottling\s*draft/ })).toBeVisible();
  await expect(page.getByRole('status')).toContainText('AG-0001 is ended; its renewal is a draft:');
  await page.getByRole('button', { name: 'Cancel the draft' }).click();
  await expect(page.getByRole('heading', { name: /AG-\d+ with Kasturi Bottling\s*cancelled/ })).toBeVisible();
  await page.goto('/agreements/1');
  await expect(page.getByRole('heading', { name: /AG-0001 with Kasturi Bottling\s*ended/ })).toBeVisible();
  await expect(page.getByText('Ended Mon 1 Mar; renewed as')).toBeVisible();
  await page.goto('/today');
  await expect(page.locator('.todo').first()).toBeVisible();
  await expect(page.locator('.todo', { hasText: 'AG-0001' })).toHaveCount(0);

  // Paused, nothing can be released; let go on, it can.
  await page.goto(await pathOfDemo(demo, 'byValue'));
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('button', { name: 'Release…' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Let it go on' }).click();
  await expect(page.getByRole('button', { name: 'Release…' })).toBeVisible();
});
