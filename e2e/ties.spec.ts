import { Actor } from '../demo';
import { connect } from '../server/db';
import { cell, expect, pathOfDemo, pickItem, sheet, signIn, test, typeCell, type Demo } from './world';

/** Chooses in a grid cell that offers a list. */
async function chooseCell(page: Parameters<typeof cell>[0], row: number, column: string, option: string) {
  await cell(page, row, column).dblclick();
  await page.locator('.ag-popup, .ag-select-list').getByText(option, { exact: true }).first().click();
  await expect(cell(page, row, column)).toHaveText(option);
}

/** An order of ten drop shipment lines of one customer, placed; laid by the acts themselves. */
async function tenTies(demo: Demo): Promise<string> {
  const database = connect(demo.url, 2);
  const one = async <T>(sql: string) => (await database.rows<T & { id: number }>(sql))[0]!;
  const company = await one("SELECT id FROM company WHERE code = 'HBW'");
  const person = await one("SELECT id FROM person WHERE sign_in = 'salmah'");
  const customer = await one("SELECT id FROM customer WHERE name = 'Kasturi Bottling'");
  const shipTo = await one(`SELECT id FROM ship_to WHERE customer_id = ${customer.id}`);
  const item = await one("SELECT id FROM item WHERE number = 'RO-2540'");
  const vendor = await one("SELECT id FROM vendor WHERE number = 'V-101'");
  const actor = new Actor(database, company.id, person.id, 'ten');
  const day = '2027-03-01';
  const [order] = await actor.does(
    'saveOrder',
    {
      id: null,
      version: null,
      customerId: customer.id,
      shipToId: shipTo.id,
      customerReference: '',
      lines: Array.from({ length: 10 }, () => ({
        id: null,
        itemId: item.id,
        quantity: '5',
        route: 'drop',
        shipDate: '2027-03-20',
      })),
    },
    day,
  );
  await actor.does('confirmOrder', { id: order, version: 1 }, day);
  const lines = await database.rows<{ id: number }>('SELECT id FROM sales_order_line WHERE order_id = ? ORDER BY id', [
    order!,
  ]);
  await actor.does('placePurchases', { lines: lines.map(({ id }) => ({ orderLineId: id, vendorId: vendor.id })) }, day);
  const { number } = (
    await database.rows<{ number: string }>('SELECT number FROM sales_order WHERE id = ?', [order!])
  )[0]!;
  await database.close();
  return number;
}

/** Two special orders of one customer, of two and three valves, whose goods are here; laid by the acts themselves. */
async function twoSpecials(demo: Demo): Promise<[number, number]> {
  const database = connect(demo.url, 2);
  const one = async <T>(sql: string) => (await database.rows<T & { id: number }>(sql))[0]!;
  const company = await one("SELECT id FROM company WHERE code = 'HBW'");
  const person = await one("SELECT id FROM person WHERE sign_in = 'salmah'");
  const customer = await one("SELECT id FROM customer WHERE name = 'Sinar Laut Ferries'");
  const shipTo = await one(`SELECT id FROM ship_to WHERE customer_id = ${customer.id}`);
  const item = await one("SELECT id FROM item WHERE number = 'VA-50A'");
  const vendor = await one("SELECT id FROM vendor WHERE number = 'V-102'");
  const actor = new Actor(database, company.id, person.id, 'two');
  const day = '2027-03-01';
  const orders: number[] = [];
  for (const quantity of ['2', '3']) {
    const [order] = await actor.does(
      'saveOrder',
      {
        id: null,
        version: null,
        customerId: customer.id,
        shipToId: shipTo.id,
        customerReference: `SLF-${quantity}`,
        lines: [{ id: null, itemId: item.id, quantity, route: 'special', shipDate: '2027-03-20' }],
      },
      day,
    );
    await actor.does('confirmOrder', { id: order, version: 1 }, day);
    orders.push(order!);
  }
  const lines = await database.rows<{ id: number }>(
    'SELECT id FROM sales_order_line WHERE order_id IN (?) ORDER BY order_id',
    [orders],
  );
  const [purchase] = await actor.does(
    'placePurchases',
    { lines: lines.map(({ id }) => ({ orderLineId: id, vendorId: vendor.id })) },
    day,
  );
  const bought = await database.rows<{ id: number; quantity: string }>(
    'SELECT id, quantity FROM purchase_order_line WHERE purchase_order_id = ?',
    [purchase!],
  );
  const received = bought.map(({ id, quantity }) => ({ lineId: id, quantity: String(Number(quantity)) }));
  await actor.does('receiveGoods', { purchaseId: purchase, lines: received }, day);
  await database.close();
  return [orders[0]!, orders[1]!];
}

