import type * as z from 'zod';
import type { Day, DocumentKind } from '@core/kernel';
import { dec } from '@core/kernel';
import { readTypedRange } from '@core/typed';
import type * as contract from '@api/ledger';
import { ownCurrency } from '../catalogue';
import { likeOf, pageById, TABLE_OF, type Bound, type Sql } from '../db';
import { addDays } from '../room';

/**
 * What each account stood at before a range of days, what moved in it, and what it stands at; without a range, up to now.
 * O(entries of the company): a sum of all that was ever posted.
 */
export async function listAccounts(
  sql: Sql,
  companyId: number,
  days: string | undefined,
  workDate: Day,
): Promise<z.infer<typeof contract.listAccounts.out>> {
  // Refuses what is no range.
  addDays(() => undefined, '', 'days', days, workDate);
  const range = days?.trim() ? readTypedRange(days, workDate) : null;
  const from = range?.from ?? '0001-01-01';
  const to = range?.to ?? '9999-12-31';
  const rows = await sql.rows<{
    id: number;
    code: string;
    name: string;
    currency: string;
    earlier: string | null;
    debit: string | null;
    credit: string | null;
  }>(
    `SELECT a.id, a.code, a.name, ${ownCurrency('a.company_id')} AS currency, s.earlier AS earlier, s.debit, s.credit
       FROM account a
       LEFT JOIN (
         SELECT e.account_id, SUM(IF(j.posted_on < ?, e.amount, 0)) AS earlier,
                SUM(IF(j.posted_on >= ? AND e.amount > 0, e.amount, 0)) AS debit,
                SUM(IF(j.posted_on >= ? AND e.amount < 0, -e.amount, 0)) AS credit
           FROM journal j JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
          WHERE j.company_id = ? AND j.posted_on <= ? GROUP BY e.account_id
       ) s ON s.account_id = a.id
      WHERE a.company_id = ? ORDER BY a.code`,
    [from, from, from, companyId, to, companyId],
  );
  return {
    currency: rows[0]?.currency ?? '',
    rows: rows.map(({ id, code, name, earlier, debit, credit }) => ({
      id,
      code,
      name,
      before: earlier ?? '0',
      debit: debit ?? '0',
      credit: credit ?? '0',
      balance: dec(earlier ?? '0')
        .plus(debit ?? '0')
        .minus(credit ?? '0')
        .toFixed(),
    })),
  };
}

/** What was posted on an account, newest first; `q` looks in the party's name and number, and the journal's number. */
export async function listEntries(
  sql: Sql,
  companyId: number,
  accountId: number,
  query: z.output<typeof contract.listEntries.query>,
  workDate: Day,
): Promise<z.infer<typeof contract.listEntries.out>> {
  const where: string[] = [];
  const values: Bound[] = [];
  addDays(
    (condition, ...bound) => {
      where.push(`AND ${condition}`);
      values.push(...bound);
    },
    'j.posted_on',
    'days',
    query.days,
    workDate,
  );
  const words = query.q?.trim();
  if (words) {
    where.push(
      "AND (j.number LIKE ? OR COALESCE(c.name, v.name, '') LIKE ? OR COALESCE(c.number, v.number, '') LIKE ?)",
    );
    values.push(...Array<string>(3).fill(likeOf(words)));
  }
  interface Row {
    id: number;
    postedOn: Day;
    journalId: number;
    number: string;
    documentKind: DocumentKind;
    documentId: number;
    party: string;
    amount: string;
  }
  const page = await pageById<Row, Row>(
    (before, most) =>
      sql.rows<Row>(
        `SELECT STRAIGHT_JOIN e.id, j.posted_on, j.id AS journal_id, j.number, j.document_kind, j.document_id,
                COALESCE(c.name, v.name, '') AS party, e.amount
           FROM journal_entry e FORCE INDEX (journal_entry_account)
           JOIN journal j ON j.company_id = e.company_id AND j.id = e.journal_id
           LEFT JOIN customer c ON c.company_id = e.company_id AND c.id = e.customer_id
           LEFT JOIN vendor v ON v.company_id = e.company_id AND v.id = e.vendor_id
          WHERE e.company_id = ? AND e.account_id = ? AND e.id < ? ${where.join(' ')} ORDER BY e.id DESC LIMIT ?`,
        [companyId, accountId, before, ...values, most],
      ),
    query,
    (row) => row,
  );
  const numbers = await numbersOf(sql, companyId, page.rows);
  return {
    rows: page.rows.map((row) => ({
      id: row.id,
      postedOn: row.postedOn,
      journal: { kind: 'JR', id: row.journalId, number: row.number },
      source: {
        kind: row.documentKind,
        id: row.documentId,
        number: numbers.get(`${row.documentKind} ${row.documentId}`) ?? row.number,
      },
      party: row.party,
      amount: row.amount,
    })),
    next: page.next,
  };
}

/** Numbers of the documents that posted, by `KIND id`: one read a kind. */
async function numbersOf(
  sql: Sql,
  companyId: number,
  rows: readonly { documentKind: DocumentKind; documentId: number }[],
): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const kind of new Set(rows.map(({ documentKind }) => documentKind))) {
    const ids = rows.filter(({ documentKind }) => documentKind === kind).map(({ documentId }) => documentId);
    const named = await sql.rows<{ id: number; number: string }>(
      `SELECT id, number FROM ${TABLE_OF[kind]} WHERE company_id = ? AND id IN (?)`,
      [companyId, [...new Set(ids)]],
    );
    for (const { id, number } of named) found.set(`${kind} ${id}`, number);
  }
  return found;
}
