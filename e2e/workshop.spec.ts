import { cell, expect, sheet, signIn, test } from './world';

test('two skids are assembled to order: from entry to invoice, one component replaced on the way', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Rumah');
  await page.getByRole('option', { name: /Rumah Hijau Growers/ }).click();
  await page.getByLabel('Their reference').fill('RH-200');
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('SK-D2\t2\t\t30/3');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
  await expect(page.getByRole('row', { name: /SK-D2 .* assembled to order/ })).toBeVisible();
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  // Its assembly order is there from now on, and leads back.
  const line = page.getByRole('row', { name: /SK-D2 .* AS-\d+ firm/ });
  await expect(line).toBeVisible();
  const order = page.url();
  const dock = page.getByRole('region', { name: 'Dock' });
  await dock.getByRole('link', { name: /Supply, AS-\d+/ }).click();
  await expect(page.getByRole('heading', { name: /^AS-\d+ assembles 2 SK-D2/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /^SO-\d+ line 1$/ })).toBeVisible();

  // Cartridges where the customer brings own pumps: what that costs is said before it is done.
  await page.getByRole('button', { name: 'Components…' }).click();
  await sheet(page).getByLabel('Item 2').fill('FC-20');
  await page.getByRole('option', { name: /FC-20/ }).click();
  await expect(sheet(page).getByText(/MYR [\d,.]+, before [\d,.]+/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Change them' }).click();
  await expect(page.getByRole('row', { name: /^FC-20 / })).toBeVisible();

  await page.goto(order);
  await page.getByRole('button', { name: 'Ship…' }).click();
  await expect(sheet(page).getByText(/^2 assembled on AS-\d+, 1 line: 1 shipment/)).toBeVisible();
  await sheet(page).getByRole('button', { name: /^Ship/ }).click();
  await expect(page.getByText(/Shipped: SH-\d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Invoice what went out…' }).click();
  await page.getByRole('button', { name: 'Post the invoice' }).click();
  await expect(page.getByRole('status').getByRole('link', { name: /CI-\d+/ })).toBeVisible();
  await page.goto(order);
  await expect(dock.getByRole('link', { name: /Made, WR-\d+/ })).toBeVisible();
});

test('made first and ordered later: what runs is for whom is told, and let go of again', async ({ page }) => {
  await signIn(page, 'meilin');
  await page.goto('/workshop');
  await page.getByRole('button', { name: 'Make for stock…' }).click();
  await sheet(page).getByLabel('Item').fill('SK-D2');
  await page.getByRole('option', { name: /SK-D2/ }).click();
  await sheet(page).getByLabel('How many').fill('1.5');
  await expect(sheet(page).getByText(/is counted in whole ones/)).toBeVisible();
  await sheet(page).getByLabel('How many').fill('2');
  await expect(sheet(page).getByText(/^Begun .*, there on /)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name: /^AS-\d+ assembles 2 SK-D2/ })).toBeVisible();
  await expect(page.getByText('our own stock')).toBeVisible();
  const number = (await page.getByRole('heading', { level: 1 }).innerText()).slice(0, 7);

  // One is done; then it is for whoever waits.
  await page.getByRole('button', { name: 'Report work…' }).click();
  await sheet(page).getByLabel('Good, piece').fill('1');
  await expect(sheet(page).getByText(/^1 piece to stock at MYR [\d,.]+; 1 still to come/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Report it' }).click();
  await expect(page.getByText(/Reported: WR-\d+/)).toBeVisible();
  await expect(page.getByText(/running · 1 of 2 made/)).toBeVisible();

  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Padi');
  await page.getByRole('option', { name: /Padi Emas Food Works/ }).click();
  await page.getByLabel('Their reference').fill('PE-900');
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('SK-D2\t1\t\t30/3');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
  await cell(page, 0, 'route').dblclick();
  await page.getByRole('option', { name: 'our stock', exact: true }).click();
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByText(/confirmed · 1 line/)).toBeVisible();
  await page.getByRole('button', { name: 'What is made for line 1…' }).click();
  const tied = sheet(page).getByLabel(`Tie ${number}`);
  await expect(tied).toHaveValue('1');
  await sheet(page).getByRole('button', { name: 'Tie them' }).click();
  await expect(page.getByRole('row', { name: new RegExp(`SK-D2 .* ${number} running`) })).toBeVisible();
  await page
    .getByRole('region', { name: 'Dock' })
    .getByRole('link', { name: new RegExp(`Supply, ${number}`) })
    .click();
  await page.getByRole('button', { name: /^Untie from SO-\d+ line 1$/ }).click();
  await expect(page.getByText(/goes on for nobody in particular/)).toBeVisible();
  await expect(page.getByText('our own stock')).toBeVisible();
});

test('a day at the bench, on a tablet: what is next, one act, and what is lost is said', async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 1180 });
  await signIn(page, 'suresh');
  await page.goto('/workshop/at');
  await page.getByLabel('Work centre').selectOption('Test stand');
  const now = page.getByRole('region', { name: 'Next here' });
  await expect(now.getByText('Pressure test')).toBeVisible();
  await expect(now.getByText('1 of 2 done here, 1 can be done now')).toBeVisible();
  await now.getByRole('button', { name: 'Done, to stock' }).click();
  await expect(page.getByText(/Pressure test of PR-\d+ reported: WR-\d+/)).toBeVisible();
  // By scan, at another centre; more than can be is refused at its place.
  await page.getByLabel('Work centre').selectOption('Assembly benches');
  await expect(now.getByText('Mount pumps').or(now.getByText('Assemble'))).toBeVisible();
  const waiting = page.getByRole('region', { name: 'Then' }).getByRole('button').first();
  const number = (await waiting.innerText()).match(/AS-\d+/)![0];
  await page.getByLabel('Scan or type an order').fill(number);
  await page.keyboard.press('Enter');
  await expect(now.getByRole('link', { name: number })).toBeVisible();
  await page.getByLabel('Scan or type an order').fill('PR-9999');
  await page.keyboard.press('Enter');
  await expect(page.getByText('PR-9999 has nothing to do here.')).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  expect(wide).toBeLessThanOrEqual(0);
});

