import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress } from 'node:zlib';
import { run } from './run.mjs';

const SHARED = ['core', 'api', 'package-lock.json', 'tsconfig.base.json'];

/** Builds the web application and the server bundles, each only where its sources changed since. */
export async function ensureBuilt() {
  await mkdir('dist', { recursive: true });
  const server = ensure('server', [...SHARED, 'server', 'demo', 'tools'], buildServer);
  const web = ensure('web', [...SHARED, 'web', 'angular.json', 'package.json'], () => buildWeb('web'));
  await Promise.all([server, web]);
}

/** The server bundle alone: what tests and benches of the server need. */
export function ensureServerBuilt() {
  return ensure('server', [...SHARED, 'server', 'demo', 'tools'], buildServer);
}

/** Builds one of the web projects of angular.json, and keeps each file of text compressed beside itself. */
export async function buildWeb(project) {
  await run('node_modules/.bin/ng', ['build', project], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  });
  const folder = `dist/${project}/browser`;
  const files = (await readdir(folder)).filter((name) => /\.(js|css|svg)$/.test(name));
  await Promise.all(
    files.map(async (name) => {
      const text = await readFile(join(folder, name));
      if (text.length > 1400) await writeFile(join(folder, `${name}.br`), await promisify(brotliCompress)(text));
    }),
  );
}

async function ensure(name, sources, build) {
  const hash = await hashOf(sources);
  const stamp = `dist/${name}.stamp`;
  if ((await readFile(stamp, 'utf8').catch(() => '')) === hash) return;
  console.log(`Building the ${name} …`);
  await build();
  await writeFile(stamp, hash);
}

async function buildServer() {
  const { build } = await import('esbuild');
  await build({
    entryPoints: {
      main: 'server/main.ts',
      repromise: 'server/promise/runs/thread.ts',
      'read-file': 'server/formats/read-thread.ts',
      'write-file': 'server/formats/write-thread.ts',
      prepare: 'tools/prepare.ts',
      verify: 'tools/verify.ts',
    },
    outdir: 'dist/server',
    bundle: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
  });
}

async function hashOf(sources) {
  const hash = createHash('sha256');
  for (const source of sources) {
    for (const file of (await filesOf(source)).sort()) {
      hash.update(file).update(await readFile(file));
    }
  }
  return hash.digest('hex');
}

async function filesOf(path) {
  const entries = await readdir(path, { withFileTypes: true }).catch(() => null);
  if (!entries) return [path];
  const nested = await Promise.all(
    entries
      .filter((entry) => !/\.spec\.ts$/.test(entry.name))
      .map((entry) => (entry.isDirectory() ? filesOf(join(path, entry.name)) : [join(path, entry.name)])),
  );
  return nested.flat();
}
