import { dec } from '@core/kernel';
import { workGivenBack, type GivenBack, type WorkOfLine } from '@core/workshop';
import type { Doer, Touched } from '../acts';
import type { Sql, Statement, Tx } from '../db';
import { cancelPlanned } from '../promise';
import { plannedBelow } from './cancel';

/** What is made for lines that are given up, locked after their order, and what becomes of it. // S6 */
export interface WorkOfLines extends GivenBack {
  touched: Touched[];
}

export async function loadGivenBack(sql: Sql, companyId: number, lineIds: readonly number[]): Promise<WorkOfLines> {
  const rows = await sql.rows<
    Omit<WorkOfLine, 'madeToOrder' | 'begun'> & {
      madeToOrder: number;
      begun: number;
      number: string;
      kind: 'PR' | 'AS';
    }
  >(
    `SELECT p.id AS planned_id, t.order_line_id, l.route IN ('make', 'assemble') AS made_to_order, p.state = 'running' AS begun,
            t.quantity, t.made, p.held, p.number, IF(p.kind = 'make', 'PR', 'AS') AS kind
       FROM planned_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.state IN ('firm', 'running')
      WHERE t.company_id = ? AND t.order_line_id IN (?) ORDER BY p.id ${sql.forUpdate}`,
    [companyId, lineIds],
  );
  const given = workGivenBack(
    rows.map((row) => ({ ...row, madeToOrder: Boolean(row.madeToOrder), begun: Boolean(row.begun) })),
  );
  const touched = new Map(rows.map(({ plannedId: id, number, kind }) => [id, { kind, id, number }]));
  return { ...given, touched: [...touched.values()] };
}

/** Writes what becomes of it. */
export async function writeGivenBack(tx: Tx, doer: Doer, { cancelled, untied }: GivenBack): Promise<void> {
  const { companyId } = doer;
  const below = [];
  for (const id of cancelled) below.push(...(await plannedBelow(tx, companyId, id)));
  await cancelPlanned(tx, doer, [...cancelled, ...below.map(({ id }) => id)]);
  await tx.batch(untied.flatMap((tie) => untiedStatements(companyId, tie)));
}

/** An order goes on for nobody, as far as nothing of it came for the line. // L4 */
export function untiedStatements(companyId: number, tie: GivenBack['untied'][number]): Statement[] {
  const { plannedId, orderLineId, quantity, gone } = tie;
  return [
    {
      sql: gone
        ? 'DELETE FROM planned_tie WHERE company_id = ? AND planned_order_id = ? AND order_line_id = ?'
        : 'UPDATE planned_tie SET quantity = quantity - ? WHERE company_id = ? AND planned_order_id = ? AND order_line_id = ?',
      values: [...(gone ? [] : [quantity]), companyId, plannedId, orderLineId],
    },
    {
      sql: 'UPDATE planned_order SET held = held + ?, version = version + 1 WHERE company_id = ? AND id = ?',
      values: [dec(quantity).neg().toFixed(), companyId, plannedId],
    },
  ];
}

/** Reads what is made for the lines of orders and still to come, locked; what is only planned for them follows by itself. */
export const comingRead = (sql: Sql, companyId: number, orderIds: readonly number[]): Statement => ({
  sql: `SELECT t.planned_order_id AS planned_id, t.order_line_id, t.quantity, t.made
       FROM sales_order_line l
       JOIN planned_tie t ON t.company_id = l.company_id AND t.order_line_id = l.id AND t.quantity > t.made
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.state IN ('firm', 'running')
      WHERE l.company_id = ? AND l.order_id IN (?) ORDER BY t.id ${sql.forUpdate}`,
  values: [companyId, [...orderIds]],
  rows: true,
});

/** What is beyond what lines want is for nobody. */
export const beyondStatements = (companyId: number, beyond: GivenBack['untied']): Statement[] =>
  beyond.flatMap((tie) => untiedStatements(companyId, tie));