test('a count with a difference is posted with a reason, and taken back', async ({ page }) => {
  await signIn(page, 'joko');
  await page.goto('/counts');
  await page.getByRole('button', { name: 'Begin a count…' }).click();
  await sheet(page).getByLabel('What', { exact: true }).selectOption('Salt and chemicals');
  await expect(sheet(page).getByText(/items? to count/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Begin it' }).click();
  await expect(page.getByRole('heading', { name: /^CT-\d+ counts / })).toBeVisible();
  const first = page.getByRole('row').nth(1);
  const known = (await first.getByRole('cell').nth(3).innerText()).replaceAll(',', '');
  const counted = first.getByRole('textbox');
  await counted.fill('many');
  await counted.press('Tab');
  await expect(page.getByRole('alert')).toContainText('not a number');
  await counted.fill(String(Number(known) + 2));
  await counted.press('Tab');
  await expect(first.getByText('+2')).toBeVisible();
  await page.getByRole('button', { name: 'Post the differences…' }).click();
  await sheet(page).getByLabel('Why').fill('behind the rack');
  await sheet(page).getByRole('button', { name: 'Post it' }).click();
  await expect(page.getByText(/CT-\d+ is posted\./)).toBeVisible();
  await expect(page.getByText(/posted Mon 1 Mar · behind the rack/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it back…' }).click();
  await sheet(page).getByLabel('Why').fill('counted twice');
  await sheet(page).getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText(/Taken back by/)).toBeVisible();
});

test('an order is dragged to another day: whom that makes late is said before, and their day goes with it', async ({
  page,
}) => {
  await signIn(page, 'meilin');
  await page.goto('/load');
  const section = page.locator('section');
  const order = section.getByRole('row').first();
  await expect(order).toBeVisible();
  const number = (await order.getByRole('link').innerText()).trim();
  // From what is looked into onto a day of the same centre, a month on.
  await order.dragTo(page.getByRole('button', { name: /^Welding bay, Tue 6 Apr: / }));
  await expect(sheet(page).getByRole('heading', { name: `Lay ${number} again` })).toBeVisible();
  await expect(sheet(page).getByText(/^there on .* instead of /)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Leave it' }).click();
  // The same by keyboard.
  const again = section.getByRole('button', { name: `Lay ${number} again` });
  await again.focus();
  await page.keyboard.press('Enter');
  await sheet(page).getByLabel('On, or as soon as can be after').fill('9/4');
  await page.keyboard.press('Tab');
  await expect(sheet(page).getByRole('cell', { name: 'Fri 9 Apr' }).first()).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Lay it so' }).click();
  await expect(page.getByText(/Laid again: (PR|AS)-\d+/)).toBeVisible();
  await page.getByRole('button', { name: /^Welding bay, Fri 9 Apr: / }).click();
  await expect(section.getByRole('link', { name: number })).toBeVisible();
});
