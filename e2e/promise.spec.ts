import type { Page } from '@playwright/test';
import { expect, sheet, signIn, test, typeCell } from './world';

interface Checked {
  lines: { ways: Record<'atp' | 'have' | 'nothing', { day: string | null }> }[];
}

test('nine dosing skids are promised with all they need; more of them come later, and it is told why', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Padi');
  await page.getByRole('option', { name: /Padi Emas Food Works/ }).click();
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('SK-D4\t9\t\t5/3');
  await sheet(page).getByRole('button', { name: 'Add 1 line' }).click();
  const dock = page.getByRole('region', { name: 'Dock' });
  await dock.getByRole('tab', { name: 'Availability' }).click();
  await expect(dock.getByText('None of 9 SK-D4 are to be had')).toBeVisible();
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Padi Emas/ })).toBeVisible();
  const id = /orders\/(\d+)/.exec(page.url())![1]!;

  // Every way side by side; the server says the same as the page worked out.
  await page.getByRole('button', { name: 'Promise…' }).click();
  const way = (name: string) => sheet(page).getByRole('button', { name: new RegExp(`^${name}, line 1`) });
  await expect(way('What is there')).toHaveText('none');
  const have = (await way('Use what we have').textContent())!.trim();
  const { lines } = (await (await page.request.get(`/api/orders/${id}/promise/check`)).json()) as Checked;
  const written = (day: string) =>
    new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
      .format(new Date(`${day}T00:00:00Z`))
      .replace(',', '');
  expect(have).toBe(written(lines[0]!.ways.have.day!));
  await expect(way('Start from nothing')).toHaveText(written(lines[0]!.ways.nothing.day!));
  await expect(sheet(page).getByRole('heading', { name: 'Why then' })).toBeVisible();
  await expect(sheet(page).getByRole('listitem').filter({ hasText: 'at Test stand' })).toBeVisible();

  // Three times as many: later, for want of pumps; a part of them could go first.
  await sheet(page).getByLabel('Quantity of line 1').fill('27');
  await expect(
    sheet(page)
      .getByRole('listitem')
      .filter({ hasText: /PM-15 from Logam Setia Castings/ }),
  ).toBeVisible();
  await expect(way('Use what we have')).not.toHaveText(have);
  await expect(sheet(page).getByText('A quantity is not the order’s')).toBeVisible();
  await expect(sheet(page).getByRole('button', { name: 'Promise this day' })).toBeDisabled();

  await sheet(page).getByLabel('Quantity of line 1').fill('9');
  await expect(way('Use what we have')).toHaveText(have);
  await sheet(page).getByRole('button', { name: 'Promise this day' }).click();
  const said = page.getByText(/Promised; \d+ orders planned with it/);
  await expect(said).toBeVisible();
  await page.goto('/workshop');
  await expect(page.getByRole('row', { name: /SK-D4 9 .*planned .* SO-\d+, Padi Emas/ })).toBeVisible();
  await page
    .getByRole('row', { name: /SK-D4 9 .*planned .* SO-\d+, Padi Emas/ })
    .getByRole('link', { name: /^AS-/ })
    .click();
  await expect(page.getByRole('row', { name: /PM-15 Dosing pump.* 36 0/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /SK-PANEL Control panel/ })).toBeVisible();

  // What is planned holds the line as it is, until the promise is taken back.
  await page.goto(`/orders/${id}`);
  await typeCell(page, 0, 'quantity', '10');
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByText(/is planned for this line as it is/)).toBeVisible();
  await typeCell(page, 0, 'quantity', '9');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Take the promise back' }).click();
  await expect(page.getByText('What was promised is taken back:')).toBeVisible();
});

