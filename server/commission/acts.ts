import { decideStatement, decideStatementBack, decideStatementPaid, earningsOf } from '@core/commission';
import { dec, isDay, sum } from '@core/kernel';
import { commissionJournal, commissionPaidJournal, type JournalEntry } from '@core/ledger';
import { decided, refuse } from '@core/refusals';
import * as contract from '@api/commission';
import { defineAct, orNotFound, takeNumbers, type Doer } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Sql, Tx } from '../db';
import { postJournals } from '../ledger';
import { invoicedLines, ratesOf } from './lines';
import { commissionEarningTable, commissionStatementTable, type CommissionStatement } from './tables';

/** Invoices looked at in one go. */
const MOST = 200;

/** Reckons what is earned of invoices that changed since they were looked at, or of all since a day. // S12 */
export const countCommission = defineAct(contract.countCommission, {
  right: 'commission',
  says: 'reckon commission',
  done: 'commission reckoned',
  async load(sql, { since }, { companyId }) {
    const due =
      since === null
        ? await sql.rows<{ invoiceId: number }>(
            `SELECT invoice_id FROM commission_due WHERE company_id = ? ORDER BY invoice_id LIMIT ${MOST} ${sql.forUpdate}`,
            [companyId],
          )
        : await sql.rows<{ invoiceId: number }>(
            'SELECT id AS invoice_id FROM customer_invoice WHERE company_id = ? AND invoice_date >= ? ORDER BY id',
            [companyId, isDay(since) ? since : '9999-12-31'],
          );
    const invoiceIds = due.map(({ invoiceId }) => invoiceId);
    // Whoever looks at an invoice looks alone: what was earned of it is read after.
    if (sql.forUpdate) {
      await sql.rows('SELECT id FROM customer_invoice WHERE company_id = ? AND id IN (?) ORDER BY id FOR UPDATE', [
        companyId,
        invoiceIds,
      ]);
    }
    const [lines, rates] = await Promise.all([invoicedLines(sql, companyId, invoiceIds), ratesOf(sql, companyId)]);
    return { invoiceIds, lines, rates };
  },
  decide: ({ lines, rates }, { since }, { workDate }) =>
    decided(since !== null && !isDay(since) ? [refuse('not-a-day', 'since', { what: 'The day' })] : [], () =>
      earningsOf(lines, rates, workDate),
    ),
  preview: (earnings) => ({
    earnings: earnings.length,
    amount: sum(earnings.map(({ amount }) => dec(amount))).toFixed(),
  }),
  async write(tx, earnings, { invoiceIds }, { companyId }) {
    await tx.run('DELETE FROM commission_due WHERE company_id = ? AND invoice_id IN (?)', [companyId, invoiceIds]);
    if (earnings.length > 0) {
      await tx.insert(
        commissionEarningTable,
        earnings.map(({ lineId, personId, perCent, of, at, share, base, amount, day }) => ({
          companyId,
          personId,
          invoiceLineId: lineId,
          perCent,
          base: of,
          earnedAt: at,
          share,
          ofAmount: base,
          amount,
          earnedOn: day,
        })),
      );
    }
    return { made: [], touched: [] };
  },
});

/** Posts a statement's journal; one of nothing posts none. */
async function post(tx: Tx, doer: Doer, id: number, entries: readonly JournalEntry[]): Promise<void> {
  if (entries.length === 0) return;
  const number = await takeNumbers(tx, doer.companyId, { JR: 1 });
  await postJournals(tx, doer, [
    { number: number('JR'), source: { kind: 'CS', id }, postedOn: doer.workDate, entries, currency: null },
  ]);
}

