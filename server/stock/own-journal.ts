import { orNotFound } from '../acts';
import type { Sql } from '../db';

/** A journal that moved stock by itself, locked: why, the one it takes back and the one that took it back, or nothing. // P1 */
export async function loadOwnJournal(sql: Sql, companyId: number, journalId: number) {
  const [journal] = await sql.rows<{ number: string; reason: string; reverses: string; reversedBy: string }>(
    `SELECT j.number, j.reason,
            COALESCE((SELECT x.number FROM journal x WHERE x.company_id = j.company_id AND x.id = j.reverses_id), '') AS reverses,
            COALESCE((SELECT b.number FROM journal b WHERE b.company_id = j.company_id AND b.reverses_id = j.id), '') AS reversed_by
       FROM journal j WHERE j.company_id = ? AND j.id = ? ${sql.forUpdate}`,
    [companyId, journalId],
  );
  return orNotFound(journal, 'This journal');
}
