import { account, bound, counter, numbered, places, total, type Check } from '../room';
import { inBothCurrencies } from './currency-checks';

/** The taxes of a kind of document, from its lines: by code and rate the base they make, and of that the tax. // P7 */
const taxed = (kind: string, table: string, lines: string, by: string): Check => ({
  what: `tax of a ${table.replace('_', ' ')}`,
  sql: `SELECT CONCAT(d.number, ' ', y.code, ' at ', y.rate + 0) AS subject, CONCAT(SUM(y.base), ' taxed ', SUM(y.tax)) AS kept,
               CONCAT(SUM(y.net), ' taxed ', ROUND(SUM(y.net) * y.rate / 100, ${places('d.currency')})) AS counted
          FROM (SELECT t.company_id, t.document_id AS id, t.tax_code AS code, t.tax_rate AS rate, t.base, t.tax, 0 AS net
                  FROM invoice_tax t WHERE t.document_kind = '${kind}'
                UNION ALL
                SELECT l.company_id, l.${by}, c.code, l.tax_rate, 0, 0, l.net FROM ${lines} l
                  JOIN tax_code c ON c.company_id = l.company_id AND c.id = l.tax_code_id) y
          JOIN ${table} d ON d.company_id = y.company_id AND d.id = y.id
         GROUP BY y.company_id, y.id, y.code, y.rate
        HAVING SUM(y.base) <> SUM(y.net) OR SUM(y.tax) <> ROUND(SUM(y.net) * y.rate / 100, ${places('MAX(d.currency)')})`,
});

/** What a document made owed: its total, by its party, in its currency. */
const owed = (table: string, side: 'customer' | 'vendor'): Check => ({
  what: `open item of a ${table.replace('_', ' ')}`,
  sql: `SELECT d.number AS subject, COALESCE(CONCAT(o.amount, ' ', o.currency, ' of ', o.${side}_id), 'nothing') AS kept,
               CONCAT(${table === 'credit_note' ? '-' : ''}d.total, ' ', d.currency, ' of ', d.${side}_id) AS counted
          FROM ${table} d LEFT JOIN open_item o ON o.company_id = d.company_id AND o.${table}_id = d.id
         WHERE NOT (o.amount <=> ${table === 'credit_note' ? '-' : ''}d.total AND o.currency <=> d.currency AND o.${side}_id <=> d.${side}_id)`,
});