test('purchase first: bought for a customer, made their order, parted and tied again', async ({ page }) => {
  await signIn(page);
  await page.goto('/purchases');
  await page.getByRole('button', { name: 'New purchase order…' }).click();
  await sheet(page).getByLabel('Vendor').fill('Arus');
  await page.getByRole('option', { name: /Arus Membrane Supply/ }).click();
  await sheet(page).getByLabel('Goes to').fill('Padi');
  await page.getByRole('option', { name: /Padi Emas Food Works/ }).click();
  await sheet(page).getByLabel('Item 1').fill('RO-4040');
  await page.getByRole('option', { name: /RO-4040/ }).click();
  await sheet(page).getByLabel('Quantity 1').fill('7');
  await expect(sheet(page).getByText("to Padi Emas Food Works, for nobody's order yet, MYR 4,340.00")).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Place the purchase order' }).click();
  await expect(page.getByRole('heading', { name: /PO-\d+ from Arus Membrane Supply/ })).toBeVisible();
  await expect(cell(page, 0, 'for')).toHaveText('nobody yet');
  const purchase = page.url();

  await page.getByRole('button', { name: 'Make an order of it…' }).click();
  await expect(sheet(page).getByText('before tax, at their prices')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Make the sales order' }).click();
  await page.getByRole('status').getByRole('link', { name: /SO-/ }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Padi Emas Food Works/ })).toBeVisible();
  await expect(cell(page, 0, 'supplied')).toContainText('Arus Membrane Supply');

  await page.getByRole('button', { name: 'Untie line 1' }).click();
  await expect(cell(page, 0, 'supplied')).toHaveText('not placed yet');
  await page.getByRole('button', { name: 'Tie line 1…' }).click();
  await expect(sheet(page).getByText('all of it has supply then')).toBeVisible();
  await sheet(page).getByLabel('Quantity to tie').fill('8');
  await expect(sheet(page).getByRole('alert')).toContainText('more than the 7 still open');
  await sheet(page).getByLabel('Quantity to tie').fill('7');
  await sheet(page).getByRole('button', { name: 'Tie them' }).click();
  await expect(cell(page, 0, 'supplied')).toContainText('Arus Membrane Supply');

  // From the purchase: who it is for, and what came ships it.
  await page.goto(purchase);
  await expect(cell(page, 0, 'for')).toContainText(/SO-\d+ line 1/);
  await page.getByRole('button', { name: 'Receive…' }).click();
  await sheet(page).getByLabel('Quantity of RO-4040').fill('3');
  await sheet(page).getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Received, and shipped to the customer');
  await expect(page.getByRole('button', { name: 'Untie line 1' })).toHaveCount(0);
});

