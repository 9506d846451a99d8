import { addDays, dec, type Day } from '@core/kernel';
import type { Sql } from '../db';
import { closedOf, datesOf, planOf, type StandingHead } from './ground';

/** What standing orders will ask for: of an item, by whom, when it ships. */
export interface StandingDemand {
  itemId: number;
  customerId: number;
  day: Day;
  quantity: string;
  source: { kind: 'ST'; id: number; number: string; party: string };
}

type Head = Omit<StandingHead, 'version' | 'shipToId' | 'customerReference'> & { party: string };

/**
 * What waits of the standing orders that are active, of items we keep or, where asked, of all: what is made is demand by
 * its order. // S7 T11
 */
export async function standingDemands(
  sql: Sql,
  companyId: number,
  workDate: Day,
  itemIds: readonly number[],
  of: 'kept' | 'all' = 'kept',
): Promise<StandingDemand[]> {
  const lines = await sql.rows<{
    standingId: number;
    termId: number;
    itemId: number;
    quantity: string;
    factor: string | null;
  }>(
    `SELECT t.standing_order_id AS standing_id, l.term_id, l.item_id, l.quantity, u.factor
       FROM standing_order s
       JOIN standing_term t ON t.company_id = s.company_id AND t.standing_order_id = s.id
       JOIN standing_line l ON l.company_id = t.company_id AND l.term_id = t.id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id${of === 'kept' ? " AND i.route = 'stock'" : ''}
       LEFT JOIN item_unit u ON u.company_id = l.company_id AND u.item_id = l.item_id AND u.unit = l.unit
      WHERE s.company_id = ? AND s.state = 'active' AND l.item_id IN (?)`,
    [companyId, itemIds],
  );
  const ids = [...new Set(lines.map(({ standingId }) => standingId))];
  if (ids.length === 0) return [];
  const [heads, terms, said, closed] = await Promise.all([
    sql.rows<Head>(
      `SELECT s.id, s.number, s.state, s.customer_id, s.first_day, s.last_day, s.ahead_days, s.closed, c.name AS party
         FROM standing_order s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
        WHERE s.company_id = ? AND s.id IN (?)`,
      [companyId, ids],
    ),
    sql.rows<{ id: number; standingOrderId: number; fromDay: Day; rule: string }>(
      'SELECT id, standing_order_id, from_day, rule FROM standing_term WHERE company_id = ? AND standing_order_id IN (?) ORDER BY from_day',
      [companyId, ids],
    ),
    sql.rows<{
      standingOrderId: number;
      day: Day;
      state: 'skipped' | 'made' | 'refused';
      orderId: number | null;
      why: string;
    }>(
      `SELECT standing_order_id, day, state, order_id, why FROM standing_date
        WHERE company_id = ? AND standing_order_id IN (?) AND day >= ?`,
      [companyId, ids, addDays(workDate, -1)],
    ),
    closedOf(sql, companyId),
  ]);
  return heads.flatMap((head) => {
    const own = terms.filter(({ standingOrderId }) => standingOrderId === head.id);
    const plan = planOf(
      head,
      own,
      said.filter(({ standingOrderId }) => standingOrderId === head.id),
    );
    return datesOf({ plan, closed }, workDate)
      .filter(({ shipDay, said: about }) => shipDay !== null && about?.state !== 'made')
      .flatMap(({ termId, shipDay }) =>
        lines
          .filter((line) => line.termId === termId)
          .map(({ itemId, quantity, factor }) => ({
            itemId,
            customerId: head.customerId,
            day: shipDay!,
            quantity: dec(quantity)
              .times(factor ?? 1)
              .toFixed(),
            source: { kind: 'ST' as const, id: head.id, number: head.number, party: head.party },
          })),
      );
  });
}
