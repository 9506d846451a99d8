import type { AgreementState, Side } from '@core/agreements';
import { AgreementColumns, EVERYTHING, NO_GROUP, type Amounts } from '@core/insight';
import type { Day } from '@core/kernel';
import type { Sql } from '../db';

/** Audit ids may commit out of order: those below the newest are looked at again for a while. */
const OVERLAP = 200;

interface Held {
  columns: AgreementColumns;
  /** The newest audit row there was, and those near it that were taken in. */
  newest: number;
  seen: Set<number>;
}

/** The agreements of each company, kept side by side in memory and brought up to date before they are read. */
export interface AgreementSums {
  /**
   * The columns as of what is committed now. Every act names the agreements it changed in its audit row; those of new
   * rows are read again. Reads all of a company's agreements the first time.
   */
  of(companyId: number): Promise<AgreementColumns>;
}

const kept = new WeakMap<Sql, AgreementSums>();

/** The sums of a database, kept for its life. */
export function sumsOf(sql: Sql): AgreementSums {
  const sums = kept.get(sql) ?? agreementSums(sql);
  kept.set(sql, sums);
  return sums;
}

function agreementSums(sql: Sql): AgreementSums {
  const companies = new Map<number, Promise<Held>>();

  async function newestOf(companyId: number): Promise<number> {
    const [row] = await sql.rows<{ id: number | null }>('SELECT MAX(id) AS id FROM audit WHERE company_id = ?', [
      companyId,
    ]);
    return row?.id ?? 0;
  }

  async function first(companyId: number): Promise<Held> {
    const held: Held = { columns: new AgreementColumns(), newest: await newestOf(companyId), seen: new Set() };
    await readInto(sql, companyId, held.columns, null);
    return held;
  }

  async function next(companyId: number, held: Held): Promise<Held> {
    const newest = await newestOf(companyId);
    const rows = await sql.rows<{ auditId: number; documentId: number }>(
      `SELECT audit_id, document_id FROM audit_document FORCE INDEX (audit_document_audit)
        WHERE company_id = ? AND audit_id > ? AND kind = 'AG'`,
      [companyId, held.newest - OVERLAP],
    );
    const fresh = rows.filter((row) => !held.seen.has(row.auditId));
    if (fresh.length > 0)
      await readInto(sql, companyId, held.columns, [...new Set(fresh.map((row) => row.documentId))]);
    for (const { auditId } of fresh) held.seen.add(auditId);
    held.newest = newest;
    for (const id of held.seen) if (id <= newest - OVERLAP) held.seen.delete(id);
    return held;
  }

  return {
    async of(companyId) {
      // One after the other for each company, so that an older reading never overtakes a newer one.
      const before = companies.get(companyId);
      const now = before ? before.then((held) => next(companyId, held)) : first(companyId);
      companies.set(companyId, now);
      try {
        return (await now).columns;
      } catch (error) {
        // What could not be read is read anew by whoever asks next.
        if (companies.get(companyId) === now) companies.delete(companyId);
        throw error;
      }
    },
  };
}

interface AmountRow {
  committedValue: string;
  releasedValue: string;
  shippedValue: string;
  invoicedValue: string;
}

const amountsOf = (row: AmountRow): Amounts => ({
  committed: row.committedValue,
  released: row.releasedValue,
  shipped: row.shippedValue,
  invoiced: row.invoicedValue,
});

/** Reads agreements (all of them where `ids` is null) into the columns. */
async function readInto(
  sql: Sql,
  companyId: number,
  columns: AgreementColumns,
  ids: readonly number[] | null,
): Promise<void> {
  const only = (column: string) => (ids ? `AND ${column} IN (?)` : '');
  const values = [companyId, ...(ids ? [ids] : [])];
  const lines = await sql.rows<AmountRow & { agreementId: number; groupId: number }>(
    `SELECT l.agreement_id, CAST(COALESCE(l.item_group_id, i.item_group_id, IF(l.item_id IS NULL, ${EVERYTHING}, ${NO_GROUP})) AS SIGNED) AS group_id,
            l.committed_value, l.released_value, l.shipped_value, l.invoiced_value
       FROM agreement_line l LEFT JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? ${only('l.agreement_id')}`,
    values,
  );
  const byAgreement = new Map<number, (Amounts & { groupId: number })[]>();
  for (const line of lines) {
    const own = byAgreement.get(line.agreementId) ?? [];
    own.push({ groupId: line.groupId, ...amountsOf(line) });
    byAgreement.set(line.agreementId, own);
  }
  const heads = await sql.rows<
    AmountRow & {
      id: number;
      side: Side;
      state: AgreementState;
      currency: string;
      partyId: number;
      salesOrganisationId: number | null;
      firstDay: Day;
      lastDay: Day;
      usedUp: boolean;
    }
  >(
    `SELECT a.id, a.side, a.state, a.currency, COALESCE(a.customer_id, a.vendor_id) AS party_id, a.sales_organisation_id,
            a.first_day, a.last_day, a.committed_value, a.released_value, a.shipped_value, a.invoiced_value,
            a.used_up
       FROM agreement a WHERE a.company_id = ? ${only('a.id')}`,
    values,
  );
  for (const head of heads) {
    columns.put({
      id: head.id,
      side: head.side,
      state: head.state,
      currency: head.currency,
      partyId: head.partyId,
      organisationId: head.salesOrganisationId,
      firstDay: head.firstDay,
      lastDay: head.lastDay,
      usedUp: head.usedUp,
      ...amountsOf(head),
      lines: byAgreement.get(head.id) ?? [],
    });
  }
}
