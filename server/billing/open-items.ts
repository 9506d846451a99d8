import type { InvoiceTax, OwedInvoice } from '@core/billing';
import type { Doer } from '../acts';
import type { Sql, Tx } from '../db/database';
import { plain } from '../db/mapping';

/** Tax of an invoice or credit note by code, as posted. // P7 */
export async function insertTaxes(tx: Tx, doer: Doer, kind: string, id: number, taxes: readonly InvoiceTax[]) {
  await tx.insertPlain(
    'invoice_tax',
    taxes.map((tax) => ({
      company_id: doer.companyId,
      document_kind: kind,
      document_id: id,
      tax_code: tax.taxCode,
      tax_rate: tax.taxRate,
      base: tax.base,
      tax: tax.tax,
    })),
  );
}

type PartyOf =
  | { customer_id: number; customer_invoice_id: number }
  | { customer_id: number; credit_note_id: number }
  | { vendor_id: number; vendor_invoice_id: number };

/** What is owed: above zero by the customer or to the vendor, below zero to the customer; its id. */
export async function insertOpenItem(
  tx: Tx,
  doer: Doer,
  party: PartyOf,
  item: { currency: string; dueDate: string; amount: string; settled?: string },
): Promise<number> {
  const [id] = await tx.insert('open_item', [
    {
      company_id: doer.companyId,
      ...party,
      currency: item.currency,
      due_date: item.dueDate,
      amount: item.amount,
      settled: item.settled ?? '0',
    },
  ]);
  return id!;
}

/** What a customer owes in a currency, oldest first, locked. */
export async function lockOwed(
  sql: Sql,
  companyId: number,
  customerId: number,
  currency: string,
): Promise<OwedInvoice[]> {
  const rows = await sql.rows<{ id: number; number: string; owed: string }>(
    `SELECT oi.id, i.number, oi.amount - oi.settled AS owed
       FROM open_item oi JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
      WHERE oi.company_id = ? AND oi.customer_id = ? AND oi.currency = ? AND oi.settled < oi.amount
      ORDER BY oi.due_date, oi.id FOR UPDATE`,
    [companyId, customerId, currency],
  );
  return rows.map((row) => ({ openItemId: row.id, number: row.number, owed: plain(row.owed) }));
}

/** Sets a credit off against invoices: part of both is settled. */
export async function writeSetOffs(
  tx: Tx,
  doer: Doer,
  creditItemId: number,
  setOffs: readonly { openItemId: number; amount: string }[],
): Promise<void> {
  await tx.together(
    setOffs.flatMap(({ openItemId, amount }) => [
      {
        sql: 'UPDATE open_item SET settled = settled + ? WHERE company_id = ? AND id = ?',
        values: [amount, doer.companyId, openItemId],
      },
      {
        sql: 'UPDATE open_item SET settled = settled - ? WHERE company_id = ? AND id = ?',
        values: [amount, doer.companyId, creditItemId],
      },
    ]),
  );
  await tx.insertPlain(
    'set_off',
    setOffs.map(({ openItemId, amount }) => ({
      company_id: doer.companyId,
      credit_item_id: creditItemId,
      invoice_item_id: openItemId,
      amount,
      set_on: doer.workDate,
    })),
  );
}
