import { randomBytes } from 'node:crypto';
import type { Clock } from '../clock';
import type { Sql } from '../db';
import { hashOf } from './token-hash';

/** For how long a device that is not signed in from is known. */
export const KNOWN_DAYS = 180;

/** The name a known device goes by where tries are counted; null where that person never signed in from it. */
export async function deviceOf(sql: Sql, token: string | undefined, signIn: string): Promise<string | null> {
  if (!token) return null;
  const hash = hashOf(token);
  const [known] = await sql.rows<{ personId: number }>(
    `SELECT d.person_id FROM known_device d JOIN person p ON p.id = d.person_id
      WHERE d.token_hash = ? AND p.sign_in = ? AND p.active = TRUE`,
    [hash, signIn],
  );
  return known ? `${hash.toString('base64url')} ${known.personId}` : null;
}

/**
 * Keeps the device as one that person signed in from, beside those who did before them; the token for its cookie, a new
 * one each time, so that one that was copied ends with the next sign-in on the device it was copied from.
 */
export async function keepDevice(sql: Sql, was: string | undefined, personId: number, clock: Clock): Promise<string> {
  const now = clock.now();
  const token = randomBytes(32).toString('base64url');
  await sql.run('DELETE FROM known_device WHERE seen_at < ?', [new Date(now.getTime() - KNOWN_DAYS * 86_400_000)]);
  if (was) await sql.run('UPDATE known_device SET token_hash = ? WHERE token_hash = ?', [hashOf(token), hashOf(was)]);
  await sql.run(
    'INSERT INTO known_device (token_hash, person_id, seen_at) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE seen_at = VALUES(seen_at)',
    [hashOf(token), personId, now],
  );
  return token;
}
