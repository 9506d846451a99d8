import type { RevisedLine } from '@core/agreements';
import type { Sql } from '../../db';
import { listPriceIn } from '../../catalogue';
import { breaksOf, PRICE_COLUMNS, priceTermOf, type AgreementHead, type PriceColumns } from './store';

/** A line in the terms it is typed in, with the price without the agreement. */
export interface TermLine extends RevisedLine {
  listPrice: string;
}

type LinesHead = Pick<AgreementHead, 'id' | 'basis' | 'vendorId' | 'currency'>;

/** The lines of an agreement as they are typed; the price without it is the list's, or the vendor's. */
export async function termLinesOf(sql: Sql, companyId: number, head: LinesHead): Promise<TermLine[]> {
  return (await termLinesOfAll(sql, companyId, [head])).get(head.id)!;
}

/** The same of several agreements, in two reads however many. */
export async function termLinesOfAll(
  sql: Sql,
  companyId: number,
  heads: readonly LinesHead[],
): Promise<Map<number, TermLine[]>> {
  const ids = heads.map(({ id }) => id);
  const breaks = await breaksOf(sql, companyId, ids);
  const rows = await sql.rows<
    PriceColumns & {
      id: number;
      agreementId: number;
      lineNo: number;
      itemId: number | null;
      itemGroupId: number | null;
      covers: string;
      listPrice: string | null;
      vendorPrice: string | null;
      committed: string;
      committedValue: string;
      released: string;
      releasedValue: string;
      leastRelease: string;
      releaseMultiple: string;
      notes: string;
    }
  >(
    `SELECT l.id, l.agreement_id, l.line_no, l.item_id, l.item_group_id, COALESCE(i.number, g.name, 'everything') AS covers,
            IF(i.id IS NULL, NULL, ${listPriceIn('a.currency')}) AS list_price,
            v.unit_price AS vendor_price, l.committed, l.committed_value, l.released, l.released_value, ${PRICE_COLUMNS},
            l.least_release, l.release_multiple, l.notes
       FROM agreement a
       JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
       LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN item_group g ON g.company_id = l.company_id AND g.id = l.item_group_id
       LEFT JOIN item_vendor v ON v.company_id = l.company_id AND v.item_id = l.item_id AND v.vendor_id = a.vendor_id
      WHERE a.company_id = ? AND a.id IN (?) ORDER BY l.agreement_id, l.line_no`,
    [companyId, ids],
  );
  const headOf = new Map(heads.map((head) => [head.id, head]));
  const found = new Map<number, TermLine[]>(ids.map((id) => [id, []]));
  for (const row of rows) {
    const { basis, vendorId } = headOf.get(row.agreementId)!;
    const byValue = basis === 'value';
    found.get(row.agreementId)!.push({
      id: row.id,
      lineNo: row.lineNo,
      covers: row.covers,
      itemId: row.itemId,
      groupId: row.itemGroupId,
      listPrice: (vendorId === null ? row.listPrice : row.vendorPrice) ?? '0',
      committed: byValue ? row.committedValue : row.committed,
      released: byValue ? row.releasedValue : row.released,
      ...priceTermOf(row, breaks.get(row.id) ?? []),
      leastRelease: row.leastRelease,
      releaseMultiple: row.releaseMultiple,
      notes: row.notes,
    });
  }
  return found;
}
