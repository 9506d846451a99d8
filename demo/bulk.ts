import { createConnection } from 'mysql2/promise';
import type { Day } from '@core/kernel';

export interface BulkSize {
  companyId: number;
  workDate: Day;
  orderLines: number;
  seed: number;
}

/** Order lines that an agreement of ordinary size sees in its year, and the other counts that go with them. */
const LINES_PER_AGREEMENT = 100;
const LINES_PER_ORDER = 4;
const LINES_PER_CUSTOMER = 500;
const LINES_PER_ITEM = 1000;

/**
 * Adds years of finished business in bulk, for measuring: customers, items, agreements with three lines each, and
 * orders of which most are their releases, with the purchases of what goes by drop shipment. Written as rows, not by acts
 * (a million lines would take those hours), with every counter a list shows summed from the order lines; receipts,
 * shipments and invoices are left out.
 * The same seed and size give the same rows. Takes some three minutes for a million lines.
 */
export async function layBulk(url: string, size: BulkSize): Promise<void> {
  const connection = await createConnection({ uri: url, multipleStatements: true });
  const counts = {
    customers: Math.max(10, Math.ceil(size.orderLines / LINES_PER_CUSTOMER)),
    items: Math.max(10, Math.ceil(size.orderLines / LINES_PER_ITEM)),
    agreements: Math.max(10, Math.ceil(size.orderLines / LINES_PER_AGREEMENT)),
    orders: Math.ceil(size.orderLines / LINES_PER_ORDER),
  };
  try {
    await connection.query(
      `SET @company = ?, @day = ?, @seed = ?, @customers = ?, @items = ?, @agreements = ?, @orders = ?, @per_order = ?;
       SET SESSION foreign_key_checks = 0, unique_checks = 0`,
      [
        size.companyId,
        size.workDate,
        size.seed,
        counts.customers,
        counts.items,
        counts.agreements,
        counts.orders,
        LINES_PER_ORDER,
      ],
    );
    for (const statement of statements(counts)) await connection.query(statement);
  } finally {
    await connection.end();
  }
}

/** A whole number from 0 to `below` − 1 that row `of` always gets under the seed and a name. */
function any(name: string, of: string, below: string | number): string {
  return `CRC32(CONCAT('${name}', @seed, '-', ${of})) MOD ${below}`;
}

