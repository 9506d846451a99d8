import { dec, itemAt, locationAt, pointOf } from '@core/kernel';
import type { Sql, Statement, Columns } from '../db';
import type { Stock } from '../stock/tables';

/** What more (below zero: less) of an item's stock at a location is held for orders. */
export function heldStatement(companyId: number, itemId: number, locationId: number, by: string): Statement {
  return {
    sql: 'UPDATE stock SET reserved = reserved + ? WHERE company_id = ? AND item_id = ? AND location_id = ?',
    values: [by, companyId, itemId, locationId],
  };
}

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

export interface StockNow {
  onHand: string;
  reserved: string;
  value: string;
}

/** What is there of items at locations (points), locked in the order of items and locations, by point. */
async function loadStock(sql: Sql, companyId: number, points: readonly number[]): Promise<Map<number, StockNow>> {
  if (points.length === 0) return new Map();
  const { sql: text, values } = stockRead(sql, companyId, [...new Set(points)]);
  return stockOf(await sql.rows<StockRow>(text, values));
}

type StockRow = Columns<Stock, 'itemId locationId onHand reserved value'>;

/** The same as a statement, for a trip with others; each point once. */
export const stockRead = (sql: Sql, companyId: number, points: readonly number[]): Statement => ({
  sql: `SELECT item_id, location_id, on_hand, reserved, value FROM stock
      WHERE company_id = ? AND (${points.map(() => 'item_id = ? AND location_id = ?').join(' OR ')})
      ORDER BY item_id, location_id ${sql.forUpdate}`,
  values: [companyId, ...points.flatMap((point) => [itemAt(point), locationAt(point)])],
  rows: true,
});

export const stockOf = (rows: readonly StockRow[]): Map<number, StockNow> =>
  new Map(
    rows.map((row) => [
      pointOf(row.itemId, row.locationId),
      { onHand: row.onHand, reserved: row.reserved, value: row.value },
    ]),
  );

/** What is on hand of points and held for nobody, locked, by point. */
export async function loadFree(sql: Sql, companyId: number, points: readonly number[]): Promise<Map<number, string>> {
  const stock = await loadStock(sql, companyId, points);
  return new Map([...stock].map(([point, { onHand, reserved }]) => [point, dec(onHand).minus(reserved).toFixed()]));
}
