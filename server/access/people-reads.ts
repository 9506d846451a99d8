import type * as z from 'zod';
import type * as contract from '@api/access';
import type { Right } from '@api/access';
import type { Sql } from '../db';

type People = z.infer<typeof contract.openPeople.out>;

/** Who works in the company, in which role, and who may come; nobody of another company. */
export async function openPeople(sql: Sql, companyId: number): Promise<People> {
  const [people, roles, invitations, tokens] = await Promise.all([
    sql.rows<Omit<People['people'][number], 'secondFactor'> & { secondFactor: number }>(
      `SELECT p.id, p.name, p.sign_in, pr.role_id, pr.out_of_use, p.totp_secret IS NOT NULL AS second_factor,
              (SELECT MAX(s.seen_at) FROM session s WHERE s.person_id = p.id AND s.company_id = pr.company_id) AS seen_at
         FROM person_role pr JOIN person p ON p.id = pr.person_id WHERE pr.company_id = ? ORDER BY pr.out_of_use, p.name`,
      [companyId],
    ),
    sql.rows<{ id: number; name: string; rights: string; people: number }>(
      `SELECT r.id, r.name, r.rights, (SELECT COUNT(*) FROM person_role pr
         WHERE pr.company_id = r.company_id AND pr.role_id = r.id AND pr.out_of_use = FALSE) AS people
         FROM role r WHERE r.company_id = ? ORDER BY r.id`,
      [companyId],
    ),
    sql.rows<Omit<People['invitations'][number], 'over'> & { gone: number }>(
      `SELECT i.id, i.name, i.role_id, p.name AS \`by\`, i.expires_at, i.expires_at < NOW(3) AS gone FROM invitation i
         JOIN person p ON p.id = i.invited_by
        WHERE i.company_id = ? AND i.person_id IS NULL AND i.withdrawn = FALSE ORDER BY i.id DESC LIMIT 50`,
      [companyId],
    ),
    sql.rows<Omit<People['tokens'][number], 'rights'> & { rights: string }>(
      `SELECT t.id, t.name, t.rights, t.last_day, p.name AS \`by\`, t.used_at, t.ended FROM program_token t
         JOIN person p ON p.id = t.person_id WHERE t.company_id = ? ORDER BY t.ended, t.id DESC LIMIT 100`,
      [companyId],
    ),
  ]);
  return {
    people: people.map((each) => ({ ...each, secondFactor: each.secondFactor === 1 })),
    roles: roles.map((role) => ({ ...role, rights: JSON.parse(role.rights) as Right[] })),
    invitations: invitations.map(({ gone, ...each }) => ({ ...each, over: gone === 1 })),
    tokens: tokens.map((token) => ({ ...token, rights: JSON.parse(token.rights) as Right[] })),
  };
}
