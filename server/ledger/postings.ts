import type { Check } from '../room';

/** What a document must have posted to an account: its kind, its id, the role of the account, and how much. // P3 */
const EXPECTED: readonly string[] = [
  // Goods: what the stock says came or went, at its value.
  `SELECT e.company_id, e.document_kind AS kind, e.document_id AS id, 'inventory' AS role, e.cost AS amount FROM stock_entry e`,
  `SELECT r.company_id, 'RC', r.id, 'received-not-invoiced', -r.cost FROM receipt r`,
  // A receipt taken back leaves the stock at its value there: the rest is a difference. // P1
  `SELECT r.company_id, 'RC', r.id, 'stock-difference',
          r.cost - COALESCE((SELECT SUM(e.cost) FROM stock_entry e
            WHERE e.company_id = r.company_id AND e.document_kind = 'RC' AND e.document_id = r.id), 0)
     FROM receipt r WHERE r.reverses_id IS NOT NULL`,
  `SELECT s.company_id, 'SH', s.id, 'cost-of-sales', s.cost FROM shipment s`,
  // What is counted in a journal of its own comes from nowhere, or goes there.
  `SELECT e.company_id, 'JR', e.document_id, 'stock-difference', -e.cost FROM stock_entry e WHERE e.document_kind = 'JR'`,
  `SELECT i.company_id, 'CI', i.id, 'receivable', i.total FROM customer_invoice i`,
  `SELECT i.company_id, 'CI', i.id, IF(i.claims_rebate, 'rebates-owed', 'revenue'), -i.net FROM customer_invoice i`,
  `SELECT i.company_id, 'CI', i.id, 'output-tax', -i.tax FROM customer_invoice i`,
  ...(
    [
      ['receivable', '-m.amount'],
      ['customer-prepayments', 'm.amount'],
    ] as const
  ).map(
    ([role, amount]) =>
      `SELECT m.company_id, 'CI', m.customer_invoice_id, '${role}', ${amount} FROM prepayment_move m WHERE m.kind = 'drawn'`,
  ),
  ...['rebates-given', 'rebates-owed'].map(
    (role, at) =>
      `SELECT e.company_id, e.document_kind, e.document_id, '${role}', ${at ? '-' : ''}e.accrued FROM rebate_entry e WHERE e.settled = 0`,
  ),
  `SELECT n.company_id, 'CN', n.id, IF(n.kind = 'rebate', 'rebates-owed', 'revenue'), n.net FROM credit_note n`,
  `SELECT n.company_id, 'CN', n.id, 'output-tax', n.tax FROM credit_note n`,
  `SELECT n.company_id, 'CN', n.id, 'receivable', -n.total FROM credit_note n`,
  `SELECT n.company_id, 'CN', n.id, 'cost-of-sales', -n.cost FROM credit_note n`,
  `SELECT i.company_id, 'VI', i.id, 'payable', -i.total FROM vendor_invoice i`,
  `SELECT i.company_id, 'VI', i.id, 'input-tax', i.tax FROM vendor_invoice i`,
  `SELECT l.company_id, 'VI', l.invoice_id, 'received-not-invoiced', l.received_cost FROM vendor_invoice_line l`,
  `SELECT l.company_id, 'VI', l.invoice_id,
          IF(EXISTS (SELECT 1 FROM shipment_line s WHERE s.company_id = l.company_id AND s.receipt_line_id = l.receipt_line_id),
             'cost-of-sales', 'price-difference'), l.net - l.received_cost
     FROM vendor_invoice_line l`,
  ...(
    [
      ['bank', 'IF(o.customer_id IS NULL, -p.amount, p.amount)'],
      ['receivable', 'IF(o.customer_id IS NULL, 0, -p.amount)'],
      ['payable', 'IF(o.customer_id IS NULL, p.amount, 0)'],
    ] as const
  ).map(
    ([role, amount]) =>
      `SELECT p.company_id, 'PY', p.id, '${role}', ${amount} FROM payment p
         JOIN open_item o ON o.company_id = p.company_id AND o.id = p.open_item_id`,
  ),
  ...(
    [
      ['bank', 'p.amount - p.returned'],
      ['customer-prepayments', 'p.returned - p.amount'],
    ] as const
  ).map(
    ([role, amount]) =>
      `SELECT p.company_id, 'PP', p.id, '${role}', IF(p.carried_from IS NULL, ${amount}, ${amount.replace('p.amount', '0')})
         FROM prepayment p`,
  ),
];

/**
 * Every journal against the document it came from, account by account: so every account is what all documents say.
 * A journal that nothing else posts is its own document. // P3
 */
export const postings: Check = {
  what: 'posted',
  sql: `SELECT CONCAT(kind, ' ', id, ' to ', role) AS subject, SUM(posted) AS kept, SUM(expected) AS counted
          FROM (SELECT j.company_id, j.document_kind AS kind, IF(j.document_kind = 'JR', j.id, j.document_id) AS id,
                       a.posting_role AS role, e.amount AS posted, 0 AS expected
                  FROM journal j
                  JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
                  JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
                UNION ALL
                SELECT company_id, kind, id, role, 0, amount FROM (${EXPECTED.join(' UNION ALL ')}) x) y
         GROUP BY company_id, kind, id, role HAVING kept <> counted`,
};

/** What is posted to a party's account against its open items, party by party. */
export const byParty = (side: 'customer' | 'vendor'): Check => {
  const [role, sign] = side === 'customer' ? ['receivable', ''] : ['payable', '-'];
  return {
    what: `${role} by ${side}`,
    sql: `SELECT COALESCE((SELECT p.number FROM ${side} p WHERE p.company_id = y.company_id AND p.id = y.party), 'nobody') AS subject,
                 SUM(posted) AS kept, SUM(open) AS counted
            FROM (SELECT e.company_id, e.${side}_id AS party, e.amount AS posted, 0 AS open
                    FROM journal_entry e JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
                   WHERE a.posting_role = '${role}'
                  UNION ALL
                  SELECT o.company_id, o.${side}_id, 0, ${sign}(o.amount - o.settled) FROM open_item o
                   WHERE o.${side}_id IS NOT NULL) y
           GROUP BY company_id, party HAVING kept <> counted`,
  };
};
