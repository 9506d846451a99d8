import { bound, type Check } from '../room';

const PLANNED_PART =
  "CONCAT((SELECT number FROM planned_order p WHERE p.company_id = x.company_id AND p.id = x.planned_order_id), ' needs ', (SELECT number FROM item i WHERE i.company_id = x.company_id AND i.id = x.item_id))";

/** What must be true of what the promise room keeps. // G5 */
export const checks: readonly Check[] = [
  // T4: what went out from elsewhere, or was closed, leaves its plan to others; it is no more than was ordered.
  bound(
    'planned for an order line',
    'sales_order_line',
    "CONCAT((SELECT number FROM sales_order o WHERE o.company_id = x.company_id AND o.id = x.order_id), ' line ', x.line_no)",
    `COALESCE((SELECT SUM(t.quantity) FROM planned_tie t
                  JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open
                 WHERE t.company_id = x.company_id AND t.order_line_id = x.id), 0)`,
    'x.quantity',
  ),
  // T8
  {
    what: 'planned component covered',
    sql: `SELECT * FROM (SELECT ${PLANNED_PART} AS subject, SUM(x.covered) AS kept, COALESCE((SELECT SUM(o.held - COALESCE((SELECT SUM(t.quantity - t.made) FROM planned_tie t
               WHERE t.company_id = o.company_id AND t.planned_order_id = o.id), 0)) FROM planned_order o
             WHERE o.company_id = x.company_id AND o.parent_id = x.planned_order_id AND o.item_id = x.item_id
              AND o.state <> 'placed'
              -- What was planned for an order before it was laid anew is not planned for it any more.
              AND NOT (o.state = 'cancelled' AND EXISTS (SELECT 1 FROM planned_order u
                WHERE u.company_id = x.company_id AND u.id = x.planned_order_id AND u.open))), 0) AS counted
            FROM planned_component x GROUP BY x.company_id, x.planned_order_id, x.item_id) d WHERE kept <> counted`,
  },
  {
    what: 'minutes a work centre holds',
    sql: `SELECT * FROM (SELECT CONCAT(p.number, ' operation ', o.no) AS subject,
             (SELECT COALESCE(SUM(l.minutes), 0) FROM centre_hold l WHERE l.company_id = o.company_id AND l.planned_operation_id = o.id) AS kept,
             IF(p.state = 'cancelled', 0, o.minutes) AS counted
            FROM planned_operation o JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id) d
           WHERE kept <> counted`,
  },
  // T5
  {
    what: 'days of an operation',
    sql: `SELECT CONCAT(p.number, ' operation ', o.no) AS subject, CONCAT(o.first_day, ' to ', o.last_day) AS kept,
                 CONCAT(MIN(h.day), ' to ', MAX(h.day)) AS counted
            FROM planned_operation o
            JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id
            JOIN centre_hold h ON h.company_id = o.company_id AND h.planned_operation_id = o.id
           GROUP BY o.company_id, o.id HAVING kept <> counted`,
  },
  {
    what: 'work centre that an operation holds',
    sql: `SELECT CONCAT(p.number, ' operation ', o.no) AS subject, h.work_centre_id AS kept, o.work_centre_id AS counted
            FROM centre_hold h
            JOIN planned_operation o ON o.company_id = h.company_id AND o.id = h.planned_operation_id
            JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id
           WHERE h.work_centre_id <> o.work_centre_id`,
  },
  // T12
  {
    what: 'planned purchase placed on another item',
    sql: `SELECT p.number AS subject, p.item_id AS kept, COALESCE(l.item_id, 0) AS counted FROM planned_order p
            LEFT JOIN purchase_order_line l ON l.company_id = p.company_id AND l.id = p.purchase_line_id
           WHERE p.state = 'placed' AND NOT (p.item_id <=> l.item_id)`,
  },
];
