import type { Check } from '../room';

/** What a document must have posted to an account: its kind, its id, the role of the account, and how much. // P3 */
/** What each document says of an account: by company, kind and id, its role, the amount, and the same in its currency. */
const says = (kind: string, role: string, own: string, foreign: string, from: string, by = 'd') =>
  `SELECT ${by}.company_id, ${kind}, ${by}.id, ${role}, ${own}, ${foreign} FROM ${from}`;

/** The account of what came or went by some means. // C2 */
const BY_MEANS = (row: string) =>
  `CASE ${row}.means WHEN 'cash' THEN 'cash-drawer' WHEN 'card' THEN 'card-clearing' ELSE 'bank' END`;

/** What a document must have posted to an account: its kind, its id, the role of the account, and how much. // P3 P8 */
const EXPECTED: readonly string[] = [
  // Goods: what the stock says came or went, at its value.
  `SELECT e.company_id, e.document_kind AS kind, e.document_id AS id, 'inventory' AS role, e.cost AS amount, 0 AS foreign_amount
     FROM stock_entry e`,
  `SELECT r.company_id, 'RC', r.id, 'received-not-invoiced', -r.cost,
          -(SELECT SUM(l.value) FROM receipt_line l WHERE l.company_id = r.company_id AND l.receipt_id = r.id) FROM receipt r`,
  // A receipt taken back leaves the stock at its value there: the rest is a difference. // P1
  `SELECT r.company_id, 'RC', r.id, 'stock-difference',
          r.cost - COALESCE((SELECT SUM(e.cost) FROM stock_entry e
            WHERE e.company_id = r.company_id AND e.document_kind = 'RC' AND e.document_id = r.id), 0), 0
     FROM receipt r WHERE r.reverses_id IS NOT NULL`,
  says("'SH'", "'cost-of-sales'", 'd.cost', '0', 'shipment d'),
  // What is counted in a journal of its own comes from nowhere, or goes there; what opened the books comes from before. // U3
  `SELECT e.company_id, e.document_kind, e.document_id,
          IF(EXISTS (SELECT 1 FROM journal j WHERE e.document_kind = 'JR' AND j.company_id = e.company_id AND j.id = e.document_id AND j.opening),
             'opening-balance', 'stock-difference'), -e.cost, 0 FROM stock_entry e
    WHERE e.document_kind IN ('JR', 'CT')`,
  // W3: what went in and came out of what is being made, what was lost, what is left over at the end.
  ...(
    [
      ['work-in-progress', 'd.material_cost + d.labour_cost - d.output_cost - d.scrap_cost - d.variance'],
      ['labour-absorbed', '-d.labour_cost'],
      ['scrap', 'd.scrap_cost'],
      ['production-variance', 'd.variance'],
      ['stock-difference', 'd.stock_difference'],
    ] as const
  ).map(([role, own]) => says("'WR'", `'${role}'`, own, '0', 'work_report d')),
  says("'CI'", "'receivable'", 'd.own_net + d.own_tax', 'd.total', 'customer_invoice d'),
  says("'CI'", "'revenue'", '-d.own_net', '-d.net', 'customer_invoice d WHERE NOT d.claims_rebate AND NOT d.opening'),
  // U3: what was owed before.
  says("'CI'", "'opening-balance'", '-d.own_net', '-d.net', 'customer_invoice d WHERE d.opening'),
  says("'CN'", "'opening-balance'", 'd.own_net', 'd.net', 'credit_note d WHERE d.opening'),
  says("'VI'", "'opening-balance'", 'd.own_net', 'd.net', 'vendor_invoice d WHERE d.opening'),
  says("'CI'", "'output-tax'", '-d.own_tax', '-d.tax', 'customer_invoice d'),
  // A12
  ...(
    [
      ['receivable', '-m.own_worth', '-m.amount'],
      ['customer-prepayments', 'm.own_amount', 'm.amount'],
      ['exchange-difference', 'm.own_worth - m.own_amount', '0'],
    ] as const
  ).map(
    ([role, own, foreign]) =>
      `SELECT m.company_id, 'CI', m.customer_invoice_id, '${role}', ${own}, ${foreign} FROM prepayment_move m WHERE m.kind = 'drawn'`,
  ),
  ...['rebates-given', 'rebates-owed'].map((role, at) => {
    const sign = at ? '-' : '';
    return `SELECT e.company_id, e.document_kind, e.document_id, '${role}', ${sign}e.own_accrued, ${sign}e.accrued
              FROM rebate_entry e WHERE e.settled = 0`;
  }),
  // What was settled or claimed back leaves at what it was accrued at. // A10
  `SELECT e.company_id, e.document_kind, e.document_id, 'rebates-owed', e.own_settled, e.settled FROM rebate_entry e WHERE e.settled <> 0`,
  `SELECT e.company_id, 'CN', e.document_id, 'exchange-difference', d.own_net - e.own_settled, 0 FROM rebate_entry e
     JOIN credit_note d ON d.company_id = e.company_id AND d.id = e.document_id WHERE e.document_kind = 'CN' AND e.settled <> 0`,
  `SELECT e.company_id, 'CI', e.document_id, 'exchange-difference', -d.own_net - e.own_settled, 0 FROM rebate_entry e
     JOIN customer_invoice d ON d.company_id = e.company_id AND d.id = e.document_id
    WHERE e.document_kind = 'CI' AND e.settled <> 0`,
  says("'CN'", "'revenue'", 'd.own_net', 'd.net', "credit_note d WHERE d.kind <> 'rebate' AND NOT d.opening"),
  says("'CN'", "'output-tax'", 'd.own_tax', 'd.tax', 'credit_note d'),
  says("'CN'", "'receivable'", '-d.own_net - d.own_tax', '-d.total', 'credit_note d'),
  says("'CN'", "'cost-of-sales'", '-d.cost', '0', 'credit_note d'),
  says("'VI'", "'payable'", '-d.own_net - d.own_tax', '-d.total', 'vendor_invoice d'),
  says("'VI'", "'input-tax'", 'd.own_tax', 'd.tax', 'vendor_invoice d'),
  `SELECT l.company_id, 'VI', l.invoice_id, 'received-not-invoiced', l.received_cost, l.received_value FROM vendor_invoice_line l`,
  `SELECT l.company_id, 'VI', l.invoice_id,
          IF(EXISTS (SELECT 1 FROM shipment_line s WHERE s.company_id = l.company_id AND s.receipt_line_id = l.receipt_line_id),
             'cost-of-sales', 'price-difference'), l.price_difference, l.net - l.received_value
     FROM vendor_invoice_line l`,
  // What the currency moved between receipt and invoice. // P8
  says(
    "'VI'",
    "'exchange-difference'",
    `d.own_net - (SELECT SUM(l.received_cost + l.price_difference) FROM vendor_invoice_line l
        WHERE l.company_id = d.company_id AND l.invoice_id = d.id)`,
    '0',
    'vendor_invoice d WHERE NOT d.opening',
  ),
  // A credit and the invoice it is set off against, carried at two rates. // P8
  ...(
    [
      ["IF(i.customer_id IS NULL, 'payable', 'receivable')", '1'],
      ["'exchange-difference'", '-1'],
    ] as const
  ).map(
    ([role, sign]) =>
      `SELECT s.company_id, IF(c.credit_note_id IS NULL, 'VI', 'CN'), COALESCE(c.credit_note_id, c.vendor_invoice_id), ${role},
              ${sign} * IF(i.customer_id IS NULL, s.own_invoice - s.own_credit, s.own_credit - s.own_invoice), 0
         FROM set_off s
         JOIN open_item c ON c.company_id = s.company_id AND c.id = s.credit_item_id
         JOIN open_item i ON i.company_id = s.company_id AND i.id = s.invoice_item_id`,
  ),
  ...(
    [
      // C2: cash is rounded, and in the company's own currency.
      [
        BY_MEANS('p'),
        'IF(o.customer_id IS NULL, -p.own_amount, p.own_amount + p.rounding)',
        'IF(o.customer_id IS NULL, -p.amount, p.amount + p.rounding)',
      ],
      ["'cash-rounding'", '-p.rounding', '0'],
      ["'receivable'", 'IF(o.customer_id IS NULL, 0, -p.own_settled)', 'IF(o.customer_id IS NULL, 0, -p.amount)'],
      ["'payable'", 'IF(o.customer_id IS NULL, p.own_settled, 0)', 'IF(o.customer_id IS NULL, p.amount, 0)'],
      [
        "'exchange-difference'",
        'IF(o.customer_id IS NULL, p.own_amount - p.own_settled, p.own_settled - p.own_amount)',
        '0',
      ],
    ] as const
  ).map(
    ([role, own, foreign]) =>
      `SELECT p.company_id, 'PY', p.id, ${role}, ${own}, ${foreign} FROM payment p
         JOIN open_item o ON o.company_id = p.company_id AND o.id = p.open_item_id`,
  ),
  // S13: what vendors owe us for what we sold, and what became of what was claimed.
  ...(
    [
      ['claims-owed', 'a.amount'],
      ['support-earned', '-a.amount'],
    ] as const
  ).map(
    ([role, own]) =>
      `SELECT a.company_id, 'VS', l.support_id, '${role}', ${own}, 0 FROM support_accrual a
         JOIN support_line l ON l.company_id = a.company_id AND l.id = a.support_line_id`,
  ),
  ...(
    [
      ["CASE m.kind WHEN 'invoice' THEN 'payable' WHEN 'paid' THEN 'bank' ELSE 'support-earned' END", 'm.amount'],
      ["'claims-owed'", '-m.amount'],
    ] as const
  ).map(([role, own]) => `SELECT m.company_id, 'CL', m.claim_id, ${role}, ${own}, 0 FROM claim_move m`),
  // S12: what a statement says is owed until it is paid; one that was withdrawn says nothing.
  ...(
    [
      ['commission', "IF(d.state = 'withdrawn', 0, d.amount)"],
      ['commission-owed', "IF(d.state = 'made', -d.amount, 0)"],
      ['bank', "IF(d.state = 'paid', -d.amount, 0)"],
    ] as const
  ).map(([role, own]) => says("'CS'", `'${role}'`, own, '0', 'commission_statement d')),
  // C4: what is put into a drawer comes from the bank, what is counted at its end goes there.
  ...(
    [
      ['cash-drawer', 'd.put_in - IF(d.closed_on IS NULL, 0, d.cash)'],
      ['bank', 'IF(d.closed_on IS NULL, 0, d.counted) - d.put_in'],
      ['drawer-difference', 'IF(d.closed_on IS NULL, 0, d.cash - d.counted)'],
    ] as const
  ).map(([role, own]) => says("'DR'", `'${role}'`, own, '0', 'drawer d')),
  ...(
    [
      ['cash-drawer', 'm.amount'],
      ['bank', '-m.amount'],
    ] as const
  ).map(([role, own]) => `SELECT m.company_id, 'DR', m.drawer_id, '${role}', ${own}, 0 FROM drawer_move m`),
  // What is carried on was taken under the prepayment before.
  ...(
    [
      [BY_MEANS('d'), 'd.own_amount + d.rounding', 'd.amount + d.rounding'],
      ["'cash-rounding'", '-d.rounding', '0'],
      ["'customer-prepayments'", '-d.own_amount', '-d.amount'],
    ] as const
  ).map(([role, own, foreign]) => says("'PP'", role, own, foreign, 'prepayment d WHERE d.carried_from IS NULL')),
  ...(
    [
      [BY_MEANS('m'), 'm.rounding - m.own_worth', 'm.rounding - m.amount'],
      ["'cash-rounding'", '-m.rounding', '0'],
      ["'customer-prepayments'", 'm.own_amount', 'm.amount'],
      ["'exchange-difference'", 'm.own_worth - m.own_amount', '0'],
    ] as const
  ).map(
    ([role, own, foreign]) =>
      `SELECT m.company_id, 'PP', m.prepayment_id, ${role}, ${own}, ${foreign} FROM prepayment_move m WHERE m.kind = 'returned'`,
  ),
];

