import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type * as contract from '@api/sisters';
import { orNotFound } from '../acts';
import type { Sql } from '../db';
import { openPegging } from '../promise';
import { openThread } from '../supply';
import type { SisterCompany } from './sources';

interface End {
  companyId: number;
  number: string;
  /** Her line whose thread goes on; null where she bought it for her own stock. */
  lineId: number | null;
}

/** What a line of ours is at a sister's: what she sold us it as, and what she bought it as. */
const ENDS = `SELECT DISTINCT x.seller_id AS company_id, o.number, x.sales_line_id AS line_id
    FROM tie t
    JOIN sister_line x ON x.buyer_id = t.company_id AND x.purchase_line_id = t.purchase_line_id
    JOIN sales_order_line l ON l.company_id = x.seller_id AND l.id = x.sales_line_id
    JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
   WHERE t.company_id = ? AND t.order_line_id = ?
   UNION
  SELECT DISTINCT x.buyer_id, p.number, t.order_line_id
    FROM sister_line x
    JOIN purchase_order_line l ON l.company_id = x.buyer_id AND l.id = x.purchase_line_id
    JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
    LEFT JOIN tie t ON t.company_id = l.company_id AND t.purchase_line_id = l.id
   WHERE x.seller_id = ? AND x.sales_line_id = ?`;

/** Where a thread goes on at sisters', each whole for who works there too. // X4 */
export async function threadBeyond(
  sql: Sql,
  { companyId, personId }: { companyId: number; personId: number },
  orderLineId: number,
): Promise<z.infer<typeof contract.threadBeyond.out>> {
  const [own] = await sql.rows('SELECT id FROM sales_order_line WHERE company_id = ? AND id = ?', [
    companyId,
    orderLineId,
  ]);
  orNotFound(own, 'This order line');
  const found = await sql.rows<End>(ENDS, [companyId, orderLineId, companyId, orderLineId]);
  const ends = [];
  for (const { companyId: there, number, lineId } of found) {
    const { works, on: _, ...named } = await companyFor(sql, personId, there);
    ends.push({
      company: named,
      number,
      thread: works && lineId !== null ? await openThread(sql, there, lineId) : null,
    });
  }
  return { ends };
}

interface DocumentEnd {
  companyId: number;
  id: number;
  number: string;
  side: 'down' | 'up';
}

/** What serves orders and purchases of ours at a sister's, and what of hers our orders serve. */
const DOCUMENTS = {
  SO: `SELECT DISTINCT x.seller_id AS company_id, o.id, o.number, 'down' AS side
         FROM sales_order_line l
         JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
         JOIN sister_line x ON x.buyer_id = t.company_id AND x.purchase_line_id = t.purchase_line_id
         JOIN sales_order_line y ON y.company_id = x.seller_id AND y.id = x.sales_line_id
         JOIN sales_order o ON o.company_id = y.company_id AND o.id = y.order_id
        WHERE l.company_id = ? AND l.order_id = ?
        UNION
       SELECT DISTINCT x.buyer_id, p.id, p.number, 'up'
         FROM sales_order_line l
         JOIN sister_line x ON x.seller_id = l.company_id AND x.sales_line_id = l.id
         JOIN purchase_order_line y ON y.company_id = x.buyer_id AND y.id = x.purchase_line_id
         JOIN purchase_order p ON p.company_id = y.company_id AND p.id = y.purchase_order_id
        WHERE l.company_id = ? AND l.order_id = ?`,
  PO: `SELECT DISTINCT x.seller_id AS company_id, o.id, o.number, 'down' AS side
         FROM purchase_order_line l
         JOIN sister_line x ON x.buyer_id = l.company_id AND x.purchase_line_id = l.id
         JOIN sales_order_line y ON y.company_id = x.seller_id AND y.id = x.sales_line_id
         JOIN sales_order o ON o.company_id = y.company_id AND o.id = y.order_id
        WHERE l.company_id = ? AND l.purchase_order_id = ?`,
} as const;

/** Where pegging goes on at sisters', each all the way for who works there too, on that company's work date. // X4 T11 */
export async function peggingBeyond(
  sql: Sql,
  { companyId, personId, workDate }: { companyId: number; personId: number; workDate: Day },
  { kind, id }: z.infer<typeof contract.peggingBeyond.params>,
): Promise<z.infer<typeof contract.peggingBeyond.out>> {
  if (kind !== 'SO' && kind !== 'PO') return { ends: [] };
  const own = [companyId, id];
  const found = await sql.rows<DocumentEnd>(DOCUMENTS[kind], kind === 'SO' ? [...own, ...own] : own);
  const ends = [];
  for (const { companyId: there, id: hers, number, side } of found) {
    const { works, on, ...company } = await companyFor(sql, personId, there);
    const asked = { kind: side === 'down' ? ('SO' as const) : ('PO' as const), id: hers };
    const rows = works ? (await openPegging(sql, there, on ?? workDate, asked))[side] : null;
    ends.push({ company, number, side, rows });
  }
  return { ends };
}

/** A company, its work date, and whether somebody works there. */
async function companyFor(
  sql: Sql,
  personId: number,
  id: number,
): Promise<SisterCompany & { works: boolean; on: Day | null }> {
  const [row] = await sql.rows<SisterCompany & { works: number; on: Day | null }>(
    `SELECT c.id, c.code, c.name, c.currency, c.elsewhere, c.work_date AS \`on\`,
            EXISTS (SELECT 1 FROM person_role r WHERE r.company_id = c.id AND r.person_id = ?) AS works
       FROM company c WHERE c.id = ?`,
    [personId, id],
  );
  return { ...row!, works: Boolean(row!.works) };
}
