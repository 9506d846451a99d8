// Runs one of the project's TypeScript programs: node tools/run.mjs FILE [args], on the private database
// unless DATABASE_URL names another.
import { ensureNodePackages, ensurePrograms } from './lib/install.mjs';
import { startPrivateDatabase } from './lib/private-database.mjs';
import { run } from './lib/run.mjs';

const [file, ...args] = process.argv.slice(2);
const needsDatabase = !file.startsWith('bench/');
await ensureNodePackages();
let database = null;
if (needsDatabase && !process.env.DATABASE_URL) {
  await ensurePrograms('mariadbd', 'mariadb-install-db');
  database = await startPrivateDatabase('.kampong');
}
const env = { ...process.env, ...(database ? { DATABASE_URL: database.url } : {}) };
await run('node_modules/.bin/tsx', ['--tsconfig', 'tsconfig.json', file, ...args], { env }).catch((error) => {
  if (process.env.DEBUG) console.error(error.message);
  process.exitCode = 1;
});
await database?.release();
process.exit();
