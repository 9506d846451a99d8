// npm run backup -- [--data .kampong] [--to backups]: a copy of the running private database, while people work.
import { parseArgs } from 'node:util';
import { ensureNodePackages } from './lib/install.mjs';

await ensureNodePackages();
const { values } = parseArgs({
  options: { data: { type: 'string', default: '.kampong' }, to: { type: 'string', default: 'backups' } },
});
const { backupAndTell } = await import('./lib/upkeep.mjs');
try {
  const { folder, bytes, seconds } = await backupAndTell(values.data, values.to);
  console.log(`${(bytes / 1024 ** 2).toFixed(0)} MiB in ${seconds.toFixed(1)} s: ${folder}`);
} catch (error) {
  console.error(error.message);
  process.exitCode = 1;
}
