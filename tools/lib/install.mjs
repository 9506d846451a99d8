import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { isInstalled, run } from './run.mjs';

const STAMP = 'node_modules/.kampong-installed';

/** Installs the node packages where the lock file changed since the last time. */
export async function ensureNodePackages() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) throw new Error(`Kampong needs Node 20 or newer; this is ${process.versions.node}.`);
  const hash = createHash('sha256')
    .update(await readFile('package-lock.json'))
    .digest('hex');
  const kept = await readFile(STAMP, 'utf8').catch(() => '');
  if (kept === hash) return;
  console.log('Installing node packages …');
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  await writeFile(STAMP, hash);
}

const DEBIAN = {
  mariadbd: ['mariadb-server-core'],
  'mariadb-install-db': ['mariadb-server-core', 'mariadb-client'],
  'mariadb-backup': ['mariadb-backup'],
  'mariadb-binlog': ['mariadb-client'],
  mariadb: ['mariadb-client'],
  chromium: ['chromium'],
  nginx: ['nginx-light'],
  openssl: ['openssl'],
};

/** Installs Debian packages for the programs that are missing; says what to do where it may not. */
export async function ensurePrograms(...programs) {
  const missing = [];
  for (const program of programs) if (!(await isInstalled(program))) missing.push(program);
  if (missing.length === 0) return;
  const packages = [...new Set(missing.flatMap((program) => DEBIAN[program]))];
  if (process.getuid?.() !== 0 || !(await isInstalled('apt-get'))) {
    throw new Error(`${missing.join(' and ')} is missing; install ${packages.join(' ')} and start again.`);
  }
  await installPackages(...packages);
}

/** Installs Debian packages; needs root. */
export async function installPackages(...packages) {
  console.log(`Installing ${packages.join(' ')} …`);
  const quiet = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }, stdio: ['ignore', 'ignore', 'inherit'] };
  await run('apt-get', ['update', '-qq'], quiet);
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], quiet);
}
