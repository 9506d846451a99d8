import type * as z from 'zod';
import type { SupportState } from '@core/claims';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/claims';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import { likeOf, pageById, type Sql } from '../db';

type Out<E extends { out: z.ZodType }> = z.infer<E['out']>;

interface PartyColumns {
  partyId: number;
  partyNumber: string;
  partyName: string;
}
const partyOf = ({ partyId, partyNumber, partyName }: PartyColumns) => ({
  id: partyId,
  number: partyNumber,
  name: partyName,
});
const VENDOR = 'v.id AS party_id, v.number AS party_number, v.name AS party_name';

/** What a vendor promised us, and what was sold by it. // S13 */
export async function openSupport(sql: Sql, companyId: number, id: number): Promise<Out<typeof contract.openSupport>> {
  const [found] = await sql.rows<
    PartyColumns & {
      number: string;
      version: number;
      state: SupportState;
      reason: string;
      name: string;
      firstDay: Day;
      lastDay: Day;
      currency: string;
      customerId: number | null;
      customerNumber: string | null;
      customerName: string | null;
      priceGroupId: number | null;
      priceGroup: string | null;
      promotionId: number | null;
      promotion: string | null;
    }
  >(
    `SELECT s.number, s.version, s.state, s.reason, s.name, s.first_day, s.last_day, ${ownCurrency('s.company_id')} AS currency, ${VENDOR},
            s.customer_id, c.number AS customer_number, c.name AS customer_name, s.price_group_id, g.name AS price_group,
            s.promotion_id, p.number AS promotion
       FROM support s
       JOIN vendor v ON v.company_id = s.company_id AND v.id = s.vendor_id
       LEFT JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
       LEFT JOIN price_group g ON g.company_id = s.company_id AND g.id = s.price_group_id
       LEFT JOIN promotion p ON p.company_id = s.company_id AND p.id = s.promotion_id
      WHERE s.company_id = ? AND s.id = ?`,
    [companyId, id],
  );
  const head = orNotFound(found, 'This support');
  const lines = await sql.rows<{
    id: number;
    lineNo: number;
    itemId: number | null;
    itemNumber: string | null;
    itemName: string | null;
    unit: string | null;
    groupId: number | null;
    groupName: string | null;
    perUnit: string;
    sold: string;
    accrued: string;
    claimed: string;
  }>(
    `SELECT l.id, l.line_no, l.item_id, i.number AS item_number, i.name AS item_name, i.unit, l.item_group_id AS group_id, g.name AS group_name, l.per_unit,
            COALESCE(SUM(a.quantity), 0) AS sold, COALESCE(SUM(a.amount), 0) AS accrued,
            COALESCE(SUM(IF(a.claim_id IS NULL, 0, a.amount)), 0) AS claimed
       FROM support_line l
       LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN item_group g ON g.company_id = l.company_id AND g.id = l.item_group_id
       LEFT JOIN support_accrual a ON a.company_id = l.company_id AND a.support_line_id = l.id
      WHERE l.company_id = ? AND l.support_id = ? GROUP BY l.id ORDER BY l.line_no`,
    [companyId, id],
  );
  return {
    document: { kind: 'VS', id, number: head.number },
    version: head.version,
    state: head.state,
    reason: head.reason,
    name: head.name,
    vendor: partyOf(head),
    customer:
      head.customerId === null ? null : { id: head.customerId, number: head.customerNumber!, name: head.customerName! },
    priceGroup: head.priceGroupId === null ? null : { id: head.priceGroupId, name: head.priceGroup! },
    promotion: head.promotionId === null ? null : { kind: 'PM', id: head.promotionId, number: head.promotion! },
    firstDay: head.firstDay,
    lastDay: head.lastDay,
    currency: head.currency,
    lines: lines.map(({ itemId, itemNumber, itemName, unit, groupId, groupName, ...line }) => ({
      ...line,
      item: itemId === null ? null : { id: itemId, number: itemNumber!, name: itemName!, unit: unit! },
      group: groupId === null ? null : { id: groupId, name: groupName! },
    })),
  };
}

