import { refuse, type Refusal } from '@core/refusals';
import { TABLE_OF, type Sql } from '../db';
import { saysOf, type ExpectedVersion } from './act';

/**
 * A refusal where the document is newer than what the person saw: who changed it, when, by what. // G2
 * Each act that changes a document's content raises its version and leaves an audit row that says so.
 */
export async function staleRefusal(sql: Sql, seen: ExpectedVersion, companyId: number): Promise<Refusal | null> {
  const [now] = await sql.rows<{ number: string; version: number }>(
    `SELECT number, version FROM ${TABLE_OF[seen.kind]} WHERE company_id = ? AND id = ?`,
    [companyId, seen.id],
  );
  if (!now || now.version === seen.version) return null;
  const changes = await sql.rows<{ name: string; at: string; act: string }>(
    `SELECT p.name, a.at, a.act
       FROM audit_document d
       JOIN audit a ON a.company_id = d.company_id AND a.id = d.audit_id
       JOIN person p ON p.id = a.person_id
      WHERE d.company_id = ? AND d.kind = ? AND d.document_id = ? AND d.version > ?
      ORDER BY d.audit_id DESC LIMIT 20`,
    [companyId, seen.kind, seen.id, seen.version],
  );
  return refuse('stale', '', {
    document: now.number,
    who: [...new Set(changes.map((change) => change.name))].join(' and ') || 'somebody',
    when: changes[0]?.at.slice(0, 16) ?? '',
    changes: [...new Set(changes.map((change) => saysOf(change.act)))].join(', ') || 'changed',
  });
}
