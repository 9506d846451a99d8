import { readdirSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** Chromium from the distribution, the real server, one demo of its own for each test file. */
export default defineConfig({
  testDir: 'e2e',
  // Nothing here is timed: two browsers and two servers share the machine, however slow it is.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  // Each file is a project of its own, and so has a worker and with it a demo of its own.
  projects: readdirSync('e2e')
    .filter((name) => name.endsWith('.spec.ts'))
    // The longest first.
    .sort((a, b) => Number(b.startsWith('views')) - Number(a.startsWith('views')))
    .map((name) => ({ name: name.replace('.spec.ts', ''), testMatch: `**/${name}` })),
  workers: 2,
  forbidOnly: true,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
