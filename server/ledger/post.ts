import type { Day, DocumentRef } from '@core/kernel';
import { goodsKey, onAccounts, type AccountRole, type Goods, type JournalEntry } from '@core/ledger';
import type { Doer } from '../acts';
import { into, newId, type Insertion, type Piece, type TextPiece, type Tx } from '../db';
import { journalEntryTable, journalTable } from './tables';

export interface JournalPlan<Number extends string | TextPiece = string> {
  number: Number;
  /** The document that posts it, written already or by the same trip. */
  source: { kind: DocumentRef['kind']; id: number | Piece };
  postedOn: Day;
  entries: readonly JournalEntry[];
  /** The document's currency; none where it is the company's. // P8 */
  currency?: string | null;
  /** Of one that is its own document: why it was made, and the journal it takes back. // W6 */
  reason?: string;
  reversesId?: number | null;
  /** It opens the books. // U3 */
  opening?: boolean;
  customerId?: number | null;
  vendorId?: number | null;
}

/** The heads of journals; those with nothing to post must have been left out. */
export function journalHeads(doer: Doer, plans: readonly JournalPlan<string | TextPiece>[]): Insertion {
  return into(
    journalTable,
    plans.map((plan) => ({
      companyId: doer.companyId,
      number: plan.number,
      postedOn: plan.postedOn,
      documentKind: plan.source.kind,
      documentId: plan.source.id,
      reason: plan.reason ?? '',
      reversesId: plan.reversesId ?? null,
      opening: plan.opening ?? false,
    })),
    { ids: true },
  );
}

/**
 * The entries of the journals inserted before them in the same trip, each at the company's account for its role, or at
 * the one that the group of its goods has.
 */
export async function journalEntries(
  tx: Tx,
  doer: Doer,
  plans: readonly JournalPlan<string | TextPiece>[],
): Promise<Insertion> {
  const accounts = await accountsOf(tx, doer.companyId);
  const ofGoods = await accountsOfGoods(tx, doer.companyId, plans);
  return into(
    journalEntryTable,
    plans.flatMap((plan, index) =>
      plan.entries.flatMap((entry) =>
        onAccounts(entry, (goods) => ofGoods(entry.role, goods), entry.accountId ?? accounts.get(entry.role)!).map(
          ({ accountId, amount, foreign }) => ({
            companyId: doer.companyId,
            journalId: newId(journalTable, index),
            accountId,
            amount,
            ...(plan.currency && foreign !== null
              ? { currency: plan.currency, foreignAmount: foreign }
              : { currency: null, foreignAmount: null }),
            customerId: entry.role === 'receivable' ? (plan.customerId ?? null) : null,
            vendorId: entry.role === 'payable' ? (plan.vendorId ?? null) : null,
          }),
        ),
      ),
    ),
  );
}

/** Where the item of goods is found. */
const ITEM_OF = {
  item: { from: 'item x', item: 'x.id' },
  'order-line': { from: 'sales_order_line x', item: 'x.item_id' },
  'purchase-line': { from: 'purchase_order_line x', item: 'x.item_id' },
} as const;

/** The accounts that groups have of their own for what is posted of goods; none where the group has none. // U2 */
async function accountsOfGoods(
  tx: Tx,
  companyId: number,
  plans: readonly JournalPlan<string | TextPiece>[],
): Promise<(role: AccountRole, goods: Goods) => number | undefined> {
  const shares = plans.flatMap(({ entries }) => entries.flatMap((entry) => entry.shares ?? []));
  const found = new Map<string, { revenue: number | null; cost: number | null }>();
  for (const by of new Set(shares.map((share) => share.by))) {
    const { from, item } = ITEM_OF[by];
    const rows = await tx.rows<{ id: number; revenue: number | null; cost: number | null }>(
      `SELECT x.id, g.revenue_account_id AS revenue, g.cost_account_id AS cost
         FROM item_group g JOIN item i ON i.company_id = g.company_id AND i.item_group_id = g.id
         JOIN ${from} ON x.company_id = i.company_id AND ${item} = i.id
        WHERE x.company_id = ? AND x.id IN (?)
          AND (g.revenue_account_id IS NOT NULL OR g.cost_account_id IS NOT NULL)`,
      [companyId, [...new Set(shares.filter((share) => share.by === by).map(({ id }) => id))]],
    );
    for (const row of rows) found.set(goodsKey({ by, id: row.id }), row);
  }
  return (role, goods) => {
    const accounts = found.get(goodsKey(goods));
    return (
      (role === 'revenue' ? accounts?.revenue : role === 'cost-of-sales' ? accounts?.cost : undefined) ?? undefined
    );
  };
}

/** The company's accounts by what is posted to them: made with the company, never moved or taken away. */
function accountsOf(tx: Tx, companyId: number): Promise<Map<AccountRole, number>> {
  return tx.kept(`accounts of ${companyId}`, async () => {
    const rows = await tx.rows<{ id: number; postingRole: AccountRole }>(
      'SELECT id, posting_role FROM account WHERE company_id = ? AND posting_role IS NOT NULL',
      [companyId],
    );
    return new Map(rows.map((row) => [row.postingRole, row.id]));
  });
}

/** Writes balanced journals with their entries: one trip, however many. // P1 P3 */
export async function postJournals(tx: Tx, doer: Doer, plans: readonly JournalPlan[]): Promise<DocumentRef[]> {
  const posted = plans.filter((plan) => plan.entries.length > 0);
  const [ids] = await tx.insertBatch([journalHeads(doer, posted), await journalEntries(tx, doer, posted)]);
  return posted.map((plan, index) => ({ kind: 'JR', id: ids![index]!, number: plan.number }));
}
