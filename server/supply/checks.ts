import { bound, counter, type Check } from '../room';
import { BOTH_ENDS, DIFFERS, LATE } from './in-step';

const ORDER_LINE =
  "CONCAT((SELECT number FROM sales_order o WHERE o.company_id = x.company_id AND o.id = x.order_id), ' line ', x.line_no)";
const PURCHASE_LINE =
  "CONCAT((SELECT number FROM purchase_order p WHERE p.company_id = x.company_id AND p.id = x.purchase_order_id), ' line ', x.line_no)";

/** What must be true of what the supply room keeps. // G5 */
export const checks: readonly Check[] = [
  // L1
  counter(
    'order line tied',
    'sales_order_line',
    ORDER_LINE,
    'x.tied',
    'SELECT SUM(t.quantity) FROM tie t WHERE t.company_id = x.company_id AND t.order_line_id = x.id',
  ),
  counter(
    'purchase line tied',
    'purchase_order_line',
    PURCHASE_LINE,
    'x.tied',
    'SELECT SUM(t.quantity) FROM tie t WHERE t.company_id = x.company_id AND t.purchase_line_id = x.id',
  ),
  counter(
    'tie received',
    'tie',
    "CONCAT('tie ', x.id)",
    'x.received',
    'SELECT SUM(r.quantity) FROM receipt_line r WHERE r.company_id = x.company_id AND r.tie_id = x.id',
  ),
  bound(
    'tied of a purchase line',
    'purchase_order_line',
    PURCHASE_LINE,
    'COALESCE((SELECT SUM(t.quantity) FROM tie t WHERE t.company_id = x.company_id AND t.purchase_line_id = x.id), 0)',
    'x.quantity',
  ),
  bound(
    'tied of an order line',
    'sales_order_line',
    ORDER_LINE,
    'COALESCE((SELECT SUM(t.quantity) FROM tie t WHERE t.company_id = x.company_id AND t.order_line_id = x.id), 0)',
    'x.quantity',
  ),
  {
    what: 'tie joins different items',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, sl.item_id AS kept, pl.item_id AS counted FROM tie t
            JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
            JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
           WHERE sl.item_id <> pl.item_id`,
  },
  {
    what: 'bench mark of an order line',
    sql: `SELECT * FROM (SELECT ${ORDER_LINE} AS subject, x.on_bench AS kept,
             (o.state = 'confirmed' AND x.route IN ('drop', 'special') AND x.tied < x.quantity - x.cancelled) AS counted
            FROM sales_order_line x JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id) d WHERE kept <> counted`,
  },
  {
    what: 'tie against the way its line is supplied',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, sl.route AS kept, IF(p.ship_to_id IS NULL, 'special', 'drop') AS counted
            FROM tie t
            JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
            JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
            JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
           WHERE sl.route <> IF(p.ship_to_id IS NULL, 'special', 'drop')`,
  },
  {
    what: 'tie against the place its line goes out from',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, sl.location_id AS kept, p.location_id AS counted
            FROM tie t
            JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id AND sl.route = 'special'
            JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
            JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
           WHERE sl.location_id <> p.location_id`,
  },
  {
    what: 'tie in step',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, CONCAT(t.late, t.differs) AS kept, CONCAT((${LATE}), (${DIFFERS})) AS counted
            FROM tie t ${BOTH_ENDS} WHERE t.late <> (${LATE}) OR t.differs <> (${DIFFERS})`,
  },
];
