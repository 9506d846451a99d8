import type { Day, DocumentRef } from '@core/kernel';
import type { JournalEntry } from '@core/ledger';
import type { Doer } from '../acts';
import type { Tx } from '../db/database';

export interface JournalPlan {
  number: string;
  source: Pick<DocumentRef, 'kind' | 'id'>;
  postedOn: Day;
  entries: readonly JournalEntry[];
  customerId?: number | null;
  vendorId?: number | null;
}

/** Writes balanced journals with their entries: two statements, however many. // P1 P3 */
export async function postJournals(tx: Tx, doer: Doer, plans: readonly JournalPlan[]): Promise<DocumentRef[]> {
  const posted = plans.filter((plan) => plan.entries.length > 0);
  const ids = await tx.insert(
    'journal',
    posted.map((plan) => ({
      company_id: doer.companyId,
      number: plan.number,
      posted_on: plan.postedOn,
      document_kind: plan.source.kind,
      document_id: plan.source.id,
    })),
  );
  const entries = posted.flatMap((plan, index) =>
    plan.entries.map((entry) => [
      doer.companyId,
      ids[index]!,
      doer.companyId,
      entry.role,
      entry.amount,
      entry.role === 'receivable' ? (plan.customerId ?? null) : null,
      entry.role === 'payable' ? (plan.vendorId ?? null) : null,
    ]),
  );
  if (entries.length > 0) {
    const account = '(SELECT id FROM account WHERE company_id = ? AND posting_role = ?)';
    await tx.run(
      `INSERT INTO journal_entry (company_id, journal_id, account_id, amount, customer_id, vendor_id)
       VALUES ${entries.map(() => `(?,?,${account},?,?,?)`).join(',')}`,
      entries.flat(),
    );
  }
  return posted.map((plan, index) => ({ kind: 'JR', id: ids[index]!, number: plan.number }));
}
