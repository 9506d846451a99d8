import { readdirSync } from 'node:fs';
import type { Sql } from './database';

/** Where the numbered files are that bring a database up. */
export const MIGRATIONS = 'server/db/sql';

/** Whether a database is the one a program was written for, brought up by just its own files. */
export type Fit = 'fits' | 'older' | 'newer';

/** Holds the files that were applied against those of the folder, read once. */
export function fitWith(folder: string): (sql: Sql) => Promise<Fit> {
  const own = new Set(readdirSync(folder).filter((name) => name.endsWith('.sql')));
  return async (sql) => {
    const applied = await sql.rows<{ name: string }>('SELECT name FROM migration').catch((error: { code?: string }) => {
      // Nothing was ever applied.
      if (error.code === 'ER_NO_SUCH_TABLE') return [];
      throw error;
    });
    if (applied.some(({ name }) => !own.has(name))) return 'newer';
    return applied.length < own.size ? 'older' : 'fits';
  };
}

/** What to do about a database that does not fit. */
export const FIT_TEXT: Readonly<Record<Exclude<Fit, 'fits'>, string>> = {
  older: 'the database is older than this program; npm start brings it up',
  newer: 'the database is newer than this program; start the newer program',
};
