import { account, bound, counter, numbered, total, type Check } from '../room';

/** What must be true of what the billing room keeps. // G5 */
export const checks: readonly Check[] = [
  account(
    'receivable against open items',
    'receivable',
    'SELECT SUM(o.amount - o.settled) FROM open_item o WHERE o.company_id = x.company_id AND o.customer_id IS NOT NULL',
  ),
  account(
    'payable against open items',
    'payable',
    'SELECT -SUM(o.amount - o.settled) FROM open_item o WHERE o.company_id = x.company_id AND o.vendor_id IS NOT NULL',
  ),
  counter(
    'open item settled',
    'open_item',
    "CONCAT('open item ', x.id)",
    'x.settled',
    total(
      'SELECT SUM(p.amount) FROM payment p WHERE p.company_id = x.company_id AND p.open_item_id = x.id',
      'SELECT SUM(s.amount) FROM set_off s WHERE s.company_id = x.company_id AND s.invoice_item_id = x.id',
      'SELECT -SUM(s.amount) FROM set_off s WHERE s.company_id = x.company_id AND s.credit_item_id = x.id',
      `SELECT SUM(m.amount) FROM prepayment_move m
        WHERE m.company_id = x.company_id AND m.customer_invoice_id = x.customer_invoice_id AND m.kind = 'drawn'`,
    ),
  ),
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
    'SELECT -SUM(p.amount - p.drawn - p.returned - p.carried) FROM prepayment p WHERE p.company_id = x.company_id',
  ),
  counter(
    'credit note net',
    'credit_note',
    'x.number',
    "IF(x.kind = 'rebate', 0, x.net)",
    'SELECT SUM(l.net) FROM credit_note_line l WHERE l.company_id = x.company_id AND l.credit_note_id = x.id',
  ),
  counter(
    'customer invoice net',
    'customer_invoice',
    'x.number',
    'x.net',
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
    'x.net',
    'SELECT SUM(l.net) FROM vendor_invoice_line l WHERE l.company_id = x.company_id AND l.invoice_id = x.id',
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
  numbered('CI', 'customer_invoice'),
  numbered('VI', 'vendor_invoice'),
  numbered('CN', 'credit_note'),
  numbered('PP', 'prepayment'),
  numbered('PY', 'payment'),
];