test('a loose drop shipment comes to our stock instead', async ({ page }) => {
  await signIn(page);
  await page.goto('/purchases');
  await page.getByRole('button', { name: 'New purchase order…' }).click();
  await sheet(page).getByLabel('Vendor').fill('Garam');
  await page.getByRole('option', { name: /Garam Murni Salt/ }).click();
  await sheet(page).getByLabel('Goes to').fill('Rumah');
  await page.getByRole('option', { name: /Rumah Hijau Growers/ }).click();
  await sheet(page).getByLabel('Item 1').fill('RO-4040');
  await page.getByRole('option', { name: /RO-4040/ }).click();
  // They do not sell it: said at the item, with who does.
  await expect(sheet(page).getByText('Garam Murni Salt does not sell RO-4040 to us')).toBeVisible();
  await sheet(page).getByLabel('Item 1').fill('SALT');
  await page.getByRole('option', { name: /SALT-25/ }).click();
  await sheet(page).getByLabel('Quantity 1').fill('40');
  await sheet(page).getByRole('button', { name: 'Place the purchase order' }).click();
  await expect(page.getByText('Rumah Hijau Growers').first()).toBeVisible();
  await page.getByRole('button', { name: 'To our stock' }).click();
  await expect(page.getByRole('status')).toContainText('Comes to our place now');
  await expect(cell(page, 0, 'for')).toHaveText('our stock');
  // Their tolerance is five per cent: two bags more are taken, with a word.
  await page.getByRole('button', { name: 'Receive…' }).click();
  await sheet(page).getByLabel('Quantity of SALT-25').fill('43');
  await expect(sheet(page).getByRole('alert')).toContainText('40 still open, and 2 may come beyond; give 42 or less');
  await sheet(page).getByLabel('Quantity of SALT-25').fill('42');
  await expect(sheet(page).getByText('they go to our stock')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Received:');
});

test('special order: bought with what the vendor sells, held when it comes, shipped in two parts', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Kasturi');
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await pickItem(page, 0, 'PM-15');
  await typeCell(page, 0, 'quantity', '7');
  await typeCell(page, 0, 'ships', '30/3');
  await chooseCell(page, 0, 'route', 'special order');
  await page.getByRole('button', { name: 'Confirm' }).click();
  await page.getByRole('button', { name: 'Place the purchase…' }).click();
  await expect(sheet(page).getByText('3 of PM-15 more for our stock: they sell 10')).toBeVisible();
  await expect(sheet(page).getByText('to our place')).toBeVisible();
  await sheet(page)
    .getByRole('button', { name: /Place the purchase order/ })
    .click();
  await page.getByRole('status').getByRole('link', { name: /PO-/ }).click();
  await expect(cell(page, 0, 'for')).toContainText('3 our stock');
  await page.getByRole('button', { name: 'Receive…' }).click();
  await sheet(page).getByLabel('Quantity of PM-15').fill('4');
  await sheet(page).getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Received:');
  await cell(page, 0, 'for').getByRole('link').click();

  await expect(cell(page, 0, 'supplied')).toContainText('4 here');
  await page.getByRole('button', { name: 'Ship…' }).click();
  await expect(sheet(page).getByLabel('Quantity of PM-15')).toHaveValue('4');
  await sheet(page).getByLabel('Quantity of PM-15').fill('5');
  await expect(sheet(page).getByRole('alert')).toContainText('4 of PM-15 were received for');
  await sheet(page).getByLabel('Quantity of PM-15').fill('3');
  await sheet(page).getByRole('button', { name: 'Ship', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Shipped:');
  await expect(cell(page, 0, 'supplied')).toContainText('1 here');
});

test('a pair edit of ten ties: typed and pasted in the grid, the bad one left out', async ({ page, demo }) => {
  const number = await tenTies(demo);
  await signIn(page);
  await page.goto(`/ties?q=${number}`);
  await expect(page.getByText('10 ties between orders and purchases, all in step')).toBeVisible();
  await cell(page, 0, 'quantity').click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', ['6', '6', '6', '0', '6', '6', '6', '6', '6', '6'].join('\n'));
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
  });
  await expect(cell(page, 9, 'quantity')).toHaveText('6');
  await typeCell(page, 0, 'dueDate', '25/3');
  await page.getByRole('button', { name: 'Change 10 ties…' }).click();
  await expect(sheet(page).getByRole('alert')).toContainText('must be above zero');
  await sheet(page).getByRole('checkbox').check();
  await expect(sheet(page).getByText('9 ties changed, 1 left as it is')).toBeVisible();
  await expect(sheet(page).getByText('Still differs in date.')).toBeVisible();
  await expect(sheet(page).getByText('+540.00').first()).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Change the good ones' }).click();
  await expect(page.getByRole('status')).toContainText('2 documents changed');
  await expect(cell(page, 0, 'state')).toHaveText('differs in date');
  await expect(cell(page, 3, 'quantity')).toHaveText('5');
  await expect(cell(page, 4, 'quantity')).toHaveText('6');

  // Into step again, for all that are late.
  await page.getByRole('button', { name: /Ship 1 late line when supply is due/ }).click();
  await page.getByRole('button', { name: 'Change it…' }).click();
  await sheet(page).getByRole('button', { name: 'Change both ends' }).click();
  await expect(page.getByText('10 ties between orders and purchases, all in step')).toBeVisible();
});

