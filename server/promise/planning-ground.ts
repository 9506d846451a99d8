import type { Day } from '@core/kernel';
import type { GroundRows, MoveRow } from '@core/promise';
import type { Sql } from '../db/database';
import { forecastOf } from './forecast';
import { groundRows } from './ground';

/** What planning stands on: items with all they are made of, every item where none is named, and what is expected. */
export async function groundOfPlanning(
  sql: Sql,
  companyId: number,
  workDate: Day,
  itemIds: readonly number[],
): Promise<{ rows: GroundRows; forecast: MoveRow[] }> {
  const asked =
    itemIds.length > 0
      ? itemIds
      : (await sql.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ?', [companyId])).map((row) => row.id);
  const rows = await groundRows(sql, companyId, workDate, asked, { benchLeftOut: true });
  const expected = await forecastOf(
    sql,
    companyId,
    rows.items.map((item) => item.id),
  );
  return { rows: { ...rows, supplies: [...rows.supplies, ...expected.supplies] }, forecast: expected.demands };
}

/** The items of proposals and all they go into: what decides about them. A query for each level of the BOMs. */
export async function familyOf(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<number[]> {
  const all = new Set(itemIds);
  let level = [...all];
  while (level.length > 0) {
    const above = await sql.rows<{ item_id: number }>(
      'SELECT DISTINCT item_id FROM bom_line WHERE company_id = ? AND component_id IN (?)',
      [companyId, level],
    );
    level = above.map((row) => row.item_id).filter((id) => !all.has(id));
    for (const id of level) all.add(id);
  }
  return [...all];
}
