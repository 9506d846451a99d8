import { account, counter, numbered, type Check } from '../room';

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
  counter(
    'shipment cost',
    'shipment',
    'x.number',
    'x.cost',
    'SELECT SUM(l.cost) FROM shipment_line l WHERE l.company_id = x.company_id AND l.shipment_id = x.id',
  ),
  // No gaps.
  numbered('RC', 'receipt'),
  numbered('SH', 'shipment'),
];
