import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type * as contract from '@api/workshop';
import { NUMBER_AT } from '../catalogue';
import type { Columns, Sql } from '../db';
import type { PlannedOrder } from '../promise/tables';
import { WORK_KIND } from './report';
import type { WorkState } from '@core/workshop';

export type Row = z.infer<typeof contract.listWork.out>['rows'][number];

export type WorkColumns = Columns<
  PlannedOrder,
  'id version number itemId quantity finished scrapped startDate dueDate parentId'
> & {
  kind: 'make' | 'assemble';
  state: WorkState;
  itemNumber: string;
  itemName: string;
  unit: string;
  parentNumber: string | null;
  parentKind: 'make' | 'assemble' | null;
};

/** What a row of an order `p` is made of, and what is joined for it. */
export const WORK_COLUMNS = `p.id, p.version, p.number, p.kind, p.state, p.item_id, ${NUMBER_AT} AS item_number, i.name AS item_name,
       i.unit, p.quantity, p.finished, p.scrapped, p.start_date, p.due_date, p.parent_id, u.number AS parent_number, u.kind AS parent_kind`;
export const JOIN_WORK = `JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
  JOIN location lo ON lo.company_id = p.company_id AND lo.id = p.location_id
  LEFT JOIN planned_order u ON u.company_id = p.company_id AND u.id = p.parent_id`;

/** Orders with whom they are for and what they lack: three queries, each by the keys of the orders. */
export async function workRows(sql: Sql, companyId: number, rows: readonly WorkColumns[]): Promise<Row[]> {
  const ids = rows.map(({ id }) => id);
  const ties = await whomFor(sql, companyId, ids);
  const lacks = await lackedBy(sql, companyId, ids);
  return rows.map((row) => ({
    document: { kind: WORK_KIND[row.kind], id: row.id, number: row.number },
    state: row.state,
    version: row.version,
    item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
    quantity: row.quantity,
    finished: row.finished,
    scrapped: row.scrapped,
    start: row.startDate,
    due: row.dueDate,
    for: ties.filter(({ plannedId }) => plannedId === row.id).map(({ plannedId: _of, ...tie }) => tie),
    above:
      row.parentId === null
        ? null
        : { kind: WORK_KIND[row.parentKind ?? 'make'], id: row.parentId, number: row.parentNumber! },
    lacks: lacks.filter(({ plannedId }) => plannedId === row.id).map(({ plannedId: _of, ...lack }) => lack),
  }));
}

/** The lines orders are for, the first to ship first. */
export async function whomFor(sql: Sql, companyId: number, ids: readonly number[]) {
  const rows = await sql.rows<{
    plannedId: number;
    orderLineId: number;
    orderId: number;
    orderNumber: string;
    party: string;
    lineNo: number;
    shipDate: Day;
    quantity: string;
    made: string;
  }>(
    `SELECT t.planned_order_id AS planned_id, t.order_line_id, o.id AS order_id, o.number AS order_number, c.name AS party,
            l.line_no, l.ship_date, t.quantity, t.made
       FROM planned_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE t.company_id = ? AND t.planned_order_id IN (?) ORDER BY l.ship_date, t.id`,
    [companyId, ids],
  );
  return rows.map(({ orderId, orderNumber, ...row }) => ({
    ...row,
    order: { kind: 'SO' as const, id: orderId, number: orderNumber },
  }));
}

/**
 * What open orders still need of their components beyond what is free where they are made, each order by itself; with the
 * day what is planned for it comes, or else the next purchase of it.
 */
export async function lackedBy(sql: Sql, companyId: number, ids: readonly number[]) {
  const rows = await sql.rows<{
    plannedId: number;
    itemId: number;
    number: string;
    name: string;
    unit: string;
    quantity: string;
    free: string;
    comesOn: Day | null;
  }>(
    `SELECT k.planned_order_id AS planned_id, k.item_id, i.number, i.name, i.unit,
            SUM(GREATEST(0, k.quantity - k.used)) AS quantity,
            COALESCE(MAX(s.on_hand - s.reserved), 0) AS free,
            COALESCE((SELECT MAX(d.due_date) FROM planned_order d WHERE d.company_id = k.company_id
               AND d.parent_id = k.planned_order_id AND d.item_id = k.item_id AND d.open),
            (SELECT MIN(l.due_date) FROM purchase_order_line l
               JOIN purchase_order b ON b.company_id = l.company_id AND b.id = l.purchase_order_id AND b.state = 'placed'
                AND b.ship_to_id IS NULL
              WHERE l.company_id = k.company_id AND l.item_id = k.item_id AND l.received < l.quantity)) AS comes_on
       FROM planned_component k
       JOIN planned_order p ON p.company_id = k.company_id AND p.id = k.planned_order_id AND p.open
       JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
       LEFT JOIN stock s ON s.company_id = k.company_id AND s.item_id = k.item_id AND s.location_id = p.location_id
      WHERE k.company_id = ? AND k.planned_order_id IN (?)
      GROUP BY k.planned_order_id, k.item_id HAVING quantity > free ORDER BY k.planned_order_id, MIN(k.id)`,
    [companyId, ids],
  );
  return rows.map(({ plannedId, itemId, number, name, unit, quantity, free, comesOn }) => ({
    plannedId,
    item: { id: itemId, number, name, unit },
    quantity,
    free,
    comesOn,
  }));
}
