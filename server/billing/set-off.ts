import { decideSetOff, type OwedInvoice, type SetOffGround } from '@core/billing';
import { dec } from '@core/kernel';
import * as contract from '@api/billing';
import type * as z from 'zod';
import { defineAct, orNotFound, takeNumbers, type Touched } from '../acts';
import { foreignOf, ownCurrency } from '../catalogue';
import type { Columns, Sql } from '../db';
import { postJournals } from '../ledger';
import { setOffEntries, writeSetOffs, type OwedColumns } from './open-items';
import type { OpenItem } from './tables';

type Row = Columns<OpenItem, `id dueDate ${OwedColumns}`> & { documentId: number; number: string };

type Uses = Omit<SetOffGround, 'open'> & {
  document: Touched;
  partyId: number;
  open: readonly (OwedInvoice & { document: Touched; dueDate: string })[];
};

/** What stands to a party's credit and the open invoices it may be set off against, oldest first; locked by id. */
async function loadUses(sql: Sql, companyId: number, creditItemId: number): Promise<Uses> {
  const [credit] = await sql.rows<Columns<OpenItem, 'customerId vendorId currency'> & { own: string }>(
    `SELECT customer_id, vendor_id, currency, ${ownCurrency('company_id')} AS own FROM open_item
      WHERE company_id = ? AND id = ? AND amount < 0`,
    [companyId, creditItemId],
  );
  const { customerId, vendorId, currency, own } = orNotFound(credit, 'What stands to a credit');
  const side = customerId === null ? 'vendor' : 'customer';
  const rows = await sql.rows<Row>(
    `SELECT o.id, o.due_date, o.amount, o.settled, o.own_amount, o.own_settled, COALESCE(c.id, n.id, v.id) AS document_id,
            COALESCE(c.number, n.number, v.number) AS number
       FROM open_item o
       LEFT JOIN customer_invoice c ON c.company_id = o.company_id AND c.id = o.customer_invoice_id
       LEFT JOIN credit_note n ON n.company_id = o.company_id AND n.id = o.credit_note_id
       LEFT JOIN vendor_invoice v ON v.company_id = o.company_id AND v.id = o.vendor_invoice_id
      WHERE o.company_id = ? AND o.${side}_id = ? AND o.currency = ? AND (o.id = ? OR o.owing AND o.amount > 0)
      ORDER BY o.id ${sql.forUpdate}`,
    [companyId, (customerId ?? vendorId)!, currency, creditItemId],
  );
  const refOf = (kind: 'CI' | 'CN' | 'VI', { documentId, number }: Row) => ({ kind, id: documentId, number });
  const owedOf = ({ amount, settled, ownAmount, ownSettled }: Row) => ({ amount, settled, ownAmount, ownSettled });
  const standing = rows.find(({ id }) => id === creditItemId)!;
  return {
    side,
    partyId: (customerId ?? vendorId)!,
    document: refOf(side === 'customer' ? 'CN' : 'VI', standing),
    credit: { number: standing.number, owed: owedOf(standing) },
    currency,
    own,
    open: rows
      .filter(({ id }) => id !== creditItemId)
      .sort((a, b) => a.dueDate.localeCompare(b.dueDate) || a.id - b.id)
      .map((row) => ({
        openItemId: row.id,
        number: row.number,
        dueDate: row.dueDate,
        owed: owedOf(row),
        document: refOf(side === 'customer' ? 'CI' : 'VI', row),
      })),
  };
}

/** What a credit may be set off against. */
export async function creditUses(
  sql: Sql,
  companyId: number,
  creditItemId: number,
): Promise<z.infer<typeof contract.creditUses.out>> {
  const { credit, currency, open } = await loadUses(sql, companyId, creditItemId);
  return {
    currency,
    left: dec(credit.owed.settled).minus(credit.owed.amount).toFixed(),
    rows: open.map(({ openItemId, document, dueDate, owed }) => ({
      openItemId,
      document,
      dueDate,
      owed: dec(owed.amount).minus(owed.settled).toFixed(),
    })),
  };
}

/** Sets what stands to a party's credit off against invoices of theirs. // P3 P8 */
export const setOffCredit = defineAct(contract.setOffCredit, {
  right: 'payments',
  says: 'set credits off',
  done: 'credit set off',
  load: (sql, { creditItemId }, { companyId }) => loadUses(sql, companyId, creditItemId),
  decide: (ground, input) => decideSetOff(ground, input),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount, left }, { currency }) => ({ currency, amount, left }),
  async write(tx, { side, setOffs }, { document, currency, own, partyId, open }, doer, { creditItemId }) {
    await writeSetOffs(tx, doer, creditItemId, setOffs);
    const entries = setOffEntries(side, setOffs);
    const number = await takeNumbers(tx, doer.companyId, { JR: entries.length > 0 ? 1 : 0 });
    await postJournals(
      tx,
      doer,
      entries.length === 0
        ? []
        : [
            {
              number: number('JR'),
              source: document,
              postedOn: doer.workDate,
              entries,
              currency: foreignOf({ currency, own }),
              ...(side === 'customer' ? { customerId: partyId } : { vendorId: partyId }),
            },
          ],
    );
    const met = new Set(setOffs.map(({ openItemId }) => openItemId));
    return {
      made: [],
      touched: [document, ...open.filter((each) => met.has(each.openItemId)).map((each) => each.document)],
    };
  },
});
