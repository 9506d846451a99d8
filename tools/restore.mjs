// npm run restore -- --data EMPTY [--from backups] [--until 2027-03-01T08:30:00Z] [--changes DIR]
// Brings a copy back into an empty folder, with the changes since, up to a moment or all that were kept.
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureNodePackages, ensurePrograms } from './lib/install.mjs';

await ensureNodePackages();
const { values } = parseArgs({
  options: {
    data: { type: 'string' },
    from: { type: 'string', default: 'backups' },
    until: { type: 'string' },
    changes: { type: 'string' },
  },
});
const { newestIn, restore } = await import('./lib/backup.mjs');
const { startPrivateDatabase } = await import('./lib/private-database.mjs');
try {
  if (!values.data) throw new Error('Name an empty folder to bring it back into: --data DIR.');
  await ensurePrograms('mariadbd', 'mariadb-install-db');
  const named = await stat(join(values.from, 'about.json')).catch(() => null);
  const from = named ? values.from : await newestIn(values.from);
  if (!from) throw new Error(`There is no whole copy in ${values.from}.`);
  const begun = performance.now();
  const changes = values.changes ?? join(from, '..', 'changes');
  const { release, files } = await restore({
    from,
    data: values.data,
    changes,
    until: values.until,
    start: (folder) => startPrivateDatabase(folder),
  });
  await release();
  const seconds = ((performance.now() - begun) / 1000).toFixed(1);
  console.log(`Brought back from ${from} with ${files} files of changes in ${seconds} s.`);
  console.log(`Start it with npm start -- --data ${values.data}`);
  process.exit(0);
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
