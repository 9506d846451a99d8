import type { LayEffects } from '@core/promise';
import { tooLateFor, type LaidNow } from '@core/workshop';
import type { Columns, Sql, Statement } from '../db';
import type { PlannedOperation } from '../promise/tables';
import type { LoadedWork } from './store';

type Laid = LayEffects['operations'];

/**
 * Where operations of an order are laid now: where, when, and when what goes in at them is needed; what they held before
 * is gone. `lateId` is the one that was late: when it should have been over stays known.
 */
export function laidStatements(companyId: number, laid: Laid, lateId: number | null = null): Statement[] {
  if (laid.length === 0) return [];
  return [
    {
      sql: `DELETE FROM centre_hold WHERE company_id = ? AND planned_operation_id IN (${laid.map(() => '?').join(',')})`,
      values: [companyId, ...laid.map(({ id }) => id)],
    },
    ...laid.flatMap(({ id, centreId, begins, firstDay, lastDay }) => [
      {
        sql: `UPDATE planned_operation SET late_since = ${id === lateId ? 'COALESCE(late_since, last_day)' : 'NULL'},
                work_centre_id = ?, first_day = ?, last_day = ? WHERE company_id = ? AND id = ?`,
        values: [centreId, firstDay, lastDay, companyId, id],
      },
      {
        sql: `UPDATE planned_component k JOIN planned_operation o ON o.company_id = k.company_id AND o.planned_order_id = k.planned_order_id
                 AND o.no = k.operation_no SET k.needed_on = ? WHERE o.company_id = ? AND o.id = ?`,
        values: [begins, companyId, id],
      },
    ]),
  ];
}

/** An order laid by hand: there on a day, begun on another where its first operation is laid; no plan moves it any more. */
export function laidOrderStatement(companyId: number, workId: number, due: string, starts: string | null): Statement {
  return {
    sql: `UPDATE planned_order SET due_date = ?, start_date = COALESCE(?, start_date), state = IF(state = 'planned', 'firm', state),
            version = version + 1 WHERE company_id = ? AND id = ?`,
    values: [due, starts, companyId, workId],
  };
}

/** What laid operations hold of their centres, minute by minute. */
export const holdsOf = (companyId: number, laid: Laid) =>
  laid.flatMap(({ id, centreId, load }) =>
    load.map(({ day, from, until, machines }) => ({
      companyId,
      workCentreId: centreId,
      day,
      plannedOperationId: id,
      fromMinute: from,
      untilMinute: until,
      machines,
    })),
  );

/** Operations of an order with where they are laid, and whether anything was reported at them. */
export async function laidNow(sql: Sql, companyId: number, { order, operations }: LoadedWork): Promise<LaidNow[]> {
  const rows = await sql.rows<
    Columns<PlannedOperation, 'id firstDay lastDay'> & { centreId: number; parallel: string; reported: number }
  >(
    `SELECT o.id, o.work_centre_id AS centre_id, o.first_day, o.last_day,
            COALESCE((SELECT MAX(r.parallel) FROM routing_operation r WHERE r.company_id = o.company_id AND r.item_id = p.item_id
               AND r.no = o.no), 1) AS parallel,
            EXISTS (SELECT 1 FROM work_report_operation w WHERE w.company_id = o.company_id AND w.operation_id = o.id)
              OR EXISTS (SELECT 1 FROM work_report w WHERE w.company_id = o.company_id AND w.operation_id = o.id) AS reported
       FROM planned_operation o JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id
      WHERE o.company_id = ? AND o.planned_order_id = ?`,
    [companyId, order.id],
  );
  const laidAt = new Map(rows.map((row) => [row.id, row]));
  return operations.map((operation) => {
    const { parallel, reported, ...row } = laidAt.get(operation.id)!;
    return { ...operation, ...row, parallel: Number(parallel), reported: Boolean(reported) };
  });
}

/** The lines an order is for that ship before it is there. */
export const lateLines = ({ ties }: Pick<LoadedWork, 'ties'>, there: string) =>
  tooLateFor(ties, there).map(({ order, lineNo, shipDate }) => ({
    order: { kind: 'SO' as const, ...order },
    lineNo,
    shipDate,
  }));