/** Support by vendors, newest first. */
export function listSupport(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listSupport.query>,
  workDate: Day,
): Promise<Out<typeof contract.listSupport>> {
  const like = query.q?.trim() ? likeOf(query.q) : null;
  const accrued = (open: string) => `COALESCE((SELECT SUM(a.amount) FROM support_line l
    JOIN support_accrual a ON a.company_id = l.company_id AND a.support_line_id = l.id
   WHERE l.company_id = s.company_id AND l.support_id = s.id${open}), 0)`;
  return pageById(
    (before, most) =>
      sql.rows<
        PartyColumns & {
          id: number;
          number: string;
          name: string;
          state: 'to come' | 'running' | 'over' | 'stopped';
          what: string | null;
          firstDay: Day;
          lastDay: Day;
          accrued: string;
          open: string;
          currency: string;
        }
      >(
        `SELECT s.id, s.number, s.name, ${VENDOR}, s.first_day, s.last_day, ${ownCurrency('s.company_id')} AS currency,
                CASE WHEN s.state = 'stopped' THEN 'stopped' WHEN s.last_day < ? THEN 'over' WHEN s.first_day > ? THEN 'to come' ELSE 'running' END AS state,
                (SELECT GROUP_CONCAT(COALESCE(i.number, g.name) ORDER BY l.line_no SEPARATOR ', ') FROM support_line l
                   LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
                   LEFT JOIN item_group g ON g.company_id = l.company_id AND g.id = l.item_group_id
                  WHERE l.company_id = s.company_id AND l.support_id = s.id) AS what,
                ${accrued('')} AS accrued, ${accrued(' AND a.claim_id IS NULL')} AS open
           FROM support s JOIN vendor v ON v.company_id = s.company_id AND v.id = s.vendor_id
          WHERE s.company_id = ? AND s.id < ? ${query.vendor ? 'AND s.vendor_id = ?' : ''}
            ${like === null ? '' : 'AND (s.number LIKE ? OR s.name LIKE ? OR v.name LIKE ?)'}
          ORDER BY s.id DESC LIMIT ?`,
        [
          workDate,
          workDate,
          companyId,
          before,
          ...(query.vendor ? [query.vendor] : []),
          ...(like === null ? [] : [like, like, like]),
          most,
        ],
      ),
    query,
    ({ id, number, partyId, partyNumber, partyName, what, ...row }) => ({
      document: { kind: 'VS' as const, id, number },
      vendor: partyOf({ partyId, partyNumber, partyName }),
      what: what ?? '',
      ...row,
    }),
  );
}

/** One claim with its lines and what became of it. // S13 */
export async function openClaim(sql: Sql, companyId: number, id: number): Promise<Out<typeof contract.openClaim>> {
  const [found] = await sql.rows<
    PartyColumns & {
      number: string;
      version: number;
      untilDay: Day;
      madeOn: Day;
      amount: string;
      settled: string;
      withdrawn: boolean;
      reason: string;
      currency: string;
    }
  >(
    `SELECT c.number, c.version, c.until_day, c.made_on, c.amount, c.settled, c.withdrawn, c.reason, ${ownCurrency('c.company_id')} AS currency, ${VENDOR}
       FROM claim c JOIN vendor v ON v.company_id = c.company_id AND v.id = c.vendor_id WHERE c.company_id = ? AND c.id = ?`,
    [companyId, id],
  );
  const head = orNotFound(found, 'This claim');
  const [lines, moves, owed] = await Promise.all([
    sql.rows<
      PartyColumns & {
        id: number;
        day: Day;
        supportId: number;
        support: string;
        invoiceId: number;
        invoice: string;
        itemId: number;
        itemNumber: string;
        itemName: string;
        unit: string;
        quantity: string;
        perUnit: string;
        amount: string;
      }
    >(
      `SELECT a.id, a.accrued_on AS day, s.id AS support_id, s.number AS support, i.id AS invoice_id, i.number AS invoice,
              p.id AS party_id, p.number AS party_number, p.name AS party_name, t.id AS item_id, t.number AS item_number, t.name AS item_name, t.unit,
              a.quantity, a.per_unit, a.amount
         FROM support_accrual a
         JOIN support_line l ON l.company_id = a.company_id AND l.id = a.support_line_id
         JOIN support s ON s.company_id = l.company_id AND s.id = l.support_id
         JOIN customer_invoice_line il ON il.company_id = a.company_id AND il.id = a.invoice_line_id
         JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
         JOIN customer p ON p.company_id = i.company_id AND p.id = i.customer_id
         JOIN sales_order_line ol ON ol.company_id = il.company_id AND ol.id = il.order_line_id
         JOIN item t ON t.company_id = ol.company_id AND t.id = ol.item_id
        WHERE a.company_id = ? AND a.claim_id = ? ORDER BY a.accrued_on, a.id`,
      [companyId, id],
    ),
    sql.rows<{
      kind: 'invoice' | 'paid' | 'lost';
      day: Day;
      amount: string;
      reason: string;
      invoiceId: number | null;
      invoice: string | null;
    }>(
      `SELECT m.kind, m.moved_on AS day, m.amount, m.reason, vi.id AS invoice_id, vi.number AS invoice FROM claim_move m
         LEFT JOIN open_item o ON o.company_id = m.company_id AND o.id = m.open_item_id
         LEFT JOIN vendor_invoice vi ON vi.company_id = o.company_id AND vi.id = o.vendor_invoice_id
        WHERE m.company_id = ? AND m.claim_id = ? ORDER BY m.id`,
      [companyId, id],
    ),
    sql.rows<{
      openItemId: number;
      invoiceId: number;
      invoice: string;
      vendorNumber: string;
      dueDate: Day;
      owed: string;
    }>(
      `SELECT o.id AS open_item_id, vi.id AS invoice_id, vi.number AS invoice, vi.vendor_number, o.due_date, o.amount - o.settled AS owed
         FROM open_item o JOIN vendor_invoice vi ON vi.company_id = o.company_id AND vi.id = o.vendor_invoice_id
        WHERE o.company_id = ? AND o.vendor_id = ? AND o.currency = ? AND o.settled < o.amount ORDER BY o.due_date, o.id LIMIT 50`,
      [companyId, head.partyId, head.currency],
    ),
  ]);
  return {
    document: { kind: 'CL', id, number: head.number },
    version: head.version,
    vendor: partyOf(head),
    currency: head.currency,
    until: head.untilDay,
    madeOn: head.madeOn,
    amount: head.amount,
    settled: head.settled,
    withdrawn: head.withdrawn,
    reason: head.reason,
    lines: lines.map((row) => ({
      id: row.id,
      day: row.day,
      support: { kind: 'VS' as const, id: row.supportId, number: row.support },
      invoice: { kind: 'CI' as const, id: row.invoiceId, number: row.invoice },
      customer: partyOf(row),
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      quantity: row.quantity,
      perUnit: row.perUnit,
      amount: row.amount,
    })),
    moves: moves.map(({ invoiceId, invoice, ...row }) => ({
      ...row,
      invoice: invoiceId === null ? null : { kind: 'VI' as const, id: invoiceId, number: invoice! },
    })),
    owed: owed.map(({ invoiceId, invoice, ...row }) => ({
      ...row,
      invoice: { kind: 'VI' as const, id: invoiceId, number: invoice },
    })),
  };
}

