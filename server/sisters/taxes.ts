import { decideTaxes, type LineTax } from '@core/sisters';
import * as contract from '@api/sisters';
import { defineAct } from '../acts';
import type { Sql } from '../db';
import { sisterCompany, type OfferHead } from './sources';
import { sisterTaxTable } from './tables';

export interface TaxRef {
  id: number;
  code: string;
  name: string;
  rate: string;
}

export const taxesOf = (sql: Sql, companyId: number): Promise<TaxRef[]> =>
  sql.rows<TaxRef>('SELECT id, code, name, rate FROM tax_code WHERE company_id = ? ORDER BY code', [companyId]);

/** A sister's taxes, each with ours that it is on her invoices, where we said. // X1 */
export async function pairedTaxes(
  sql: Sql,
  companyId: number,
  sisterId: number,
): Promise<{ theirs: TaxRef; ours: TaxRef | null }[]> {
  const [theirs, ours] = [await taxesOf(sql, sisterId), await taxesOf(sql, companyId)];
  const pairs = await sql.rows<{ theirTaxCodeId: number; taxCodeId: number }>(
    'SELECT their_tax_code_id, tax_code_id FROM sister_tax WHERE company_id = ? AND sister_id = ?',
    [companyId, sisterId],
  );
  return theirs.map((their) => {
    const pair = pairs.find(({ theirTaxCodeId }) => theirTaxCodeId === their.id);
    return { theirs: their, ours: ours.find(({ id }) => id === pair?.taxCodeId) ?? null };
  });
}

/** The tax of each line of a sister's invoice, and what it is here. */
export async function taxesOfInvoice(
  sql: Sql,
  companyId: number,
  { fromId, sourceId }: Pick<OfferHead, 'fromId' | 'sourceId'>,
): Promise<Map<number, LineTax>> {
  const rows = await sql.rows<LineTax & { id: number }>(
    `SELECT d.order_line_id AS id, t.code, d.tax_rate AS rate, m.tax_code_id AS ours,
            (SELECT pl.tax_rate FROM sister_line x JOIN purchase_order_line pl ON pl.company_id = x.buyer_id AND pl.id = x.purchase_line_id
              WHERE x.seller_id = d.company_id AND x.sales_line_id = d.order_line_id AND x.buyer_id = ? LIMIT 1) AS own_rate
       FROM customer_invoice_line d JOIN tax_code t ON t.company_id = d.company_id AND t.id = d.tax_code_id
       LEFT JOIN sister_tax m ON m.company_id = ? AND m.sister_id = d.company_id AND m.their_tax_code_id = d.tax_code_id
      WHERE d.company_id = ? AND d.invoice_id = ? AND d.order_line_id IS NOT NULL ORDER BY d.id`,
    [companyId, companyId, fromId, sourceId],
  );
  return new Map(rows.map(({ id, ...tax }) => [id, tax]));
}

/** Says which of our taxes a sister's are, on what she invoices us. // X1 */
export const pairTaxes = defineAct(contract.pairTaxes, {
  right: 'lists',
  says: 'say who sister companies are',
  done: 'taxes paired',
  async load(sql, { sisterId }, { companyId }) {
    await sisterCompany(sql, sisterId);
    return { ours: await taxesOf(sql, companyId), theirs: await taxesOf(sql, sisterId) };
  },
  decide: (ground, input) => decideTaxes(ground, input),
  preview: ({ taxes }) => ({ paired: taxes.length }),
  async write(tx, { taxes }, _ground, { companyId }, { sisterId }) {
    await tx.run('DELETE FROM sister_tax WHERE company_id = ? AND sister_id = ? AND their_tax_code_id IN (?)', [
      companyId,
      sisterId,
      taxes.map(({ theirTaxCodeId }) => theirTaxCodeId),
    ]);
    const kept = taxes.flatMap(({ theirTaxCodeId, taxCodeId }) =>
      taxCodeId === null ? [] : [{ companyId, sisterId, theirTaxCodeId, taxCodeId }],
    );
    if (kept.length > 0) await tx.insertPlain(sisterTaxTable, kept);
    return { made: [], touched: [] };
  },
});
