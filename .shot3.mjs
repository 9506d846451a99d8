import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
await p.goto('http://127.0.0.1:4300/sign-in');
await p.getByLabel('Name').fill('salmah');
await p.getByLabel('Password').fill('jetty-lantern');
await p.keyboard.press('Enter');
await p.waitForURL('**/today');
await p.goto('http://127.0.0.1:4300/agreements/6');
await p.waitForTimeout(1500);
console.log(
  await p
    .locator('k-grid .ag-row')
    .first()
    .evaluate((e) => {
      let s = '';
      let x = e;
      while (x && x.tagName !== 'K-GRID') {
        s += x.className + ' | ';
        x = x.parentElement;
      }
      return s + e.outerHTML.slice(0, 600);
    }),
);
await p.goto('http://127.0.0.1:4300/agreements/new');
await p.waitForTimeout(1000);
await p.getByLabel('Customer').click();
await p.waitForTimeout(800);
await p.screenshot({ path: '/tmp/new1.png' });
await p.getByRole('option', { name: /Teratai/ }).click();
await p.locator('k-grid .ag-row [col-id="item"]').first().dblclick();
await p.waitForTimeout(600);
await p.screenshot({ path: '/tmp/new2.png' });
await b.close();
