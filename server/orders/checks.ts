import { bound, counter, numbered, total, type Check } from '../room';

const ORDER_LINE =
  "CONCAT((SELECT number FROM sales_order o WHERE o.company_id = x.company_id AND o.id = x.order_id), ' line ', x.line_no)";

/** What must be true of what the orders room keeps. // G5 */
export const checks: readonly Check[] = [
  counter(
    'order line shipped',
    'sales_order_line',
    ORDER_LINE,
    'x.shipped',
    total(
      'SELECT SUM(s.quantity) FROM shipment_line s WHERE s.company_id = x.company_id AND s.order_line_id = x.id',
      'SELECT -SUM(c.quantity) FROM credit_note_line c WHERE c.company_id = x.company_id AND c.order_line_id = x.id',
    ),
  ),
  counter(
    'order line invoiced',
    'sales_order_line',
    ORDER_LINE,
    'x.invoiced',
    total(
      'SELECT SUM(i.quantity) FROM customer_invoice_line i WHERE i.company_id = x.company_id AND i.order_line_id = x.id',
      'SELECT -SUM(c.quantity + c.uninvoiced) FROM credit_note_line c WHERE c.company_id = x.company_id AND c.order_line_id = x.id',
    ),
  ),
  counter(
    'order net',
    'sales_order',
    'x.number',
    'x.net',
    'SELECT SUM(l.amount) FROM sales_order_line l WHERE l.company_id = x.company_id AND l.order_id = x.id',
  ),
  {
    // What is left of a line that was closed short keeps how it was priced.
    what: 'order line against its price build-up',
    sql: `SELECT ${ORDER_LINE} AS subject, x.amount AS kept, SUM(s.amount) AS counted
            FROM sales_order_line x
            JOIN JSON_TABLE(x.build_up, '$[*]' COLUMNS (amount DECIMAL(18,4) PATH '$.amount')) s
           WHERE x.cancelled = 0 GROUP BY x.company_id, x.id HAVING kept <> counted`,
  },
  {
    what: 'order closed with something open',
    sql: `SELECT ${ORDER_LINE} AS subject, x.shipped AS kept, x.quantity - x.cancelled AS counted
            FROM sales_order_line x
            JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id AND o.state = 'closed'
           WHERE x.shipped < x.quantity - x.cancelled OR x.invoiced < x.shipped`,
  },
  {
    what: 'order cancelled with something shipped',
    sql: `SELECT ${ORDER_LINE} AS subject, x.shipped AS kept, 0 AS counted
            FROM sales_order_line x
            JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id AND o.state = 'cancelled'
           WHERE x.shipped > 0`,
  },
  // S3
  bound('held for an order line', 'sales_order_line', ORDER_LINE, 'x.reserved', 'x.quantity - x.cancelled - x.shipped'),
  {
    what: 'held for an order that is not confirmed',
    sql: `SELECT ${ORDER_LINE} AS subject, x.reserved AS kept, 0 AS counted
            FROM sales_order_line x
            JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id AND o.state <> 'confirmed'
           WHERE x.reserved > 0`,
  },
  {
    what: 'first ship date of an order',
    sql: `SELECT x.number AS subject, x.first_ship_date AS kept, MIN(l.ship_date) AS counted
            FROM sales_order x JOIN sales_order_line l ON l.company_id = x.company_id AND l.order_id = x.id AND l.cancelled < l.quantity
           GROUP BY x.company_id, x.id HAVING NOT (kept <=> counted)`,
  },
  {
    what: 'shipment to another customer',
    sql: `SELECT DISTINCT s.number AS subject, s.customer_id AS kept, o.customer_id AS counted FROM shipment_line l
            JOIN shipment s ON s.company_id = l.company_id AND s.id = l.shipment_id
            JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.id = l.order_line_id
            JOIN sales_order o ON o.company_id = ol.company_id AND o.id = ol.order_id WHERE s.customer_id <> o.customer_id`,
  },
  {
    what: 'shipment line of another order, or of another item',
    sql: `SELECT CONCAT(s.number, ' line ', l.id) AS subject, CONCAT(COALESCE(s.order_id, ''), ' ', l.item_id) AS kept,
                 CONCAT(o.order_id, ' ', o.item_id) AS counted
            FROM shipment_line l
            JOIN shipment s ON s.company_id = l.company_id AND s.id = l.shipment_id
            JOIN sales_order_line o ON o.company_id = l.company_id AND o.id = l.order_line_id
           WHERE o.order_id <> COALESCE(s.order_id, o.order_id) OR o.item_id <> l.item_id`,
  },
  // No gaps.
  numbered('SO', 'sales_order'),
];
