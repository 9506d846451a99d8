import { expect, sheet, signIn, test } from './world';

test('a stock keeper sends out by keyboard what two orders of a customer want, with one delivery note', async ({
  page,
}) => {
  await signIn(page);
  // Two orders of one customer to one address, on two days, of what is here.
  const numbers: string[] = [];
  for (const [reference, day, quantity] of [
    ['OUT-1', '+1', '2'],
    ['OUT-2', '+3', '3'],
  ] as const) {
    await page.goto('/orders/new');
    await page.getByLabel('Customer').fill('Kasturi');
    await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
    await page.getByLabel('Their reference').fill(reference);
    await page.getByRole('button', { name: 'Fill…' }).click();
    await sheet(page).getByRole('radio', { name: 'Shelf' }).click();
    await sheet(page).getByLabel('Look for a number or name').fill('GAC');
    await sheet(page).getByLabel('Take of GAC-25 at EAST, bag').fill(quantity);
    await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
    await page
      .getByRole('gridcell', { name: /\w{3} \d+ \w{3}/ })
      .first()
      .dblclick();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(day);
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Confirm', exact: true }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText(/SO-\d+ for Kasturi/);
    numbers.push((await page.getByRole('heading', { level: 1 }).innerText()).match(/SO-\d+/)![0]);
  }

  await page.getByRole('button', { name: 'Salmah' }).click();
  await page.getByRole('menuitem', { name: /Sign out/ }).click();
  await signIn(page, 'joko');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('ship what');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/to-go-out/);
  const mark = (number: string) => page.getByRole('checkbox', { name: `${number} line 1, GAC-25` });
  await expect(mark(numbers[0]!)).toBeEnabled();
  // From the first mark down to theirs, each set with the space bar.
  await page.keyboard.press('Alt+g');
  for (const number of numbers) {
    for (
      let step = 0;
      step < 40 && !(await mark(number).evaluate((box) => box === document.activeElement));
      step += 1
    ) {
      await page.keyboard.press('ArrowDown');
    }
    await page.keyboard.press('Space');
    await expect(mark(number)).toBeChecked();
  }
  await expect(page.getByRole('button', { name: 'Ship 2 lines to 1 address…' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(sheet(page)).toContainText('with one delivery note');
  // Less than all of the second: what is left stays on the sheet.
  await sheet(page).getByLabel(`Quantity of ${numbers[1]!} line 1`).fill('99');
  await expect(sheet(page).getByRole('alert')).toContainText('99');
  await sheet(page).getByLabel(`Quantity of ${numbers[1]!} line 1`).fill('2');
  await expect(sheet(page).getByRole('alert')).toBeHidden();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Shipped:')).toBeVisible();
  await expect(mark(numbers[0]!)).toBeHidden();
  await expect(page.getByRole('row', { name: new RegExp(`${numbers[1]!} .* 1 bag`) })).toBeVisible();
  await page
    .getByRole('link', { name: /SH-\d+/ })
    .first()
    .click();
  for (const number of numbers) await expect(page.getByRole('link', { name: number, exact: true })).toBeVisible();

  // The list to pick by, on paper.
  await page.goto('/to-go-out?by=item');
  const link = page.getByRole('link', { name: 'List to pick by' });
  const paper = await page.request.get((await link.getAttribute('href'))!);
  expect(paper.headers()['content-type']).toBe('application/pdf');
});
