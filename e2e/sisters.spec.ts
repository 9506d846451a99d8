import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, sheet, signIn, test } from './world';

/** The row of the tray that tells of a document. */
const offer = (page: Page, words: RegExp) => page.locator('.offer', { hasText: words });

test('what a sister sends is taken once: told twice it is joined, received with its invoice, and the books agree', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/today');
  await page.getByText(/of Muara Bening Fabrication waits in the tray/).click();
  await page.getByRole('link', { name: /^Take \d of them$/ }).click();
  await expect(page.getByRole('heading', { name: /Tray/ })).toBeVisible();
  await expect(page.locator('.offer')).toHaveCount(3);

  // We ordered three by ourselves, and she sold us three: one thing.
  const double = offer(page, /told twice\?/);
  await double.getByRole('button', { name: /^It is PO-/ }).click();
  await expect(page.getByRole('status')).toContainText('is our');
  await expect(page.locator('.offer')).toHaveCount(2);

  // The invoice of what she shipped waits with the goods.
  await offer(page, /shipped us 2 FV-900/)
    .getByRole('button', { name: /Receive and enter/ })
    .click();
  await expect(sheet(page).getByText(/MB9-\d\d-\d{3}, MB9-\d\d-\d{3}/)).toBeVisible();
  await expect(sheet(page).getByLabel(/Enter\s+CI-/)).toBeChecked();
  await sheet(page).getByRole('button', { name: 'Receive and enter' }).click();
  await expect(page.getByRole('status')).toContainText('was taken as RC-');
  await expect(page.locator('.offer')).toHaveCount(1);

  // One invoice is under way: that is all her books and ours differ by.
  await page.goto('/sisters/2/reconciliation');
  await expect(page.getByRole('heading', { name: /1 row differs/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /986\.86 – – waits in the tray of who buys/ })).toBeVisible();
  await page.getByRole('link', { name: 'Tray', exact: true }).last().click();
  await offer(page, /invoices us 1 FV-900/)
    .getByRole('button', { name: /^Enter/ })
    .click();
  await sheet(page).getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(page.getByText('Nothing waits. What a sister company orders')).toBeVisible();
  await page.goto('/sisters/2/reconciliation');
  await expect(page.getByRole('heading', { name: /both say the same/ })).toBeVisible();
});

test('what she cannot name she pairs in the tray, and takes otherwise; we hear of it and change ours', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/purchases');
  await page.getByRole('button', { name: 'New purchase order…' }).click();
  await sheet(page).getByLabel('Vendor').fill('Muara');
  await page.getByRole('option', { name: /Muara Bening Fabrication/ }).click();
  await sheet(page).getByLabel('Item 1').fill('FV-1200');
  await page.getByRole('option', { name: /FV-1200/ }).click();
  await sheet(page).getByLabel('Quantity 1').fill('4');
  await sheet(page).getByRole('button', { name: 'Place the purchase order' }).click();
  await expect(page.getByRole('heading', { name: /PO-\d+ from Muara Bening Fabrication/ })).toBeVisible();
  const purchase = page.url();

  await page.context().clearCookies();
  await signIn(page, 'chandra');
  await page.goto('/tray');
  await offer(page, /buys 4 FV-1200 of us/)
    .getByRole('button', { name: /Take as an order/ })
    .click();
  await expect(sheet(page).getByText('FV-1200 of Hulu Bening Water Works is not paired')).toBeVisible();
  await sheet(page).getByLabel('Our item for FV-1200').fill('1200');
  await page.getByRole('option', { name: /FV 1200/ }).click();
  await sheet(page).getByLabel('How many of FV 1200').fill('3');
  await expect(sheet(page).getByText('hears that it is taken otherwise')).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Take as an order' }).click();
  await page.getByRole('status').getByRole('link', { name: /SO-/ }).click();
  await expect(page.getByRole('heading', { name: /SO-\d+ for Hulu Bening Water Works\s*confirmed/ })).toBeVisible();

  await page.context().clearCookies();
  await signIn(page);
  await page.goto('/tray');
  const changed = offer(page, /sells us 3 FV 1200/);
  await expect(changed.locator('.margin')).toHaveText('changed since');
  await changed.getByRole('button', { name: /Change PO-/ }).click();
  await expect(sheet(page).getByRole('row', { name: /FV 1200 FV-1200 4, / })).toBeVisible();
  await sheet(page)
    .getByRole('button', { name: /Change PO-/ })
    .click();
  await expect(page.getByRole('status')).toContainText('was taken');
  await page.goto(purchase);
  await expect(page.getByRole('row', { name: /FV-1200.* 3 / })).toBeVisible();
});

test('three corners: her shipment to our customer is ours in the same act', async ({ page }) => {
  await signIn(page, 'chandra');
  await page.goto('/orders?q=Hulu');
  await page
    .getByRole('row', { name: /confirmed/ })
    .first()
    .waitFor();
  await page.goto('/to-go-out?days=all');
  await expect(page.getByText(/Kasturi Bottling, Line 1 store/).first()).toBeVisible();
  const line = page
    .getByRole('row', { name: /FV-900/ })
    .filter({ hasText: 'SO-0003' })
    .first();
  await line.getByRole('checkbox').check();
  await page.getByRole('button', { name: /^Ship 1 line/ }).click();
  await sheet(page).getByRole('button', { name: /^Ship/ }).click();
  await expect(page.getByRole('status')).toContainText(/SH-/);

  await page.context().clearCookies();
  await signIn(page);
  await page.goto('/orders?q=KB-310');
  await page.locator('.ag-row').first().dblclick();
  await expect(page.getByRole('heading', { name: /for Kasturi Bottling/ })).toBeVisible();
  const dock = page.getByRole('region', { name: 'Dock' });
  await expect(dock.getByText(/SH-\d+/).nth(1)).toBeVisible();
  await dock.getByRole('tab', { name: 'Changes' }).click();
  await expect(dock.getByText('Chandra').first()).toBeVisible();
});

