import { decideCancelWork } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct } from '../acts';
import { takeTurn, type Columns, type Sql } from '../db';
import { cancelPlanned } from '../promise';
import type { PlannedOrder } from '../promise/tables';
import { touchedByWork } from './report';
import { loadWork } from './store';

const KINDS = { make: 'PR', assemble: 'AS', buy: 'PL' } as const;

/** Nothing is made of it after all. // W4 */
export const cancelWork = defineAct(contract.cancelWork, {
  right: 'plan',
  says: 'cancel production orders',
  done: 'order cancelled',
  expectedVersion: ({ workId, version }) => ({ kind: 'PR', id: workId, version }),
  async load(tx, { workId }, { companyId }) {
    const work = await loadWork(tx, companyId, workId);
    await takeTurn(tx, 'promise_turn', [companyId]);
    const below = await plannedBelow(tx, companyId, workId);
    const [counted] = await tx.rows<{ reports: number }>(
      `SELECT COUNT(*) AS reports FROM work_report r
        WHERE r.company_id = ? AND r.planned_order_id = ? AND r.reverses_id IS NULL
          AND NOT EXISTS (SELECT 1 FROM work_report b WHERE b.company_id = r.company_id AND b.reverses_id = r.id)`,
      [companyId, workId],
    );
    return { work, below, reports: counted!.reports };
  },
  decide: ({ work, below, reports }) =>
    decideCancelWork({ order: work.order, reports, below: below.map(({ id }) => id) }),
  preview: (_effects, { work, below }) => ({ orders: [work.order.number, ...below.map(({ number }) => number)] }),
  async write(tx, { cancelled }, { work, below }, doer) {
    await cancelPlanned(tx, doer, cancelled);
    return {
      made: [],
      touched: [...touchedByWork(work), ...below.map(({ id, number, kind }) => ({ kind: KINDS[kind], id, number }))],
    };
  },
});

/** What is only planned below an order, all the way down. */
export function plannedBelow(sql: Sql, companyId: number, id: number) {
  return sql.rows<Columns<PlannedOrder, 'id number kind'>>(
    `WITH RECURSIVE below AS (
       SELECT p.id, p.number, p.kind FROM planned_order p WHERE p.company_id = ? AND p.parent_id = ? AND p.state = 'planned'
       UNION ALL
       SELECT p.id, p.number, p.kind FROM planned_order p JOIN below b ON p.parent_id = b.id
        WHERE p.company_id = ? AND p.state = 'planned')
     SELECT id, number, kind FROM below`,
    [companyId, id, companyId],
  );
}