test('a work centre that is full says for whom, and a promise that was seen too long ago is asked anew', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto('/load');
  await page
    .getByRole('button', { name: /^Welding bay, .* [1-9]\d* of 960 minutes/ })
    .first()
    .click();
  await expect(page.getByRole('row', { name: /^PR-\d+ FV-\d+ \d+ min/ }).first()).toBeVisible();
  await page.getByText('Week', { exact: true }).click();
  await expect(page.getByRole('button', { name: /^Welding bay, week of/ }).first()).toBeVisible();

  // Two people look at the same pumps; the one who is later is told the new day.
  const draft = async (on: typeof page) => {
    await on.goto('/orders/new');
    await on.getByLabel('Customer').fill('Kolam');
    await on.getByRole('option', { name: /Kolam Ceria/ }).click();
    await on.getByRole('button', { name: 'Paste…' }).click();
    await sheet(on).getByLabel('Rows from a spreadsheet').fill('SK-D2\t20\t\t2/3');
    await sheet(on).getByRole('button', { name: 'Add 1 line' }).click();
    await on.getByRole('button', { name: 'Save the draft' }).click();
    await expect(on.getByRole('heading', { name: /SO-\d+ for Kolam/ })).toBeVisible();
    await on.getByRole('button', { name: 'Promise…' }).click();
    await expect(sheet(on).getByRole('button', { name: /^Use what we have, line 1: \w/ })).toBeVisible();
  };
  const other = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(other, 'meilin');
  await draft(page);
  await draft(other);
  await sheet(page).getByRole('button', { name: 'Promise this day' }).click();
  await expect(page.getByText(/Promised; \d+ orders planned with it/)).toBeVisible();
  await sheet(other).getByRole('button', { name: 'Promise this day' }).click();
  await expect(sheet(other).getByText(/It was .* when you looked and is .* now/)).toBeVisible();
  await other.context().close();
});

test('lines of one order go out each on its own day, or all together on the last', async ({ page }) => {
  await signIn(page);
  await page.goto('/orders/new');
  await page.getByLabel('Customer').fill('Nilam');
  await page.getByRole('option', { name: /Nilam Dialysis/ }).click();
  await page.getByRole('button', { name: 'Paste…' }).click();
  await sheet(page).getByLabel('Rows from a spreadsheet').fill('FV-1200\t1\t\t5/3\nTUBE-12\t6\t\t5/3');
  await sheet(page).getByRole('button', { name: 'Add 2 lines' }).click();
  await page.getByRole('button', { name: 'Save the draft' }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Nilam/ })).toBeVisible();
  await page.getByRole('button', { name: 'Promise…' }).click();
  const vessel = sheet(page).getByRole('button', { name: /^Use what we have, line 1: \w/ });
  await expect(vessel).toHaveText(/\d/);
  const last = (await vessel.textContent())!.trim();
  await expect(sheet(page).getByRole('radio', { name: `All together, ${last}` })).toBeVisible();
  await sheet(page)
    .getByRole('row', { name: /TUBE-12/ })
    .click();
  await expect(sheet(page).getByRole('heading', { name: /^Line 2, 6 TUBE-12/ })).not.toContainText(last);
  await sheet(page)
    .getByRole('radio', { name: /^All together/ })
    .click();
  await expect(sheet(page).getByRole('heading', { name: /^Line 2, 6 TUBE-12/ })).toContainText(last);
  await sheet(page).getByRole('button', { name: 'Promise these days' }).click();
  await expect(page.getByText(/Promised[;:]/)).toBeVisible();
  await expect(page.getByText(new RegExp(`first goes out ${last}`))).toBeVisible();
});

/** Does an act as the signed-in person, without walking the screens; the id of what it made. */
async function does(page: Page, name: string, input: unknown): Promise<number> {
  const { session } = (await (await page.request.get('/api/session')).json()) as { session: { token: string } };
  const answer = await page.request.post(`/api/acts/${name}`, {
    data: input,
    headers: { 'X-Kampong-Token': session.token, 'Idempotency-Key': crypto.randomUUID() },
  });
  const body = (await answer.json()) as { made: { id: number }[] };
  expect(answer.ok(), JSON.stringify(body)).toBe(true);
  return body.made[0]?.id ?? 0;
}

