import type { Day, DocumentRef } from '@core/kernel';
import type { JournalEntry } from '@core/ledger';
import type { Doer } from '../acts';
import { newId, Piece, type Insertion, type TextPiece, type Tx } from '../db/database';

export interface JournalPlan<Number extends string | TextPiece = string> {
  number: Number;
  /** The document that posts it, written already or by the same trip. */
  source: { kind: DocumentRef['kind']; id: number | Piece };
  postedOn: Day;
  entries: readonly JournalEntry[];
  customerId?: number | null;
  vendorId?: number | null;
}

/** The heads of journals; those with nothing to post must have been left out. */
export function journalHeads(doer: Doer, plans: readonly JournalPlan<string | TextPiece>[]): Insertion {
  return {
    table: 'journal',
    ids: true,
    rows: plans.map((plan) => ({
      company_id: doer.companyId,
      number: plan.number,
      posted_on: plan.postedOn,
      document_kind: plan.source.kind,
      document_id: plan.source.id,
    })),
  };
}

/** The entries of the journals inserted before them in the same trip, each at the company's account for its role. */
export function journalEntries(doer: Doer, plans: readonly JournalPlan<string | TextPiece>[]): Insertion {
  const account = (role: string) =>
    new Piece('(SELECT id FROM account WHERE company_id = ? AND posting_role = ?)', [doer.companyId, role]);
  return {
    table: 'journal_entry',
    rows: plans.flatMap((plan, index) =>
      plan.entries.map((entry) => ({
        company_id: doer.companyId,
        journal_id: newId('journal', index),
        account_id: account(entry.role),
        amount: entry.amount,
        customer_id: entry.role === 'receivable' ? (plan.customerId ?? null) : null,
        vendor_id: entry.role === 'payable' ? (plan.vendorId ?? null) : null,
      })),
    ),
  };
}

/** Writes balanced journals with their entries: one trip, however many. // P1 P3 */
export async function postJournals(tx: Tx, doer: Doer, plans: readonly JournalPlan[]): Promise<DocumentRef[]> {
  const posted = plans.filter((plan) => plan.entries.length > 0);
  const [ids] = await tx.insertTogether([journalHeads(doer, posted), journalEntries(doer, posted)]);
  return posted.map((plan, index) => ({ kind: 'JR', id: ids![index]!, number: plan.number }));
}