/** What must be true of what the billing room keeps. // G5 */
export const checks: readonly Check[] = [
  account(
    'receivable against open items',
    'receivable',
    'SELECT SUM(o.own_amount - o.own_settled) FROM open_item o WHERE o.company_id = x.company_id AND o.customer_id IS NOT NULL',
  ),
  account(
    'payable against open items',
    'payable',
    'SELECT -SUM(o.own_amount - o.own_settled) FROM open_item o WHERE o.company_id = x.company_id AND o.vendor_id IS NOT NULL',
  ),
  counter(
    'open item settled',
    'open_item',
    "CONCAT('open item ', x.id)",
    'x.settled',
    total(
      'SELECT SUM(p.amount) FROM payment p WHERE p.company_id = x.company_id AND p.open_item_id = x.id',
      'SELECT SUM(s.amount) FROM set_off s WHERE s.company_id = x.company_id AND s.invoice_item_id = x.id',
      'SELECT SUM(m.amount) FROM claim_move m WHERE m.company_id = x.company_id AND m.open_item_id = x.id',
      'SELECT -SUM(s.amount) FROM set_off s WHERE s.company_id = x.company_id AND s.credit_item_id = x.id',
      `SELECT SUM(m.amount) FROM prepayment_move m
        WHERE m.company_id = x.company_id AND m.customer_invoice_id = x.customer_invoice_id AND m.kind = 'drawn'`,
    ),
  ),
  ...inBothCurrencies,
  // A12
  ...['drawn', 'returned', 'carried'].map((kind) =>
    counter(
      `prepayment ${kind}`,
      'prepayment',
      'x.number',
      `x.${kind}`,
      `SELECT SUM(m.amount) FROM prepayment_move m WHERE m.company_id = x.company_id AND m.prepayment_id = x.id AND m.kind = '${kind}'`,
    ),
  ),
  account(
    'customer prepayments against prepayments',
    'customer-prepayments',
    'SELECT -SUM(p.own_amount - p.own_used) FROM prepayment p WHERE p.company_id = x.company_id',
  ),
  counter(
    'credit note net',
    'credit_note',
    'x.number',
    "IF(x.kind = 'rebate' OR x.opening, 0, x.net)",
    'SELECT SUM(l.net) FROM credit_note_line l WHERE l.company_id = x.company_id AND l.credit_note_id = x.id',
  ),
  counter(
    'customer invoice net',
    'customer_invoice',
    'x.number',
    'IF(x.claims_rebate OR x.opening, 0, x.net)',
    'SELECT SUM(l.net) FROM customer_invoice_line l WHERE l.company_id = x.company_id AND l.invoice_id = x.id',
  ),
  counter(
    'invoice allowances',
    'customer_invoice',
    'x.number',
    'COALESCE((SELECT SUM(a.amount) FROM invoice_allowance a WHERE a.company_id = x.company_id AND a.invoice_id = x.id), 0)',
    'SELECT SUM(l.allowance) FROM customer_invoice_line l WHERE l.company_id = x.company_id AND l.invoice_id = x.id',
  ),
  counter(
    'customer invoice tax',
    'customer_invoice',
    'x.number',
    'x.tax',
    "SELECT SUM(t.tax) FROM invoice_tax t WHERE t.company_id = x.company_id AND t.document_kind = 'CI' AND t.document_id = x.id",
  ),
  counter(
    'vendor invoice net',
    'vendor_invoice',
    'x.number',
    'IF(x.opening, 0, x.net)',
    'SELECT SUM(l.net) FROM vendor_invoice_line l WHERE l.company_id = x.company_id AND l.invoice_id = x.id',
  ),
  ...(
    [
      ['VI', 'vendor_invoice'],
      ['CN', 'credit_note'],
    ] as const
  ).map(([kind, table]) =>
    counter(
      `${table.replace('_', ' ')} tax`,
      table,
      'x.number',
      'x.tax',
      `SELECT SUM(t.tax) FROM invoice_tax t WHERE t.company_id = x.company_id AND t.document_kind = '${kind}' AND t.document_id = x.id`,
    ),
  ),
  // P7
  taxed('CI', 'customer_invoice', 'customer_invoice_line', 'invoice_id'),
  taxed('VI', 'vendor_invoice', 'vendor_invoice_line', 'invoice_id'),
  taxed('CN', 'credit_note', 'credit_note_line', 'credit_note_id'),
  ...(
    [
      ['customer_invoice', 'customer'],
      ['vendor_invoice', 'vendor'],
      ['credit_note', 'customer'],
    ] as const
  ).map(([table, side]) => owed(table, side)),
  {
    what: 'invoice of another customer, or in another currency',
    sql: `SELECT i.number AS subject, CONCAT(i.customer_id, ' ', i.currency) AS kept, CONCAT(o.customer_id, ' ', o.currency) AS counted
            FROM customer_invoice i
            JOIN customer_invoice_line l ON l.company_id = i.company_id AND l.invoice_id = i.id
            JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.id = l.order_line_id
            JOIN sales_order o ON o.company_id = ol.company_id AND o.id = ol.order_id
           WHERE i.customer_id <> o.customer_id OR i.currency <> o.currency`,
  },
  {
    what: 'vendor invoice of another vendor, or in another currency',
    sql: `SELECT i.number AS subject, CONCAT(i.vendor_id, ' ', i.currency) AS kept, CONCAT(p.vendor_id, ' ', p.currency) AS counted
            FROM vendor_invoice i JOIN purchase_order p ON p.company_id = i.company_id AND p.id = i.purchase_order_id
           WHERE i.vendor_id <> p.vendor_id OR i.currency <> p.currency`,
  },
  {
    what: 'payment in another currency',
    sql: `SELECT p.number AS subject, p.currency AS kept, o.currency AS counted FROM payment p
            JOIN open_item o ON o.company_id = p.company_id AND o.id = p.open_item_id WHERE p.currency <> o.currency`,
  },
  {
    what: 'set off between two parties',
    sql: `SELECT CONCAT('open item ', c.id) AS subject, c.customer_id AS kept, i.customer_id AS counted FROM set_off s
            JOIN open_item c ON c.company_id = s.company_id AND c.id = s.credit_item_id
            JOIN open_item i ON i.company_id = s.company_id AND i.id = s.invoice_item_id
           WHERE NOT (c.customer_id <=> i.customer_id AND c.vendor_id <=> i.vendor_id AND c.currency = i.currency)`,
  },
  ...(
    [
      ['shipment line invoiced', 'shipment_line', 'customer_invoice_line', 'shipment_line_id'],
      ['receipt line invoiced', 'receipt_line', 'vendor_invoice_line', 'receipt_line_id'],
    ] as const
  ).map(([what, table, lines, by]) =>
    bound(
      what,
      table,
      "CONCAT('line ', x.id)",
      table === 'shipment_line'
        ? total(
            `SELECT SUM(l.quantity) FROM ${lines} l WHERE l.company_id = x.company_id AND l.${by} = x.id`,
            `SELECT -SUM(c.uninvoiced) FROM ${lines} l JOIN credit_note_line c ON c.company_id = l.company_id AND c.invoice_line_id = l.id
              WHERE l.company_id = x.company_id AND l.${by} = x.id`,
          )
        : total(`SELECT SUM(l.quantity) FROM ${lines} l WHERE l.company_id = x.company_id AND l.${by} = x.id`),
      'GREATEST(x.quantity, 0)',
    ),
  ),
  // P1
  ...[
    ['quantity', 'c.quantity + c.uninvoiced', 'x.quantity'],
    ['net', 'c.net', 'x.net'],
  ].map(([what, credited, most]) =>
    bound(
      `${what} credited of an invoice line`,
      'customer_invoice_line',
      "CONCAT('line ', x.id, ' of ', (SELECT i.number FROM customer_invoice i WHERE i.company_id = x.company_id AND i.id = x.invoice_id))",
      total(
        `SELECT SUM(${credited}) FROM credit_note_line c WHERE c.company_id = x.company_id AND c.invoice_line_id = x.id`,
      ),
      most!,
    ),
  ),
  bound(
    'credited of an invoice',
    'customer_invoice',
    'x.number',
    total('SELECT SUM(c.net) FROM credit_note c WHERE c.company_id = x.company_id AND c.customer_invoice_id = x.id'),
    'x.net',
  ),
  // No gaps.
  // What opened the books has the number it had before. // U3
  numbered('CI', 'customer_invoice', 'NOT t.opening'),
  numbered('VI', 'vendor_invoice'),
  numbered('CN', 'credit_note'),
  numbered('PP', 'prepayment'),
  numbered('PY', 'payment'),
];
