import type { Route } from '@core/catalogue';
import type { Sql } from '../db';

/**
 * The pair of items `m` of another company's item `i` and ours `o`, and how many of our units are one of theirs: a join
 * with its values in order, which keeps items that have no twin (`join`) or not (`inner`). // X1
 */
export function pairOf(
  companyId: number,
  sisterId: number,
): { join: string; inner: string; values: number[]; factor: string } {
  const low = companyId < sisterId;
  const [ours, theirs] = low ? ['m.low_item_id', 'm.high_item_id'] : ['m.high_item_id', 'm.low_item_id'];
  const inner = `JOIN sister_item m ON m.low_id = ? AND m.high_id = ? AND ${theirs} = i.id
           JOIN item o ON o.company_id = ? AND o.id = ${ours}`;
  return {
    join: inner.replaceAll('JOIN', 'LEFT JOIN'),
    inner,
    values: [Math.min(companyId, sisterId), Math.max(companyId, sisterId), companyId],
    factor: low ? 'COALESCE(ROUND(1 / m.factor, 10), 1)' : 'COALESCE(m.factor, 1)',
  };
}

/** What items of ours are at a sister company: hers, how many of our units are one of hers, and how she sells it. */
export async function twinsOf(
  sql: Sql,
  companyId: number,
  sisterId: number,
  itemIds: readonly number[],
): Promise<Map<number, { itemId: number; factor: string; route: Route }>> {
  const pair = pairOf(companyId, sisterId);
  const rows = await sql.rows<{ ours: number; itemId: number; factor: string; route: Route }>(
    `SELECT o.id AS ours, i.id AS item_id, ${pair.factor} AS factor, i.route FROM item i ${pair.inner}
      WHERE i.company_id = ? AND o.id IN (?)`,
    [...pair.values, sisterId, itemIds],
  );
  return new Map(rows.map(({ ours, ...theirs }) => [ours, theirs]));
}
