// Runs everything that proves the program: checks, Jest on a throw-away database, Playwright on a demo server.
// npm test -- --only check|jest|e2e runs one part; what follows `--` goes to that part.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './lib/build.mjs';
import { ensureNodePackages, ensurePrograms } from './lib/install.mjs';
import { startThrowAwayDatabase } from './lib/private-database.mjs';
import { run } from './lib/run.mjs';

async function main() {
  const { values, positionals } = parseArgs({ options: { only: { type: 'string' } }, allowPositionals: true });
  const wanted = (part) => !values.only || values.only === part;
  await ensureNodePackages();
  await ensurePrograms(
    'mariadbd',
    'mariadb-install-db',
    'mariadb-backup',
    'mariadb-binlog',
    'mariadb',
    'chromium',
    'nginx',
    'openssl',
  );
  if (wanted('check')) await run(process.execPath, ['tools/check.mjs']);
  if (!wanted('jest') && !wanted('e2e')) return;
  const [database] = await Promise.all([startThrowAwayDatabase(), ensureBuilt()]);
  try {
    if (wanted('jest')) {
      // A hook that drops a database may take long on a busy disk; nothing here is timed.
      const rowsSeen = mkdtempSync(join(tmpdir(), 'kampong-rows-'));
      try {
        await run('node_modules/.bin/jest', ['--testTimeout=180000', ...positionals], {
          env: { ...process.env, TEST_DATABASE_URL: database.url, ROWS_SEEN: rowsSeen },
        });
        await run(process.execPath, ['tools/check-rows.mjs', rowsSeen, ...(positionals.length > 0 ? [] : ['--whole'])]);
      } finally {
        rmSync(rowsSeen, { recursive: true });
      }
    }
    if (wanted('e2e')) {
      await run('node_modules/.bin/playwright', ['test', ...positionals], {
        env: { ...process.env, TEST_DATABASE_URL: database.url },
      });
    }
  } finally {
    await database.release();
  }
}

main().catch((error) => {
  console.error(error.message);
  process.exit(1);
});
