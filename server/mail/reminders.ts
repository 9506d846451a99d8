import { decideReminders, type LateInvoice } from '@core/mail';
import * as contract from '@api/mail';
import type { Day } from '@core/kernel';
import { defineAct } from '../acts';
import type { Sql } from '../db';
import { messageDraftTable } from './tables';

/** Invoices of customers that are past due, oldest first; the customers locked, so that two do not remind at once. */
async function lateOf(
  sql: Sql,
  companyId: number,
  customerIds: readonly number[],
  workDate: Day,
): Promise<LateInvoice[]> {
  await sql.rows(`SELECT id FROM customer WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`, [
    companyId,
    customerIds,
  ]);
  return sql.rows<LateInvoice>(
    `SELECT c.id AS customer_id, c.name AS customer, c.email, c.language, i.id AS invoice_id, i.number,
            COALESCE(o.customer_reference, '') AS reference, oi.currency, oi.due_date, oi.amount - oi.settled AS owed
       FROM open_item oi FORCE INDEX (open_item_owing_customer)
       JOIN customer c ON c.company_id = oi.company_id AND c.id = oi.customer_id
       JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
       LEFT JOIN sales_order o ON o.company_id = i.company_id AND o.id = i.order_id
      WHERE oi.company_id = ? AND oi.owing = TRUE AND oi.customer_id IN (?) AND oi.due_date < ? AND oi.amount > oi.settled
      ORDER BY c.id, oi.currency, oi.due_date, oi.id`,
    [companyId, customerIds, workDate],
  );
}

/** Customers of whom a message about an invoice is drafted already. */
async function draftedOf(sql: Sql, companyId: number, customerIds: readonly number[]): Promise<Set<number>> {
  const rows = await sql.rows<{ customerId: number }>(
    `SELECT DISTINCT i.customer_id FROM message_draft d
       JOIN customer_invoice i ON i.company_id = d.company_id AND i.id = d.document_id
      WHERE d.company_id = ? AND d.document_kind = 'CI' AND i.customer_id IN (?)`,
    [companyId, customerIds],
  );
  return new Set(rows.map(({ customerId }) => customerId));
}

/** Drafts reminders of what is past due, one a customer and currency, each about its oldest invoice. */
export const draftReminders = defineAct(contract.draftReminders, {
  right: 'send',
  says: 'draft reminders',
  done: 'reminder drafted',
  async load(sql, { customerIds }, { companyId, personId, workDate }) {
    const late = await lateOf(sql, companyId, customerIds, workDate);
    const drafted = await draftedOf(sql, companyId, customerIds);
    const [from] = await sql.rows<{ company: string; person: string }>(
      'SELECT co.name AS company, p.name AS person FROM company co JOIN person p ON p.id = ? WHERE co.id = ?',
      [personId, companyId],
    );
    return { late, drafted, from: from! };
  },
  also: () => [{ right: 'see-debts', says: 'see what customers owe' }],
  decide: (ground, { customerIds }, { workDate }) => decideReminders(ground, customerIds, workDate),
  preview: (drafts) => ({
    rows: drafts.map(({ customer, subject, recipient }) => ({ customer, subject, recipient })),
  }),
  async write(tx, drafts, _ground, { companyId, personId, workDate }) {
    await tx.insert(
      messageDraftTable,
      drafts.map(({ customer, recipient, invoice, subject, body }) => ({
        companyId,
        writtenOn: workDate,
        personId,
        recipient,
        party: customer,
        subject,
        body,
        documentKind: 'CI',
        documentId: invoice.id,
        documentNumber: invoice.number,
      })),
    );
    return { made: [], touched: drafts.map(({ invoice }) => invoice) };
  },
});
