import type { Sql } from '../../db';

/** Acts that are looked back at: as many changes as anybody asks for. */
const MOST = 200;

/** What moves goods, promises and plans: a run made before it stands on older ground. */
const MOVING = ['SO', 'PO', 'RC', 'SH', 'CN', 'JR', 'PR', 'AS', 'PL', 'AG'];
/** What only takes of runs what they say. */
const TAKES = ['takeProposals', 'applyRepromise'];

/** When a run was made and for whom, and how many acts moved something since, some hundred at most. // T11 */
export async function freshnessOf(
  sql: Sql,
  companyId: number,
  runId: number,
): Promise<{ madeAt: string; by: string; since: number }> {
  const [run] = await sql.rows<{ madeAt: string; by: string }>(
    `SELECT r.beat_at AS made_at, p.name AS \`by\` FROM promise_run r JOIN person p ON p.id = r.person_id
      WHERE r.company_id = ? AND r.id = ?`,
    [companyId, runId],
  );
  const [moved] = await sql.rows<{ since: number }>(
    `SELECT COUNT(*) AS since
       FROM (SELECT id, at, act FROM audit WHERE company_id = ? ORDER BY id DESC LIMIT ?) a
      WHERE a.at > (SELECT beat_at FROM promise_run WHERE company_id = ? AND id = ?) AND a.act NOT IN (?)
        AND EXISTS (SELECT 1 FROM audit_document d
          WHERE d.company_id = ? AND d.audit_id = a.id AND d.kind IN (?))`,
    [companyId, MOST, companyId, runId, TAKES, companyId, MOVING],
  );
  return { madeAt: run!.madeAt, by: run!.by, since: moved!.since };
}
