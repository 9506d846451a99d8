import { dec } from '@core/kernel';
import type { SameGround, ThingLine } from '@core/sisters';
import { orNotFound } from '../acts';
import type { Sql } from '../db';
import { TOLD } from './joined';
import type { Sister } from './tables';

/** A document of ours that an offer may be: an order of the sister's, or a purchase from her; locked. // X3 */
export async function documentForOffer(
  sql: Sql,
  companyId: number,
  selling: boolean,
  id: number,
  { customerId, vendorId }: Pick<Sister, 'customerId' | 'vendorId'>,
): Promise<{ document: SameGround['document'] & { id: number }; ours: ThingLine[] }> {
  const [row] = await sql.rows<{ number: string; state: string }>(
    selling
      ? `SELECT number, state FROM sales_order WHERE company_id = ? AND id = ? AND customer_id = ? ${sql.forUpdate}`
      : `SELECT number, state FROM purchase_order WHERE company_id = ? AND id = ? AND vendor_id = ? ${sql.forUpdate}`,
    [companyId, id, (selling ? customerId : vendorId) ?? 0],
  );
  const { number, state } = orNotFound(row, 'This document');
  const lines = await thingsOf(sql, companyId, selling, [id]);
  return {
    document: {
      id,
      number,
      open: state === (selling ? 'confirmed' : 'placed'),
      joined: lines.some(({ joined }) => joined),
    },
    ours: lines,
  };
}

/** What documents of ours tell of, with whether a line is joined with a sister's already. */
export async function thingsOf(
  sql: Sql,
  companyId: number,
  selling: boolean,
  ids: readonly number[],
): Promise<(ThingLine & { documentId: number; joined: boolean })[]> {
  const rows = await sql.rows<{ documentId: number; lineId: number; itemId: number; quantity: string; joined: number }>(
    selling
      ? `SELECT l.order_id AS document_id, l.id AS line_id, l.item_id, l.quantity - l.cancelled AS quantity,
                EXISTS (SELECT 1 FROM sister_line x WHERE x.seller_id = l.company_id AND x.sales_line_id = l.id)
                  OR ${TOLD.sales_order_line} AS joined
           FROM sales_order_line l WHERE l.company_id = ? AND l.order_id IN (?) ORDER BY l.line_no`
      : `SELECT l.purchase_order_id AS document_id, l.id AS line_id, l.item_id, l.quantity,
                EXISTS (SELECT 1 FROM sister_line x WHERE x.buyer_id = l.company_id AND x.purchase_line_id = l.id)
                  OR ${TOLD.purchase_order_line} AS joined
           FROM purchase_order_line l WHERE l.company_id = ? AND l.purchase_order_id IN (?) ORDER BY l.line_no`,
    [companyId, ids],
  );
  return rows.filter(({ quantity }) => dec(quantity).gt(0)).map((row) => ({ ...row, joined: Boolean(row.joined) }));
}
