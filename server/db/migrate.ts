import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { Umzug, type UmzugStorage } from 'umzug';

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
    const umzug = new Umzug({
      migrations: files.map((name) => ({
        name,
        up: async () => void (await connection.query(texts.get(name)!)),
      })),
      storage: storageOn(connection, texts),
      logger: undefined,
    });
    return (await umzug.up()).map((done) => done.name);
  } finally {
    await connection.query('SELECT RELEASE_LOCK(?)', [LOCK]).catch(() => undefined);
    await connection.end();
  }
}

function storageOn(connection: Connection, texts: ReadonlyMap<string, string>): UmzugStorage {
  const hashOf = (name: string) =>
    createHash('sha256')
      .update(texts.get(name) ?? '')
      .digest('hex');
  return {
    async logMigration({ name }) {
      await connection.query('INSERT INTO migration (name, hash) VALUES (?, ?)', [name, hashOf(name)]);
    },
    async unlogMigration() {
      throw new Error('a migration is never taken back; write a new one');
    },
    async executed() {
      await connection.query(
        'CREATE TABLE IF NOT EXISTS migration (name VARCHAR(100) NOT NULL PRIMARY KEY, hash CHAR(64) NOT NULL, applied_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3))',
      );
      const [rows] = await connection.query<RowDataPacket[]>('SELECT name, hash FROM migration ORDER BY name');
      for (const row of rows) {
        if (!texts.has(row['name'])) {
          throw new Error(`The database has ${row['name']}, which this program does not know; it is newer.`);
        }
        if (row['hash'] !== hashOf(row['name'])) {
          throw new Error(`${row['name']} was changed after it was applied; put the change into a new file.`);
        }
      }
      return rows.map((row) => row['name'] as string);
    },
  };
}
