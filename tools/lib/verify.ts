import { rebateOwed, type RebateBasis, type RebateKind } from '@core/agreements';
import { dec } from '@core/kernel';
import type { Sql } from '../../server/db';
import { BOTH_ENDS, DIFFERS, LATE } from '../../server/supply/in-step';

interface Check {
  what: string;
  /** Rows that differ, each with `subject`, `kept` and `counted`. */
  sql: string;
}

/** A kept counter against the sum of the documents that make it. */
function counter(what: string, table: string, name: string, kept: string, counted: string): Check {
  return {
    what,
    sql: `SELECT * FROM (SELECT ${name} AS subject, ${kept} AS kept, COALESCE((${counted}), 0) AS counted FROM ${table} x) d WHERE kept <> counted`,
  };
}

const AGREEMENT_LINE =
  "CONCAT((SELECT number FROM agreement a WHERE a.company_id = x.company_id AND a.id = x.agreement_id), ' line ', x.line_no)";
const ORDER_LINE =
  "CONCAT((SELECT number FROM sales_order o WHERE o.company_id = x.company_id AND o.id = x.order_id), ' line ', x.line_no)";
const PURCHASE_LINE =
  "CONCAT((SELECT number FROM purchase_order p WHERE p.company_id = x.company_id AND p.id = x.purchase_order_id), ' line ', x.line_no)";
