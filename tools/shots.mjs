// All pictures of docs/screenshots/, from a fresh demo on a throw-away database.
import { ensureBuilt } from './lib/build.mjs';
import { ensureNodePackages, ensurePrograms } from './lib/install.mjs';
import { startThrowAwayDatabase } from './lib/private-database.mjs';
import { run } from './lib/run.mjs';

await ensureNodePackages();
await ensurePrograms('mariadbd', 'mariadb-install-db', 'chromium');
const [database] = await Promise.all([startThrowAwayDatabase(), ensureBuilt()]);
try {
  await run('node_modules/.bin/tsx', ['--tsconfig', 'tsconfig.json', 'tools/shots.ts'], {
    env: { ...process.env, DATABASE_URL: database.url },
  });
} finally {
  await database.release();
}
process.exit();
