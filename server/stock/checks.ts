import { UNDER_WAY } from '@core/kernel';
import { ownCurrency } from '../catalogue';
import { account, counter, numbered, places, type Check } from '../room';

/** What must be true of what the stock room keeps. // G5 */
export const checks: readonly Check[] = [
  // Stock is the sum of its entries; what passes from vendor to customer leaves nothing behind.
  counter(
    'stock on hand',
    'stock',
    "CONCAT('item ', x.item_id, ' at ', x.location_id)",
    'x.on_hand',
    "SELECT SUM(e.quantity) FROM stock_entry e WHERE e.company_id = x.company_id AND e.item_id = x.item_id AND e.location_id = x.location_id AND e.place = 'ours'",
  ),
  counter(
    'stock value',
    'stock',
    "CONCAT('item ', x.item_id, ' at ', x.location_id)",
    'x.value',
    "SELECT SUM(e.cost) FROM stock_entry e WHERE e.company_id = x.company_id AND e.item_id = x.item_id AND e.location_id = x.location_id AND e.place = 'ours'",
  ),
  // S3 L3
  counter(
    'stock held for orders',
    'stock',
    "CONCAT('item ', x.item_id, ' at ', x.location_id)",
    'x.reserved',
    'SELECT SUM(l.reserved) FROM sales_order_line l WHERE l.company_id = x.company_id AND l.item_id = x.item_id AND l.location_id = x.location_id',
  ),
  {
    what: 'goods left between vendor and customer',
    sql: `SELECT CONCAT('item ', item_id) AS subject, 0 AS kept, SUM(quantity) AS counted FROM stock_entry
           WHERE place = 'vendor-to-customer' GROUP BY company_id, item_id HAVING SUM(quantity) <> 0 OR SUM(cost) <> 0`,
  },
  account(
    'inventory account against stock value',
    'inventory',
    'SELECT SUM(s.value) FROM stock s WHERE s.company_id = x.company_id',
  ),
  account(
    'received not invoiced against receipts',
    'received-not-invoiced',
    `SELECT COALESCE((SELECT SUM(v.received_cost) FROM vendor_invoice_line v WHERE v.company_id = x.company_id), 0)
            - COALESCE((SELECT SUM(r.cost) FROM receipt_line r WHERE r.company_id = x.company_id), 0)`,
  ),
  counter(
    'receipt cost',
    'receipt',
    'x.number',
    'x.cost',
    'SELECT SUM(l.cost) FROM receipt_line l WHERE l.company_id = x.company_id AND l.receipt_id = x.id',
  ),
  // P8
  counter(
    'cost of a receipt line at its rate',
    'receipt_line',
    "CONCAT('line ', x.id)",
    'x.cost',
    `ROUND(x.value * (SELECT r.rate FROM receipt r WHERE r.company_id = x.company_id AND r.id = x.receipt_id),
       ${places(ownCurrency('x.company_id'))})`,
  ),
  counter(
    'shipment cost',
    'shipment',
    'x.number',
    'x.cost',
    'SELECT SUM(l.cost) FROM shipment_line l WHERE l.company_id = x.company_id AND l.shipment_id = x.id',
  ),
  {
    // What is taken back of a receipt leaves at the value it has by then; its quantity is the same. // P1
    what: 'stock entries against the lines of their document',
    sql: `SELECT CONCAT(kind, ' ', id, ' of item ', item_id) AS subject, CONCAT(SUM(moved), ' at ', SUM(cost)) AS kept,
                 CONCAT(SUM(lined), ' at ', SUM(lined_cost)) AS counted
            FROM (SELECT e.company_id, e.document_kind AS kind, e.document_id AS id, e.item_id, e.quantity AS moved, e.cost,
                         0 AS lined, 0 AS lined_cost
                    FROM stock_entry e WHERE e.document_kind <> 'JR'
                  UNION ALL
                  SELECT l.company_id, 'RC', l.receipt_id, l.item_id, 0,
                         IF(l.reverses_line_id IS NULL, 0, l.cost - COALESCE((SELECT SUM(e.cost) FROM stock_entry e
                           WHERE e.company_id = l.company_id AND e.document_kind = 'RC' AND e.document_id = l.receipt_id
                             AND e.item_id = l.item_id), 0) / (SELECT COUNT(*) FROM receipt_line o
                           WHERE o.company_id = l.company_id AND o.receipt_id = l.receipt_id AND o.item_id = l.item_id)),
                         l.quantity, l.cost FROM receipt_line l
                  UNION ALL
                  SELECT l.company_id, 'SH', l.shipment_id, l.item_id, 0, 0, -l.quantity, -l.cost FROM shipment_line l
                  UNION ALL
                  SELECT l.company_id, 'CN', l.credit_note_id, o.item_id, 0, 0, l.quantity, l.cost FROM credit_note_line l
                    JOIN sales_order_line o ON o.company_id = l.company_id AND o.id = l.order_line_id
                  UNION ALL
                  SELECT l.company_id, 'CT', l.count_sheet_id, l.item_id, 0, 0, l.difference, l.cost FROM count_line l
                  UNION ALL
                  SELECT l.company_id, 'WR', l.report_id, l.item_id, 0, 0, -l.quantity, -l.cost FROM work_report_component l
                  UNION ALL
                  SELECT r.company_id, 'WR', r.id, p.item_id, 0, 0, r.good, r.output_cost - r.stock_difference FROM work_report r
                    JOIN planned_order p ON p.company_id = r.company_id AND p.id = r.planned_order_id WHERE r.good <> 0) y
           GROUP BY company_id, kind, id, item_id HAVING SUM(moved) <> SUM(lined) OR SUM(cost) <> SUM(lined_cost)`,
  },
  {
    what: 'stock entry at a place its document is not about',
    sql: `SELECT CONCAT('RC ', e.document_id, ' of item ', e.item_id) AS subject, e.location_id AS kept, p.location_id AS counted
            FROM stock_entry e
            JOIN receipt r ON r.company_id = e.company_id AND r.id = e.document_id
            JOIN purchase_order p ON p.company_id = r.company_id AND p.id = r.purchase_order_id
           WHERE e.document_kind = 'RC' AND e.place = 'ours' AND e.location_id <> p.location_id`,
  },
  // What takes an adjustment back, or what was carried, moves as many the other way at each place. // P1 W6
  {
    what: 'adjustment taken back',
    sql: `SELECT j.number AS subject, SUM(e.quantity) AS kept, 0 AS counted
            FROM journal j JOIN stock_entry e ON e.company_id = j.company_id AND e.document_kind = 'JR' AND e.document_id IN (j.id, j.reverses_id)
           WHERE j.reverses_id IS NOT NULL GROUP BY j.company_id, j.id, e.item_id, e.location_id HAVING SUM(e.quantity) <> 0`,
  },
  // What is under way left and has not arrived. // W6
  {
    what: 'goods under way',
    sql: `SELECT CONCAT('item ', item_id) AS subject, SUM(there) AS kept, SUM(sent) AS counted
            FROM (SELECT s.company_id, s.item_id, s.on_hand AS there, 0 AS sent FROM stock s WHERE s.location_id = ${UNDER_WAY}
                  UNION ALL
                  SELECT w.company_id, w.item_id, 0, IF(w.taken_back, 0, w.quantity - w.arrived) FROM carriage w) y
           GROUP BY company_id, item_id HAVING SUM(there) <> SUM(sent)`,
  },
  counter(
    'arrived of goods under way',
    'carriage',
    "CONCAT('goods ', x.id)",
    'x.arrived',
    'SELECT SUM(a.quantity) FROM carriage_arrival a WHERE a.company_id = x.company_id AND a.carriage_id = x.id',
  ),
  counter(
    'goods that never left',
    'carriage',
    "CONCAT('goods ', x.id)",
    'x.taken_back',
    'SELECT COUNT(*) FROM journal j WHERE j.company_id = x.company_id AND j.reverses_id = x.journal_id',
  ),
  // Only what is posted moves stock; what takes a count back moves as much the other way. // W6 P1
  {
    what: 'difference of a count that is not posted',
    sql: `SELECT s.number AS subject, l.difference AS kept, 0 AS counted FROM count_line l
            JOIN count_sheet s ON s.company_id = l.company_id AND s.id = l.count_sheet_id
           WHERE s.state <> 'posted' AND (l.difference <> 0 OR l.cost <> 0)`,
  },
  {
    what: 'count taken back',
    sql: `SELECT s.number AS subject, COALESCE(SUM(l.difference), 0) AS kept,
                 -(SELECT COALESCE(SUM(o.difference), 0) FROM count_line o WHERE o.company_id = s.company_id AND o.count_sheet_id = s.reverses_id) AS counted
            FROM count_sheet s LEFT JOIN count_line l ON l.company_id = s.company_id AND l.count_sheet_id = s.id
           WHERE s.reverses_id IS NOT NULL GROUP BY s.company_id, s.id HAVING kept <> counted`,
  },
  // No gaps.
  numbered('RC', 'receipt'),
  numbered('SH', 'shipment'),
];
