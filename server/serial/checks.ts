import type { Check } from '../room';

const OF = "CONCAT(i.number, ' ', s.number)";
const JOIN = 'JOIN item i ON i.company_id = s.company_id AND i.id = s.item_id';

/** What must be true of the pieces that have numbers. // G5 P6 */
export const checks: readonly Check[] = [
  {
    // It is in one place, always: at ours where it came once more than it left.
    what: 'serial number against its life',
    sql: `SELECT ${OF} AS subject, s.place = 'ours' AS kept, COALESCE((SELECT SUM(e.quantity) FROM serial_entry e
              WHERE e.company_id = s.company_id AND e.serial_id = s.id), 0) AS counted
            FROM serial s ${JOIN} HAVING kept <> counted`,
  },
  {
    what: 'serial number at another place than it last came to',
    sql: `SELECT ${OF} AS subject, COALESCE(s.location_id, 'nowhere') AS kept,
              COALESCE((SELECT e.location_id FROM serial_entry e
                WHERE e.company_id = s.company_id AND e.serial_id = s.id ORDER BY e.id DESC LIMIT 1), 'nowhere') AS counted
            FROM serial s ${JOIN} HAVING kept <> counted`,
  },
  {
    what: 'serial number that came with another document',
    sql: `SELECT ${OF} AS subject, CONCAT(s.born_kind, s.born_id) AS kept,
              COALESCE((SELECT CONCAT(e.document_kind, e.document_id)
                FROM serial_entry e WHERE e.company_id = s.company_id AND e.serial_id = s.id ORDER BY e.id LIMIT 1), 'nothing') AS counted
            FROM serial s ${JOIN} HAVING kept <> counted`,
  },
  {
    what: 'serial numbers here against stock',
    sql: `SELECT CONCAT(i.number, ' at ', y.location_id) AS subject, SUM(y.numbers) AS kept, SUM(y.on_hand) AS counted
            FROM (SELECT s.company_id, s.item_id, s.location_id, 1 AS numbers, 0 AS on_hand FROM serial s WHERE s.place = 'ours'
                  UNION ALL
                  SELECT k.company_id, k.item_id, k.location_id, 0, k.on_hand FROM stock k
                    JOIN serial_series n ON n.company_id = k.company_id AND n.item_id = k.item_id) y
            JOIN item i ON i.company_id = y.company_id AND i.id = y.item_id
           GROUP BY y.company_id, y.item_id, y.location_id HAVING kept <> counted`,
  },
  {
    what: 'serial numbers of a document against what it moved',
    sql: `SELECT CONCAT(y.kind, ' ', y.id, ' of item ', y.item_id) AS subject, SUM(y.numbers) AS kept, SUM(y.moved) AS counted
            FROM (SELECT e.company_id, e.document_kind AS kind, e.document_id AS id, s.item_id, e.location_id, e.quantity AS numbers, 0 AS moved
                    FROM serial_entry e JOIN serial s ON s.company_id = e.company_id AND s.id = e.serial_id
                  UNION ALL
                  SELECT t.company_id, t.document_kind, t.document_id, t.item_id, t.location_id, 0, t.quantity FROM stock_entry t
                   WHERE EXISTS (SELECT 1 FROM serial_entry e JOIN serial s ON s.company_id = e.company_id AND s.id = e.serial_id
                     WHERE e.company_id = t.company_id AND e.document_kind = t.document_kind AND e.document_id = t.document_id
                       AND s.item_id = t.item_id)) y
           GROUP BY y.company_id, y.kind, y.id, y.item_id, y.location_id HAVING kept <> counted`,
  },
  {
    // Only what is used is part of anything, and of a product of the order it was used in.
    what: 'serial number of a part',
    sql: `SELECT ${OF} AS subject, s.place AS kept, 'used in the order of its product' AS counted
            FROM serial_part p
            JOIN serial s ON s.company_id = p.company_id AND s.id = p.part_id
            JOIN serial of ON of.company_id = p.company_id AND of.id = p.product_id ${JOIN}
            LEFT JOIN work_report r ON r.company_id = of.company_id AND r.id = of.born_id AND of.born_kind = 'WR'
           WHERE s.place <> 'used' OR of.place = 'out' OR NOT (r.planned_order_id <=> s.planned_order_id)`,
  },
  {
    what: 'serial number used in no order',
    sql: `SELECT ${OF} AS subject, s.place AS kept, COALESCE(CONCAT('order ', s.planned_order_id), 'no order') AS counted
            FROM serial s ${JOIN} WHERE (s.place = 'used') <> (s.planned_order_id IS NOT NULL)`,
  },
  {
    what: 'serial number at a customer without an order line',
    sql: `SELECT ${OF} AS subject, s.place AS kept, 'none' AS counted FROM serial s ${JOIN}
           WHERE s.place = 'customer' AND s.order_line_id IS NULL`,
  },
];
