import type * as z from 'zod';
import type * as contract from '@api/workshop';
import { likeOf, PAGE_ROWS, type Bound, type Sql } from '../db';
import { JOIN_WORK, WORK_COLUMNS, workRows, type WorkColumns } from './rows';

type Query = z.infer<typeof contract.listWork.query>;

/** Which orders a filter shows: by whether they are open, and by their states. */
const SHOWN = {
  open: [true, null],
  waiting: [true, "('planned', 'firm')"],
  running: [true, "('running')"],
  finished: [false, "('finished')"],
  cancelled: [false, "('cancelled')"],
} as const;

/**
 * Production and assembly orders, the first due first; the cursor is the due day and id of the last. Walks
 * planned_order_open.
 */
export async function listWork(
  sql: Sql,
  companyId: number,
  query: Query,
): Promise<z.infer<typeof contract.listWork.out>> {
  const most = query.rows ?? PAGE_ROWS;
  const [open, states] = SHOWN[query.state ?? 'open'];
  const where = [states ? `AND p.state IN ${states}` : ''];
  const values: Bound[] = [];
  const at = /^(\d{4}-\d\d-\d\d)\.(\d{1,10})$/.exec(query.cursor ?? '');
  if (at) {
    where.push('AND (p.due_date > ? OR (p.due_date = ? AND p.id > ?))');
    values.push(at[1]!, at[1]!, Number(at[2]));
  }
  if (query.q?.trim()) {
    const like = likeOf(query.q);
    where.push(`AND (p.number LIKE ? OR i.number LIKE ? OR i.name LIKE ? OR EXISTS (SELECT 1 FROM planned_tie t
      JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
      JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
     WHERE t.company_id = p.company_id AND t.planned_order_id = p.id AND (o.number LIKE ? OR c.name LIKE ?)))`);
    values.push(like, like, like, like, like);
  }
  const rows = await sql.rows<WorkColumns>(
    `SELECT ${WORK_COLUMNS} FROM planned_order p FORCE INDEX (planned_order_open) ${JOIN_WORK}
      WHERE p.company_id = ? AND p.open = ${open ? 'TRUE' : 'FALSE'} AND p.kind <> 'buy' ${where.join(' ')}
      ORDER BY p.due_date, p.id LIMIT ?`,
    [companyId, ...values, most + 1],
  );
  const shown = rows.slice(0, most);
  const last = shown.at(-1);
  return {
    rows: await workRows(sql, companyId, shown),
    next: rows.length > most && last ? `${last.dueDate}.${last.id}` : null,
  };
}
