import { ownCurrency } from '../catalogue';
import { counter, places, total, type Check } from '../room';

/** An amount at a rate in the company's currency; `x` is the row. */
const atRate = (amount: string, rate = 'x.rate') =>
  `ROUND((${amount}) * ${rate}, ${places(ownCurrency('x.company_id'))})`;

/** Tables of documents that keep a rate, with what tells one and what its currency is. */
const RATED = [
  ...['customer_invoice', 'credit_note', 'vendor_invoice', 'payment', 'prepayment'].map(
    (table) => [table, 'x.currency'] as const,
  ),
  [
    'receipt',
    '(SELECT p.currency FROM purchase_order p WHERE p.company_id = x.company_id AND p.id = x.purchase_order_id)',
  ] as const,
];

/** What each kind of document has in the company's currency, and of what amount at its rate. */
const OWN_AMOUNTS: readonly (readonly [table: string, own: string, amount: string])[] = [
  ...['customer_invoice', 'credit_note', 'vendor_invoice'].flatMap(
    (table) =>
      [
        [table, 'own_net', 'x.net'],
        [table, 'own_tax', 'x.tax'],
      ] as const,
  ),
  ['payment', 'own_amount', 'x.amount'],
];

/** What is kept in the company's currency beside a document's own. // P8 */
export const inBothCurrencies: readonly Check[] = [
  ...RATED.map(([table, currency]) => ({
    what: `rate of a ${table.replace('_', ' ')} in the company’s currency`,
    sql: `SELECT x.number AS subject, x.rate AS kept, 1 AS counted FROM ${table} x
           WHERE x.rate <> 1 AND ${currency} = ${ownCurrency('x.company_id')}`,
  })),
  ...OWN_AMOUNTS.map(([table, own, amount]) =>
    counter(`${own.replace('_', ' ')} of a ${table.replace('_', ' ')}`, table, 'x.number', `x.${own}`, atRate(amount)),
  ),
  // What is carried on was taken at another time: it keeps what that was worth.
  counter(
    'own amount of a prepayment',
    'prepayment',
    'x.number',
    'x.own_amount',
    `IF(x.carried_from IS NULL, ${atRate('x.amount')}, (SELECT SUM(m.own_amount) FROM prepayment_move m
       WHERE m.company_id = x.company_id AND m.prepayment_id = x.carried_from AND m.kind = 'carried'))`,
  ),
  counter(
    'prepayment used in the company’s currency',
    'prepayment',
    'x.number',
    'x.own_used',
    'SELECT SUM(m.own_amount) FROM prepayment_move m WHERE m.company_id = x.company_id AND m.prepayment_id = x.id',
  ),
  counter(
    'open item in the company’s currency',
    'open_item',
    "CONCAT('open item ', x.id)",
    'x.own_amount',
    total(
      ...(
        [
          ['customer_invoice', ''],
          ['vendor_invoice', ''],
          ['credit_note', '-'],
        ] as const
      ).map(
        ([table, sign]) =>
          `SELECT ${sign}(d.own_net + d.own_tax) FROM ${table} d WHERE d.company_id = x.company_id AND d.id = x.${table}_id`,
      ),
    ),
  ),
  counter(
    'open item settled in the company’s currency',
    'open_item',
    "CONCAT('open item ', x.id)",
    'x.own_settled',
    total(
      'SELECT SUM(p.own_settled) FROM payment p WHERE p.company_id = x.company_id AND p.open_item_id = x.id',
      'SELECT SUM(m.amount) FROM claim_move m WHERE m.company_id = x.company_id AND m.open_item_id = x.id',
      'SELECT SUM(s.own_invoice) FROM set_off s WHERE s.company_id = x.company_id AND s.invoice_item_id = x.id',
      'SELECT -SUM(s.own_credit) FROM set_off s WHERE s.company_id = x.company_id AND s.credit_item_id = x.id',
      `SELECT SUM(m.own_worth) FROM prepayment_move m
        WHERE m.company_id = x.company_id AND m.customer_invoice_id = x.customer_invoice_id AND m.kind = 'drawn'`,
    ),
  ),
  // What is settled whole is settled whole in both; what is open in one is no credit in the other.
  ...(
    [
      ['open_item', "CONCAT('open item ', x.id)", 'x.amount - x.settled', 'x.own_amount - x.own_settled'],
      ['prepayment', 'x.number', 'x.amount - x.drawn - x.returned - x.carried', 'x.own_amount - x.own_used'],
    ] as const
  ).map(([table, name, left, own]) => ({
    what: `${table.replace('_', ' ')} open in one currency and not in the other`,
    sql: `SELECT ${name} AS subject, ${own} AS kept, ${left} AS counted FROM ${table} x
           WHERE ${left} = 0 AND ${own} <> 0 OR SIGN(${left}) * SIGN(${own}) < 0`,
  })),
  counter(
    'price difference of a vendor invoice line',
    'vendor_invoice_line',
    "CONCAT('line ', x.id)",
    'x.price_difference',
    atRate(
      'x.net - x.received_value',
      '(SELECT i.rate FROM vendor_invoice i WHERE i.company_id = x.company_id AND i.id = x.invoice_id)',
    ),
  ),
  // What is invoiced whole is cleared whole, in both currencies.
  ...(
    [
      ['cost', 'received_cost'],
      ['value', 'received_value'],
    ] as const
  ).map(([of, cleared]) => ({
    what: `${of} cleared of a receipt line`,
    sql: `SELECT CONCAT('line ', x.id) AS subject, SUM(l.${cleared}) AS kept, MAX(x.${of}) AS counted
            FROM receipt_line x JOIN vendor_invoice_line l ON l.company_id = x.company_id AND l.receipt_line_id = x.id
           GROUP BY x.company_id, x.id HAVING SUM(l.quantity) = MAX(x.quantity) AND kept <> counted
               OR SUM(l.quantity) = 0 AND kept <> 0`,
  })),
];
