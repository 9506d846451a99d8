import { expect, sheet, signIn, test } from './world';

test('a skid made to order: its number is made, held, shipped, and its life read', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Kasturi');
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await page.getByLabel('Their reference').fill('KB-77');
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('SK-D2\t1\t\t30/3');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByRole('row', { name: /SK-D2 .* AS-\d+ firm/ })).toBeVisible();
  const order = page.url();

  // Two pumps by their own numbers, scanned; the skid numbered by its pattern.
  await page
    .getByRole('region', { name: 'Dock' })
    .getByRole('link', { name: /Supply, AS-\d+/ })
    .click();
  await page.getByRole('button', { name: 'Report work…' }).click();
  const pumps = sheet(page).getByLabel(/^Serial numbers of PM-15 used/);
  await expect(sheet(page).getByRole('button', { name: /^Leave P15-\d+ out$/ })).toHaveCount(2);
  await pumps.fill('P15-00040');
  await pumps.press('Enter');
  await expect(sheet(page).getByRole('alert')).toContainText('2 of PM-15 move and 1 number is given');
  await pumps.fill('P15-00041');
  await pumps.press('Enter');
  await expect(sheet(page).getByRole('alert')).toHaveCount(0);
  const made = await sheet(page)
    .getByRole('button', { name: /^Leave D2-27-\d+ out$/ })
    .innerText();
  await sheet(page).getByRole('button', { name: 'Report it' }).click();
  await expect(page.getByText(/Reported: WR-\d+/)).toBeVisible();
  await expect(page.getByRole('link', { name: made })).toBeVisible();
  await expect(page.getByRole('link', { name: 'P15-00041' })).toBeVisible();

  // Held for its line, it goes out by number.
  await page.goto(order);
  await expect(page.getByText('Serial numbers of line 1, SK-D2')).toBeVisible();
  await page.getByRole('button', { name: 'Ship…' }).click();
  await expect(sheet(page).getByRole('button', { name: `Leave ${made} out` })).toBeVisible();
  await sheet(page).getByRole('button', { name: /^Ship/ }).click();
  await page
    .getByRole('status')
    .getByRole('link', { name: /SH-\d+/ })
    .click();
  await expect(page.getByRole('row', { name: new RegExp(`SK-D2 .* ${made}`) })).toBeVisible();

  // Found by a pump's number: where it is, what it is in, and what happened to it.
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).fill('P15-00040');
  await page.getByRole('option', { name: /P15-00040/ }).click();
  await expect(page.getByRole('heading', { name: /P15-00040 PM-15/ })).toBeVisible();
  await expect(page.getByText(`in ${made}, at Kasturi Bottling`)).toBeVisible();
  await page.getByRole('link', { name: made }).click();
  const life = page.getByRole('listitem');
  await expect(life.filter({ hasText: 'shipped to Kasturi Bottling' })).toBeVisible();
  await expect(life.filter({ hasText: 'made at Main store, for Kasturi Bottling' })).toBeVisible();
});

test('an item is kept by number from now on; what comes in must have its own', async ({ page }) => {
  await signIn(page);
  await page.goto('/stock');
  await expect(page.getByRole('heading', { name: /^Stock/ })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).fill('UV-LAMP');
  await page.getByRole('option', { name: /UV-LAMP/ }).click();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Keep it by serial number…' }).click();
  await sheet(page).getByLabel('How they are made').fill('L');
  await expect(sheet(page).getByText(/one run of # where the count stands/)).toBeVisible();
  await sheet(page).getByLabel('How they are made').fill('L-####');
  await expect(sheet(page).getByText(/of UV-LAMP are here without numbers/)).toBeVisible();
});

test('pumps are counted by number: one is missing, one was found', async ({ page }) => {
  await signIn(page, 'joko');
  await page.goto('/counts');
  await page.getByRole('button', { name: 'Begin a count…' }).click();
  await sheet(page).getByLabel('What', { exact: true }).selectOption('Pumps');
  await sheet(page).getByRole('button', { name: 'Begin it' }).click();
  await expect(page.getByRole('heading', { name: /^CT-\d+ counts / })).toBeVisible();
  const row = page.getByRole('row', { name: /PM-15/ });
  const known = Number(await row.getByRole('cell').nth(3).innerText());
  const numbers = page.getByLabel(/^Serial numbers of PM-15 that are here/);
  const offered = page.getByLabel('Numbers that are here').getByRole('button');
  const there = await offered.allInnerTexts();
  expect(there).toHaveLength(known);
  // All of them scanned but the first, and one that nobody knew of.
  await numbers.fill([...there.slice(1), 'P15-FOUND'].join(' '));
  await numbers.press('Enter');
  await expect(page.getByText(`missing: ${there[0]!}`)).toBeVisible();
  await page.getByRole('button', { name: 'Post the differences…' }).click();
  await sheet(page).getByLabel('Why').fill('counted by number');
  await sheet(page).getByRole('button', { name: 'Post it' }).click();
  await expect(page.getByText(/CT-\d+ is posted\./)).toBeVisible();
  await page.goto(`/serials?q=${there[0]!}`);
  await expect(page.getByRole('row', { name: /not with us any more/ })).toBeVisible();
});
