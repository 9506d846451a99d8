import { cell, expect, pathOfDemo, pickItem, sheet, signIn, test, typeCell } from './world';

test('a year of an agreement: rebate earned, goods back, rebate settled, wrapped up with what is left', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/agreements/new');
  await page.getByLabel('Customer').click();
  await page.getByRole('option', { name: /Padi Emas Food Works/ }).click();
  await page.getByLabel('About').fill('Membranes for the new line');
  await page.getByLabel('Last day').fill('31/12');
  await page.getByLabel('Priority').selectOption('1, asked first');
  await page.getByLabel('Rebate', { exact: true }).selectOption('one rate on all, by value');
  await page.getByLabel('Rebate tiers').fill('1000: 2 %; 500: 4 %');
  await page.getByLabel('Remind me at').fill('soon');
  await pickItem(page, 0, 'RO-4040');
  await typeCell(page, 0, 'committed', '10');
  await typeCell(page, 0, 'price', '740');
  await page.getByRole('button', { name: 'Put in force' }).click();
  await expect(page.getByText('does not come after the one before it')).toBeVisible();
  await expect(page.getByText('soon is no reminder; write 30 days')).toBeVisible();
  await page.getByLabel('Rebate tiers').fill('1000: 2 %; 5000: 4 %');
  await page.getByLabel('Remind me at').fill('30 days; 80 %');
  await page.getByRole('button', { name: 'Put in force' }).click();
  await expect(page.getByRole('button', { name: 'Release…' })).toBeVisible();
  const agreement = page.url();

  // Released on two dates in one act, one of them pasted.
  await page.getByRole('button', { name: 'Release…' }).click();
  await sheet(page).getByRole('button', { name: 'Paste rows…' }).click();
  await sheet(page)
    .getByLabel('Rows from a spreadsheet: item, quantity, date')
    .fill('RO-4040; 5; 12/3\nRO-9999; 1; 12/3\nRO-4040; lots; 12/3');
  await sheet(page).getByLabel('Rows from a spreadsheet: item, quantity, date').blur();
  await expect(sheet(page).getByText('Row 2: RO-9999 is not on this agreement.')).toBeVisible();
  await expect(sheet(page).getByText('Row 3: lots is not a quantity.')).toBeVisible();
  await expect(sheet(page).getByLabel('Quantity of RO-4040')).toHaveValue('5');
  await sheet(page).getByRole('button', { name: 'Another date of RO-4040' }).click();
  await sheet(page).getByLabel('Quantity of RO-4040').nth(1).fill('3');
  await expect(sheet(page).locator('td[aria-live]')).toHaveText('2');
  await sheet(page).getByRole('button', { name: 'Release as a sales order' }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Padi Emas Food Works/ })).toBeVisible();
  await expect(cell(page, 1, 'quantity')).toHaveText('3');

  await page.getByRole('button', { name: 'Confirm' }).click();
  await page.getByRole('button', { name: /Place .*purchases?…/ }).click();
  await sheet(page)
    .getByRole('button', { name: /Place .*purchase order/ })
    .click();
  await page.getByRole('button', { name: 'Ship…' }).click();
  await sheet(page).getByRole('button', { name: 'Ship', exact: true }).click();
  await page.getByRole('button', { name: 'Invoice what went out…' }).click();
  await sheet(page).getByRole('button', { name: 'Post the invoice' }).click();
  await expect(page.getByRole('status')).toContainText('Invoiced: CI-');
  await page.getByRole('status').getByRole('link', { name: /CI-/ }).click();

  // Goods come back: credited, and set off against the invoice.
  await page.getByRole('button', { name: 'Credit…' }).click();
  await sheet(page).getByLabel('Came back of RO-4040').first().fill('6');
  await expect(sheet(page).getByRole('alert').filter({ hasText: 'is more than the 5 of CI-' })).toBeVisible();
  await sheet(page).getByLabel('Came back of RO-4040').first().fill('2');
  await sheet(page).getByLabel('Why').fill('Wrong size');
  await expect(sheet(page)).toContainText('1,568.80 set off against it; its rebate falls');
  await sheet(page).getByRole('button', { name: 'Post the credit note' }).click();
  await expect(page.getByRole('status')).toContainText('Credited: CN-');
  await page.getByRole('status').getByRole('link', { name: /CN-/ }).click();
  await expect(
    page.getByRole('heading', { name: /CN-\d+ to Padi Emas Food Works\s*for goods that came back · all set off/ }),
  ).toBeVisible();

  // 6 of 8 are kept: 4,440 earns 2 %.
  await page.goto(agreement);
  await page.getByRole('tab', { name: 'Rebate, prepayments, revisions' }).click();
  await expect(page.getByRole('tabpanel')).toContainText('MYR 88.80 owed, on 4,440.00 invoiced in the term');
  await expect(page.getByRole('tabpanel')).toContainText('560.00 to the next tier.');
  await page.getByRole('button', { name: 'Settle it…' }).click();
  await expect(sheet(page)).toContainText('MYR 88.80');
  await sheet(page).getByRole('button', { name: 'Make the credit note' }).click();
  await expect(page.getByRole('status')).toContainText('Settled: CN-');
  await expect(page.getByRole('tabpanel')).toContainText('88.80 settled');
  await expect(page.getByRole('button', { name: 'Settle it…' })).toHaveCount(0);

  // 2 of 10 were never called off: charged.
  await page.getByRole('button', { name: 'Wrap up…' }).click();
  await sheet(page).getByLabel('What is decided').selectOption('Charge what is left and end it');
  await expect(sheet(page)).toContainText('An invoice draft of MYR 1,480.00 before tax');
  await sheet(page).getByRole('button', { name: 'Draft the charge and end' }).click();
  await page.getByRole('button', { name: 'Charge the shortfall…' }).click();
  await expect(sheet(page)).toContainText('MYR 1,568.80');
  await sheet(page).getByRole('button', { name: 'Post the invoice' }).click();
  await expect(page.getByRole('status')).toContainText('Charged: CI-');
  await expect(page.getByRole('heading', { name: /AG-\d+ with Padi Emas Food Works\s*ended/ })).toBeVisible();
});

