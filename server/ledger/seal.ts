import { createHash } from 'node:crypto';
import type { Clock } from '../clock';
import type { Database, Sql } from '../db';
import { sealTable } from './tables';

/** What is sealed, each row with all it holds; `r` is the row. A journal is sealed with its entries. // U6 */
const KINDS = {
  audit: 'r.id, r.company_id, r.person_id, r.act, r.origin, r.at, r.input, r.documents FROM audit r',
  access: 'r.id, r.at, r.what, r.name, r.person_id, r.company_id, r.origin, r.detail, r.session_mark FROM access_log r',
  journal: `r.id, r.company_id, r.number, r.posted_on, r.document_day, r.document_kind, r.document_id, r.created_at,
    CONCAT((SELECT GROUP_CONCAT(e.account_id, ' ', e.amount, ' ', COALESCE(e.customer_id, ''), ' ', COALESCE(e.vendor_id, ''),
            IF(e.currency IS NULL, '', CONCAT(' ', e.currency, ' ', e.foreign_amount))
            ORDER BY e.id SEPARATOR ';')
       FROM journal_entry e WHERE e.company_id = r.company_id AND e.journal_id = r.id) ,
      IF(r.reason = '' AND r.reverses_id IS NULL, '', CONCAT(' because ', r.reason, ' takes back ', COALESCE(r.reverses_id, '')))) AS entries
      FROM journal r`,
  stock: `r.id, r.company_id, r.item_id, r.place, r.location_id, r.quantity, r.cost, r.posted_on, r.document_kind,
    r.document_id, r.created_at FROM stock_entry r`,
} as const;
type Kind = keyof typeof KINDS;
const AT: Record<Kind, string> = { audit: 'r.at', access: 'r.at', journal: 'r.created_at', stock: 'r.created_at' };

/** Rows of one seal at most. */
const MOST_ROWS = 5000;
/** Rows younger than this wait: one with a smaller number may still be on its way. */
const SETTLED_SECONDS = 30;
const NO_SEAL = Buffer.alloc(32);

interface Row {
  id: number;
}

interface Seal {
  throughId: number;
  rowCount: number;
  hash: Buffer;
}

/** SHA-256 over the seal before and the rows as JSON, one a line, in their order. */
function hashOf(before: Buffer, rows: readonly Row[]): Buffer {
  const hash = createHash('sha256').update(before);
  for (const row of rows) hash.update(`${JSON.stringify(Object.values(row))}\n`);
  return hash.digest();
}

/** Seals what is not yet and has settled; how many rows. O(what is new) */
export async function seal(database: Database, clock: Clock): Promise<number> {
  const settled = new Date(clock.now().getTime() - SETTLED_SECONDS * 1000);
  let sealed = 0;
  for (const kind of Object.keys(KINDS) as Kind[]) {
    for (let rows = MOST_ROWS; rows === MOST_ROWS; sealed += rows) rows = await sealSome(database, kind, settled);
  }
  return sealed;
}

function sealSome(database: Database, kind: Kind, settled: Date): Promise<number> {
  return database.transaction(async (tx) => {
    await tx.run('UPDATE seal_turn SET turn = turn + 1 WHERE kind = ?', [kind]);
    const [last] = await tx.rows<Seal>(
      'SELECT through_id, row_count, hash FROM seal WHERE kind = ? ORDER BY through_id DESC LIMIT 1',
      [kind],
    );
    const rows = await tx.rows<Row & { young: number }>(
      `SELECT ${AT[kind]} >= ? AS young, ${KINDS[kind]} WHERE r.id > ? ORDER BY r.id LIMIT ?`,
      [settled, last?.throughId ?? 0, MOST_ROWS],
    );
    const first = rows.findIndex(({ young }) => young === 1);
    const old = (first === -1 ? rows : rows.slice(0, first)).map(({ young: _, ...row }) => row);
    if (old.length > 0) {
      await tx.insertPlain(sealTable, [
        { kind, throughId: old.at(-1)!.id, rowCount: old.length, hash: hashOf(last?.hash ?? NO_SEAL, old) },
      ]);
    }
    return old.length;
  });
}

/** A sentence for each kind of which something was changed, taken out or put in since it was sealed. O(all rows) */
export async function broken(sql: Sql): Promise<string[]> {
  const found: string[] = [];
  for (const kind of Object.keys(KINDS) as Kind[]) {
    const seals = await sql.rows<Seal>(
      'SELECT through_id, row_count, hash FROM seal WHERE kind = ? ORDER BY through_id',
      [kind],
    );
    let before: Seal = { throughId: 0, rowCount: 0, hash: NO_SEAL };
    for (const each of seals) {
      const rows = await sql.rows<Row>(`SELECT ${KINDS[kind]} WHERE r.id > ? AND r.id <= ? ORDER BY r.id`, [
        before.throughId,
        each.throughId,
      ]);
      if (!hashOf(before.hash, rows).equals(each.hash)) {
        found.push(
          `seal of ${kind}: rows ${before.throughId + 1} to ${each.throughId} are not what was sealed (${rows.length} are there, ${each.rowCount} were)`,
        );
        break;
      }
      before = each;
    }
  }
  return found;
}
