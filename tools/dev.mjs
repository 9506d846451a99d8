// Server and web, both reloading, on the same private database as npm start.
import { spawn } from 'node:child_process';
import { ensureServerBuilt } from './lib/build.mjs';
import { ensureNodePackages, ensurePrograms } from './lib/install.mjs';
import { startPrivateDatabase } from './lib/private-database.mjs';

await ensureNodePackages();
await ensurePrograms('mariadbd', 'mariadb-install-db');
const database = await startPrivateDatabase('.kampong');
await ensureServerBuilt();
const { prepare } = await import('../dist/server/prepare.js');
await prepare({
  url: database.url,
  workDate: null,
  seed: 7,
  moreOrders: 0,
  demo: true,
  say: (line) => console.log(line),
});
const env = { ...process.env, DATABASE_URL: database.url, PORT: '4300' };
const children = [
  spawn('node_modules/.bin/tsx', ['watch', '--tsconfig', 'tsconfig.json', 'server/main.ts'], { stdio: 'inherit', env }),
  spawn('node_modules/.bin/ng', ['serve', 'web'], { stdio: 'inherit', env }),
];
console.log('Server and web reload as files change; open http://localhost:4200 once the web is built.');
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.once(signal, async () => {
    for (const child of children) child.kill('SIGTERM');
    await database.release();
    process.exit(0);
  });
}
