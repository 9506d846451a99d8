import type { Database, Sql } from './db';
import { jobResultTable } from './jobs/tables';
import { ROOMS } from './rooms';

/** Words of differences kept of one check: the first of them say what kind they are. */
const MOST_KEPT = 2000;

/** Verifies, and keeps how it went where whoever looks after Kampong sees it. */
export async function verifyAndTell(database: Database): Promise<string[]> {
  const begun = performance.now();
  const found = await verify(database);
  const seconds = ((performance.now() - begun) / 1000).toFixed(1);
  await database.transaction((tx) =>
    tx.insertPlain(jobResultTable, [{ job: 'verify', seconds, well: found.length === 0, found: told(found) }]),
  );
  return found;
}

const told = (found: readonly string[]) =>
  found.length === 0 ? '0 differences' : `${found.length} differences: ${found.join('; ')}`.slice(0, MOST_KEPT);

/** Every difference between what is kept and what the documents say, one line each; none where all is true. // G5 */
export async function verify(sql: Sql): Promise<string[]> {
  const found: string[] = [];
  for (const { checks = [], differences } of ROOMS) {
    for (const { what, sql: query, most } of checks) {
      const rows = await sql.rows<{ subject: string; kept: string | number | boolean; counted: string | number }>(
        query,
      );
      for (const row of rows)
        found.push(`${what}: ${row.subject} is ${row.kept}, the documents ${most ? 'allow' : 'say'} ${row.counted}`);
    }
    if (differences) found.push(...(await differences(sql)));
  }
  return found;
}
