import { dec, type Dec } from '@core/kernel';
import { expectedCosts, type CostedItem } from '@core/workshop';
import type { Sql } from '../db';

/** What is known of an item `i`'s cost: the moving average, else what it was last bought at, in the company's currency. */
export const KNOWN = `COALESCE(
  (SELECT ROUND(SUM(s.value) / SUM(s.on_hand), 4) FROM stock s
    WHERE s.company_id = i.company_id AND s.item_id = i.id HAVING SUM(s.on_hand) > 0),
  (SELECT ROUND(rl.cost / rl.quantity, 4) FROM receipt_line rl
    WHERE rl.company_id = i.company_id AND rl.item_id = i.id AND rl.quantity > 0 ORDER BY rl.id DESC LIMIT 1))`;

/**
 * What one of each item is reckoned at: its average, else its last purchase, else what it is made of. One query, and two
 * more for each level of the BOMs below what is not known. // W1
 */
export async function reckonedCosts(
  sql: Sql,
  companyId: number,
  itemIds: readonly number[],
  /** What of them is read already. */
  read: readonly { id: number; known: string | null }[] | null = null,
): Promise<Map<number, Dec>> {
  const items = new Map<number, CostedItem>();
  let level = [...new Set(itemIds)];
  while (level.length > 0) {
    const known =
      (items.size === 0 && read) ||
      (await sql.rows<{ id: number; known: string | null }>(
        `SELECT i.id, ${KNOWN} AS known FROM item i WHERE i.company_id = ? AND i.id IN (?)`,
        [companyId, level],
      ));
    const unknown = known.filter((row) => row.known === null).map(({ id }) => id);
    const [parts, work] = await partsAndWork(sql, companyId, unknown);
    for (const row of known) {
      items.set(row.id, {
        ...row,
        parts: parts.filter(({ madeId }) => madeId === row.id),
        work: work.filter(({ madeId }) => madeId === row.id),
      });
    }
    level = [...new Set(parts.map(({ itemId }) => itemId))].filter((id) => !items.has(id));
  }
  return expectedCosts([...items.values()]);
}

async function partsAndWork(sql: Sql, companyId: number, ids: readonly number[]) {
  if (ids.length === 0) return [[], []] as const;
  const parts = await sql.rows<{ madeId: number; itemId: number; quantity: string }>(
    `SELECT item_id AS made_id, component_id AS item_id, quantity * (100 + scrap_percent) / 100 AS quantity FROM bom_line
      WHERE company_id = ? AND item_id IN (?)`,
    [companyId, ids],
  );
  const work = await sql.rows<{ madeId: number; minutes: string; hourCost: string }>(
    `SELECT o.item_id AS made_id, o.run_minutes AS minutes, w.hour_cost FROM routing_operation o
       JOIN work_centre w ON w.company_id = o.company_id AND w.id = o.work_centre_id
      WHERE o.company_id = ? AND o.item_id IN (?)`,
    [companyId, ids],
  );
  return [parts, work] as const;
}

/** What one of an item is reckoned at, as text; nothing where nothing is known. */
export const costText = (costs: ReadonlyMap<number, Dec>, itemId: number) => (costs.get(itemId) ?? dec('0')).toFixed();
