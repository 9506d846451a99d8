import type * as z from 'zod';
import { groupedBy } from '@core/kernel';
import type * as contract from '@api/counter';
import { ownCurrency } from '../catalogue';
import type { Sql } from '../db';

/** Items a device keeps at most. */
const MOST = 20_000;

/** What a device keeps of the items, at the list price of nobody in particular. Cost: all items in use. // C6 */
export async function counterShelf(sql: Sql, companyId: number): Promise<z.infer<typeof contract.counterShelf.out>> {
  const [rows, codes, [company]] = await Promise.all([
    sql.rows<{
      id: number;
      number: string;
      name: string;
      unit: string;
      price: string;
      taxCode: string;
      taxRate: string;
      permit: number;
      byNumber: number;
    }>(
      `SELECT i.id, i.number, i.name, i.unit, i.list_price AS price, t.code AS tax_code, t.rate AS tax_rate, i.permit_type_id IS NOT NULL AS permit,
              EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = i.company_id AND n.item_id = i.id) AS by_number
         FROM item i JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
        WHERE i.company_id = ? AND NOT i.out_of_use AND i.list_price > 0 ORDER BY i.number LIMIT ${MOST}`,
      [companyId],
    ),
    sql.rows<{ itemId: number; code: string; many: string }>(
      'SELECT item_id, code, quantity AS many FROM item_bar_code WHERE company_id = ? ORDER BY id',
      [companyId],
    ),
    sql.rows<{ currency: string }>(`SELECT ${ownCurrency('?')} AS currency`, [companyId]),
  ]);
  const of = groupedBy(codes, ({ itemId }) => itemId);
  return {
    currency: company!.currency,
    rows: rows.map(({ permit, byNumber, ...row }) => ({
      ...row,
      permit: permit > 0,
      byNumber: byNumber > 0,
      codes: (of.get(row.id) ?? []).map(({ code, many }) => ({ code, many })),
    })),
  };
}
