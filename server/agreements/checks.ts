import { rebateOwed } from '@core/agreements';
import { dec } from '@core/kernel';
import type { Sql, Columns } from '../db';
import { account, bound, counter, numbered, total, type Check } from '../room';
import type { Agreement } from './tables';

const AGREEMENT_LINE =
  "CONCAT((SELECT number FROM agreement a WHERE a.company_id = x.company_id AND a.id = x.agreement_id), ' line ', x.line_no)";
const OF_LINE = 'FROM sales_order_line l WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id';
const BOUGHT_OF_LINE = 'FROM purchase_order_line l WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id';
const SHIPPED_OF_LINE = `FROM sales_order_line l JOIN shipment_line s ON s.company_id = l.company_id AND s.order_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const CREDITED_OF_LINE = `FROM sales_order_line l JOIN credit_note_line c ON c.company_id = l.company_id AND c.order_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const RECEIVED_OF_LINE = `FROM purchase_order_line l JOIN receipt_line r ON r.company_id = l.company_id AND r.purchase_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const INVOICED_OF_LINE = `FROM sales_order_line l JOIN customer_invoice_line i ON i.company_id = l.company_id AND i.order_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;
const VENDOR_INVOICED_OF_LINE = `FROM purchase_order_line l JOIN vendor_invoice_line i ON i.company_id = l.company_id AND i.purchase_line_id = l.id
  WHERE l.company_id = x.company_id AND l.agreement_line_id = x.id`;

/** What was taken before it came here counts on every counter alike. // U3 */
const BEFORE = (what: 'quantity' | 'value') =>
  `SELECT t.${what} FROM taken_before t WHERE t.company_id = x.company_id AND t.agreement_line_id = x.id`;

/** What must be true of what the agreements room keeps. // G5 */
export const checks: readonly Check[] = [
  // A4
  counter(
    'agreement line released',
    'agreement_line',
    AGREEMENT_LINE,
    'x.released',
    total(
      `SELECT SUM(l.quantity - l.cancelled) ${OF_LINE}`,
      `SELECT SUM(l.quantity) ${BOUGHT_OF_LINE}`,
      BEFORE('quantity'),
    ),
  ),
  counter(
    'agreement line released value',
    'agreement_line',
    AGREEMENT_LINE,
    'x.released_value',
    total(
      `SELECT SUM(IF(l.cancelled = l.quantity, 0, COALESCE(l.agreed_amount, l.amount))) ${OF_LINE}`,
      `SELECT SUM(COALESCE(l.agreed_amount, l.amount)) ${BOUGHT_OF_LINE}`,
      BEFORE('value'),
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
      BEFORE('quantity'),
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
      `SELECT SUM(COALESCE(r.agreed_value, r.value)) ${RECEIVED_OF_LINE}`,
      BEFORE('value'),
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
      BEFORE('quantity'),
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
      BEFORE('value'),
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
  // What goods that came back take from a rebate may leave less than was settled; a settlement never takes more than is there.
  bound(
    'rebate settled',
    '(SELECT * FROM rebate_entry WHERE settled > 0)',
    "CONCAT((SELECT number FROM agreement a WHERE a.company_id = x.company_id AND a.id = x.agreement_id), ' by entry ', x.id)",
    ...(['settled', 'accrued'].map(
      (column) =>
        `(SELECT SUM(e.${column}) FROM rebate_entry e WHERE e.company_id = x.company_id AND e.agreement_id = x.agreement_id AND e.id <= x.id)`,
    ) as [string, string]),
  ),
  account(
    'rebates owed against agreements',
    'rebates-owed',
    'SELECT -SUM(a.rebate_own) FROM agreement a WHERE a.company_id = x.company_id',
  ),
  // P8
  counter(
    'agreement rebate in the company’s currency',
    'agreement',
    'x.number',
    'x.rebate_own',
    'SELECT SUM(e.own_accrued - e.own_settled) FROM rebate_entry e WHERE e.company_id = x.company_id AND e.agreement_id = x.id',
  ),
  {
    what: 'rebate that is owed in one currency and not in the other',
    sql: `SELECT a.number AS subject, a.rebate_own AS kept, a.rebate_accrued - a.rebate_settled AS counted FROM agreement a
           WHERE a.rebate_accrued = a.rebate_settled AND a.rebate_own <> 0
              OR SIGN(a.rebate_own) * SIGN(a.rebate_accrued - a.rebate_settled) < 0`,
  },
  {
    // A7
    what: 'planned call made into an order that is not there',
    sql: `SELECT CONCAT('agreement line ', k.agreement_line_id, ' on ', k.day) AS subject, k.made_id AS kept, 0 AS counted
            FROM agreement_call k
            LEFT JOIN sales_order o ON k.made_kind = 'SO' AND o.company_id = k.company_id AND o.id = k.made_id
            LEFT JOIN purchase_order p ON k.made_kind = 'PO' AND p.company_id = k.company_id AND p.id = k.made_id
           WHERE k.made_id IS NOT NULL AND o.id IS NULL AND p.id IS NULL`,
  },
  // No gaps.
  numbered('AG', 'agreement'),
];

/** What is accrued against what the tiers say of what was invoiced in the term, recomputed from scratch. // A10 */
export async function differences(sql: Sql): Promise<string[]> {
  const agreements = await sql.rows<
    Columns<Agreement, 'companyId id number rebateKind rebateBy rebateValue rebateQuantity rebateAccrued currency'>
  >(
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