/** What an account is for, and one that groups of items have for themselves alike. // U2 */
const ROLE = 'COALESCE(a.posting_role, a.shares_role)';

/** A role's document and account, in words. */
const SUBJECT = "CONCAT(kind, ' ', id, ' to ', role)";

/** What every journal posted, and what its document says: by account, in the company's currency and the document's. */
const POSTED = `SELECT j.company_id, j.document_kind AS kind, IF(j.document_kind = 'JR', j.id, j.document_id) AS id,
                       ${ROLE} AS role, e.amount AS posted, 0 AS expected,
                       e.foreign_amount AS foreign_posted, 0 AS foreign_expected, e.currency
                  FROM journal j
                  JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
                  JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
                UNION ALL
                SELECT company_id, kind, id, role, 0, amount, 0, foreign_amount, NULL FROM (${EXPECTED.join(' UNION ALL ')}) x`;

/**
 * Every journal against the document it came from, account by account: so every account is what all documents say.
 * A journal that nothing else posts is its own document. // P3
 */
export const postings: Check = {
  what: 'posted',
  sql: `SELECT ${SUBJECT} AS subject, SUM(posted) AS kept, SUM(expected) AS counted FROM (${POSTED}) y
         GROUP BY company_id, kind, id, role HAVING kept <> counted`,
};

