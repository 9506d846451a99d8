import { randomBytes } from 'node:crypto';
import type * as z from 'zod';
import type * as contract from '@api/access';
import type { Right } from '@api/access';
import { today, type Clock } from '../clock';
import type { Sql } from '../db';
import type { Sessions, SignedIn } from '../room';
import { hashOf } from './token-hash';

export type SessionOut = z.infer<typeof contract.Session>;

const HOURS = 12;
/** A session is said to be used this often at most. */
const TOUCHED_MS = 60_000;

/** The beginning of its hash: what traces name a session by. */
export const markOf = (token: string) => hashOf(token).toString('hex').slice(0, 8);

/** Begins a session in the first company the person has a role in; the token for the cookie, or null without a role. */
export async function beginSession(sql: Sql, personId: number, clock: Clock): Promise<string | null> {
  const [role] = await sql.rows<{ companyId: number }>(
    'SELECT company_id FROM person_role WHERE person_id = ? AND out_of_use = FALSE ORDER BY company_id LIMIT 1',
    [personId],
  );
  if (!role) return null;
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(clock.now().getTime() + HOURS * 3_600_000);
  await sql.run('DELETE FROM session WHERE expires_at < ?', [clock.now()]);
  await sql.run(
    'INSERT INTO session (token_hash, person_id, company_id, csrf, expires_at, seen_at) VALUES (?, ?, ?, ?, ?, ?)',
    [hashOf(token), personId, role.companyId, randomBytes(32).toString('base64url'), expires, clock.now()],
  );
  return token;
}

/** Who the cookie's token stands for; null where it stands for nobody any more. */
export async function readSession(
  sql: Sql,
  token: string,
  clock: Clock,
  idleMinutes: number,
): Promise<SignedIn | null> {
  const [row] = await sql.rows<{
    personId: number;
    name: string;
    companyId: number;
    csrf: string;
    role: string;
    rights: string;
    workDate: string | null;
    timeZone: string | null;
    demo: boolean;
  }>(
    `SELECT s.person_id, p.name, s.company_id, s.csrf, r.name AS role, r.rights, c.work_date, c.time_zone, c.demo
       FROM session s
       JOIN person p ON p.id = s.person_id AND p.active = TRUE
       JOIN person_role pr ON pr.person_id = s.person_id AND pr.company_id = s.company_id AND pr.out_of_use = FALSE
       JOIN role r ON r.company_id = pr.company_id AND r.id = pr.role_id
       JOIN company c ON c.id = s.company_id
      WHERE s.token_hash = ? AND s.expires_at > ? AND s.seen_at > ?`,
    [hashOf(token), clock.now(), new Date(clock.now().getTime() - idleMinutes * 60_000)],
  );
  if (!row) return null;
  return {
    personId: row.personId,
    personName: row.name,
    companyId: row.companyId,
    role: row.role,
    rights: JSON.parse(row.rights) as Right[],
    workDate: row.workDate ?? today(clock, row.timeZone),
    demo: row.demo,
    csrf: row.csrf,
  };
}

/** How long another process's sign-out, change of role or of the work date may go unseen here. */
const KEPT_MS = 1000;
const MOST_KEPT = 10_000;

/** Who is signed in, kept for a moment, since every request asks. */
export function sessionsOn(sql: Sql, clock: Clock, idleMinutes: number): Sessions {
  const touched = new Map<string, number>();
  /** Says that somebody is there, now and then. */
  async function touch(token: string): Promise<void> {
    const now = clock.now().getTime();
    if (now - (touched.get(token) ?? 0) < TOUCHED_MS) return;
    if (touched.size >= MOST_KEPT) touched.clear();
    touched.set(token, now);
    await sql.run('UPDATE session SET seen_at = ? WHERE token_hash = ? AND seen_at > ?', [
      clock.now(),
      hashOf(token),
      new Date(now - idleMinutes * 60_000),
    ]);
  }
  let kept = new Map<string, { who: SignedIn; until: number }>();
  return {
    async of(token, used = false) {
      const had = kept.get(token);
      if (had && had.until > performance.now()) {
        if (used) await touch(token);
        return had.who;
      }
      const into = kept;
      const who = await readSession(sql, token, clock, idleMinutes);
      if (into.size >= MOST_KEPT) into.clear();
      // Into the map there was before it was read: what was forgotten meanwhile stays forgotten.
      if (who) into.set(token, { who, until: performance.now() + KEPT_MS });
      else into.delete(token);
      if (who && used) await touch(token);
      return who;
    },
    forget() {
      kept = new Map();
    },
  };
}

export async function endSession(sql: Sql, token: string): Promise<void> {
  await sql.run('DELETE FROM session WHERE token_hash = ?', [hashOf(token)]);
}

/** Moves the session to another company; false where the person has no role there. */
export async function chooseCompany(sql: Sql, token: string, personId: number, companyId: number): Promise<boolean> {
  const [role] = await sql.rows<{ roleId: number }>(
    'SELECT role_id FROM person_role WHERE person_id = ? AND company_id = ? AND out_of_use = FALSE',
    [personId, companyId],
  );
  if (!role) return false;
  await sql.run('UPDATE session SET company_id = ? WHERE token_hash = ?', [companyId, hashOf(token)]);
  return true;
}

export async function sessionOut(sql: Sql, signedIn: SignedIn): Promise<SessionOut> {
  const companies = await sql.rows<SessionOut['company']>(
    `SELECT c.id, c.code, c.name, c.currency, c.tint FROM company c
       JOIN person_role pr ON pr.company_id = c.id WHERE pr.person_id = ? AND pr.out_of_use = FALSE ORDER BY c.id`,
    [signedIn.personId],
  );
  const [others] = await sql.rows<{ count: number }>('SELECT COUNT(*) - 1 AS count FROM company');
  return {
    sisters: others!.count > 0,
    person: { id: signedIn.personId, name: signedIn.personName },
    company: companies.find((company) => company.id === signedIn.companyId)!,
    companies,
    role: signedIn.role,
    rights: signedIn.rights,
    workDate: signedIn.workDate,
    demo: signedIn.demo,
    token: signedIn.csrf,
  };
}
