import type { RevisedLine } from '@core/agreements';
import type { Sql } from '../db/database';
import { listPriceIn, plain } from '../db/mapping';
import { breaksOf, PRICE_COLUMNS, priceTermOf, type AgreementHead, type PriceColumns } from './store';

/** A line in the terms it is typed in, with the price without the agreement. */
export interface TermLine extends RevisedLine {
  listPrice: string;
}

/** The lines of an agreement as they are typed; the price without it is the list's, or the vendor's. */
export async function termLinesOf(
  sql: Sql,
  companyId: number,
  head: Pick<AgreementHead, 'id' | 'basis' | 'vendor_id' | 'currency'>,
): Promise<TermLine[]> {
  const breaks = await breaksOf(sql, companyId, head.id);
  const rows = await sql.rows<
    PriceColumns & {
      id: number;
      line_no: number;
      item_id: number | null;
      item_group_id: number | null;
      covers: string;
      list_price: string | null;
      vendor_price: string | null;
      committed: string;
      committed_value: string;
      released: string;
      released_value: string;
      least_release: string;
      release_multiple: string;
      notes: string;
    }
  >(
    `SELECT l.id, l.line_no, l.item_id, l.item_group_id, COALESCE(i.number, g.name, 'everything') AS covers,
            IF(i.id IS NULL, NULL, ${listPriceIn('?')}) AS list_price,
            v.unit_price AS vendor_price, l.committed, l.committed_value, l.released, l.released_value, ${PRICE_COLUMNS},
            l.least_release, l.release_multiple, l.notes
       FROM agreement_line l
       LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN item_group g ON g.company_id = l.company_id AND g.id = l.item_group_id
       LEFT JOIN item_vendor v ON v.company_id = l.company_id AND v.item_id = l.item_id AND v.vendor_id = ?
      WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
    [head.currency, head.currency, head.vendor_id ?? 0, companyId, head.id],
  );
  const byValue = head.basis === 'value';
  return rows.map((row) => ({
    id: row.id,
    lineNo: row.line_no,
    covers: row.covers,
    itemId: row.item_id,
    groupId: row.item_group_id,
    listPrice: plain((head.vendor_id === null ? row.list_price : row.vendor_price) ?? '0'),
    committed: plain(byValue ? row.committed_value : row.committed),
    released: plain(byValue ? row.released_value : row.released),
    ...priceTermOf(row, breaks.get(row.id) ?? []),
    leastRelease: plain(row.least_release),
    releaseMultiple: plain(row.release_multiple),
    notes: row.notes,
  }));
}
