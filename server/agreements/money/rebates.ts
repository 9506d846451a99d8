import type { RebateAccrual, RebateState } from '@core/agreements';
import { bothOf, dec, type Day, type DocumentKind } from '@core/kernel';
import { rebateAccrualJournal } from '@core/ledger';
import type { Doer } from '../../acts';
import type { Sql, Tx } from '../../db';
import type { JournalPlan } from '../../ledger';
import { rebateOf, type AgreementHead } from '../terms/store';
import { rebateEntryTable } from '../tables';

/** The rebates of agreements that are locked already; those without one are left out. // A10 */
export async function rebatesOf(sql: Sql, companyId: number, agreementIds: readonly number[]): Promise<RebateState[]> {
  if (agreementIds.length === 0) return [];
  const rows = await sql.rows<
    Pick<AgreementHead, 'id' | 'rebateKind' | 'rebateBy' | 'firstDay' | 'lastDay' | 'currency'> & {
      rebateValue: string;
      rebateQuantity: string;
      rebateAccrued: string;
      rebateSettled: string;
      rebateOwn: string;
    }
  >(
    `SELECT id, rebate_kind, rebate_by, first_day, last_day, currency, rebate_value, rebate_quantity, rebate_accrued, rebate_settled,
            rebate_own
       FROM agreement WHERE company_id = ? AND id IN (?) AND rebate_kind <> 'none'`,
    [companyId, agreementIds],
  );
  const states: RebateState[] = [];
  for (const row of rows) {
    states.push({
      agreementId: row.id,
      rebate: await rebateOf(sql, companyId, row),
      firstDay: row.firstDay,
      lastDay: row.lastDay,
      currency: row.currency,
      value: row.rebateValue,
      quantity: row.rebateQuantity,
      accrued: row.rebateAccrued,
      settled: row.rebateSettled,
      carried: row.rebateOwn,
    });
  }
  return states;
}

/** How many journals accruals will post: those whose sum owed changes. */
export const accrualJournals = (accruals: readonly RebateAccrual[]) =>
  accruals.filter((accrual) => !dec(accrual.accrued).eq(0)).length;

/** Writes what a document does to rebates, and answers the journals to post for it. // A10 P3 */
export async function writeAccruals(
  tx: Tx,
  doer: Doer,
  accruals: readonly RebateAccrual[],
  /** The document, and its currency where it is not the company's. */
  { currency, ...source }: { kind: DocumentKind; id: number; currency: string | null },
  postedOn: Day,
  nextNumber: () => string,
): Promise<JournalPlan[]> {
  const { companyId } = doer;
  await tx.batch(
    accruals.map((accrual) => ({
      sql: `UPDATE agreement SET rebate_value = rebate_value + ?, rebate_quantity = rebate_quantity + ?,
              rebate_accrued = rebate_accrued + ?, rebate_own = rebate_own + ? WHERE company_id = ? AND id = ?`,
      values: [accrual.value, accrual.quantity, accrual.accrued, accrual.ownAccrued, companyId, accrual.agreementId],
    })),
  );
  await tx.insertPlain(
    rebateEntryTable,
    accruals.map((accrual) => ({
      companyId,
      agreementId: accrual.agreementId,
      value: accrual.value,
      quantity: accrual.quantity,
      accrued: accrual.accrued,
      ownAccrued: accrual.ownAccrued,
      documentKind: source.kind,
      documentId: source.id,
      postedOn,
    })),
  );
  return accruals
    .filter((accrual) => !dec(accrual.accrued).eq(0))
    .map((accrual) => ({
      number: nextNumber(),
      source,
      postedOn,
      currency,
      entries: rebateAccrualJournal(bothOf(accrual.accrued, accrual.ownAccrued)),
    }));
}

/** What was invoiced on an agreement in its term, less credited: what a rebate agreed on later begins from. */
export async function invoicedInTerm(
  sql: Sql,
  companyId: number,
  agreementId: number,
  firstDay: Day,
  lastDay: Day,
): Promise<{ value: string; quantity: string }> {
  const [row] = await sql.rows<{ value: string | null; quantity: string | null }>(
    `SELECT SUM(value) AS value, SUM(quantity) AS quantity FROM (
       SELECT COALESCE(il.agreed_net, il.net) AS value, il.quantity
         FROM agreement_line l
         JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.agreement_line_id = l.id
         JOIN customer_invoice_line il ON il.company_id = ol.company_id AND il.order_line_id = ol.id
         JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
        WHERE l.company_id = ? AND l.agreement_id = ? AND i.invoice_date BETWEEN ? AND ?
       UNION ALL
       SELECT -COALESCE(cl.agreed_net, cl.net), -(cl.quantity + cl.uninvoiced)
         FROM agreement_line l
         JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.agreement_line_id = l.id
         JOIN credit_note_line cl ON cl.company_id = ol.company_id AND cl.order_line_id = ol.id
         JOIN customer_invoice_line il ON il.company_id = cl.company_id AND il.id = cl.invoice_line_id
         JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
        WHERE l.company_id = ? AND l.agreement_id = ? AND i.invoice_date BETWEEN ? AND ?
     ) counted`,
    [companyId, agreementId, firstDay, lastDay, companyId, agreementId, firstDay, lastDay],
  );
  return { value: row?.value ?? '0', quantity: row?.quantity ?? '0' };
}
