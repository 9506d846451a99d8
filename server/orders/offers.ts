import type { OrderEffects } from '@core/orders';
import type { Day } from '@core/kernel';
import { orNotFound, type Touched } from '../acts';
import { loadOffers, type PartyOffer } from '../agreements';
import type { Sql } from '../db';

/** The agreements whose counters a change moves. */
export function touchedBy(offers: readonly PartyOffer[], released: OrderEffects['released']): Touched[] {
  const moved = offers.filter((offer) => released.some((each) => each.agreementLineId === offer.line.id));
  const agreements = new Map(moved.map(({ agreement }) => [agreement.id, agreement.number]));
  return [...agreements].map(([id, number]) => ({ kind: 'AG', id, number }));
}

/** What an order's lines would be, each with the agreement that prices it. */
export const linesShown = (lines: OrderEffects['lines'], offers: readonly PartyOffer[]) =>
  lines.map((line) => ({
    itemId: line.itemId,
    quantity: line.quantity,
    unitPrice: line.unitPrice,
    amount: line.amount,
    listPrice: line.listPrice,
    typedAt: line.typedAt,
    steps: [...line.sold.steps],
    agreement: offers.find((offer) => offer.line.id === line.agreementLineId)?.agreement.number ?? null,
  }));

/**
 * What could price an order's lines, and what prices them by now, and those agreement lines (`more`) besides, locked:
 * before the order is.
 */
export async function offersOfOrder(
  sql: Sql,
  companyId: number,
  orderId: number,
  day: Day,
  more: readonly number[] = [],
): Promise<PartyOffer[]> {
  const [rows, customerId] = await Promise.all([
    sql.rows<{ id: number }>(
      'SELECT DISTINCT agreement_line_id AS id FROM sales_order_line WHERE company_id = ? AND order_id = ? AND agreement_line_id IS NOT NULL',
      [companyId, orderId],
    ),
    customerOf(sql, companyId, orderId),
  ]);
  return loadOffers(sql, companyId, { customerId, lineIds: [...rows.map(({ id }) => id), ...more], day });
}

/** Whose an order is. */
export async function customerOf(sql: Sql, companyId: number, orderId: number): Promise<number> {
  const [row] = await sql.rows<{ customerId: number }>(
    'SELECT customer_id FROM sales_order WHERE company_id = ? AND id = ?',
    [companyId, orderId],
  );
  return orNotFound(row, 'This sales order').customerId;
}
