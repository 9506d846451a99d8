import type { BenchPlanned } from '@core/supply';
import type { Day } from '@core/kernel';
import type { Columns, Sql, Statement } from '../db';
import type { PlannedOrder } from '../promise/tables';
import { boughtItems } from './store';

/** Whom planned orders are for in the end: the line at the top of each, by planned order; none where it is for stock. */
export async function forWhom(sql: Sql, companyId: number, ids: readonly number[]) {
  const rows = await sql.rows<{
    id: number;
    lineNo: number;
    orderId: number;
    number: string;
    customerId: number;
    customerNumber: string;
    customerName: string;
  }>(
    `WITH RECURSIVE above AS (
       SELECT p.id, p.id AS top, p.parent_id FROM planned_order p WHERE p.company_id = ? AND p.id IN (?)
       UNION ALL
       SELECT a.id, u.id, u.parent_id FROM above a JOIN planned_order u ON u.company_id = ? AND u.id = a.parent_id)
     SELECT a.id, l.line_no, o.id AS order_id, o.number, c.id AS customer_id, c.number AS customer_number, c.name AS customer_name
       FROM above a
       JOIN planned_tie t ON t.company_id = ? AND t.planned_order_id = a.top
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id`,
    [companyId, ids, companyId, companyId],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** What is planned and open for the lines of an order, all the way down. */
export async function plannedForOrder(sql: Sql, companyId: number, orderId: number): Promise<number[]> {
  const rows = await sql.rows<{ id: number }>(
    `WITH RECURSIVE below AS (
       SELECT p.id FROM sales_order_line l
         JOIN planned_tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
         JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id
        WHERE l.company_id = ? AND l.order_id = ? AND p.open
       UNION ALL
       SELECT p.id FROM planned_order p JOIN below b ON p.parent_id = b.id WHERE p.company_id = ? AND p.open)
     SELECT id FROM below`,
    [companyId, orderId, companyId],
  );
  return rows.map((row) => row.id);
}

/** Planned purchases as placing decides on them, locked. */
export async function loadBenchPlanned(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
  day: Day,
): Promise<BenchPlanned[]> {
  if (ids.length === 0) return [];
  const rows = await sql.rows<
    Columns<PlannedOrder, 'id number state kind quantity held locationId dueDate itemId parentId'>
  >(
    `SELECT id, number, state, kind, quantity, held, location_id, due_date, item_id, parent_id FROM planned_order
      WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`,
    [companyId, ids],
  );
  const components = await sql.rows<{ id: number; plannedOrderId: number; itemId: number; covered: string }>(
    `SELECT id, planned_order_id, item_id, covered FROM planned_component
      WHERE company_id = ? AND planned_order_id IN (?) ORDER BY id ${sql.forUpdate}`,
    [companyId, rows.flatMap((row) => row.parentId ?? [])],
  );
  const items = await boughtItems(
    sql,
    companyId,
    rows.map((row) => row.itemId),
    day,
  );
  return rows.map((row) => ({
    ...row,
    ...items.get(row.itemId)!,
    brings: components
      .filter((each) => each.plannedOrderId === row.parentId && each.itemId === row.itemId)
      .map(({ id, covered }) => ({ componentId: id, covered })),
  }));
}

/** What was planned is placed: it holds nothing back any more, and what it was for waits for the purchase. // T12 */
export function placedStatements(
  companyId: number,
  placed: readonly { plannedId: number; purchaseLineId: number }[],
): Statement[] {
  return placed.map(({ plannedId, purchaseLineId }) => ({
    sql: `UPDATE planned_order SET state = 'placed', purchase_line_id = ?, version = version + 1
           WHERE company_id = ? AND id = ?`,
    values: [purchaseLineId, companyId, plannedId],
  }));
}
