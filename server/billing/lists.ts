import type * as z from 'zod';
import { agedByParty } from '@core/billing';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/billing';
import { Conditions, inOrderOf, likeOf, sortOf, walkedSorted, type Columns, type SortColumn, type Sql } from '../db';
import { partyNumbered, partyOf, type PartyColumns } from '../parties';
import { addDays } from '../room';
import type { CreditNote, Prepayment } from './tables';

const CREDIT_SORTS = {
  number: {},
  party: { up: true },
  credited: { column: 'n.credit_date' },
  total: { column: 'n.total' },
} satisfies Record<string, SortColumn>;

/** Credit notes newest first or as sorted; `q` looks in number, reason, and the customer's number and name. */
export async function listCredits(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listCredits.query>,
  workDate: Day,
): Promise<z.infer<typeof contract.listCredits.out>> {
  const conditions = new Conditions('n', companyId);
  const { add } = conditions;
  const partyId = query.party === undefined ? null : await partyNumbered(sql, companyId, 'customer', query.party);
  if (partyId !== null) add('n.customer_id = ?', partyId);
  addDays(add, 'n.credit_date', 'credited', query.credited, workDate);
  const words = query.q?.trim();
  if (words) {
    add(
      '(n.number LIKE ? OR n.reason LIKE ? OR c.name LIKE ? OR c.number LIKE ?)',
      ...Array<string>(4).fill(likeOf(words)),
    );
  }
  if (query.left) {
    add(
      'EXISTS (SELECT 1 FROM open_item oi WHERE oi.company_id = n.company_id AND oi.credit_note_id = n.id AND oi.owing)',
    );
  }
  const sort = sortOf<keyof typeof CREDIT_SORTS>(CREDIT_SORTS, query.sort, query.credited ? 'credited' : 'number');
  const keys = {
    number: 'PRIMARY',
    party: 'credit_note_customer',
    credited: 'credit_note_dated',
    total: 'credit_note_total',
  };
  const key = partyId === null ? keys[sort.name] : keys.party;
  const from = `credit_note n FORCE INDEX (${key})
    ${words ? 'JOIN customer c ON c.company_id = n.company_id AND c.id = n.customer_id' : ''}`;
  const { ids, next } = await walkedSorted(sql, companyId, { party: 'customer', sort, from }, query, conditions);
  if (ids.length === 0) return { rows: [], next };
  const rows = await sql.rows<
    Columns<CreditNote, 'id number kind creditDate reason currency total'> &
      PartyColumns & { againstKind: 'CI' | 'AG'; againstId: number; againstNumber: string; left: string }
  >(
    `SELECT n.id, n.number, n.kind, n.credit_date, n.reason, n.currency, n.total, c.id AS party_id, c.number AS party_number,
            c.name AS party_name, IF(i.id IS NULL, 'AG', 'CI') AS against_kind, COALESCE(i.id, a.id) AS against_id,
            COALESCE(i.number, a.number) AS against_number, oi.settled - oi.amount AS \`left\`
       FROM credit_note n
       JOIN customer c ON c.company_id = n.company_id AND c.id = n.customer_id
       JOIN open_item oi ON oi.company_id = n.company_id AND oi.credit_note_id = n.id
       LEFT JOIN customer_invoice i ON i.company_id = n.company_id AND i.id = n.customer_invoice_id
       LEFT JOIN agreement a ON a.company_id = n.company_id AND a.id = n.agreement_id
      WHERE n.company_id = ? AND n.id IN (?)`,
    [companyId, ids],
  );
  return {
    rows: inOrderOf(ids, rows).map((row) => ({
      document: { kind: 'CN', id: row.id, number: row.number },
      kind: row.kind,
      party: partyOf(row),
      against: { kind: row.againstKind, id: row.againstId, number: row.againstNumber },
      creditDate: row.creditDate,
      reason: row.reason,
      currency: row.currency,
      total: row.total,
      left: row.left,
    })),
    next,
  };
}

const PREPAYMENT_SORTS = {
  number: {},
  party: { up: true },
  taken: { column: 'n.taken_on' },
  amount: { column: 'n.amount' },
} satisfies Record<string, SortColumn>;

