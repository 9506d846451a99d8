// Keeps a private MariaDB while anybody uses it: started beside the database by private-database.mjs.
// Its standard input is held open by whoever started it; when that closes, even by a kill, and nobody else
// has put a file into users/, the database is shut down cleanly, and a throw-away folder removed.
import { spawn } from 'node:child_process';
import { mkdir, readdir, rm, unlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const [folder, throwAway, ...args] = process.argv.slice(2);
const users = join(folder, 'users');
await mkdir(users, { recursive: true });

const database = spawn('mariadbd', args, {
  stdio: 'ignore',
  env: { ...process.env, PATH: `${process.env.PATH}:/usr/sbin` },
});
database.once('exit', async () => {
  await rm(join(folder, 'instance.json'), { force: true });
  if (throwAway === 'yes') await rm(folder, { recursive: true, force: true });
  process.exit(0);
});
await writeFile(join(folder, 'keeper.pid'), String(process.pid));

async function anybodyLeft() {
  let left = 0;
  for (const name of await readdir(users).catch(() => [])) {
    try {
      process.kill(Number(name), 0);
      left += 1;
    } catch {
      await unlink(join(users, name)).catch(() => undefined);
    }
  }
  return left > 0;
}

async function stopWhenAlone() {
  if (await anybodyLeft()) setTimeout(stopWhenAlone, 1000);
  else database.kill('SIGTERM');
}

process.stdin.resume();
process.stdin.once('close', () => setTimeout(stopWhenAlone, 50));
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => undefined);
