import { account, counter, numbered, total, type Check } from '../room';

/** What must be true of what the counter keeps. // G5 C2 C4 */
export const checks: readonly Check[] = [
  counter(
    'cash of a drawer',
    'drawer',
    'x.number',
    'x.cash',
    total(
      'SELECT x.put_in',
      'SELECT SUM(m.amount) FROM drawer_move m WHERE m.company_id = x.company_id AND m.drawer_id = x.id',
      `SELECT SUM(p.amount + p.rounding) FROM payment p JOIN slip s ON s.company_id = p.company_id AND s.id = p.slip_id
        WHERE s.company_id = x.company_id AND s.drawer_id = x.id AND p.means = 'cash'`,
      `SELECT SUM(p.amount + p.rounding) FROM prepayment p JOIN slip s ON s.company_id = p.company_id AND s.id = p.slip_id
        WHERE s.company_id = x.company_id AND s.drawer_id = x.id AND p.means = 'cash'`,
      'SELECT -SUM(r.amount) FROM deposit_return r WHERE r.company_id = x.company_id AND r.drawer_id = x.id',
    ),
  ),
  counter(
    'count of a closed drawer',
    'drawer',
    'x.number',
    'COALESCE(x.counted, 0)',
    'SELECT SUM(c.piece * c.count) FROM drawer_count c WHERE c.company_id = x.company_id AND c.drawer_id = x.id',
  ),
  account(
    'cash in drawers against open drawers',
    'cash-drawer',
    'SELECT SUM(d.cash) FROM drawer d WHERE d.company_id = x.company_id AND d.closed_on IS NULL',
  ),
  account(
    'card payments against slips',
    'card-clearing',
    `SELECT SUM(p.invoiced + p.deposited) FROM slip_payment p WHERE p.company_id = x.company_id AND p.kind = 'card'`,
  ),
  // What is paid is what is invoiced less what is covered, and what is paid ahead. // C2
  counter(
    'payments of a slip',
    'slip',
    'x.number',
    'IF(x.returns_id IS NULL, x.total - x.covered + x.deposited, 0)',
    'SELECT IF(x.returns_id IS NULL, SUM(p.invoiced + p.deposited), 0) FROM slip_payment p WHERE p.company_id = x.company_id AND p.slip_id = x.id',
  ),
  counter(
    'deposits of a slip',
    'slip',
    'x.number',
    'x.deposited',
    'SELECT SUM(p.amount) FROM prepayment p WHERE p.company_id = x.company_id AND p.slip_id = x.id',
  ),
  counter(
    'money of a slip on its invoice',
    'slip',
    'x.number',
    `(SELECT COALESCE(SUM(p.invoiced), 0) FROM slip_payment p WHERE p.company_id = x.company_id AND p.slip_id = x.id AND p.kind IN ('cash', 'card'))`,
    'SELECT SUM(p.amount) FROM payment p WHERE p.company_id = x.company_id AND p.slip_id = x.id',
  ),
  counter(
    'total of a slip',
    'slip',
    'x.number',
    'x.total',
    total(
      'SELECT i.total FROM customer_invoice i WHERE i.company_id = x.company_id AND i.id = x.customer_invoice_id',
      'SELECT -n.total FROM credit_note n WHERE n.company_id = x.company_id AND n.id = x.credit_note_id',
    ),
  ),
  {
    what: 'card payment used twice, or not taken',
    sql: `SELECT CONCAT('card payment ', k.id) AS subject, COUNT(p.id) AS kept, 1 AS counted FROM card_payment k
            JOIN slip_payment p ON p.company_id = k.company_id AND p.card_payment_id = k.id AND p.invoiced + p.deposited > 0
           GROUP BY k.company_id, k.id HAVING COUNT(p.id) > 1 OR MAX(k.state) <> 'taken' OR SUM(p.invoiced + p.deposited) <> MAX(k.amount)`,
  },
  numbered('SL', 'slip'),
];
