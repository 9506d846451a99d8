import { createConnection } from 'mysql2/promise';

export interface OpenLineCounts {
  items: number;
  lines: number;
  /** Purchase lines for our stock, each a supply of its own. */
  purchases: number;
}

const LINES_OF_ORDER = 4;
const LINES_OF_PURCHASE = 10;

/**
 * Open lines of things that are bought, and what is bought of them for nobody yet, over a year: a set to promise again.
 * Laid straight into the tables, a statement each; the same every time.
 */
export async function layOpenLines(url: string, companyId: number, counts: OpenLineCounts): Promise<void> {
  const { items, lines, purchases } = counts;
  const orders = Math.ceil(lines / LINES_OF_ORDER);
  const placed = Math.ceil(purchases / LINES_OF_PURCHASE);
  const connection = await createConnection({ uri: url, multipleStatements: true });
  try {
    await connection.query(
      `SET @company = ?,
        @day = (SELECT work_date FROM company WHERE id = ?),
        @customer = (SELECT MIN(id) FROM customer WHERE company_id = ?),
        @vendor = (SELECT MIN(id) FROM vendor WHERE company_id = ?),
        @tax = (SELECT MIN(id) FROM tax_code WHERE company_id = ?),
        @item0 = (SELECT MAX(id) FROM item), @order0 = COALESCE((SELECT MAX(id) FROM sales_order), 0),
        @purchase0 = COALESCE((SELECT MAX(id) FROM purchase_order), 0)`,
      Array<number>(5).fill(companyId),
    );
    await connection.query(
      'SET @ship_to = (SELECT MIN(id) FROM ship_to WHERE company_id = @company AND customer_id = @customer)',
    );
    for (const sql of [
      `INSERT INTO item (company_id, id, number, name, unit, list_price, tax_code_id, route, stocked)
       SELECT @company, @item0 + seq, CONCAT('OL-', LPAD(seq, 6, '0')), CONCAT('Part ', seq), 'piece', 5, @tax, 'stock', TRUE
         FROM seq_1_to_${items}`,
      `INSERT INTO item_vendor (company_id, item_id, vendor_id, unit_price, lead_days, preferred)
       SELECT @company, @item0 + seq, @vendor, 4, 5 + seq MOD 20, TRUE FROM seq_1_to_${items}`,
      `INSERT INTO sales_order (company_id, id, number, state, customer_id, ship_to_id, order_date, currency, first_ship_date)
       SELECT @company, @order0 + seq, CONCAT('SO-', LPAD(seq, 7, '0')), 'confirmed', @customer, @ship_to,
              @day - INTERVAL seq MOD 60 DAY, 'MYR', @day + INTERVAL seq * 31 MOD 300 DAY FROM seq_1_to_${orders}`,
      `INSERT INTO sales_order_line (company_id, order_id, line_no, item_id, quantity, unit_price, list_price, amount,
           tax_code_id, tax_rate, route, ship_date)
       SELECT @company, @order0 + 1 + FLOOR((seq - 1) / ${LINES_OF_ORDER}), 1 + (seq - 1) MOD ${LINES_OF_ORDER},
              @item0 + 1 + seq * 7919 MOD ${items}, 1 + seq * 13 MOD 40, 5, 5, 5 * (1 + seq * 13 MOD 40), @tax, 10, 'stock',
              @day + INTERVAL (1 + FLOOR((seq - 1) / ${LINES_OF_ORDER})) * 31 MOD 300 DAY FROM seq_1_to_${lines}`,
      `INSERT INTO purchase_order (company_id, id, number, state, vendor_id, order_date, first_due_date, currency)
       SELECT @company, @purchase0 + seq, CONCAT('PO-', LPAD(seq, 7, '0')), 'placed', @vendor, @day, @day, 'MYR'
         FROM seq_1_to_${placed}`,
      `INSERT INTO purchase_order_line (company_id, purchase_order_id, line_no, item_id, quantity, unit_price, amount,
           tax_code_id, tax_rate, due_date)
       SELECT @company, @purchase0 + 1 + FLOOR((seq - 1) / ${LINES_OF_PURCHASE}), 1 + (seq - 1) MOD ${LINES_OF_PURCHASE},
              @item0 + 1 + seq * 104729 MOD ${items}, 1 + seq * 17 MOD 9, 4, 4, @tax, 10,
              @day + INTERVAL seq * 37 MOD 364 DAY FROM seq_1_to_${purchases}`,
      'ANALYZE TABLE item, sales_order, sales_order_line, purchase_order, purchase_order_line',
    ]) {
      await connection.query(sql);
    }
  } finally {
    await connection.end();
  }
}
