import type { OrderEffects } from '@core/orders';
import type { Touched } from '../acts';
import type { PartyOffer } from '../agreements';
import type { Sql } from '../db';

/** The agreements whose counters a change moves. */
export function touchedBy(offers: readonly PartyOffer[], released: OrderEffects['released']): Touched[] {
  const moved = offers.filter((offer) => released.some((each) => each.agreementLineId === offer.line.id));
  const agreements = new Map(moved.map(({ agreement }) => [agreement.id, agreement.number]));
  return [...agreements].map(([id, number]) => ({ kind: 'AG', id, number }));
}

/** The agreement lines that an order's lines are priced by. */
export async function agreementLinesOf(sql: Sql, companyId: number, orderId: number): Promise<number[]> {
  const rows = await sql.rows<{ id: number }>(
    'SELECT DISTINCT agreement_line_id AS id FROM sales_order_line WHERE company_id = ? AND order_id = ? AND agreement_line_id IS NOT NULL',
    [companyId, orderId],
  );
  return rows.map((row) => row.id);
}
