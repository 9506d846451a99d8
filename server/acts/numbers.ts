import { assert, documentNumber, type DocumentKind } from '@core/kernel';
import type { Statement, Tx } from '../db/database';

interface NumberRow {
  kind: DocumentKind;
  next_serial: number;
}

/**
 * The next numbers of several kinds, without gaps: taken in the act's own transaction, so a rolled back act
 * gives them back; a kind never numbered before begins at 1. The rows stay locked until the commit: call it after
 * everything that may wait or refuse.
 * `before` are statements on rows already locked, sent in the same trip.
 */
export async function takeNumbers(
  tx: Tx,
  companyId: number,
  wanted: Partial<Record<DocumentKind, number>>,
  before: readonly Statement[] = [],
): Promise<(kind: DocumentKind) => string> {
  const kinds = (Object.keys(wanted) as DocumentKind[]).filter((kind) => wanted[kind]! > 0).sort();
  const next = new Map<DocumentKind, number>();
  const statements = [...before];
  if (kinds.length > 0) {
    statements.push({
      sql: `INSERT INTO number_series (company_id, kind, next_serial) VALUES ${kinds.map(() => '(?,?,?)').join(',')}
       ON DUPLICATE KEY UPDATE next_serial = next_serial + VALUES(next_serial) - 1 RETURNING kind, next_serial`,
      values: kinds.flatMap((kind) => [companyId, kind, wanted[kind]! + 1]),
      rows: true,
    });
  }
  const answers = await tx.together(statements);
  for (const row of kinds.length > 0 ? (answers.at(-1) as NumberRow[]) : []) {
    next.set(row.kind, row.next_serial - wanted[row.kind]!);
  }
  return (kind) => {
    const serial = next.get(kind);
    assert(serial !== undefined, `no ${kind} number was asked for`);
    next.set(kind, serial + 1);
    return documentNumber(kind, serial);
  };
}
