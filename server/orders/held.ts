import type { Sql, Statement } from '../db/database';
import { plain } from '../db/mapping';

/** What more (below zero: less) of an item's stock is held for orders. */
export function heldStatement(companyId: number, itemId: number, by: string): Statement {
  return {
    sql: 'UPDATE stock SET reserved = reserved + ? WHERE company_id = ? AND item_id = ?',
    values: [by, companyId, itemId],
  };
}

/** What is on hand of items and held for nobody, their stock locked, by item. */
export async function lockFree(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<Map<number, string>> {
  if (itemIds.length === 0) return new Map();
  const rows = await sql.rows<{ item_id: number; free: string }>(
    `SELECT item_id, on_hand - reserved AS free FROM stock
      WHERE company_id = ? AND item_id IN (?) ORDER BY item_id FOR UPDATE`,
    [companyId, [...new Set(itemIds)]],
  );
  return new Map(rows.map((row) => [row.item_id, plain(row.free)]));
}
