import type * as z from 'zod';
import type * as contract from '@api/access';
import type { Columns, Sql } from '../db';
import type { AccessLog } from './tables';

type Upkeep = z.infer<typeof contract.openUpkeep.out>;

/** Results of each job shown at most, the newest of them. */
const MOST_RESULTS = 20;

/** How Kampong itself is. Walks the ends of its logs. */
export async function openUpkeep(sql: Sql, companyId: number): Promise<Upkeep> {
  const jobs = await sql.rows<Upkeep['jobs'][number]>(
    `SELECT job, at, seconds, well, found FROM job_result ORDER BY id DESC LIMIT ${MOST_RESULTS}`,
  );
  const seals = await sql.rows<Upkeep['seals'][number]>(
    `SELECT s.kind, s.through_id AS through, s.at, LOWER(HEX(s.hash)) AS hash FROM seal s
       JOIN (SELECT kind, MAX(through_id) AS through_id FROM seal GROUP BY kind) last
         ON last.kind = s.kind AND last.through_id = s.through_id ORDER BY s.kind`,
  );
  const comings = await sql.rows<Columns<AccessLog, 'id at what name origin detail sessionMark'>>(
    `SELECT id, at, what, name, origin, detail, session_mark FROM access_log
      WHERE company_id = ? OR company_id IS NULL ORDER BY id DESC LIMIT 200`,
    [companyId],
  );
  return {
    jobs,
    seals,
    comings: comings.map(({ origin, sessionMark, ...row }) => ({ ...row, from: origin, session: sessionMark ?? '' })),
  };
}
