import { expect, sheet, signIn, test } from './world';

test('what will be wanting is planned, taken, and read from the parts up to the customer', async ({ page }) => {
  await signIn(page, 'meilin');
  await page.goto('/workshop');
  await page.getByRole('link', { name: 'Plan ahead' }).click();
  await expect(page.getByRole('heading', { name: /^Plan ahead/ })).toBeVisible();
  // A day that is not looked at is refused at its field, and nothing is lost.
  await page.getByLabel('Until').fill('1/1/2031');
  await page.getByRole('button', { name: 'Plan again' }).click();
  await expect(page.getByText(/Planning looks from/)).toBeVisible();
  await page.getByLabel('Until').fill('+90');
  await page.getByRole('button', { name: 'Plan again' }).click();
  await expect(page.getByText(/items until Sun 30 May: \d+ proposals/)).toBeVisible();

  const skids = page.getByRole('row', { name: /Assemble SK-D4 .* 9 Wed 3 Mar Thu 11 Mar SO-\d+, Padi Emas/ });
  await expect(skids).toBeVisible();
  const panels = page.getByRole('row', { name: /Buy from Injap Timur Valves SK-PANEL .* 5 .* wanted Wed 3 Mar/ });
  await expect(panels).toContainText('SK-D4 as proposed, for SO-');
  // What somebody was asked for goes only where it is clicked.
  const drop = page.getByRole('checkbox', { name: /^Take: Drop/ });
  await expect(drop.first()).not.toBeChecked();

  // The skids alone first: their parts are still proposed, now for the assembly that was made.
  await page.getByLabel('All of them').check();
  await page.getByLabel('All of them').uncheck();
  await skids.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Take 1 proposal' }).click();
  await expect(page.getByText(/1 proposal taken, first/)).toBeVisible();
  await expect(skids.getByRole('link', { name: /^AS-\d+$/ })).toBeVisible();
  await page.getByRole('radio', { name: 'Buy' }).click();
  await page.getByLabel('All of them').check();
  await page.getByRole('button', { name: /^Take \d+ proposals$/ }).click();
  await expect(page.getByText(/\d+ proposals taken, first/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan again' }).click();
  await expect(page.getByRole('row', { name: /Buy from/ })).toHaveCount(0);
  await expect(page.getByText(/items until Sun 30 May: /)).toBeVisible();

  // From the purchase of panels up to who wants them; from the order down to what is on its way.
  await page.goto('/purchases');
  await page
    .getByRole('row', { name: /Injap Timur Valves/ })
    .first()
    .getByRole('link', { name: /^PO-/ })
    .click();
  const dock = page.getByRole('region', { name: 'Dock' });
  await dock.getByRole('tab', { name: 'Pegging' }).click();
  const assembly = dock.getByRole('row', { name: /^AS-\d+ SK-D4 SK-PANEL \d/ }).first();
  await expect(assembly).toBeVisible();
  await expect(dock.getByRole('row', { name: /^SO-\d+ Padi Emas Food Works SK-D4 9/ }).first()).toBeVisible();
  await dock.getByRole('link', { name: /^SO-/ }).first().click();
  await expect(page.getByRole('heading', { name: /^SO-\d+ for/ })).toBeVisible();
  await dock.getByRole('tab', { name: 'Pegging' }).click();
  await expect(dock.getByRole('row', { name: /^AS-\d+/ }).first()).toBeVisible();
  await expect(dock.getByRole('row', { name: /^PO-\d+ Injap Timur Valves SK-PANEL/ }).first()).toBeVisible();
  await expect(sheet(page)).toHaveCount(0);
});

test('a purchase that nobody needs is dropped, looked at for its item alone', async ({ page }) => {
  await signIn(page);
  await page.goto('/purchases?do=enter');
  await sheet(page).getByLabel('Vendor').fill('Arus');
  await page.getByRole('option', { name: /Arus Membrane Supply/ }).click();
  await sheet(page).getByLabel('Item 1').fill('UV-LAMP');
  await page.getByRole('option', { name: /UV-LAMP/ }).click();
  await sheet(page).getByLabel('Quantity 1').fill('700');
  await sheet(page).getByLabel('Due on 1').fill('24/5');
  await sheet(page)
    .getByRole('button', { name: /^Place/ })
    .click();
  await expect(sheet(page)).toHaveCount(0);
  await page.goto('/planning');
  await page.getByLabel('Only').fill('UV-LAMP');
  await page.getByRole('option', { name: /UV-LAMP/ }).click();
  await page.getByRole('button', { name: /^Plan/ }).click();
  await expect(page.getByText(/^UV-LAMP and what goes into it until/)).toBeVisible();
  const drop = page.getByRole('row', { name: /Drop PO-\d+ UV-LAMP .* 700/ });
  await expect(drop).toBeVisible();
  await drop.getByRole('checkbox').check();
  await page.getByRole('button', { name: /^Take \d+ proposal/ }).click();
  await expect(page.getByText(/proposals? taken/)).toBeVisible();
  const purchase = drop.getByRole('link', { name: /^PO-/ }).last();
  await purchase.click();
  await expect(page.getByText(/cancelled/).first()).toBeVisible();
});