function statements(counts: { customers: number; items: number; agreements: number; orders: number }): string[] {
  return [
    `SELECT COALESCE(MAX(id), 0) INTO @customer0 FROM customer;
     SELECT COALESCE(MAX(id), 0) INTO @item0 FROM item;
     SELECT COALESCE(MAX(id), 0) INTO @agreement0 FROM agreement;
     SELECT COALESCE(MAX(id), 0) INTO @line0 FROM agreement_line;
     SELECT COALESCE(MAX(id), 0) INTO @order0 FROM sales_order;
     SELECT COALESCE(MAX(id), 0) INTO @order_line0 FROM sales_order_line;
     SELECT COALESCE(MAX(id), 0) INTO @purchase0 FROM purchase_order;
     SELECT COALESCE(MAX(id), 0) INTO @purchase_line0 FROM purchase_order_line;
     SELECT COALESCE(MAX(id), 0) INTO @tie0 FROM tie;
     SELECT COALESCE(MAX(id), 0) INTO @ship_to0 FROM ship_to;
     SELECT MIN(id), COUNT(*) INTO @vendor0, @vendors FROM vendor WHERE company_id = @company;
     SELECT MIN(id) INTO @terms FROM payment_terms WHERE company_id = @company;
     SELECT MIN(id) INTO @tax FROM tax_code WHERE company_id = @company;
     SELECT MIN(id), COUNT(*) INTO @organisation0, @organisations FROM sales_organisation WHERE company_id = @company;
     SELECT MIN(id), COUNT(*) INTO @group0, @groups FROM item_group WHERE company_id = @company`,

    `INSERT INTO customer (company_id, id, number, name, phone, currency, payment_terms_id, reference_required, sales_organisation_id)
     SELECT @company, @customer0 + seq, CONCAT('B-', LPAD(seq, 6, '0')),
            CONCAT(ELT(1 + ${any('n', 'seq', 8)}, 'Teluk', 'Sungai', 'Gunung', 'Pulau', 'Ladang', 'Kampung', 'Bukit', 'Tasik'), ' ',
                   ELT(1 + ${any('m', 'seq', 6)}, 'Emas', 'Hijau', 'Biru', 'Jernih', 'Damai', 'Indah'), ' ', seq),
            '', IF(seq MOD 20 = 0, 'SGD', 'MYR'), @terms, FALSE, @organisation0 + seq MOD @organisations
       FROM seq_1_to_${counts.customers}`,
    `INSERT INTO ship_to (company_id, id, customer_id, label, street, town, postcode, country)
     SELECT @company, @ship_to0 + seq, @customer0 + seq, 'Store', 'Jalan Satu 1', 'Ipoh', '30000', 'MY' FROM seq_1_to_${counts.customers}`,
    `INSERT INTO item (company_id, id, number, name, unit, list_price, tax_code_id, route, stocked, item_group_id)
     SELECT @company, @item0 + seq, CONCAT('BK-', LPAD(seq, 5, '0')), CONCAT('Cartridge ', seq), 'piece',
            5 + ${any('p', 'seq', 900)} / 10, @tax, 'stock', FALSE, @group0 + seq MOD @groups
       FROM seq_1_to_${counts.items}`,
    `INSERT INTO item_vendor (company_id, item_id, vendor_id, unit_price, lead_days, preferred)
     SELECT @company, @item0 + seq, @vendor0 + seq MOD @vendors, 4, 5 + seq MOD 20, TRUE FROM seq_1_to_${counts.items}`,

    // A year each, the first days spread over three years that end half a year ahead.
    `INSERT INTO agreement (company_id, id, number, state, customer_id, title, currency, first_day, last_day, limit_policy,
         sales_organisation_id, ended_on, wrap_up)
     SELECT @company, @agreement0 + seq, CONCAT('AB-', LPAD(seq, 6, '0')), x.state, c.id,
            ELT(1 + ${any('t', 'seq', 4)}, 'Cartridges for the year', 'Membranes', 'Salt and chemicals', 'Spare parts'),
            c.currency, x.first_day, x.last_day, 'warn', c.sales_organisation_id,
            IF(x.state = 'ended', x.last_day, NULL), IF(x.state = 'ended', 'end', NULL)
       FROM (SELECT seq, first_day, last_day,
                    IF(last_day < @day, IF(dice < 97, 'ended', 'in-force'), ELT(1 + (dice >= 90) + (dice >= 95), 'in-force', 'paused', 'draft')) AS state
               FROM (SELECT seq, @day - INTERVAL 1000 - FLOOR(1000 * seq / @agreements) DAY AS first_day,
                            @day - INTERVAL 635 - FLOOR(1000 * seq / @agreements) DAY AS last_day,
                            ${any('s', 'seq', 100)} AS dice FROM seq_1_to_${counts.agreements}) d) x
       JOIN customer c ON c.company_id = @company AND c.id = @customer0 + 1 + ${any('c', 'x.seq', '@customers')}`,
    `INSERT INTO agreement_line (company_id, id, agreement_id, line_no, item_id, committed, unit_price, committed_value)
     SELECT @company, @line0 + seq * 3 + place - 3, @agreement0 + seq, place, i.id, 1, i.list_price, i.list_price
       FROM seq_1_to_${counts.agreements} JOIN (SELECT 1 AS place UNION ALL SELECT 2 UNION ALL SELECT 3) p
       JOIN item i ON i.company_id = @company AND i.id = @item0 + 1 + (${any('i', 'seq', '@items')} + place) MOD @items`,

    // Orders in turn for every agreement; two in three are its releases, of its three lines and something else.
    `INSERT INTO sales_order (company_id, id, number, state, customer_id, ship_to_id, agreement_id, order_date, currency, first_ship_date)
     SELECT @company, @order0 + seq, CONCAT('SB-', LPAD(seq, 7, '0')), IF(ordered < @day - INTERVAL 60 DAY, 'closed', 'confirmed'),
            customer_id, @ship_to0 + customer_id - @customer0, IF(seq MOD 3 < 2, agreement_id, NULL), ordered, currency,
            ordered + INTERVAL 7 DAY
       FROM (SELECT seq, a.id AS agreement_id, a.customer_id, a.currency,
                    LEAST(@day, a.first_day + INTERVAL ${any('d', 'seq', 360)} DAY) AS ordered
               FROM seq_1_to_${counts.orders}
               JOIN agreement a ON a.company_id = @company AND a.id = @agreement0 + 1 + seq MOD @agreements) o`,
    // The last line of each goes by drop shipment: of what is open, every other one waits on the bench.
    `INSERT INTO sales_order_line (company_id, order_id, line_no, item_id, agreement_line_id, quantity, unit_price, list_price,
         amount, tax_code_id, tax_rate, route, ship_date, shipped, invoiced, tied, on_bench)
     SELECT @company, o.id, place, i.id, IF(o.agreement_id IS NOT NULL AND place < 4, l.id, NULL), quantity, i.list_price,
            i.list_price, ROUND(quantity * i.list_price, 2), @tax, 10, IF(place < 4, 'stock', 'drop'), o.first_ship_date,
            IF(o.state = 'closed', quantity, 0), IF(o.state = 'closed', quantity, 0),
            IF(place = 4 AND (o.state = 'closed' OR ${any('b', 'r.seq', 2)} = 0), quantity, 0),
            place = 4 AND o.state <> 'closed' AND ${any('b', 'r.seq', 2)} = 1
       FROM (SELECT seq, place, 1 + ${any('q', "CONCAT(seq, '.', place)", 40)} AS quantity
               FROM seq_1_to_${counts.orders} JOIN (SELECT 1 AS place UNION ALL SELECT 2 UNION ALL SELECT 3 UNION ALL SELECT 4) p) r
       JOIN sales_order o ON o.company_id = @company AND o.id = @order0 + r.seq
       JOIN agreement_line l ON l.company_id = @company AND l.id = @line0 + 3 * (1 + r.seq MOD @agreements) - 3 + LEAST(3, place)
       JOIN item i ON i.company_id = @company AND i.id = IF(place < 4, l.item_id, @item0 + 1 + ${any('e', 'r.seq', '@items')})`,
    `UPDATE sales_order o JOIN (SELECT order_id, SUM(amount) AS net FROM sales_order_line WHERE company_id = @company
         AND order_id > @order0 GROUP BY order_id) s ON s.order_id = o.id SET o.net = s.net WHERE o.company_id = @company`,
    // A purchase for each line that is supplied, and its tie.
    `INSERT INTO purchase_order (company_id, id, number, state, vendor_id, ship_to_id, order_date, first_due_date, currency, net)
     SELECT @company, @purchase0 + l.id - @order_line0, CONCAT('PB-', LPAD(l.id - @order_line0, 8, '0')), IF(o.state = 'closed', 'closed', 'placed'),
            iv.vendor_id, o.ship_to_id, o.order_date, l.ship_date, v.currency, ROUND(l.quantity * 4, 2)
       FROM sales_order_line l JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN item_vendor iv ON iv.company_id = l.company_id AND iv.item_id = l.item_id
       JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
      WHERE l.company_id = @company AND l.id > @order_line0 AND l.tied > 0`,
    `INSERT INTO purchase_order_line (company_id, id, purchase_order_id, line_no, item_id, quantity, unit_price, amount,
         tax_code_id, tax_rate, due_date, tied, received, invoiced)
     SELECT @company, @purchase_line0 + l.id - @order_line0, @purchase0 + l.id - @order_line0, 1, l.item_id, l.quantity, 4,
            ROUND(l.quantity * 4, 2), @tax, 10, l.ship_date, l.quantity, l.shipped, l.shipped
       FROM sales_order_line l WHERE l.company_id = @company AND l.id > @order_line0 AND l.tied > 0`,
    `INSERT INTO tie (company_id, id, order_line_id, purchase_line_id, quantity, received)
     SELECT @company, @tie0 + l.id - @order_line0, l.id, @purchase_line0 + l.id - @order_line0, l.quantity, l.shipped
       FROM sales_order_line l WHERE l.company_id = @company AND l.id > @order_line0 AND l.tied > 0`,

    // Committed to between what was taken and a third more; one in ten is used up.
    `UPDATE agreement_line l JOIN (SELECT agreement_line_id, SUM(quantity) AS q, SUM(amount) AS v, SUM(shipped) AS sq,
           SUM(ROUND(shipped * unit_price, 2)) AS sv FROM sales_order_line
         WHERE company_id = @company AND agreement_line_id > @line0 GROUP BY agreement_line_id) s ON s.agreement_line_id = l.id
        SET l.released = s.q, l.released_value = s.v, l.shipped = s.sq, l.shipped_value = s.sv, l.invoiced = s.sq,
            l.invoiced_value = s.sv, l.committed = s.q + IF(${any('u', 'l.agreement_id', 10)} = 0, 0, 1 + FLOOR(s.q * (${any('k', 'l.id', 100)}) / 300)),
            l.committed_value = ROUND(l.committed * l.unit_price, 2)
      WHERE l.company_id = @company AND l.id > @line0`,
    `UPDATE agreement a JOIN (SELECT agreement_id, SUM(committed_value) AS c, SUM(released_value) AS r, SUM(shipped_value) AS s,
           SUM(invoiced_value) AS i, SUM(released < committed) = 0 AS u FROM agreement_line WHERE company_id = @company AND id > @line0 GROUP BY agreement_id) t
         ON t.agreement_id = a.id
        SET a.committed_value = t.c, a.released_value = t.r, a.shipped_value = t.s, a.invoiced_value = t.i, a.used_up = t.u
      WHERE a.company_id = @company`,
    'ANALYZE TABLE customer, item, agreement, agreement_line, sales_order, sales_order_line, purchase_order, purchase_order_line, tie',
  ];
}
