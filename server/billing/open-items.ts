import type { InvoiceTax, OwedInvoice } from '@core/billing';
import type { Doer } from '../acts';
import type { Sql, Tx } from '../db';
import { invoiceTaxTable, openItemTable, setOffTable } from './tables';

/** Tax of an invoice or credit note by code, as posted. // P7 */
export async function insertTaxes(tx: Tx, doer: Doer, kind: string, id: number, taxes: readonly InvoiceTax[]) {
  await tx.insertPlain(
    invoiceTaxTable,
    taxes.map((tax) => ({
      companyId: doer.companyId,
      documentKind: kind,
      documentId: id,
      taxCode: tax.taxCode,
      taxRate: tax.taxRate,
      base: tax.base,
      tax: tax.tax,
    })),
  );
}

type PartyOf =
  | { customerId: number; customerInvoiceId: number }
  | { customerId: number; creditNoteId: number }
  | { vendorId: number; vendorInvoiceId: number };

/** What is owed: above zero by the customer or to the vendor, below zero to the customer; its id. */
export async function insertOpenItem(
  tx: Tx,
  doer: Doer,
  party: PartyOf,
  item: { currency: string; dueDate: string; amount: string; settled?: string },
): Promise<number> {
  const [id] = await tx.insert(openItemTable, [
    {
      companyId: doer.companyId,
      ...party,
      currency: item.currency,
      dueDate: item.dueDate,
      amount: item.amount,
      settled: item.settled ?? '0',
    },
  ]);
  return id!;
}

/** What a customer owes in a currency, oldest first, locked. */
export async function loadOwed(
  sql: Sql,
  companyId: number,
  customerId: number,
  currency: string,
): Promise<OwedInvoice[]> {
  const rows = await sql.rows<{ id: number; number: string; owed: string }>(
    `SELECT oi.id, i.number, oi.amount - oi.settled AS owed
       FROM open_item oi JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
      WHERE oi.company_id = ? AND oi.customer_id = ? AND oi.currency = ? AND oi.settled < oi.amount
      ORDER BY oi.due_date, oi.id ${sql.forUpdate}`,
    [companyId, customerId, currency],
  );
  return rows.map((row) => ({ openItemId: row.id, number: row.number, owed: row.owed }));
}

/** Sets a credit off against invoices: part of both is settled. */
export async function writeSetOffs(
  tx: Tx,
  doer: Doer,
  creditItemId: number,
  setOffs: readonly { openItemId: number; amount: string }[],
): Promise<void> {
  await tx.batch(
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
    setOffTable,
    setOffs.map(({ openItemId, amount }) => ({
      companyId: doer.companyId,
      creditItemId,
      invoiceItemId: openItemId,
      amount,
      setOn: doer.workDate,
    })),
  );
}