/** What a sales person earned up to a day goes on a statement, each line on one, and is owed to them. // S12 */
export const makeStatement = defineAct(contract.makeStatement, {
  right: 'commission',
  says: 'make commission statements',
  done: 'statement made',
  async load(sql, { personId, until }, { companyId }) {
    const [person] = await sql.rows<{ id: number; name: string }>(
      'SELECT DISTINCT p.id, p.name FROM person p JOIN person_role r ON r.person_id = p.id WHERE p.id = ? AND r.company_id = ?',
      [personId, companyId],
    );
    const earned = await sql.rows<{ id: number; amount: string }>(
      `SELECT id, amount FROM commission_earning FORCE INDEX (commission_earning_person)
        WHERE company_id = ? AND person_id = ? AND statement_id IS NULL AND earned_on <= ? ORDER BY id ${sql.forUpdate}`,
      [companyId, personId, isDay(until) ? until : '1000-01-01'],
    );
    return { person: person ?? null, earned };
  },
  decide: (ground, { until }, { workDate }) => decideStatement(ground, until, workDate),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount, earningIds }) => ({ amount, lines: earningIds.length }),
  async write(tx, { amount, earningIds }, { person }, doer, { until }) {
    const { companyId, workDate } = doer;
    const number = (await takeNumbers(tx, companyId, { CS: 1 }))('CS');
    const [id] = await tx.insert(commissionStatementTable, [
      { companyId, number, personId: person!.id, untilDay: until, amount, madeOn: workDate },
    ]);
    await tx.run('UPDATE commission_earning SET statement_id = ? WHERE company_id = ? AND id IN (?)', [
      id!,
      companyId,
      earningIds,
    ]);
    await post(tx, doer, id!, commissionJournal(amount));
    return { made: [{ kind: 'CS', id: id!, number, version: 1 }], touched: [] };
  },
});

type Head = Pick<CommissionStatement, 'id' | 'number' | 'version' | 'state' | 'amount'> & { currency: string };

async function loadStatement(sql: Sql, companyId: number, id: number): Promise<Head> {
  const [row] = await sql.rows<Head>(
    `SELECT id, number, version, state, amount, ${ownCurrency('company_id')} AS currency FROM commission_statement
      WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This statement');
}

const touchedOf = ({ id, number, version }: Head) => ({ kind: 'CS' as const, id, number, version: version + 1 });

/** Pays a statement, once. // S12 P1 */
export const payStatement = defineAct(contract.payStatement, {
  right: 'payments',
  says: 'pay commission',
  done: 'commission paid',
  expectedVersion: ({ id, version }) => ({ kind: 'CS', id, version }),
  load: (sql, { id }, { companyId }) => loadStatement(sql, companyId, id),
  decide: (head) => decideStatementPaid(head),
  second: ({ amount }, { currency, number }) =>
    dec(amount).gt(0) ? [{ kind: 'money-out', words: `Pay ${currency} ${dec(amount).toFixed(2)} of ${number}` }] : [],
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount }) => ({ amount }),
  async write(tx, { amount }, head, doer) {
    await tx.run(
      "UPDATE commission_statement SET state = 'paid', paid_on = ?, version = version + 1 WHERE company_id = ? AND id = ?",
      [doer.workDate, doer.companyId, head.id],
    );
    await post(tx, doer, head.id, commissionPaidJournal(amount));
    return { made: [], touched: [touchedOf(head)] };
  },
});

/** Takes back a statement that is not paid: its lines can be on another, its journal is reversed. // S12 P1 */
export const takeBackStatement = defineAct(contract.takeBackStatement, {
  right: 'commission',
  says: 'take commission statements back',
  done: 'statement taken back',
  expectedVersion: ({ id, version }) => ({ kind: 'CS', id, version }),
  load: (sql, { id }, { companyId }) => loadStatement(sql, companyId, id),
  decide: (head, { reason }) => decideStatementBack(head, reason),
  posts: (_effects, { workDate }) => workDate,
  preview: () => ({}),
  async write(tx, { reason }, head, doer) {
    const { companyId } = doer;
    await tx.run(
      "UPDATE commission_statement SET state = 'withdrawn', reason = ?, version = version + 1 WHERE company_id = ? AND id = ?",
      [reason, companyId, head.id],
    );
    await tx.run('UPDATE commission_earning SET statement_id = NULL WHERE company_id = ? AND statement_id = ?', [
      companyId,
      head.id,
    ]);
    await post(tx, doer, head.id, commissionJournal(dec(head.amount).neg().toFixed()));
    return { made: [], touched: [{ ...touchedOf(head), reason }] };
  },
});
