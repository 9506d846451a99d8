import type { InvoiceTax, OwedInvoice, SetOff } from '@core/billing';
import { sum, dec } from '@core/kernel';
import { setOffJournal, type JournalEntry } from '@core/ledger';
import type { Doer } from '../acts';
import type { Columns, Sql, Tx } from '../db';
import { invoiceTaxTable, openItemTable, setOffTable, type OpenItem } from './tables';

/** What is owed in both currencies. // P8 */
export type OwedColumns = 'amount settled ownAmount ownSettled';

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
  item: {
    currency: string;
    dueDate: string;
    amount: string;
    /** In the company's currency. // P8 */
    ownAmount: string;
    settled?: string;
    ownSettled?: string;
  },
): Promise<number> {
  const [id] = await tx.insert(openItemTable, [
    {
      companyId: doer.companyId,
      ...party,
      currency: item.currency,
      dueDate: item.dueDate,
      amount: item.amount,
      settled: item.settled ?? '0',
      ownAmount: item.ownAmount,
      ownSettled: item.ownSettled ?? '0',
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
  const rows = await sql.rows<Columns<OpenItem, OwedColumns> & { id: number; number: string }>(
    `SELECT oi.id, i.number, oi.amount, oi.settled, oi.own_amount, oi.own_settled
       FROM open_item oi JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
      WHERE oi.company_id = ? AND oi.customer_id = ? AND oi.currency = ? AND oi.settled < oi.amount
      ORDER BY oi.due_date, oi.id ${sql.forUpdate}`,
    [companyId, customerId, currency],
  );
  return rows.map(({ id, number, ...owed }) => ({ openItemId: id, number, owed }));
}

/** Sets a credit off against invoices: part of both is settled. */
export async function writeSetOffs(
  tx: Tx,
  doer: Doer,
  creditItemId: number,
  setOffs: readonly (SetOff & { openItemId: number })[],
): Promise<void> {
  await tx.batch(
    setOffs.flatMap(({ openItemId, amount, ownInvoice, ownCredit }) => [
      {
        sql: 'UPDATE open_item SET settled = settled + ?, own_settled = own_settled + ? WHERE company_id = ? AND id = ?',
        values: [amount, ownInvoice, doer.companyId, openItemId],
      },
      {
        sql: 'UPDATE open_item SET settled = settled - ?, own_settled = own_settled - ? WHERE company_id = ? AND id = ?',
        values: [amount, ownCredit, doer.companyId, creditItemId],
      },
    ]),
  );
  await tx.insertPlain(
    setOffTable,
    setOffs.map(({ openItemId, amount, ownInvoice, ownCredit }) => ({
      companyId: doer.companyId,
      creditItemId,
      invoiceItemId: openItemId,
      amount,
      ownInvoice,
      ownCredit,
      setOn: doer.workDate,
    })),
  );
}

/** What set-offs leave where both were not carried at one rate. // P8 */
export const setOffEntries = (side: 'customer' | 'vendor', setOffs: readonly SetOff[]): JournalEntry[] =>
  setOffJournal(
    side,
    sum(setOffs.map((each) => dec(each.ownInvoice))),
    sum(setOffs.map((each) => dec(each.ownCredit))),
  );
