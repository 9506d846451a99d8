import { assert, documentNumber, type DocumentKind } from '@core/kernel';
import type { Tx } from '../db/database';

/**
 * The next numbers of several kinds, without gaps: taken in the act's own transaction, so a rolled back act
 * gives them back; a kind never numbered before begins at 1. The rows stay locked until the commit: call it after everything that may wait or refuse.
 */
export async function takeNumbers(
  tx: Tx,
  companyId: number,
  wanted: Partial<Record<DocumentKind, number>>,
): Promise<(kind: DocumentKind) => string> {
  const kinds = (Object.keys(wanted) as DocumentKind[]).filter((kind) => wanted[kind]! > 0).sort();
  const next = new Map<DocumentKind, number>();
  if (kinds.length > 0) {
    const rows = await tx.rows<{ kind: DocumentKind; next_serial: number }>(
      `INSERT INTO number_series (company_id, kind, next_serial) VALUES ${kinds.map(() => '(?,?,?)').join(',')}
       ON DUPLICATE KEY UPDATE next_serial = next_serial + VALUES(next_serial) - 1 RETURNING kind, next_serial`,
      kinds.flatMap((kind) => [companyId, kind, wanted[kind]! + 1]),
    );
    for (const row of rows) next.set(row.kind, row.next_serial - wanted[row.kind]!);
  }
  return (kind) => {
    const serial = next.get(kind);
    assert(serial !== undefined, `no ${kind} number was asked for`);
    next.set(kind, serial + 1);
    return documentNumber(kind, serial);
  };
}
