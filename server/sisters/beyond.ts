import type * as z from 'zod';
import type * as contract from '@api/sisters';
import { orNotFound } from '../acts';
import type { Sql } from '../db';
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
    const [company] = await sql.rows<SisterCompany & { works: number }>(
      `SELECT c.id, c.code, c.name, c.currency, c.elsewhere,
              EXISTS (SELECT 1 FROM person_role r WHERE r.company_id = c.id AND r.person_id = ?) AS works
         FROM company c WHERE c.id = ?`,
      [personId, there],
    );
    const { works, ...named } = company!;
    ends.push({
      company: named,
      number,
      thread: works && lineId !== null ? await openThread(sql, there, lineId) : null,
    });
  }
  return { ends };
}
