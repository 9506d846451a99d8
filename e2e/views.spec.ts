import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, pathOfDemo, signIn, test, type Demo } from './world';

/** Each view with its address, or what it shows of the demo. */
const VIEWS = [
  ['today', '/today'],
  ['agreements', '/agreements'],
  ['agreement', 'ahead'],
  ['agreement by value', 'byValue'],
  ['agreement with a vendor', 'buying'],
  ['agreement draft', 'draft'],
  ['orders', '/orders'],
  ['order', 'order'],
  ['new order', '/orders/new'],
  ['order being typed', 'priced'],
  ['bench', '/bench'],
  ['ties', '/ties'],
  ['special order', 'special'],
  ['purchases', '/purchases'],
  ['loose purchase', 'loose'],
  ['purchase', 'purchase'],
  ['billing', '/billing'],
  ['credit notes', '/credit-notes'],
  ['prepayments', '/prepayments'],
  ['owed by age', '/open-by-age'],
  ['accounts', '/accounts'],
  ['account', '/accounts/1'],
  ['customer invoice', '/billing/customer/5'],
  ['vendor invoice', '/billing/vendor/5'],
  ['fulfilment', '/insight'],
  ['prepayment', 'prepayment'],
  ['customer', '/customers/1'],
  ['vendor', '/vendors/1'],
  ['item', '/items/1'],
  ['workshop', '/workshop'],
  ['workshop by day', '/workshop/days'],
  ['to go out', '/to-go-out?days=all'],
  ['to pick', '/to-go-out?days=all&by=item'],
  ['rounds', '/rounds'],
  ['run', '/rounds/1/2027-03-02'],
  ['counter', '/counter'],
  ['till', 'waiting'],
  ['slips', '/slips'],
  ['slip', '/slips/1'],
  ['drawers', '/drawers'],
  ['drawer', '/drawers/1'],
  ['standing orders', '/standing-orders'],
  ['standing order', '/standing-orders/1'],
  ['promotions', '/promotions'],
  ['promotion', '/promotions/1'],
  ['support by vendors', '/support'],
  ['support', '/support/1'],
  ['claims', '/claims'],
  ['claim', '/claims/1'],
  ['commission', '/commission'],
  ['commission statement', '/commission/2'],
  ['till while the server is away', '/till/away'],
  ['tray', '/tray'],
  ['came back', '/tray?show=returned'],
  ['sister companies', '/sisters'],
  ['pair', '/sisters/2'],
  ['books side by side', '/sisters/2/reconciliation'],
  ['stock', '/stock'],
  ['under way', '/carriages'],
  ['counts', '/counts'],
  ['count', '/counts/1'],
  ['serial numbers', '/serials'],
  ['serial number', '/serials/1'],
  ['production order', '/workshop/1'],
  ['at the bench', '/workshop/at'],
  ['work report', '/work-reports/1'],
  ['load', '/load'],
  ['promise again', '/repromise'],
  ['planning', '/planning'],
  ['lists', '/lists?list=prices'],
  ['letterhead', '/letterhead'],
  ['months', '/months'],
  ['trail', '/trail'],
  ['own', '/own'],
  ['bring in', '/bring-in'],
  ['opening', '/opening/customers'],
  ['numbers', '/numbers'],
  ['all of a customer', '/kept/customer/1'],
  ['all of an item', '/kept/item/1'],
  ['all of a vendor', '/kept/vendor/1'],
  ['upkeep', '/upkeep'],
  ['threads of an order', '/orders/1/threads'],
  ['receipt', '/receipts/5'],
  ['shipment', '/shipments/5'],
  ['journal', '/journals/5'],
] as const;

const addressOf = (demo: Demo, path: string) =>
  path.startsWith('/') ? path : pathOfDemo(demo, path as Parameters<typeof pathOfDemo>[1]);

/** All rules; the legacy mode runs them in the page itself instead of a second one. */
function axe(page: Page): AxeBuilder {
  return new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
}

/** What axe calls serious or worse, told with the view. */
async function serious(name: string, look: AxeBuilder): Promise<string[]> {
  const { violations } = await look.analyze();
  return violations
    .filter((violation) => violation.impact === 'serious' || violation.impact === 'critical')
    .map(
      (violation) =>
        `${name}: ${violation.id} at ${violation.nodes[0]?.html.slice(0, 160)} ${violation.nodes[0]?.failureSummary?.slice(0, 200)}`,
    );
}

for (const half of [0, 1]) {
  test(`axe finds nothing serious on any view, light and dark: ${half === 0 ? 'the first' : 'the second'} half`, async ({
    page,
    demo,
  }) => {
    test.setTimeout(600_000);
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
    await signIn(page);
    for (const [name, path] of VIEWS.filter((_, at) => at < VIEWS.length / 2 === (half === 0))) {
      await page.goto(await addressOf(demo, path));
      await expect(page.locator('.title h1')).toBeVisible();
      await expect(
        page
          .locator('.ag-row, .todo, main table, main k-thread, main section, main details, main textarea, main .empty')
          .first(),
      ).toBeVisible();
      await expect(page.locator('k-menu-button').last()).toHaveText('Salmah');
      expect.soft(await serious(name, axe(page))).toEqual([]);
      // Only the colours differ in the dark.
      await page.emulateMedia({ colorScheme: 'dark' });
      const contrast = axe(page).options({ resultTypes: ['violations'], runOnly: ['color-contrast'] });
      expect.soft(await serious(`${name}, dark`, contrast)).toEqual([]);
      await page.emulateMedia({ colorScheme: 'light' });
    }
  });
}

test('the page holds at 1024 and 1920 without a sideways scroll', async ({ page, demo }) => {
  await signIn(page);
  for (const width of [1024, 1920]) {
    await page.setViewportSize({ width, height: 800 });
    for (const path of ['/today', 'ahead', '/agreements', '/insight', 'order', 'priced', '/bench']) {
      await page.goto(await addressOf(demo, path));
      await expect(page.locator('.title h1')).toBeVisible();
      const overflow = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(overflow).toBe(0);
    }
  }
});

test('a side sheet keeps axe content too, and Escape leaves it without a trace', async ({ page, demo }) => {
  await signIn(page);
  await page.goto(await pathOfDemo(demo, 'ahead'));
  await page.getByRole('button', { name: 'Release…' }).click();
  await expect(page.locator('k-sheet')).toBeVisible();
  expect(await serious('release sheet', axe(page).include('k-sheet'))).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.locator('k-sheet')).toHaveCount(0);
});
