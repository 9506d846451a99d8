import type { TakenLine } from '@core/sisters';
import { dec } from '@core/kernel';
import type { Sql, Tx } from '../db';
import type { OfferHead } from './sources';
import { sisterLineTable } from './tables';

const HEAD = { sales_order_line: 'order_id', purchase_order_line: 'purchase_order_id' } as const;
const LINK = {
  sales_order_line: 'x.seller_id = l.company_id AND x.sales_line_id = l.id',
  purchase_order_line: 'x.buyer_id = l.company_id AND x.purchase_line_id = l.id',
} as const;

const told = (kind: 'order' | 'purchase') => `EXISTS (SELECT 1 FROM elsewhere_line e
            JOIN elsewhere_document d ON d.company_id = e.company_id AND d.id = e.document_id
             AND d.kind = '${kind}' AND d.to_id = l.company_id WHERE e.line_id = l.id)`;
/** A line `l` of ours is joined with one that a company elsewhere told. Served by elsewhere_line_ours. */
export const TOLD = { sales_order_line: told('order'), purchase_order_line: told('purchase') } as const;

/**
 * The lines of a document that was made or grew of what was taken, each with what it was made of: in their order, item by
 * item; what a limit split in two is of one.
 */
async function joinedLines(
  sql: Sql,
  table: keyof typeof HEAD,
  companyId: number,
  documentId: number,
  taken: readonly TakenLine[],
): Promise<{ id: number; source: TakenLine['source'] }[]> {
  const rows = await sql.rows<{ id: number; itemId: number }>(
    `SELECT l.id, l.item_id FROM ${table} l WHERE l.company_id = ? AND l.${HEAD[table]} = ?
        AND NOT EXISTS (SELECT 1 FROM sister_line x WHERE ${LINK[table]})
        AND NOT ${TOLD[table]} ORDER BY l.line_no`,
    [companyId, documentId],
  );
  let at = 0;
  return rows.flatMap(({ id, itemId }) => {
    // The next one taken of that item; a second part of a line that was split stays with it.
    const next = taken.findIndex((line, index) => index >= at && line.itemId === itemId);
    if (next >= 0) at = next + 1;
    const found = taken[next] ?? [...taken].reverse().find((line) => line.itemId === itemId);
    return found ? [{ id, source: found.source }] : [];
  });
}

/** The lines of a document that were made or grew of what was taken, joined with the sister's. // X3 */
export async function joinTaken(
  tx: Tx,
  head: OfferHead,
  documentId: number,
  taken: readonly TakenLine[],
  companyId: number,
): Promise<void> {
  if (taken.length === 0) return;
  const table = head.kind === 'order' ? 'sales_order_line' : 'purchase_order_line';
  const made = await joinedLines(tx, table, companyId, documentId, taken);
  await joinLines(
    tx,
    head,
    made.map(({ id, source }) => ({ ourLineId: id, theirLineId: source.id, factor: source.factor })),
    companyId,
  );
}

/** Joins lines of ours with those of what a sister offered; `factor` of our units are one of hers. // X3 */
export async function joinLines(
  tx: Tx,
  { kind, fromId, elsewhere }: OfferHead,
  pairs: readonly { ourLineId: number; theirLineId: number; factor: string }[],
  companyId: number,
): Promise<void> {
  if (elsewhere) {
    // Of a line that a limit split in two, the first is known.
    for (const { ourLineId, theirLineId } of pairs) {
      await tx.run('UPDATE elsewhere_line SET line_id = COALESCE(line_id, ?) WHERE company_id = ? AND id = ?', [
        ourLineId,
        fromId,
        theirLineId,
      ]);
    }
    return;
  }
  await tx.insertPlain(
    sisterLineTable,
    pairs.map(({ ourLineId, theirLineId, factor }) =>
      kind === 'order'
        ? {
            sellerId: companyId,
            salesLineId: ourLineId,
            buyerId: fromId,
            purchaseLineId: theirLineId,
            // Kept as units of the buyer in one of the seller's.
            factor: dec(1).div(factor).toFixed(6),
          }
        : { sellerId: fromId, salesLineId: theirLineId, buyerId: companyId, purchaseLineId: ourLineId, factor },
    ),
  );
}
