import type { Sql } from '../../db';

/** What is planned for lines, and for that, all the way down; not what is firm. // T12 */
export function plannedFor(sql: Sql, companyId: number, lines: readonly number[]): Promise<number[]> {
  return below(
    sql,
    companyId,
    'p.id IN (SELECT pt.planned_order_id FROM planned_tie pt WHERE pt.company_id = p.company_id AND pt.order_line_id IN (?))',
    [lines],
  );
}

/** What is planned for lines of confirmed orders, all the way down; not what is firm. */
export function plannedForAll(sql: Sql, companyId: number): Promise<number[]> {
  const confirmed = `EXISTS (SELECT 1 FROM planned_tie pt
      JOIN sales_order_line l ON l.company_id = pt.company_id AND l.id = pt.order_line_id
      JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
     WHERE pt.company_id = p.company_id AND pt.planned_order_id = p.id AND o.state = 'confirmed')`;
  return below(sql, companyId, confirmed, []);
}

async function below(sql: Sql, companyId: number, top: string, values: readonly (readonly number[])[]) {
  const rows = await sql.rows<{ id: number }>(
    `WITH RECURSIVE below AS (
       SELECT p.id FROM planned_order p WHERE p.company_id = ? AND p.open AND p.state = 'planned' AND ${top}
       UNION ALL
       SELECT p.id FROM planned_order p JOIN below b ON p.parent_id = b.id WHERE p.company_id = ? AND p.open AND p.state = 'planned')
     SELECT id FROM below`,
    [companyId, ...values, companyId],
  );
  return rows.map((row) => row.id);
}
