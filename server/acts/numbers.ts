import { assert, documentNumber, type DocumentKind } from '@core/kernel';
import type { Tx } from '../db/database';

/**
 * The next numbers of several kinds, without gaps: taken in the act's own transaction, so a rolled back act
 * gives them back. The rows stay locked until the commit: call it after everything that may wait or refuse.
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
      'SELECT kind, next_serial FROM number_series WHERE company_id = ? AND kind IN (?) ORDER BY kind FOR UPDATE',
      [companyId, kinds],
    );
    for (const row of rows) next.set(row.kind, row.next_serial);
    const grown = kinds.map((kind) => `WHEN '${kind}' THEN ${Number(wanted[kind])}`).join(' ');
    const changed = await tx.run(
      `UPDATE number_series SET next_serial = next_serial + CASE kind ${grown} END WHERE company_id = ? AND kind IN (?)`,
      [companyId, kinds],
    );
    assert(changed === kinds.length, `a number series is missing among ${kinds.join(', ')}`);
  }
  return (kind) => {
    const serial = next.get(kind);
    assert(serial !== undefined, `no ${kind} number was asked for`);
    next.set(kind, serial + 1);
    return documentNumber(kind, serial);
  };
}
