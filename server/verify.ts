import type { Sql } from './db';
import { ROOMS } from './rooms';

/** Every difference between what is kept and what the documents say, one line each; none where all is true. // G5 */
export async function verify(sql: Sql): Promise<string[]> {
  const found: string[] = [];
  for (const { checks = [], differences } of ROOMS) {
    for (const { what, sql: query, most } of checks) {
      const rows = await sql.rows<{ subject: string; kept: string | number; counted: string | number }>(query);
      for (const row of rows)
        found.push(`${what}: ${row.subject} is ${row.kept}, the documents ${most ? 'allow' : 'say'} ${row.counted}`);
    }
    if (differences) found.push(...(await differences(sql)));
  }
  return found;
}