const OF_LINE = 'FROM sales_order_line l WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id';
const BOUGHT_OF_LINE = 'FROM purchase_order_line l WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id';
const RECEIVED_OF_LINE = `FROM purchase_order_line l JOIN receipt_line r ON r.company_id = l.company_id AND r.purchase_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const CREDITED_OF_LINE = `FROM sales_order_line l JOIN credit_note_line c ON c.company_id = l.company_id AND c.order_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const VENDOR_INVOICED_OF_LINE = `FROM purchase_order_line l JOIN vendor_invoice_line i ON i.company_id = l.company_id AND i.purchase_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
/** Sums of queries that each give one number or none. */
const total = (...queries: string[]) => `SELECT ${queries.map((query) => `COALESCE((${query}), 0)`).join(' + ')}`;
const SHIPPED_OF_LINE = `FROM sales_order_line l JOIN shipment_line s ON s.company_id = l.company_id AND s.order_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const INVOICED_OF_LINE = `FROM sales_order_line l JOIN customer_invoice_line i ON i.company_id = l.company_id AND i.order_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;

const PLANNED_PART =
  "CONCAT((SELECT number FROM planned_order p WHERE p.company_id = x.company_id AND p.id = x.planned_order_id), ' needs ', (SELECT number FROM item i WHERE i.company_id = x.company_id AND i.id = x.item_id))";

const CHECKS: readonly Check[] = [
  // T8
  {
    what: 'planned component covered',
    sql: `SELECT * FROM (SELECT ${PLANNED_PART} AS subject, SUM(x.covered) AS kept, COALESCE((SELECT SUM(o.held) FROM planned_order o
             WHERE o.company_id = x.company_id AND o.parent_id = x.planned_order_id AND o.item_id = x.item_id), 0) AS counted
            FROM planned_component x GROUP BY x.company_id, x.planned_order_id, x.item_id) d WHERE kept <> counted`,
  },
  {
    what: 'minutes a work centre holds',
    sql: `SELECT * FROM (SELECT CONCAT(p.number, ' operation ', o.no) AS subject,
             (SELECT COALESCE(SUM(l.minutes), 0) FROM centre_load l WHERE l.company_id = o.company_id AND l.planned_operation_id = o.id) AS kept,
             IF(p.open, o.minutes, 0) AS counted
            FROM planned_operation o JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id) d
           WHERE kept <> counted`,
  },
  {
    what: 'journal does not balance',
    sql: `SELECT j.number AS subject, 0 AS kept, COALESCE(SUM(e.amount), 0) AS counted FROM journal j
            LEFT JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
           GROUP BY j.company_id, j.id HAVING counted <> 0 OR COUNT(e.id) < 2`,
  },
  // A4
  counter(
    'agreement line released',
    'agreement_line',
    AGREEMENT_LINE,
    'x.released',
    total(`SELECT SUM(l.quantity - l.cancelled) ${OF_LINE}`, `SELECT SUM(l.quantity) ${BOUGHT_OF_LINE}`),
  ),
  counter(
    'agreement line released value',
    'agreement_line',
    AGREEMENT_LINE,
    'x.released_value',
    total(
      `SELECT SUM(IF(l.cancelled = l.quantity, 0, COALESCE(l.agreed_amount, l.amount))) ${OF_LINE}`,
      `SELECT SUM(COALESCE(l.agreed_amount, l.amount)) ${BOUGHT_OF_LINE}`,
    ),
  ),
  counter(
    'agreement line shipped',
    'agreement_line',
    AGREEMENT_LINE,
    'x.shipped',
    total(
      `SELECT SUM(s.quantity) ${SHIPPED_OF_LINE}`,
      `SELECT -SUM(c.quantity) ${CREDITED_OF_LINE}`,
      `SELECT SUM(r.quantity) ${RECEIVED_OF_LINE}`,
    ),
  ),
  counter(
    'agreement line shipped value',
    'agreement_line',
    AGREEMENT_LINE,
    'x.shipped_value',
    total(
      `SELECT SUM(COALESCE(s.agreed_value, s.value)) ${SHIPPED_OF_LINE}`,
      `SELECT -SUM(COALESCE(c.agreed_value, c.value)) ${CREDITED_OF_LINE}`,
      `SELECT SUM(COALESCE(r.agreed_value, r.cost)) ${RECEIVED_OF_LINE}`,
    ),
  ),
  counter(
    'agreement line invoiced',
    'agreement_line',
    AGREEMENT_LINE,
    'x.invoiced',
    total(
      `SELECT SUM(i.quantity) ${INVOICED_OF_LINE}`,
      `SELECT -SUM(c.quantity + c.uninvoiced) ${CREDITED_OF_LINE}`,
      `SELECT SUM(i.quantity) ${VENDOR_INVOICED_OF_LINE}`,
    ),
  ),
  counter(
    'agreement line invoiced value',
    'agreement_line',
    AGREEMENT_LINE,
    'x.invoiced_value',
    total(
      `SELECT SUM(COALESCE(i.agreed_net, i.net)) ${INVOICED_OF_LINE}`,
      `SELECT -SUM(COALESCE(c.agreed_net, c.net)) ${CREDITED_OF_LINE}`,
      `SELECT SUM(COALESCE(i.agreed_net, i.net)) ${VENDOR_INVOICED_OF_LINE}`,
    ),
  ),
  ...['released_value', 'shipped_value', 'invoiced_value'].map((column) =>
    counter(
      `agreement ${column.replace('_', ' ')}`,
      'agreement',
      'x.number',
      `x.${column}`,
      `SELECT SUM(l.${column}) FROM agreement_line l WHERE l.company_id = x.company_id AND l.agreement_id = x.id`,
    ),
  ),
  counter(
    'agreement used up',
    'agreement',
    'x.number',
    "IF(x.state = 'draft', 0, x.used_up)",
    `SELECT IF(x.state = 'draft', 0, SUM(IF(x.basis = 'quantity', l.released < l.committed, l.released_value < l.committed_value)) = 0)
       FROM agreement_line l WHERE l.company_id = x.company_id AND l.agreement_id = x.id`,
  ),
  counter(
    'agreement committed value',
    'agreement',
    'x.number',
    'x.committed_value',
    'SELECT SUM(l.committed_value) FROM agreement_line l WHERE l.company_id = x.company_id AND l.agreement_id = x.id',
  ),
  // L1
  counter(
    'order line tied',
    'sales_order_line',
    ORDER_LINE,
    'x.tied',
    'SELECT SUM(t.quantity) FROM tie t WHERE t.company_id = x.company_id AND t.order_line_id = x.id',
  ),
  counter(
    'purchase line tied',
    'purchase_order_line',
    PURCHASE_LINE,
    'x.tied',
    'SELECT SUM(t.quantity) FROM tie t WHERE t.company_id = x.company_id AND t.purchase_line_id = x.id',
  ),
  counter(
    'tie received',
    'tie',
    "CONCAT('tie ', x.id)",
    'x.received',
    'SELECT SUM(r.quantity) FROM receipt_line r WHERE r.company_id = x.company_id AND r.tie_id = x.id',
  ),
  {
    what: 'tie joins different items',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, sl.item_id AS kept, pl.item_id AS counted FROM tie t
            JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
            JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
           WHERE sl.item_id <> pl.item_id`,
  },
  counter(
    'order line shipped',
    'sales_order_line',
    ORDER_LINE,
    'x.shipped',
    total(
      'SELECT SUM(s.quantity) FROM shipment_line s WHERE s.company_id = x.company_id AND s.order_line_id = x.id',
      'SELECT -SUM(c.quantity) FROM credit_note_line c WHERE c.company_id = x.company_id AND c.order_line_id = x.id',
    ),
  ),
  counter(
    'order line invoiced',
    'sales_order_line',
    ORDER_LINE,
    'x.invoiced',
    total(
      'SELECT SUM(i.quantity) FROM customer_invoice_line i WHERE i.company_id = x.company_id AND i.order_line_id = x.id',
      'SELECT -SUM(c.quantity + c.uninvoiced) FROM credit_note_line c WHERE c.company_id = x.company_id AND c.order_line_id = x.id',
    ),
  ),
  counter(
    'purchase line received',
    'purchase_order_line',
    PURCHASE_LINE,
    'x.received',
    'SELECT SUM(r.quantity) FROM receipt_line r WHERE r.company_id = x.company_id AND r.purchase_line_id = x.id',
  ),
  counter(
    'purchase line invoiced',
    'purchase_order_line',
    PURCHASE_LINE,
    'x.invoiced',
    'SELECT SUM(i.quantity) FROM vendor_invoice_line i WHERE i.company_id = x.company_id AND i.purchase_line_id = x.id',
  ),
  {
    what: 'bench mark of an order line',
    sql: `SELECT * FROM (SELECT ${ORDER_LINE} AS subject, x.on_bench AS kept,
             (o.state = 'confirmed' AND x.route <> 'stock' AND x.tied < x.quantity - x.cancelled) AS counted
            FROM sales_order_line x JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id) d WHERE kept <> counted`,
  },
  counter(
    'order net',
    'sales_order',
    'x.number',
    'x.net',
    'SELECT SUM(l.amount) FROM sales_order_line l WHERE l.company_id = x.company_id AND l.order_id = x.id',
  ),
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
    what: 'tie against the way its line is supplied',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, sl.route AS kept, IF(p.ship_to_id IS NULL, 'special', 'drop') AS counted
            FROM tie t
            JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
            JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
            JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
           WHERE sl.route <> IF(p.ship_to_id IS NULL, 'special', 'drop')`,
  },
  {
    what: 'tie against the place its line goes out from',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, sl.location_id AS kept, p.location_id AS counted
            FROM tie t
            JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id AND sl.route = 'special'
            JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
            JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
           WHERE sl.location_id <> p.location_id`,
  },
  {
    what: 'tie in step',
    sql: `SELECT CONCAT('tie ', t.id) AS subject, CONCAT(t.late, t.differs) AS kept, CONCAT(${LATE}, ${DIFFERS}) AS counted
            FROM tie t ${BOTH_ENDS} WHERE t.late <> ${LATE} OR t.differs <> ${DIFFERS}`,
  },
  {
    what: 'goods left between vendor and customer',
    sql: `SELECT CONCAT('item ', item_id) AS subject, 0 AS kept, SUM(quantity) AS counted FROM stock_entry
           WHERE place = 'vendor-to-customer' GROUP BY company_id, item_id HAVING SUM(quantity) <> 0 OR SUM(cost) <> 0`,
  },
  {
    what: 'inventory account against stock value',
    sql: ledgerAgainst('inventory', 'SELECT SUM(s.value) FROM stock s WHERE s.company_id = x.company_id'),
  },
  {
    what: 'receivable against open items',
    sql: ledgerAgainst(
      'receivable',
      'SELECT SUM(o.amount - o.settled) FROM open_item o WHERE o.company_id = x.company_id AND o.customer_id IS NOT NULL',
    ),
  },
  {
    what: 'payable against open items',
    sql: ledgerAgainst(
      'payable',
      'SELECT -SUM(o.amount - o.settled) FROM open_item o WHERE o.company_id = x.company_id AND o.vendor_id IS NOT NULL',
    ),
  },
  {
    what: 'received not invoiced against receipts',
    sql: ledgerAgainst(
      'received-not-invoiced',
      `SELECT COALESCE((SELECT SUM(v.received_cost) FROM vendor_invoice_line v WHERE v.company_id = x.company_id), 0)
            - COALESCE((SELECT SUM(r.cost) FROM receipt_line r WHERE r.company_id = x.company_id), 0)`,
    ),
  },
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
  // A10
  ...['value', 'quantity', 'accrued', 'settled'].map((column) =>
    counter(
      `agreement rebate ${column}`,
      'agreement',
      'x.number',
      `x.rebate_${column}`,
      `SELECT SUM(e.${column}) FROM rebate_entry e WHERE e.company_id = x.company_id AND e.agreement_id = x.id`,
    ),
  ),
  {
    what: 'rebates owed against agreements',
    sql: ledgerAgainst(
      'rebates-owed',
      'SELECT -SUM(a.rebate_accrued - a.rebate_settled) FROM agreement a WHERE a.company_id = x.company_id',
    ),
  },
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
  {
    what: 'customer prepayments against prepayments',
    sql: ledgerAgainst(
      'customer-prepayments',
      'SELECT -SUM(p.amount - p.drawn - p.returned - p.carried) FROM prepayment p WHERE p.company_id = x.company_id',
    ),
  },
  counter(
    'credit note net',
    'credit_note',
    'x.number',
    "IF(x.kind = 'rebate', 0, x.net)",
    'SELECT SUM(l.net) FROM credit_note_line l WHERE l.company_id = x.company_id AND l.credit_note_id = x.id',
  ),
  {
    // A7
    what: 'planned call made into an order that is not there',
    sql: `SELECT CONCAT('agreement line ', k.agreement_line_id, ' on ', k.day) AS subject, k.made_id AS kept, 0 AS counted
            FROM agreement_call k
            LEFT JOIN sales_order o ON k.made_kind = 'SO' AND o.company_id = k.company_id AND o.id = k.made_id
            LEFT JOIN purchase_order p ON k.made_kind = 'PO' AND p.company_id = k.company_id AND p.id = k.made_id
           WHERE k.made_id IS NOT NULL AND o.id IS NULL AND p.id IS NULL`,
  },
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
  // No gaps: as many documents as numbers were taken.
  ...(
    [
      ['AG', 'agreement'],
      ['SO', 'sales_order'],
      ['PO', 'purchase_order'],
      ['RC', 'receipt'],
      ['SH', 'shipment'],
      ['CI', 'customer_invoice'],
      ['VI', 'vendor_invoice'],
      ['CN', 'credit_note'],
      ['PP', 'prepayment'],
      ['PY', 'payment'],
      ['JR', 'journal'],
    ] as const
  ).map(([kind, table]) => ({
    what: `numbers ${kind} taken`,
    sql: `SELECT * FROM (SELECT CONCAT('company ', x.company_id) AS subject, x.next_serial - 1 AS kept,
            (SELECT COUNT(*) FROM ${table} t WHERE t.company_id = x.company_id) AS counted
            FROM number_series x WHERE x.kind = '${kind}') d WHERE kept <> counted`,
  })),
];

