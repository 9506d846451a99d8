import type { Check } from '../room';

const OFFER = "CONCAT((SELECT c.code FROM company c WHERE c.id = x.from_id), ' ', x.number)";

/** What must hold of what sister companies do with each other. // G5 X2 X3 X4 */
export const checks: readonly Check[] = [
  {
    // What one shipped straight is what the other received, in her units.
    what: 'moved by both sisters',
    sql: `SELECT * FROM (SELECT CONCAT('shipment ', x.seller_id, '/', x.shipment_id) AS subject,
            (SELECT SUM(r.quantity) FROM receipt_line r WHERE r.company_id = x.buyer_id AND r.receipt_id = x.receipt_id) AS kept,
            (SELECT ROUND(SUM(s.quantity * j.factor), 5) FROM shipment_line s
               JOIN sister_line j ON j.seller_id = s.company_id AND j.sales_line_id = s.order_line_id AND j.buyer_id = x.buyer_id
               JOIN receipt r ON r.company_id = x.buyer_id AND r.id = x.receipt_id
               JOIN purchase_order_line pl ON pl.company_id = r.company_id AND pl.id = j.purchase_line_id AND pl.purchase_order_id = r.purchase_order_id
              WHERE s.company_id = x.seller_id AND s.shipment_id = x.shipment_id) AS counted
            FROM sister_move x) d WHERE NOT (kept <=> counted)`,
  },
  {
    // What was taken once is one document of who took it.
    what: 'offers taken',
    sql: `SELECT * FROM (SELECT ${OFFER} AS subject, x.taken_id AS kept, CASE x.kind
             WHEN 'order' THEN (SELECT d.id FROM sales_order d WHERE d.company_id = x.company_id AND d.id = x.taken_id)
             WHEN 'purchase' THEN (SELECT d.id FROM purchase_order d WHERE d.company_id = x.company_id AND d.id = x.taken_id)
             WHEN 'receipt' THEN (SELECT d.id FROM receipt d WHERE d.company_id = x.company_id AND d.id = x.taken_id)
             ELSE (SELECT d.id FROM vendor_invoice d WHERE d.company_id = x.company_id AND d.id = x.taken_id AND d.vendor_number = x.number) END AS counted
            FROM offer x WHERE x.state IN ('taken', 'folded')) d WHERE NOT (kept <=> counted)`,
  },
  {
    // Nothing is told by two documents of one company: each document is what one offer became.
    what: 'documents of offers',
    sql: `SELECT CONCAT(x.kind, ' ', x.company_id, '/', x.taken_id) AS subject, COUNT(*) AS kept, 1 AS counted FROM offer x
           WHERE x.state IN ('taken', 'folded') AND x.taken_id IS NOT NULL GROUP BY x.company_id, x.kind, x.taken_id HAVING COUNT(*) > 1`,
  },
];
