import { counter, numbered, type Check } from '../room';

const PURCHASE_LINE =
  "CONCAT((SELECT number FROM purchase_order p WHERE p.company_id = x.company_id AND p.id = x.purchase_order_id), ' line ', x.line_no)";

/** What must be true of what the purchasing room keeps. // G5 */
export const checks: readonly Check[] = [
  counter(
    'purchase line received',
    'purchase_order_line',
    PURCHASE_LINE,
    'x.received',
    'SELECT SUM(r.quantity) FROM receipt_line r WHERE r.company_id = x.company_id AND r.purchase_line_id = x.id',
  ),
  counter(
    'purchase line invoiced',
    'purchase_order_line',
    PURCHASE_LINE,
    'x.invoiced',
    'SELECT SUM(i.quantity) FROM vendor_invoice_line i WHERE i.company_id = x.company_id AND i.purchase_line_id = x.id',
  ),
  counter(
    'purchase net',
    'purchase_order',
    'x.number',
    'x.net',
    'SELECT SUM(l.amount) FROM purchase_order_line l WHERE l.company_id = x.company_id AND l.purchase_order_id = x.id',
  ),
  {
    what: 'purchase closed with something open',
    sql: `SELECT ${PURCHASE_LINE} AS subject, x.received AS kept, x.quantity AS counted
            FROM purchase_order_line x
            JOIN purchase_order p ON p.company_id = x.company_id AND p.id = x.purchase_order_id AND p.state = 'closed'
           WHERE x.received < x.quantity OR x.invoiced < x.received`,
  },
  {
    what: 'purchase cancelled with something received',
    sql: `SELECT ${PURCHASE_LINE} AS subject, x.received AS kept, 0 AS counted
            FROM purchase_order_line x
            JOIN purchase_order p ON p.company_id = x.company_id AND p.id = x.purchase_order_id AND p.state = 'cancelled'
           WHERE x.received > 0`,
  },
  {
    what: 'receipt from another vendor',
    sql: `SELECT r.number AS subject, r.vendor_id AS kept, p.vendor_id AS counted FROM receipt r
            JOIN purchase_order p ON p.company_id = r.company_id AND p.id = r.purchase_order_id WHERE r.vendor_id <> p.vendor_id`,
  },
  {
    what: 'receipt line of another purchase, or of another item',
    sql: `SELECT CONCAT(r.number, ' line ', l.id) AS subject, CONCAT(r.purchase_order_id, ' ', l.item_id) AS kept,
                 CONCAT(p.purchase_order_id, ' ', p.item_id) AS counted
            FROM receipt_line l
            JOIN receipt r ON r.company_id = l.company_id AND r.id = l.receipt_id
            JOIN purchase_order_line p ON p.company_id = l.company_id AND p.id = l.purchase_line_id
           WHERE p.purchase_order_id <> r.purchase_order_id OR p.item_id <> l.item_id`,
  },
  // No gaps.
  numbered('PO', 'purchase_order'),
];