/** The same in the document's currency, where that is another. // P8 */
export const foreignPostings: Check = {
  what: 'posted in the currency of the document',
  sql: `SELECT ${SUBJECT} AS subject, SUM(foreign_posted) AS kept, SUM(foreign_expected) AS counted FROM (${POSTED}) y
         GROUP BY company_id, kind, id, role HAVING MAX(currency) IS NOT NULL AND kept <> counted`,
};

/** Documents in another currency than their company's, at their rate. */
const IN_ANOTHER = [
  ...['customer_invoice CI', 'vendor_invoice VI', 'credit_note CN', 'payment PY', 'prepayment PP'].map((each) => {
    const [table, kind] = each.split(' ');
    return `SELECT d.company_id, '${kind}' AS kind, d.id, d.currency, d.rate FROM ${table} d`;
  }),
  `SELECT r.company_id, 'RC', r.id, p.currency, r.rate FROM receipt r
     JOIN purchase_order p ON p.company_id = r.company_id AND p.id = r.purchase_order_id`,
].join(' UNION ALL ');

/** What may be known in the company's currency alone: cost, and differences. */
const OWN_ONLY = "'inventory', 'cost-of-sales', 'stock-difference', 'exchange-difference'";

/**
 * An entry of a document in another currency tells its amount there, in that currency; one in the company's own tells
 * none. What was posted one for one, before rates were, tells none either. // P8
 */
export const entryCurrencies: Check = {
  what: 'currency of an entry',
  sql: `SELECT CONCAT(j.number, ' to ', ${ROLE}) AS subject, COALESCE(e.currency, 'none') AS kept,
               IF(d.currency = c.currency OR d.currency IS NULL, 'none', d.currency) AS counted
          FROM journal_entry e
          JOIN journal j ON j.company_id = e.company_id AND j.id = e.journal_id AND j.document_kind <> 'AG'
          JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
          JOIN company c ON c.id = e.company_id
          LEFT JOIN (${IN_ANOTHER}) d ON d.company_id = j.company_id AND d.kind = j.document_kind AND d.id = j.document_id
         WHERE NOT (e.currency <=> NULLIF(d.currency, c.currency))
           AND NOT (e.currency IS NULL AND (d.rate = 1 OR ${ROLE} IN (${OWN_ONLY})))`,
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
                  SELECT o.company_id, o.${side}_id, 0, ${sign}(o.own_amount - o.own_settled) FROM open_item o
                   WHERE o.${side}_id IS NOT NULL) y
           GROUP BY company_id, party HAVING kept <> counted`,
  };
};
