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
  // No gaps.
  numbered('PO', 'purchase_order'),
];