test('a buying agreement is released as a purchase order and received into our stock', async ({ page, demo }) => {
  await signIn(page);
  await page.goto(await pathOfDemo(demo, 'buying'));
  await expect(page.getByRole('heading', { name: /AG-\d+ with Arus Membrane Supply\s*in force/ })).toBeVisible();
  await page.getByRole('button', { name: 'Release…' }).click();
  await sheet(page).getByLabel('Quantity of FC-20').fill('5000');
  await expect(sheet(page)).toContainText('MYR 22,750.00 before tax, as one purchase order');
  await sheet(page).getByLabel('Ship date of FC-20').fill('15/3');
  await sheet(page).getByRole('button', { name: 'Place the purchase order' }).click();
  await expect(page.getByRole('heading', { name: /PO-\d+ from Arus Membrane Supply/ })).toBeVisible();
  await expect(cell(page, 0, 'for')).toHaveText('our stock');
  await expect(cell(page, 0, 'price')).toHaveText('4.55');
  await page.getByRole('button', { name: 'Receive…' }).click();
  await sheet(page).getByLabel('Quantity of FC-20').fill('2000');
  await expect(sheet(page)).toContainText('1 line: 1 receipt, cost MYR 9,100.00');
  await sheet(page).getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Received: RC-');
  await cell(page, 0, 'agreement').getByRole('link').click();
  await expect(cell(page, 1, 'released')).toHaveText('13,000');
  await expect(cell(page, 1, 'shipped')).toHaveText('10,000');
});

