import { randomInt } from 'node:crypto';
import { hashOf } from '../access';
import type { Sql } from '../db';

// No letters that look alike.
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

/** As it is typed: in any case, its dashes left out or not. */
const plainOf = (typed: string) => typed.toLowerCase().replace(/[^a-z0-9]/g, '');

/**
 * A word of its own for the first visitor of an installation without a company, in the place of the one before; null
 * where somebody began already. About 59 bits. // U1
 */
export async function newFirstWord(sql: Sql): Promise<string | null> {
  const [begun] = await sql.rows('SELECT id FROM company LIMIT 1');
  if (begun) return null;
  const letters = Array.from({ length: 12 }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  await sql.run('REPLACE INTO first_visit (id, word_hash) VALUES (1, ?)', [hashOf(letters)]);
  return letters.replace(/(.{4})(?=.)/g, '$1-');
}

/** Takes the word within a transaction: whether it is the one, with nobody else holding it until the end. */
export async function takeFirstWord(sql: Sql, typed: string): Promise<'fits' | 'wrong' | 'begun'> {
  const [kept] = await sql.rows<{ wordHash: Buffer }>('SELECT word_hash FROM first_visit WHERE id = 1 FOR UPDATE');
  if (!kept) return 'begun';
  return kept.wordHash.equals(hashOf(plainOf(typed))) ? 'fits' : 'wrong';
}
