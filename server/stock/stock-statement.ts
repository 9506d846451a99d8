import type { Statement } from '../db';

/** What is there of an item at a location grows by a quantity and its cost, or lessens by what is below nothing. // P3 */
export function stockStatement(
  companyId: number,
  { itemId, locationId, quantity, cost }: { itemId: number; locationId: number; quantity: string; cost: string },
): Statement {
  // Where it lessens there is a row, and its checks look at what would be inserted.
  if (quantity.startsWith('-')) {
    return {
      sql: 'UPDATE stock SET on_hand = on_hand + ?, value = value + ? WHERE company_id = ? AND item_id = ? AND location_id = ?',
      values: [quantity, cost, companyId, itemId, locationId],
    };
  }
  return {
    sql: `INSERT INTO stock (company_id, item_id, location_id, on_hand, value) VALUES (?, ?, ?, ?, ?)
           ON DUPLICATE KEY UPDATE on_hand = on_hand + VALUES(on_hand), value = value + VALUES(value)`,
    values: [companyId, itemId, locationId, quantity, cost],
  };
}
