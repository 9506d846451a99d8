import type { Statement } from '../../db';

/** A change of an agreement line's counters, in quantity and value. */
export interface CounterChange {
  agreementLineId: number;
  quantity: string;
  value: string;
}

/** What moves one counter of agreement lines and of their agreements' heads. // A4 */
export function counterStatements(
  companyId: number,
  counter: 'released' | 'shipped' | 'invoiced',
  changes: readonly CounterChange[],
): Statement[] {
  const moved = changes.map((change) => ({
    sql: `UPDATE agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
          SET l.${counter} = l.${counter} + ?, l.${counter}_value = l.${counter}_value + ?,
              a.${counter}_value = a.${counter}_value + ?
        WHERE l.company_id = ? AND l.id = ?`,
    values: [change.quantity, change.value, change.value, companyId, change.agreementLineId],
  }));
  if (counter !== 'released' || changes.length === 0) return moved;
  const lineIds = changes.map((change) => change.agreementLineId);
  return [
    ...moved,
    {
      sql: `UPDATE agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
            SET a.used_up = ${NOTHING_LEFT} WHERE l.company_id = ? AND l.id IN (${lineIds.map(() => '?').join()})`,
      values: [companyId, ...lineIds],
    },
  ];
}

/** True in SQL where no line of `agreement a` has anything left to release. // A4 */
export const NOTHING_LEFT = `NOT EXISTS (SELECT 1 FROM agreement_line ul FORCE INDEX (agreement_line_no)
   WHERE ul.company_id = a.company_id AND ul.agreement_id = a.id
     AND IF(a.basis = 'quantity', ul.released < ul.committed, ul.released_value < ul.committed_value))`;