/** Her answer to an order of ours: so many, in that revision. */
const response = (
  purchase: string,
  quantity: string,
  revision: number,
  day: string,
) => `<?xml version="1.0" encoding="UTF-8"?>
<OrderResponse xmlns="urn:oasis:names:specification:ubl:schema:xsd:OrderResponse-2"
  xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2"
  xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
  <cbc:ID>G-118</cbc:ID><cbc:SalesOrderID>G-118</cbc:SalesOrderID><cbc:IssueDate>2027-03-02</cbc:IssueDate>
  <cbc:OrderResponseCode>AP</cbc:OrderResponseCode><cbc:DocumentCurrencyCode>MYR</cbc:DocumentCurrencyCode>
  <cac:OrderReference><cbc:ID>${purchase}</cbc:ID></cac:OrderReference>
  <cac:AdditionalDocumentReference><cbc:ID>G-118</cbc:ID><cbc:VersionID>${revision}</cbc:VersionID></cac:AdditionalDocumentReference>
  <cac:SellerSupplierParty><cac:Party><cac:PartyIdentification><cbc:ID>LGW</cbc:ID></cac:PartyIdentification></cac:Party></cac:SellerSupplierParty>
  <cac:BuyerCustomerParty><cac:Party><cac:PartyIdentification><cbc:ID>HBW</cbc:ID></cac:PartyIdentification></cac:Party></cac:BuyerCustomerParty>
  <cac:OrderLine>
    <cac:LineItem>
      <cbc:ID>1</cbc:ID><cbc:Quantity unitCode="EA">${quantity}</cbc:Quantity>
      <cac:Delivery><cac:PromisedDeliveryPeriod><cbc:EndDate>${day}</cbc:EndDate></cac:PromisedDeliveryPeriod></cac:Delivery>
      <cac:Item><cbc:Name>Vessel of 1200</cbc:Name><cac:SellersItemIdentification><cbc:ID>G-12</cbc:ID></cac:SellersItemIdentification></cac:Item>
    </cac:LineItem>
    <cac:OrderLineReference><cbc:LineID>1</cbc:LineID><cac:OrderReference><cbc:ID>${purchase}</cbc:ID></cac:OrderReference></cac:OrderLineReference>
  </cac:OrderLine>
</OrderResponse>`;

test('a sister elsewhere: our order goes as a file, her answers come back as files, each once', async ({ page }) => {
  await signIn(page);
  await page.goto('/tray');
  await page.getByRole('radio', { name: 'To send' }).click();
  const row = page.locator('.offer', { hasText: 'is ordered of Lembah Gading Water' });
  const number = (await row.getByRole('link', { name: /^PO-/ }).innerText()).trim();
  const saved = page.waitForEvent('download');
  await row.getByRole('link', { name: `Save ${number}` }).click();
  const ordered = await readFile(await (await saved).path(), 'utf8');
  expect(ordered).toContain(`<cbc:ID>${number}</cbc:ID>`);
  const day = /<cbc:EndDate>(.*?)<\/cbc:EndDate>/.exec(ordered)![1]!;
  await expect(page.getByRole('status')).toContainText(`${number} was saved; bring it to Lembah Gading Water.`);
  await expect(page.getByRole('heading', { name: 'Sent last' })).toBeVisible();
  await expect(row.getByRole('link', { name: `Save ${number}` })).toHaveText('Save it again');

  const bringIn = async (text: string, words: RegExp) => {
    await page.getByRole('button', { name: 'Bring in a file…' }).click();
    await sheet(page)
      .getByLabel('File of a sister company')
      .setInputFiles({ name: 'g-118.xml', mimeType: 'application/xml', buffer: Buffer.from(text) });
    await expect(sheet(page).getByText(words)).toBeVisible();
    await sheet(page).getByRole('button', { name: 'Bring it in' }).click();
    await expect(page.getByRole('status')).toContainText('The file was brought in.');
  };
  // A file for somebody else is refused at once, and nothing is made.
  await page.getByRole('radio', { name: 'Waiting' }).click();
  await page.getByRole('button', { name: 'Bring in a file…' }).click();
  await sheet(page)
    .getByLabel('File of a sister company')
    .setInputFiles({
      name: 'g.xml',
      mimeType: 'application/xml',
      buffer: Buffer.from(response(number, '2', 0, day).replace('>HBW<', '>XYZ<')),
    });
  await expect(sheet(page).getByText('This file is for XYZ, and we are HBW; bring it in there.')).toBeVisible();
  await expect(sheet(page).getByRole('button', { name: 'Bring it in' })).toBeDisabled();
  await sheet(page).getByRole('button', { name: 'Leave it' }).click();

  await bringIn(response(number, '2', 0, day), /an order response that says what we have; nothing is left to do/);
  await bringIn(response(number, '2', 0, day), /came before, or a later one did; nothing is made twice/);
  await expect(page.locator('.offer', { hasText: 'G-118' })).toHaveCount(0);

  // She can do one of both: it waits, and our order is changed by it.
  await bringIn(response(number, '1', 1, day), /changed; what is another will stand in the tray/);
  const changed = page.locator('.offer', { hasText: 'G-118' });
  await changed
    .getByRole('button', { name: /G-118$/ })
    .last()
    .click();
  await expect(sheet(page).getByText('sells us 1 G-12')).toBeVisible();
  await sheet(page).locator('footer .next').click();
  await expect(page.getByRole('status')).toContainText('was taken');
  await page.getByRole('radio', { name: 'To send' }).click();
  await expect(row.first()).toContainText('changed for the first time');
});
