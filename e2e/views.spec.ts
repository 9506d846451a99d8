import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, signIn, test } from './world';

const VIEWS = [
  ['today', '/today'],
  ['agreements', '/agreements'],
  ['agreement', '/agreements/6'],
  ['agreement draft', '/agreements/7'],
  ['orders', '/orders'],
  ['order', '/orders/35'],
  ['new order', '/orders/new'],
  ['bench', '/bench'],
  ['purchases', '/purchases'],
  ['purchase', '/purchases/40'],
  ['billing', '/billing'],
  ['customer invoice', '/billing/customer/5'],
  ['vendor invoice', '/billing/vendor/5'],
  ['customer', '/customers/1'],
  ['vendor', '/vendors/1'],
  ['item', '/items/1'],
  ['receipt', '/receipts/5'],
  ['shipment', '/shipments/5'],
  ['journal', '/journals/5'],
] as const;

/** All rules; the legacy mode runs them in the page itself instead of a second one. */
function axe(page: Page): AxeBuilder {
  return new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
}

for (const scheme of ['light', 'dark'] as const) {
  test(`axe finds nothing serious on any view, ${scheme}`, async ({ page }) => {
    test.setTimeout(180_000);
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
    await signIn(page);
    for (const [name, path] of VIEWS) {
      await page.goto(path);
      await expect(page.locator('.title h1')).toBeVisible();
      await expect(page.locator('.ag-row, .todo, main table').first()).toBeVisible();
      await expect(page.locator('k-menu-button').last()).toHaveText('Salmah');
      const { violations } = await axe(page).analyze();
      const serious = violations
        .filter((violation) => violation.impact === 'serious' || violation.impact === 'critical')
        .map(
          (violation) =>
            `${name}: ${violation.id} at ${violation.nodes[0]?.html.slice(0, 160)} ${violation.nodes[0]?.failureSummary?.slice(0, 200)}`,
        );
      expect.soft(serious).toEqual([]);
    }
  });
}

test('the page holds at 1024 and 1920 without a sideways scroll', async ({ page }) => {
  await signIn(page);
  for (const width of [1024, 1920]) {
    await page.setViewportSize({ width, height: 800 });
    for (const path of ['/today', '/agreements/6', '/orders/35', '/bench']) {
      await page.goto(path);
      await expect(page.locator('.title h1')).toBeVisible();
      const overflow = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(overflow).toBe(0);
    }
  }
});

test('a side sheet keeps axe content too, and Escape leaves it without a trace', async ({ page }) => {
  await signIn(page);
  await page.goto('/agreements/6');
  await page.getByRole('button', { name: 'Release…' }).click();
  await expect(page.locator('k-sheet')).toBeVisible();
  const { violations } = await axe(page).include('k-sheet').analyze();
  expect(
    violations
      .filter((each) => each.impact === 'serious' || each.impact === 'critical')
      .map((each) => `${each.id} ${each.nodes[0]?.html}`),
  ).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.locator('k-sheet')).toHaveCount(0);
});
