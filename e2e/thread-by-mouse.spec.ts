import { cell, expect, pickItem, sheet, signIn, test, typeCell } from './world';

test('by mouse: an agreement is made, released, bought, received in parts, invoiced, paid and looked back on', async ({
  page,
}) => {
  await signIn(page);

  // Agree.
  await page.getByRole('link', { name: 'Agreements' }).click();
  await page.getByRole('link', { name: 'New agreement' }).click();
  await page.getByLabel('Customer').click();
  await page.getByRole('option', { name: /Teratai Bay Resort/ }).click();
  await page.getByLabel('About').fill('Membranes for the hill villas');
  await page.getByLabel('Last day').fill('31/12');
  await pickItem(page, 0, 'RO-4040');
  await typeCell(page, 0, 'committed', '20');
  await typeCell(page, 0, 'price', '735.50');
  await expect(cell(page, 0, 'list')).toHaveText('815.00');
  await page.getByRole('button', { name: 'Save the draft' }).click();
  const draft = page.getByRole('heading', { name: /AG-\d+ with Teratai Bay Resort/ });
  await expect(draft).toBeVisible();
  const agreement = /AG-\d+/.exec((await draft.textContent()) ?? '')![0];
  await expect(
    page.getByRole('heading', { name: /nothing can be released from it until it is in force/ }),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Release…' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Put in force' }).click();
  await expect(page.getByRole('button', { name: 'Release…' })).toBeVisible();

  // Release: what is left and the missing reference are said while typing.
  await page.getByRole('button', { name: 'Release…' }).click();
  await sheet(page).getByLabel('Quantity of RO-4040').fill('25');
  await expect(
    sheet(page)
      .getByRole('alert')
      .filter({ hasText: `25 pieces of RO-4040 are more than the 20 left on ${agreement}` }),
  ).toBeVisible();
  await expect(sheet(page).getByRole('alert').filter({ hasText: 'wants their own reference' })).toBeVisible();
  await sheet(page).getByLabel('Quantity of RO-4040').fill('12');
  await expect(sheet(page).locator('td[aria-live]')).toHaveText('8');
  await sheet(page).getByLabel('Ship to').selectOption('Jetty Store, Kuala Besut');
  await sheet(page).getByLabel('Their reference').fill('TBR-9001');
  await sheet(page).getByLabel('Ship date of RO-4040').fill('12/3');
  await sheet(page).getByRole('button', { name: 'Release as a sales order' }).click();
  const order = page.getByRole('heading', { name: /SO-\d+ for Teratai Bay Resort/ });
  await expect(order).toBeVisible();
  const number = /SO-\d+/.exec((await order.textContent()) ?? '')![0];
  await expect(page.getByRole('link', { name: agreement }).first()).toBeVisible();

  // Route and confirm.
  await expect(cell(page, 0, 'route')).toHaveText('drop shipment');
  await page.getByRole('button', { name: 'Confirm' }).click();

  // Source: from the order, the effect shown before.
  await page.getByRole('button', { name: 'Place the purchase…' }).click();
  await expect(sheet(page)).toContainText(
    'Arus Membrane Supply to Jetty Store, Teratai Bay Resort: 1 line, MYR 7,440.00',
  );
  await sheet(page).getByRole('button', { name: 'Place the purchase order' }).click();
  await expect(cell(page, 0, 'supplied')).toContainText('Arus Membrane Supply');

  // Move: part from the purchase, the rest from the order.
  await page.getByRole('tab', { name: 'Documents' }).click();
  await page.getByRole('tabpanel').getByRole('link', { name: /PO-/ }).click();
  await page.getByRole('button', { name: 'Receive…' }).click();
  await sheet(page).getByLabel('Quantity of RO-4040').fill('8');
  await expect(sheet(page)).toContainText('1 receipt and 1 shipment');
  await sheet(page).getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Received, and shipped to the customer: RC-');
  await page.getByRole('tab', { name: 'Thread' }).click();
  await expect(page.locator('k-thread')).toContainText('4 to come');
  await page
    .locator('k-grid')
    .getByRole('link', { name: new RegExp(number) })
    .click();
  await page.getByRole('button', { name: 'Ship…' }).click();
  await expect(sheet(page).getByLabel('Quantity of RO-4040')).toHaveValue('4');
  await sheet(page).getByRole('button', { name: 'Ship', exact: true }).click();

  // Invoice the customer: tax, terms and due date.
  await page.getByRole('button', { name: 'Invoice what went out…' }).click();
  await expect(sheet(page)).toContainText('due Wed 31 Mar');
  await expect(sheet(page)).toContainText('9,355.56');
  await sheet(page).getByRole('button', { name: 'Post the invoice' }).click();
  await expect(page.getByRole('status')).toContainText('Invoiced: CI-');

  // The vendor's invoice, with its own number and a price difference.
  await page.getByRole('tab', { name: 'Documents' }).click();
  await page.getByRole('tabpanel').getByRole('link', { name: /PO-/ }).click();
  await page.getByRole('button', { name: 'Enter their invoice…' }).click();
  await expect(sheet(page).getByLabel('Price of RO-4040')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Enter the invoice' }).click();
  await expect(
    sheet(page).getByRole('alert').filter({ hasText: "The vendor's own invoice number is needed" }),
  ).toBeVisible();
  await sheet(page).getByLabel('Their invoice number').fill('ARUS-7');
  await sheet(page).getByLabel('Price of RO-4040').fill('621');
  await expect(sheet(page)).toContainText('12.00 differs from what was ordered and goes to cost of sales');
  await sheet(page).getByRole('button', { name: 'Enter the invoice' }).click();
  await expect(page.getByRole('status')).toContainText('Entered: VI-');

  // Look back: each bead leads to its document, and each document to what it posted.
  await page.getByRole('tab', { name: 'Thread' }).click();
  await page
    .locator('k-thread')
    .getByRole('link', { name: /^Shipped, SH-/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: /SH-\d+ shipped to Teratai Bay Resort/ })).toBeVisible();
  await page.getByRole('tab', { name: 'Journals and stock' }).click();
  await expect(page.getByRole('tabpanel')).toContainText('Cost of sales');
  await expect(page.getByRole('tabpanel')).toContainText('vendor to customer');
  await page.getByRole('tabpanel').getByRole('link', { name: /JR-/ }).first().click();
  await expect(page.getByRole('heading', { level: 1, name: /JR-/ })).toBeVisible();
  await page.goBack();
  await page.getByRole('tab', { name: 'Thread' }).click();
  await page
    .locator('k-thread')
    .getByRole('link', { name: /^Invoiced, CI-/ })
    .click();
  await page.getByRole('button', { name: 'They paid…' }).click();
  await sheet(page).getByRole('button', { name: 'Record the payment' }).click();
  await expect(page.getByRole('heading', { name: /CI-\d+ to Teratai Bay Resort\s*paid/ })).toBeVisible();

  // The agreement tells it all.
  await page.getByRole('tab', { name: 'Thread' }).click();
  await page
    .locator('k-thread')
    .getByRole('link', { name: new RegExp(`^Agreed, ${agreement}`) })
    .click();
  for (const [column, text] of [
    ['released', '12'],
    ['shipped', '12'],
    ['invoiced', '12'],
    ['left', '8'],
  ] as const) {
    await expect(cell(page, 0, column)).toHaveText(text);
  }
  await page.getByRole('tab', { name: 'Documents' }).click();
  await expect(page.getByRole('tabpanel').getByRole('row')).toHaveCount(9);

  // And the customer's balance is the open items under it.
  await page.getByRole('link', { name: 'Teratai Bay Resort' }).first().click();
  await expect(page.getByText('Balance, MYR')).toBeVisible();
});
