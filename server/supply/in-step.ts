import type { Statement } from '../db';

/** A tie `t` with both its ends: lines `sl` and `pl`, heads `o` and `p`. */
export const BOTH_ENDS = `JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id`;

/** Its supply comes after the ship date. // L6 */
export const LATE = 'pl.due_date > sl.ship_date';

/** Its ends are out of step, as `differencesOf` says it. // L6 */
export const DIFFERS = `(${LATE} OR sl.tied <> sl.quantity - sl.cancelled
  OR (sl.route = 'drop' AND (t.quantity <> pl.quantity OR NOT (o.ship_to_id <=> p.ship_to_id))))`;

/** What ties are found by: the lines or the documents an act changed. */
const BY = { orderLine: 't.order_line_id', order: 'sl.order_id', purchase: 'pl.purchase_order_id' } as const;

/** Says of the ties of changed lines or documents anew whether their ends are in step; after what changed them. // L6 */
export function inStepStatements(companyId: number, by: keyof typeof BY, ids: readonly number[]): Statement[] {
  const once = [...new Set(ids)];
  if (once.length === 0) return [];
  return [
    {
      sql: `UPDATE tie t ${BOTH_ENDS} SET t.late = ${LATE}, t.differs = ${DIFFERS}
             WHERE t.company_id = ? AND ${BY[by]} IN (${once.map(() => '?').join()})`,
      values: [companyId, ...once],
    },
  ];
}
