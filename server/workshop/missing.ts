import { isWholeUnit, MAIN_LOCATION, type Day } from '@core/kernel';
import type { PartOfOne } from '@core/orders';
import type { Sql } from '../db';

/**
 * What goes into one of each item that is made, on a day, phantoms opened up, with what is free of it where it is made and
 * when the next comes. One query, by the keys of the items; none where nothing is asked. // W1 T4
 */
export async function partsOfOne(
  sql: Sql,
  companyId: number,
  day: Day,
  itemIds: readonly number[],
): Promise<PartOfOne[]> {
  if (itemIds.length === 0) return [];
  const rows = await sql.rows<Omit<PartOfOne, 'whole'> & { unit: string }>(
    `WITH RECURSIVE part AS (
       SELECT b.item_id, b.component_id AS part_id, CAST(b.quantity * (100 + b.scrap_percent) / 100 AS DECIMAL(30,10)) AS quantity,
              CAST(NULL AS UNSIGNED) AS option_id, 1 AS depth
         FROM bom_line b WHERE b.company_id = ? AND b.item_id IN (?)
          AND (b.first_day IS NULL OR b.first_day <= ?) AND (b.last_day IS NULL OR b.last_day >= ?)
       UNION ALL
       SELECT g.item_id, o.component_id, CAST(o.quantity AS DECIMAL(30,10)), o.id, 1
         FROM option_group g JOIN item_option o ON o.company_id = g.company_id AND o.group_id = g.id
        WHERE g.company_id = ? AND g.item_id IN (?)
       UNION ALL
       SELECT a.item_id, b.component_id, CAST(a.quantity * b.quantity * (100 + b.scrap_percent) / 100 AS DECIMAL(30,10)), a.option_id, a.depth + 1
         FROM part a JOIN item h ON h.company_id = ? AND h.id = a.part_id AND h.phantom
         JOIN bom_line b ON b.company_id = h.company_id AND b.item_id = h.id
        WHERE a.depth < 20 AND (b.first_day IS NULL OR b.first_day <= ?) AND (b.last_day IS NULL OR b.last_day >= ?))
     SELECT a.item_id, a.part_id, i.number AS part, a.quantity, a.option_id, i.unit, COALESCE(s.on_hand - s.reserved, 0) AS free,
            (SELECT MIN(l.due_date) FROM purchase_order_line l
               JOIN purchase_order b ON b.company_id = l.company_id AND b.id = l.purchase_order_id AND b.state = 'placed'
                AND b.ship_to_id IS NULL
              WHERE l.company_id = i.company_id AND l.item_id = i.id AND l.received < l.quantity) AS comes_on
       FROM part a JOIN item i ON i.company_id = ? AND i.id = a.part_id AND NOT i.phantom
       LEFT JOIN stock s ON s.company_id = i.company_id AND s.item_id = i.id AND s.location_id = ${MAIN_LOCATION}
      ORDER BY a.item_id, i.number`,
    [companyId, itemIds, day, day, companyId, itemIds, companyId, day, day, companyId],
  );
  return rows.map(({ unit, ...row }) => ({ ...row, whole: isWholeUnit(unit) }));
}
