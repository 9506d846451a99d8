import type { Day } from '@core/kernel';
import type { OrderPricing } from '@core/orders';
import type { PromotionKind, PromotionOffer, PromotionState } from '@core/promotions';
import { rateAt } from '../catalogue';
import type { Sql } from '../db';

interface OfferRow {
  id: number;
  promotionId: number;
  number: string;
  name: string;
  state: PromotionState;
  firstDay: Day;
  lastDay: Day;
  left: string | null;
  itemId: number | null;
  itemGroupId: number | null;
  kind: PromotionKind;
  value: string;
  fromQuantity: string;
  buy: string;
  free: string;
  freeItemId: number | null;
}

/**
 * What promotions give a customer on a day or later, those that were stopped among them for what orders have of them; and
 * what one of the customer's currency is worth in the company's. None is locked: what a budget has is guarded where a line
 * is written. // S13
 */
export async function promotionsFor(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  day: Day,
): Promise<OrderPricing['promotions']> {
  const [rows, [rate]] = await Promise.all([
    sql.rows<OfferRow>(
      `SELECT l.id, p.id AS promotion_id, p.number, p.name, p.state, p.first_day, p.last_day, p.budget - p.used AS \`left\`,
              l.item_id, l.item_group_id, l.kind, l.value, l.from_quantity, l.buy, l.free, l.free_item_id
         FROM promotion p
         JOIN promotion_line l ON l.company_id = p.company_id AND l.promotion_id = p.id
        WHERE p.company_id = ? AND p.last_day >= ?
          AND (p.customer_id IS NULL OR p.customer_id = ?)
          AND (p.price_group_id IS NULL OR p.price_group_id = (SELECT c.price_group_id FROM customer c WHERE c.company_id = ? AND c.id = ?))
        ORDER BY l.id`,
      [companyId, day, customerId ?? 0, companyId, customerId ?? 0],
    ),
    sql.rows<{ rate: string | null }>(
      `SELECT ${rateAt('c.currency', 'c.company_id', '?')} AS rate FROM customer c WHERE c.company_id = ? AND c.id = ?`,
      [day, companyId, customerId ?? 0],
    ),
  ]);
  return { offers: rows.map(offerOf), rate: rate?.rate ?? (customerId === null ? '1' : null) };
}

const offerOf = (row: OfferRow): PromotionOffer => ({
  id: row.id,
  promotion: {
    id: row.promotionId,
    number: row.number,
    name: row.name,
    firstDay: row.firstDay,
    lastDay: row.lastDay,
    running: row.state === 'running',
    left: row.left,
  },
  itemId: row.itemId,
  groupId: row.itemGroupId,
  kind: row.kind,
  value: row.value,
  from: row.fromQuantity,
  buy: row.buy,
  free: row.free,
  freeItemId: row.freeItemId,
});
