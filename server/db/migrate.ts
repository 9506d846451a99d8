import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';

const LOCK = 'kampong_migrate';

/**
 * Brings the database up to the newest numbered file of `folder`: each applied once, its hash kept.
 * Two servers starting at once take turns; a file stopped in the middle can be run again.
 * Throws where an applied file was changed since, or the database is newer than the program.
 */
export async function migrate(url: string, folder: string): Promise<string[]> {
  const connection = await createConnection({
    uri: url.replace(/^mariadb:/, 'mysql:'),
    multipleStatements: true,
    charset: 'utf8mb4',
  });
  try {
    await connection.query('SELECT GET_LOCK(?, 120)', [LOCK]);
    const files = (await readdir(folder)).filter((name) => name.endsWith('.sql')).sort();
    const texts = new Map<string, string>();
    for (const name of files) texts.set(name, await readFile(join(folder, name), 'utf8'));
    const applied = await appliedOf(connection, texts);
    const fresh = files.filter((name) => !applied.has(name));
    for (const name of fresh) {
      await connection.query(texts.get(name)!);
      await connection.query('INSERT INTO migration (name, hash) VALUES (?, ?)', [name, hashOf(texts.get(name)!)]);
    }
    return fresh;
  } finally {
    await connection.query('SELECT RELEASE_LOCK(?)', [LOCK]).catch(() => undefined);
    await connection.end();
  }
}

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');

/** The files that were applied, each held against what it is now. */
async function appliedOf(connection: Connection, texts: ReadonlyMap<string, string>): Promise<Set<string>> {
  await connection.query(
    'CREATE TABLE IF NOT EXISTS migration (name VARCHAR(100) NOT NULL PRIMARY KEY, hash CHAR(64) NOT NULL, applied_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3))',
  );
  const [rows] = await connection.query<RowDataPacket[]>('SELECT name, hash FROM migration ORDER BY name');
  const applied = rows.map((row) => ({ name: String(row['name']), hash: String(row['hash']) }));
  for (const { name, hash } of applied) {
    const text = texts.get(name);
    if (text === undefined) throw new Error(`The database has ${name}, which this program does not know; it is newer.`);
    if (hash !== hashOf(text)) {
      throw new Error(`${name} was changed after it was applied; put the change into a new file.`);
    }
  }
  return new Set(applied.map(({ name }) => name));
}
