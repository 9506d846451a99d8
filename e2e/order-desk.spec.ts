import { cell, expect, sheet, signIn, test, typeCell } from './world';

test('an order on the phone: pasted with a bad row, filled from the basket, priced with reasons, confirmed', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('05-5550 2205');
  await page.getByRole('option', { name: /Rumah Hijau Growers/ }).click();
  await expect(page.getByText(/Owes MYR .* of MYR 40,000\.00 credit left/)).toBeVisible();

  // A row that cannot be read is marked; the good ones are taken.
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page)
    .getByLabel('Rows from a spreadsheet')
    .fill('FC-10\t4\tbox\nFC-10\t30\t\t11/3\nXX-1\t3\nPM-15\t1\t\t\t1200');
  await expect(
    sheet(page).getByRole('row', { name: /XX-1 no item of ours, or of theirs, has this number/ }),
  ).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Add 3 lines' }).click();

  // What they usually buy.
  await page.getByRole('button', { name: 'Fill…' }).click();
  await sheet(page).getByLabel('Take of SALT-25, bag').fill('40');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();

  await expect(cell(page, 0, 'price')).toHaveText('146.76');
  await expect(cell(page, 0, 'amount')).toHaveText('587.04');
  await expect(cell(page, 1, 'amount')).toHaveText('188.16');
  await expect(cell(page, 2, 'agreement')).toHaveText('by hand');
  await cell(page, 1, 'quantity').click();
  const dock = page.getByRole('region', { name: 'Dock' });
  await expect(dock.getByRole('row', { name: /Less than a full pack 10 % on 5 of packs of 25/ })).toBeVisible();
  await expect(dock.getByRole('row', { name: /FC-10 30 pieces 6\.272 188\.16/ })).toBeVisible();

  // A full pack costs no charge; a discount is typed where the price stands.
  await typeCell(page, 1, 'quantity', '50');
  await expect(dock.getByRole('row', { name: /Less than a full pack/ })).toHaveCount(0);
  await typeCell(page, 1, 'price', '5 %');
  await expect(dock.getByRole('row', { name: /Discount 5 %/ })).toBeVisible();
  // For nothing, with a reason.
  await typeCell(page, 2, 'price', '0 a sample for the new line');
  await expect(cell(page, 2, 'amount')).toHaveText('0.00');

  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Rumah Hijau Growers/ })).toBeVisible();
  // Growers get one bag of salt free for every twenty, as a line of its own.
  await expect(page.getByText(/confirmed · 5 lines/)).toBeVisible();
  await expect(page.getByText(/^free, PM-/)).toBeVisible();
  await dock.getByRole('tab', { name: 'Price' }).click();
  await cell(page, 2, 'quantity').click();
  await expect(dock.getByText('For nothing: a sample for the new line.')).toBeVisible();

  // The same again, as a draft of its own.
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Copy' }).click();
  await expect(page.getByText(/draft · 5 lines/)).toBeVisible();
});

test('a limit holds, a permit is missed while typing, and who may lets the order pass with a reason', async ({
  page,
}) => {
  await signIn(page, 'rashid');
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Bukit');
  await page.getByRole('option', { name: /Bukit Jati Golf Links/ }).click();
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('HY-25\t2\nVA-50A\t40');
  await sheet(page).getByRole('button', { name: 'Add 2 lines' }).click();
  await expect(page.getByText(/Bukit Jati Golf Links has no handling permit valid on/)).toBeVisible();
  await expect(page.getByText(/above their credit limit of 25,?000\.00/)).toBeVisible();
  // From when its vendor can ship it is there.
  await expect(cell(page, 1, 'ships')).toHaveText(/18 Mar/);
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  // What was typed is a draft by now, at an address of its own.
  await expect(page).toHaveURL(/\/orders\/\d+$/);
  await expect(page.getByRole('heading', { name: /SO-\d+ for Bukit Jati Golf Links/ })).toBeVisible();
  await expect(page.getByText(/no handling permit valid on/)).toBeVisible();
  // Without the drum it goes, once it is said why.
  await cell(page, 0, 'quantity').click();
  await page.keyboard.press('Control+Delete');
  await expect(page.getByText(/no handling permit/)).toHaveCount(0);
  await page.getByLabel('Why it may pass over the credit limit').fill('paid on Friday');
  await page.getByRole('button', { name: 'Confirm', exact: true }).click();
  await expect(page.getByText(/confirmed · 1 line/)).toBeVisible();
});

test('an order is sent to its customer and read in the mail room; its threads have an address of their own', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/orders/1');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Send…' }).click();
  await expect(sheet(page).getByLabel('To')).toHaveValue('stores@kasturi-bottling.example');
  await sheet(page).getByLabel('Subject').fill('Your order of pumps');
  await sheet(page).getByRole('button', { name: 'Send it' }).click();
  await expect(page.getByRole('status')).toContainText('Sent');
  await page.goto('/mail');
  await expect(cell(page, 0, 'subject')).toHaveText('Your order of pumps');
  await expect(page.getByRole('link', { name: 'SO-0001.pdf' })).toHaveAttribute(
    'href',
    /\/api\/messages\/\d+\/attachment/,
  );

  await page.goto('/orders/1');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'All threads' }).click();
  await expect(page).toHaveURL(/\/orders\/1\/threads$/);
  await expect(page.getByRole('heading', { level: 2 })).toHaveText([/line 1 · PM-15/, /line 2 · RO-4040/]);
  await page.getByRole('region', { name: 'Threads of the order' }).getByRole('link', { name: /SH-/ }).first().click();
  await expect(page.getByRole('heading', { name: /shipped to Kasturi Bottling/ })).toBeVisible();
});
