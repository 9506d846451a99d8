import type { Right } from '@api/access';
import { today } from '../clock';
import type { Parts, SignedIn } from '../room';
import { hashOf } from './token-hash';

/** A token is said to be used this often at most. */
const TOUCHED_SECONDS = 60;

/**
 * Whom a program works for, with the rights of its token and no more than they have themselves by now; null where the
 * token was ended, its last day is over, or they work here no more. (RFC 6750) // U4
 */
export async function byToken({ database, clock }: Parts, token: string): Promise<SignedIn | null> {
  const [row] = await database.rows<{
    id: number;
    companyId: number;
    personId: number;
    name: string;
    program: string;
    role: string;
    rights: string;
    roleRights: string;
    lastDay: string;
    workDate: string | null;
    timeZone: string | null;
    demo: boolean;
  }>(
    `SELECT t.id, t.company_id, t.person_id, p.name, t.name AS program, r.name AS role, t.rights, r.rights AS role_rights, t.last_day,
            c.work_date, c.time_zone, c.demo
       FROM program_token t
       JOIN person p ON p.id = t.person_id AND p.active = TRUE
       JOIN person_role pr ON pr.person_id = t.person_id AND pr.company_id = t.company_id AND pr.out_of_use = FALSE
       JOIN role r ON r.company_id = pr.company_id AND r.id = pr.role_id
       JOIN company c ON c.id = t.company_id
      WHERE t.token_hash = ? AND t.ended = FALSE`,
    [hashOf(token)],
  );
  if (!row) return null;
  const workDate = row.workDate ?? today(clock, row.timeZone);
  if (row.lastDay < workDate) return null;
  await database.run(
    'UPDATE program_token SET used_at = ? WHERE company_id = ? AND id = ? AND (used_at IS NULL OR used_at < ?)',
    [clock.now(), row.companyId, row.id, new Date(clock.now().getTime() - TOUCHED_SECONDS * 1000)],
  );
  const now = JSON.parse(row.roleRights) as Right[];
  return {
    personId: row.personId,
    personName: row.name,
    companyId: row.companyId,
    role: `${row.role}, by ${row.program}`,
    rights: (JSON.parse(row.rights) as Right[]).filter((right) => now.includes(right)),
    workDate,
    demo: row.demo,
    csrf: '',
  };
}