const found = async <Row>(page: Page, path: string) =>
  ((await (await page.request.get(path)).json()) as { rows: Row[] }).rows[0]!;

test('a vendor slips and four promises move; three of them are taken', async ({ page }) => {
  await signIn(page);
  const vendor = await found<{ id: number }>(page, '/api/vendors?q=Arus');
  const customer = await found<{ id: number; shipTos: { id: number }[] }>(page, '/api/customers?q=Kasturi');
  const lamp = await found<{ id: number }>(page, '/api/items?q=UV-LAMP');
  const purchase = await does(page, 'enterPurchase', {
    vendorId: vendor.id,
    shipToId: null,
    lines: [{ itemId: lamp.id, quantity: '400', dueDate: '2027-03-09' }],
  });
  for (const quantity of ['60', '70', '80', '90']) {
    const order = await does(page, 'saveOrder', {
      id: null,
      version: null,
      customerId: customer.id,
      shipToId: customer.shipTos[0]!.id,
      customerReference: 'KB-77',
      lines: [{ id: null, itemId: lamp.id, quantity, shipDate: '2027-03-09', route: 'stock', agreementLineId: null }],
    });
    await does(page, 'confirmOrder', { id: order, version: 1 });
  }

  await page.goto('/repromise');
  await page.getByRole('button', { name: 'Ask all again' }).click();
  await expect(page.getByText(/\d+ lines asked/)).toBeVisible();
  await expect(page.getByRole('row', { name: /UV-LAMP/ })).toHaveCount(0);

  await page.goto(`/purchases/${purchase}`);
  await page.getByRole('button', { name: 'Their answer…' }).click();
  await sheet(page).getByLabel('Due on, line 1').fill('11/3');
  await sheet(page).getByRole('button', { name: 'Take it down' }).click();
  await expect(sheet(page)).toHaveCount(0);

  await page.goto('/repromise');
  await page.getByRole('button', { name: 'Ask all again' }).click();
  const lamps = page.getByRole('row', {
    name: /UV-LAMP .* Tue 9 Mar Thu 11 Mar \+2 PO-\d+ of Arus Membrane Supply comes then/,
  });
  await expect(lamps).toHaveCount(4);
  // Only these, and all but one of them.
  await page.getByLabel('All of them').uncheck();
  for (let row = 0; row < 3; row += 1) await lamps.nth(row).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Take 3 new days' }).click();
  await expect(page.getByText('3 promises moved; what to tell their customers waits to be sent.')).toBeVisible();
  await expect(page.getByRole('row', { name: /UV-LAMP .* taken/ })).toHaveCount(3);
  await page
    .getByRole('row', { name: /UV-LAMP .* taken/ })
    .first()
    .getByRole('link')
    .click();
  await expect(page.getByText(/first goes out Thu 11 Mar/)).toBeVisible();

  // One message to their customer is drafted, read and sent; the confirmation goes with it.
  await page.goto('/today');
  await page.getByRole('link', { name: 'Read and send it' }).first().click();
  await expect(page.getByRole('heading', { name: /^To be sent/ })).toBeVisible();
  const dock = page.getByRole('region', { name: 'Dock' });
  await expect(dock.getByText(/Dear Kasturi Bottling/)).toBeVisible();
  await expect(
    dock.getByText(/60 pieces of UV-LAMP, going out Thu 11 Mar, not Tue 9 Mar \(2 days later\)/),
  ).toBeVisible();
  await dock.getByRole('button', { name: 'Send…' }).click();
  await expect(sheet(page).getByLabel('Subject')).toHaveValue(/^New days for SO-/);
  await sheet(page).getByRole('button', { name: 'Send it' }).click();
  await expect(page.getByText('Sent to Kasturi Bottling.')).toBeVisible();
  await expect(page.getByText('Nothing waits to be sent.', { exact: false })).toBeVisible();
  await page.goto('/mail');
  await expect(page.getByRole('row', { name: /Kasturi Bottling .* New days for SO-/ })).toBeVisible();
});