test('a file with three bad lines is told line by line, and its good lines taken', async ({ page }) => {
  await signIn(page);
  await page.goto('/agreements');
  await page.getByRole('button', { name: 'Bring in…' }).click();
  const text = [
    'agreement,party,about,last day,item,committed,price',
    'A,C-205,Salt for the south field,2027-12-31,SALT-25,400,26',
    ',,,,FC-9,10,5',
    ',,,,FC-20,none,9',
    'B,C-205,Never,2026-12-31,FC-20,100,9',
    'C,C-206,Cartridges for the docks,2027-12-31,FC-20,900,8.9',
  ].join('\r\n');
  await sheet(page)
    .getByLabel('File of agreements')
    .setInputFiles({ name: 'from-the-south.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(sheet(page)).toContainText('3 agreements with 5 lines, 3 problems.');
  await expect(sheet(page).getByRole('row', { name: /3 item FC-9 is no item or item group here/ })).toBeVisible();
  await expect(
    sheet(page).getByRole('row', { name: /4 committed The committed quantity is not a number/ }),
  ).toBeVisible();
  await expect(
    sheet(page).getByRole('row', { name: /5 last day The last day .* is before the first day/ }),
  ).toBeVisible();
  await expect(sheet(page).getByRole('button', { name: 'Bring them in' })).toBeDisabled();
  await sheet(page)
    .getByLabel(/Take the good lines/)
    .check();
  await sheet(page).getByRole('button', { name: 'Take the good lines' }).click();
  await expect(page.getByRole('status')).toContainText('2 agreements brought in as drafts, first AG-');
  await expect(page.locator('k-grid').getByText('Cartridges for the docks')).toBeVisible();
  await page
    .getByRole('link', { name: 'Used up' })
    .or(page.getByRole('radio', { name: 'Used up', exact: true }))
    .first()
    .click();
  await expect(page).toHaveURL(/left=used-up/);
});

test('terms are revised with their difference, money is taken ahead, and a plain order is priced by agreement', async ({
  page,
  demo,
}) => {
  await signIn(page);
  await page.goto(await pathOfDemo(demo, 'prepaid'));
  await page.getByRole('button', { name: 'Revise…' }).click();
  await typeCell(page, 0, 'price', '1075');
  await page.getByRole('button', { name: 'Keep the revision…' }).click();
  await expect(sheet(page).getByRole('row', { name: /VA-50A: price 1090 1075/ })).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Keep the revision' }).click();
  await expect(sheet(page).getByText('The reason is needed.')).toBeVisible();
  await sheet(page).getByLabel('Why').fill('Valves became cheaper');
  await sheet(page).getByRole('button', { name: 'Keep the revision' }).click();
  await expect(page.getByRole('status')).toContainText('Revised: AG-');
  await page.getByRole('tab', { name: 'Rebate, prepayments, revisions' }).click();
  await expect(page.getByRole('tabpanel')).toContainText('Salmah: Valves became cheaper');
  await page.getByRole('button', { name: 'Take a prepayment…' }).click();
  await sheet(page).getByLabel('Amount, MYR').fill('2,500');
  await sheet(page).getByRole('button', { name: 'Take the prepayment' }).click();
  await expect(page.getByRole('status')).toContainText('Taken: PP-');
  await expect(page.getByRole('tabpanel')).toContainText('2,500.00 left of 2,500.00');

  await page.goto('/orders/new');
  await page.getByLabel('Customer').click();
  await page.getByRole('option', { name: /Padi Emas Food Works/ }).click();
  await pickItem(page, 0, 'VA-50A');
  await expect(cell(page, 0, 'agreement')).toHaveText(/AG-\d+/);
  await expect(cell(page, 0, 'price')).toHaveText('1,075.00');
  await typeCell(page, 0, 'quantity', '2');
  // Nobody typed a day: it takes the first its vendor can keep.
  await expect(cell(page, 0, 'ships')).not.toHaveText('Mon 8 Mar');
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Padi Emas Food Works\s*draft/ })).toBeVisible();
  await expect(cell(page, 0, 'price')).toHaveText('1,075.00');
  await page.getByRole('button', { name: 'Confirm' }).click();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Close line 1 short…' }).click();
  await page.getByLabel('Why').fill('They want none after all');
  await page.getByRole('button', { name: 'Close it short' }).click();
  await expect(page.getByRole('status')).toContainText('Line 1 is closed short; what was open went back: AG-');
});

test('fulfilment leads from a figure to its agreements, in any shape, by address', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(page.getByRole('row', { name: /Teratai Bay Resort/ })).toBeVisible();
  await page.getByRole('radio', { name: 'Sales organisation' }).click();
  await expect(page).toHaveURL(/by=organisation/);
  const drawn = page.getByRole('img').and(page.locator(':not(section[aria-label="Standing orders"] *)'));
  for (const shape of ['Columns', 'Shares', 'Table', 'Bars']) {
    await page.getByRole('radio', { name: shape }).click();
    await expect(drawn).toHaveCount(shape === 'Table' ? 3 : 4);
  }
  await page
    .getByRole('row', { name: /East coast/ })
    .getByRole('link')
    .click();
  await expect(page).toHaveURL(/agreements\?.*organisationId=\d+/);
  await expect(page.locator('k-grid').getByText('Teratai Bay Resort')).toBeVisible();
  await page.goBack();
  await page.locator('svg.areas a').first().click();
  await expect(page.getByRole('heading', { name: /AG-\d+ with Teratai Bay Resort/ })).toBeVisible();
});
