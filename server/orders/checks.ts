import { counter, numbered, total, type Check } from '../room';

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
  // No gaps.
  numbered('SO', 'sales_order'),
];