/** Prepayments newest first or as sorted; `q` looks in number, agreement, and the customer's number and name. */
export async function listPrepayments(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listPrepayments.query>,
  workDate: Day,
): Promise<z.infer<typeof contract.listPrepayments.out>> {
  const conditions = new Conditions('n', companyId);
  const { add } = conditions;
  const partyId = query.party === undefined ? null : await partyNumbered(sql, companyId, 'customer', query.party);
  if (partyId !== null) add('n.customer_id = ?', partyId);
  addDays(add, 'n.taken_on', 'taken', query.taken, workDate);
  if (query.left) add('n.amount > n.drawn + n.returned + n.carried');
  const joins = `JOIN customer c ON c.company_id = n.company_id AND c.id = n.customer_id
    LEFT JOIN agreement a ON a.company_id = n.company_id AND a.id = n.agreement_id
    LEFT JOIN sales_order o ON o.company_id = n.company_id AND o.id = n.order_id`;
  const words = query.q?.trim();
  if (words) {
    add(
      '(n.number LIKE ? OR COALESCE(a.number, o.number) LIKE ? OR c.name LIKE ? OR c.number LIKE ?)',
      ...Array<string>(4).fill(likeOf(words)),
    );
  }
  const sort = sortOf<keyof typeof PREPAYMENT_SORTS>(PREPAYMENT_SORTS, query.sort, query.taken ? 'taken' : 'number');
  const keys = {
    number: 'PRIMARY',
    party: 'prepayment_customer',
    taken: 'prepayment_taken',
    amount: 'prepayment_amount',
  };
  const from = `prepayment n FORCE INDEX (${partyId === null ? keys[sort.name] : keys.party}) ${words ? joins : ''}`;
  const { ids, next } = await walkedSorted(sql, companyId, { party: 'customer', sort, from }, query, conditions);
  if (ids.length === 0) return { rows: [], next };
  const rows = await sql.rows<
    Columns<Prepayment, 'id number takenOn currency amount drawn returned carried'> &
      PartyColumns & { agreementId: number | null; heldForId: number; heldForNumber: string }
  >(
    `SELECT n.id, n.number, n.taken_on, n.currency, n.amount, n.drawn, n.returned, n.carried, c.id AS party_id,
            c.number AS party_number, c.name AS party_name, n.agreement_id, COALESCE(a.id, o.id) AS held_for_id, COALESCE(a.number, o.number) AS held_for_number
       FROM prepayment n ${joins} WHERE n.company_id = ? AND n.id IN (?)`,
    [companyId, ids],
  );
  return {
    rows: inOrderOf(ids, rows).map((row) => {
      const gone = dec(row.returned).plus(row.carried);
      return {
        document: { kind: 'PP', id: row.id, number: row.number },
        party: partyOf(row),
        heldFor: { kind: row.agreementId === null ? 'SO' : 'AG', id: row.heldForId, number: row.heldForNumber },
        takenOn: row.takenOn,
        currency: row.currency,
        amount: row.amount,
        drawn: row.drawn,
        gone: gone.toFixed(),
        left: dec(row.amount).minus(row.drawn).minus(gone).toFixed(),
      };
    }),
    next,
  };
}

/** Parties shown by age; those whose oldest is due longest. */
const MOST_AGED = 500;

/** What is owed by party and currency, by how long it is due on the work date. O(open items) of the side. */
export async function openByAge(
  sql: Sql,
  companyId: number,
  { side, q }: z.output<typeof contract.openByAge.query>,
  workDate: Day,
): Promise<z.infer<typeof contract.openByAge.out>> {
  const words = q?.trim();
  const items = await sql.rows<PartyColumns & { currency: string; dueDate: Day; owed: string }>(
    `SELECT STRAIGHT_JOIN p.id AS party_id, p.number AS party_number, p.name AS party_name, oi.currency, oi.due_date,
            oi.amount - oi.settled AS owed
       FROM open_item oi FORCE INDEX (open_item_owing_${side})
       JOIN ${side} p ON p.company_id = oi.company_id AND p.id = oi.${side}_id
      WHERE oi.company_id = ? AND oi.owing = TRUE AND oi.${side}_id IS NOT NULL
        ${words ? 'AND (p.name LIKE ? OR p.number LIKE ?)' : ''}`,
    [companyId, ...(words ? [likeOf(words), likeOf(words)] : [])],
  );
  const { rows, sums } = agedByParty(
    items.map((item) => ({ party: partyOf(item), ...item })),
    workDate,
  );
  return { rows: rows.slice(0, MOST_AGED), sums, more: rows.length > MOST_AGED };
}