/** Claims on vendors, newest first. */
export function listClaims(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listClaims.query>,
): Promise<Out<typeof contract.listClaims>> {
  const like = query.q?.trim() ? likeOf(query.q) : null;
  const only = {
    open: 'AND NOT c.withdrawn AND c.settled < c.amount',
    settled: 'AND c.settled = c.amount',
    withdrawn: 'AND c.withdrawn',
  } as const;
  return pageById(
    (before, most) =>
      sql.rows<
        PartyColumns & {
          id: number;
          number: string;
          until: Day;
          madeOn: Day;
          amount: string;
          settled: string;
          withdrawn: boolean;
          currency: string;
        }
      >(
        `SELECT c.id, c.number, ${VENDOR}, c.until_day AS until, c.made_on, c.amount, c.settled, c.withdrawn, ${ownCurrency('c.company_id')} AS currency
           FROM claim c JOIN vendor v ON v.company_id = c.company_id AND v.id = c.vendor_id
          WHERE c.company_id = ? AND c.id < ? ${query.state ? only[query.state] : ''}
            ${like === null ? '' : 'AND (c.number LIKE ? OR v.name LIKE ?)'} ORDER BY c.id DESC LIMIT ?`,
        [companyId, before, ...(like === null ? [] : [like, like]), most],
      ),
    query,
    ({ id, number, partyId, partyNumber, partyName, withdrawn, ...row }) => ({
      document: { kind: 'CL' as const, id, number },
      vendor: partyOf({ partyId, partyNumber, partyName }),
      ...row,
      state: withdrawn
        ? ('withdrawn' as const)
        : dec(row.settled).gte(row.amount)
          ? ('settled' as const)
          : ('open' as const),
    }),
  );
}

/** What vendors owe us and is on no claim yet. */
export async function claimable(sql: Sql, companyId: number): Promise<Out<typeof contract.claimable>> {
  const [rows, [company]] = await Promise.all([
    sql.rows<PartyColumns & { amount: string; lines: number }>(
      `SELECT ${VENDOR}, SUM(a.amount) AS amount, COUNT(*) AS \`lines\` FROM support s
         JOIN vendor v ON v.company_id = s.company_id AND v.id = s.vendor_id
         JOIN support_line l ON l.company_id = s.company_id AND l.support_id = s.id
         JOIN support_accrual a ON a.company_id = l.company_id AND a.support_line_id = l.id AND a.claim_id IS NULL
        WHERE s.company_id = ? GROUP BY v.id HAVING amount <> 0 ORDER BY amount DESC`,
      [companyId],
    ),
    sql.rows<{ currency: string }>(`SELECT ${ownCurrency('?')} AS currency`, [companyId]),
  ]);
  return {
    currency: company!.currency,
    rows: rows.map(({ amount, lines, ...party }) => ({ vendor: partyOf(party), amount, lines })),
  };
}