test('a line whose goods are held is turned to a drop shipment, and bought from who is approved', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Kasturi');
  await page.getByRole('option', { name: /Kasturi Bottling/ }).click();
  await pickItem(page, 0, 'PM-15');
  await typeCell(page, 0, 'quantity', '5');
  await typeCell(page, 0, 'ships', '30/3');
  await pickItem(page, 1, 'HY-25');
  await typeCell(page, 1, 'quantity', '12');
  await typeCell(page, 1, 'ships', '30/3');
  await page.getByRole('button', { name: 'Confirm' }).click();
  // Pumps are held for an order at once.
  await expect(cell(page, 0, 'supplied')).toContainText('5 held');
  await cell(page, 0, 'quantity').click();
  await page.getByRole('button', { name: 'Supply of line 1…' }).click();
  await sheet(page).getByLabel('Hold for it').fill('6');
  await expect(sheet(page).getByRole('alert')).toContainText('more than the 5 that can be held');
  await sheet(page).getByLabel('Supplied by').selectOption('drop shipment');
  await expect(sheet(page).getByText('5 of PM-15 are held for this line')).toBeVisible();
  await sheet(page).getByRole('checkbox').check();
  await expect(sheet(page).getByText('Supplied by drop shipment, on the bench; 0 held for it')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Keep it so' }).click();
  await expect(cell(page, 0, 'supplied')).toHaveText('not placed yet');

  await page.getByRole('button', { name: 'Place 2 purchases…' }).click();
  await sheet(page)
    .getByLabel(/Vendor of HY-25/)
    .selectOption({ label: 'Garam Murni Salt, MYR 55.00, 3 days (not approved)' });
  await expect(sheet(page).getByRole('alert')).toContainText('buy it from Delima Chemicals');
  await sheet(page)
    .getByLabel(/Vendor of HY-25/)
    .selectOption({ label: 'Delima Chemicals, MYR 61.25, 4 days' });
  await expect(sheet(page).getByRole('row', { name: /HY-25/ })).toContainText('the only one approved');
  await sheet(page).getByRole('button', { name: 'Place 2 purchase orders' }).click();
  await expect(cell(page, 1, 'supplied')).toContainText('Delima Chemicals');
});

test('two special orders of a customer go out together on one shipment, which is taken back', async ({
  page,
  demo,
}) => {
  const [first, second] = await twoSpecials(demo);
  await signIn(page);
  await page.goto(`/orders/${first}`);
  await page.getByRole('button', { name: 'Ship…' }).click();
  await expect(sheet(page).getByText(/Also here for Sinar Laut Ferries, to the same address/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'All of it goes with it' }).click();
  await expect(sheet(page).getByText(/2 lines: 1 shipment,/)).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Ship', exact: true }).click();
  await expect(page.getByText(/Shipped:/)).toBeVisible();
  await page.goto(`/orders/${second}`);
  await expect(page.getByRole('button', { name: 'Invoice what went out…' })).toBeVisible();

  // Counted wrong: all of it comes back, and waits for its orders again.
  await page.getByRole('tab', { name: 'Documents' }).click();
  await page
    .getByRole('link', { name: /^SH-\d+$/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Reverse…' }).click();
  await sheet(page).getByLabel('Why').fill('Left on the dock');
  await sheet(page).getByRole('button', { name: 'Reverse it' }).click();
  await expect(page.getByText('Reversed by')).toBeVisible();
  await page.goto(`/orders/${second}`);
  await expect(page.getByText(/taken back by/)).toBeVisible();
  await expect(cell(page, 0, 'supplied')).toContainText('3 here');
});

test('Enter goes from a line of an order to what supplies it, and back', async ({ page, demo }) => {
  await signIn(page);
  await page.goto(await pathOfDemo(demo, 'order'));
  await cell(page, 0, 'quantity').click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^PO-\d+ from/ })).toBeVisible();
  // It stands on the line already.
  await expect(page.locator('.ag-row.ag-row-focus')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^SO-\d+ for/ })).toBeVisible();
  await expect(page.locator('.ag-row.ag-row-focus')).toHaveCount(1);
});
