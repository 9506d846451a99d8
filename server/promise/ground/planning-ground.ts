import { pointOf, type Day } from '@core/kernel';
import type { GroundRows, MoveRow } from '@core/promise';
import { locationsOf } from '../../catalogue';
import type { Sql } from '../../db';
import { forecastOf } from './forecast';
import { groundRows } from './ground';
import { itemsAt } from './moves';

/** What planning stands on: items with all they are made of, and what is expected. */
export async function groundOfPlanning(
  sql: Sql,
  companyId: number,
  workDate: Day,
  itemIds: readonly number[] | 'all',
): Promise<{ rows: GroundRows; forecast: MoveRow[] }> {
  const asked =
    itemIds !== 'all'
      ? itemIds
      : (await sql.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ?', [companyId])).map((row) => row.id);
  const points = [...asked, ...(await elsewhere(sql, companyId, asked))];
  const rows = await groundRows(sql, companyId, workDate, points, { benchLeftOut: true });
  const expected = await forecastOf(sql, companyId, workDate, itemsAt(rows.items.map((item) => item.id)));
  return { rows: { ...rows, supplies: [...rows.supplies, ...expected.supplies] }, forecast: expected.demands };
}

/** Where items are besides the main location: what is there, comes there or goes out from there. */
async function elsewhere(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<number[]> {
  const places = (await locationsOf(sql, companyId)).slice(1).map(({ id }) => id);
  if (places.length === 0) return [];
  const rows = await sql.rows<{ itemId: number; locationId: number }>(
    `SELECT item_id, location_id FROM stock WHERE company_id = ? AND location_id IN (?) AND item_id IN (?)
      UNION SELECT item_id, location_id FROM sales_order_line
             WHERE company_id = ? AND location_id IN (?) AND item_id IN (?) AND owed
      UNION SELECT l.item_id, p.location_id FROM purchase_order_line l
              JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
             WHERE l.company_id = ? AND p.location_id IN (?) AND l.item_id IN (?) AND l.untied
      UNION SELECT item_id, location_id FROM planned_order
             WHERE company_id = ? AND location_id IN (?) AND item_id IN (?) AND open`,
    Array.from({ length: 4 }, () => [companyId, places, itemIds]).flat(),
  );
  return rows.map((row) => pointOf(row.itemId, row.locationId));
}

/** The items of proposals and all they go into: what decides about them. A query for each level of the BOMs. */
export async function familyOf(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<number[]> {
  const all = new Set(itemIds);
  let level = [...all];
  while (level.length > 0) {
    const above = await sql.rows<{ itemId: number }>(
      'SELECT DISTINCT item_id FROM bom_line WHERE company_id = ? AND component_id IN (?)',
      [companyId, level],
    );
    level = above.map((row) => row.itemId).filter((id) => !all.has(id));
    for (const id of level) all.add(id);
  }
  return [...all];
}
