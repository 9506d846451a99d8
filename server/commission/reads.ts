import type * as z from 'zod';
import type { CommissionBase, EarnedAt, StatementState } from '@core/commission';
import { addDays, type Day } from '@core/kernel';
import type * as contract from '@api/commission';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Sql } from '../db';
import type { SignedIn } from '../room';

type Out<E extends { out: z.ZodType }> = z.infer<E['out']>;
type Line = Out<typeof contract.openStatement>['lines'][number];

/** Lines shown that are on no statement yet; how far back months are told. */
const SHOWN = 200;
const MONTH_DAYS = 335;

interface LineRow {
  id: number;
  day: Day;
  invoiceId: number;
  invoiceNumber: string;
  orderId: number;
  orderNumber: string;
  partyId: number;
  partyNumber: string;
  partyName: string;
  itemId: number;
  itemNumber: string;
  itemName: string;
  unit: string;
  share: string;
  perCent: string;
  of: CommissionBase;
  at: EarnedAt;
  base: string;
  amount: string;
}

/** Earnings with what they are of; the condition follows. */
const LINES = `SELECT e.id, e.earned_on AS day, i.id AS invoice_id, i.number AS invoice_number, o.id AS order_id, o.number AS order_number,
       c.id AS party_id, c.number AS party_number, c.name AS party_name, t.id AS item_id, t.number AS item_number, t.name AS item_name, t.unit,
       e.share, e.per_cent, e.base AS \`of\`, e.earned_at AS at, e.of_amount AS base, e.amount
  FROM commission_earning e
  JOIN customer_invoice_line il ON il.company_id = e.company_id AND il.id = e.invoice_line_id
  JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
  JOIN sales_order_line ol ON ol.company_id = il.company_id AND ol.id = il.order_line_id
  JOIN sales_order o ON o.company_id = ol.company_id AND o.id = ol.order_id
  JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
  JOIN item t ON t.company_id = ol.company_id AND t.id = ol.item_id`;

const lineOf = (row: LineRow): Line => ({
  id: row.id,
  day: row.day,
  invoice: { kind: 'CI', id: row.invoiceId, number: row.invoiceNumber },
  order: { kind: 'SO', id: row.orderId, number: row.orderNumber },
  customer: { id: row.partyId, number: row.partyNumber, name: row.partyName },
  item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
  share: row.share,
  perCent: row.perCent,
  of: row.of,
  at: row.at,
  base: row.base,
  amount: row.amount,
});

interface StatementHead {
  id: number;
  number: string;
  version: number;
  state: StatementState;
  reason: string;
  personId: number;
  person: string;
  untilDay: Day;
  amount: string;
  madeOn: Day;
  paidOn: Day | null;
  currency: string;
}

const HEAD = `SELECT ${ownCurrency('s.company_id')} AS currency, s.id, s.number, s.version, s.state, s.reason, s.person_id, p.name AS person, s.until_day, s.amount, s.made_on, s.paid_on
  FROM commission_statement s JOIN person p ON p.id = s.person_id`;

const statementOf = (row: StatementHead) => ({
  document: { kind: 'CS' as const, id: row.id, number: row.number },
  person: { id: row.personId, name: row.person },
  state: row.state,
  until: row.untilDay,
  amount: row.amount,
  madeOn: row.madeOn,
  paidOn: row.paidOn,
});

const mayAll = ({ rights }: SignedIn): boolean => rights.includes('commission');

/** What somebody earned: oneself, or anybody for who may see that; whose is asked otherwise is not found. // S12 */
export async function commissionOf(
  sql: Sql,
  who: SignedIn,
  asked: number | undefined,
): Promise<Out<typeof contract.commissionOf>> {
  const { companyId, workDate } = who;
  const all = mayAll(who);
  const people = all
    ? await sql.rows<{ id: number; name: string; open: string }>(
        `SELECT p.id, p.name, COALESCE((SELECT SUM(e.amount) FROM commission_earning e
                  WHERE e.company_id = ? AND e.person_id = p.id AND e.statement_id IS NULL), 0) AS open
           FROM person p
          WHERE EXISTS (SELECT 1 FROM commission_earning e WHERE e.company_id = ? AND e.person_id = p.id)
             OR EXISTS (SELECT 1 FROM order_commission s WHERE s.company_id = ? AND s.person_id = p.id)
          ORDER BY p.name`,
        [companyId, companyId, companyId],
      )
    : [];
  const personId = asked ?? (people.some(({ id }) => id === who.personId) || !all ? who.personId : people[0]?.id);
  if (!all && personId !== who.personId) orNotFound(undefined, 'This sales person');
  const [[person], open, [count], statements, months, [company]] = await Promise.all([
    sql.rows<{ id: number; name: string }>('SELECT id, name FROM person WHERE id = ?', [personId ?? who.personId]),
    sql.rows<LineRow>(
      `${LINES} WHERE e.company_id = ? AND e.person_id = ? AND e.statement_id IS NULL ORDER BY e.earned_on DESC, e.id DESC LIMIT ${SHOWN}`,
      [companyId, personId ?? 0],
    ),
    sql.rows<{ count: number; amount: string }>(
      `SELECT COUNT(*) AS count, COALESCE(SUM(amount), 0) AS amount FROM commission_earning
        WHERE company_id = ? AND person_id = ? AND statement_id IS NULL`,
      [companyId, personId ?? 0],
    ),
    sql.rows<StatementHead>(`${HEAD} WHERE s.company_id = ? AND s.person_id = ? ORDER BY s.id DESC LIMIT 50`, [
      companyId,
      personId ?? 0,
    ]),
    sql.rows<{ month: string; amount: string }>(
      `SELECT DATE_FORMAT(earned_on, '%Y-%m') AS month, SUM(amount) AS amount FROM commission_earning
        WHERE company_id = ? AND person_id = ? AND earned_on >= ? GROUP BY month ORDER BY month`,
      [companyId, personId ?? 0, `${addDays(workDate, -MONTH_DAYS).slice(0, 7)}-01`],
    ),
    sql.rows<{ currency: string }>(`SELECT ${ownCurrency('?')} AS currency`, [companyId]),
  ]);
  return {
    currency: company!.currency,
    all,
    people,
    person: orNotFound(person, 'This sales person'),
    open: open.map(lineOf),
    openCount: count!.count,
    openAmount: count!.amount,
    statements: statements.map(statementOf),
    months,
  };
}

/** One statement with its lines: one's own, or anybody's for who may see that. // S12 */
export async function openStatement(sql: Sql, who: SignedIn, id: number): Promise<Out<typeof contract.openStatement>> {
  const { companyId } = who;
  const [found] = await sql.rows<StatementHead>(`${HEAD} WHERE s.company_id = ? AND s.id = ?`, [companyId, id]);
  const all = mayAll(who);
  const head = orNotFound(found && (all || found.personId === who.personId) ? found : undefined, 'This statement');
  const lines = await sql.rows<LineRow>(
    `${LINES} WHERE e.company_id = ? AND e.statement_id = ? ORDER BY e.earned_on, e.id`,
    [companyId, id],
  );
  return {
    ...statementOf(head),
    version: head.version,
    reason: head.reason,
    currency: head.currency,
    lines: lines.map(lineOf),
    all,
  };
}