function ledgerAgainst(role: string, counted: string): string {
  return `SELECT * FROM (SELECT CONCAT('account ', x.code) AS subject,
      COALESCE((SELECT SUM(e.amount) FROM journal_entry e WHERE e.company_id = x.company_id AND e.account_id = x.id), 0) AS kept,
      COALESCE((${counted}), 0) AS counted
    FROM account x WHERE x.posting_role = '${role}') d WHERE kept <> counted`;
}

/** Every difference between what is kept and what the documents say, one line each; none where all is true. // G5 */
export async function verify(sql: Sql): Promise<string[]> {
  const differences: string[] = [];
  for (const check of CHECKS) {
    const rows = await sql.rows<{ subject: string; kept: string; counted: string }>(check.sql);
    for (const row of rows) {
      differences.push(`${check.what}: ${row.subject} is ${row.kept}, the documents say ${row.counted}`);
    }
  }
  differences.push(...(await rebateDifferences(sql)));
  return differences;
}

/** What is accrued against what the tiers say of what was invoiced in the term, recomputed from scratch. // A10 */
async function rebateDifferences(sql: Sql): Promise<string[]> {
  const agreements = await sql.rows<{
    companyId: number;
    id: number;
    number: string;
    rebateKind: RebateKind;
    rebateBy: RebateBasis;
    rebateValue: string;
    rebateQuantity: string;
    rebateAccrued: string;
    currency: string;
  }>(
    `SELECT company_id, id, number, rebate_kind, rebate_by, rebate_value, rebate_quantity, rebate_accrued, currency
       FROM agreement WHERE rebate_kind <> 'none' OR rebate_accrued <> 0`,
  );
  const differences: string[] = [];
  for (const row of agreements) {
    const tiers = await sql.rows<{ from: string; rate: string }>(
      'SELECT from_amount AS `from`, rate FROM agreement_rebate_tier WHERE company_id = ? AND agreement_id = ? ORDER BY from_amount',
      [row.companyId, row.id],
    );
    const base = dec(row.rebateBy === 'value' ? row.rebateValue : row.rebateQuantity);
    const owed = rebateOwed({ kind: row.rebateKind, by: row.rebateBy, tiers }, base, row.currency);
    if (owed.eq(row.rebateAccrued)) continue;
    differences.push(`rebate accrued: ${row.number} is ${row.rebateAccrued}, the tiers say ${owed.toFixed()}`);
  }
  return differences;
}
