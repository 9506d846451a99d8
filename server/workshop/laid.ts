import type { LayEffects } from '@core/promise';
import type { Statement } from '../db';

type Laid = LayEffects['operations'];

/** Where operations of an order are laid now: where, when, and when what goes in at them is needed; what they held before is gone. */
export function laidStatements(companyId: number, laid: Laid): Statement[] {
  if (laid.length === 0) return [];
  return [
    {
      sql: `DELETE FROM centre_hold WHERE company_id = ? AND planned_operation_id IN (${laid.map(() => '?').join(',')})`,
      values: [companyId, ...laid.map(({ id }) => id)],
    },
    ...laid.flatMap(({ id, centreId, begins, firstDay, lastDay }) => [
      {
        sql: 'UPDATE planned_operation SET work_centre_id = ?, first_day = ?, last_day = ? WHERE company_id = ? AND id = ?',
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
