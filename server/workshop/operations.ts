import { decideOperations, firstChanged, type OperationsEffects, type OperationsTyped } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, type Doer } from '../acts';
import { into, takeTurn, type Sql, type Statement, type Tx } from '../db';
import { restGround } from '../promise';
import { centreHoldTable, plannedOperationTable } from '../promise/tables';
import { holdsOf, laidNow, lateLines, laidOrderStatement, laidStatements } from './laid';
import { touchedByWork } from './report';
import { loadWork, type LoadedWork } from './store';

/** How one order is worked on, for this order alone. // W1 */
export const changeOperations = defineAct(contract.changeOperations, {
  right: 'plan',
  says: 'change how an order is worked on',
  done: 'operations changed',
  expectedVersion: ({ workId, version }) => ({ kind: 'PR', id: workId, version }),
  load: (tx, input, { companyId, workDate }) => loadOperations(tx, companyId, workDate, input),
  decide: (ground, input) => decideOperations(ground, input),
  preview: ({ cost, was, minutes, minutesWas, due }, { work }) => ({
    cost,
    was,
    minutes,
    minutesWas,
    due,
    dueWas: work.due,
    late: lateLines(work, due),
    firm: work.order.state === 'planned',
  }),
  async write(tx, effects, { work }, doer) {
    await writeOperations(tx, effects, work, doer);
    return { made: [], touched: touchedByWork(work) };
  },
});

async function loadOperations(
  sql: Sql,
  companyId: number,
  workDate: string,
  { workId, operations: typed }: OperationsTyped & { workId: number },
) {
  const work = await loadWork(sql, companyId, workId);
  await takeTurn(sql, 'promise_turn', [companyId]);
  const operations = await laidNow(sql, companyId, work);
  const centreIds = [
    ...operations.map(({ centreId }) => centreId),
    ...typed.flatMap(({ centreId }) => (centreId === null ? [] : [centreId])),
  ];
  const centres = await sql.rows<{ id: number; name: string; hourCost: string }>(
    'SELECT id, name, hour_cost FROM work_centre WHERE company_id = ? AND id IN (?)',
    [companyId, centreIds],
  );
  const first = firstChanged(operations, { operations: typed }) ?? operations.length;
  const keptIds = operations.slice(0, first).map(({ id }) => id);
  return {
    work,
    order: work.order,
    components: work.components,
    currency: work.currency,
    operations,
    start: work.start,
    due: work.due,
    centres: new Map(centres.map(({ id, ...centre }) => [id, centre])),
    rows: await restGround(sql, companyId, workDate, { workId, centreIds: [...new Set(centreIds)], keptIds }),
  };
}

async function writeOperations(
  tx: Tx,
  { gone, kept, added, moved, laid, due, cost }: OperationsEffects,
  { order }: LoadedWork,
  { companyId }: Doer,
): Promise<void> {
  // What an order is reckoned to cost is kept from its first report on.
  const costs = order.plannedCost !== null;
  if (gone.length > 0) {
    await tx.batch([
      {
        sql: 'DELETE FROM centre_hold WHERE company_id = ? AND planned_operation_id IN (?)',
        values: [companyId, gone],
      },
      { sql: 'DELETE FROM planned_operation WHERE company_id = ? AND id IN (?)', values: [companyId, gone] },
    ]);
  }
  const ids = await tx.insert(
    plannedOperationTable,
    added.map(({ id, no, name, centreId, minutes, cost: labour }) => {
      const { firstDay, lastDay } = laid.find((each) => each.id === id)!;
      return {
        companyId,
        plannedOrderId: order.id,
        no,
        name,
        workCentreId: centreId,
        minutes,
        firstDay,
        lastDay,
        plannedCost: costs ? labour : '0',
      };
    }),
  );
  const idOf = (id: number) => (id > 0 ? id : ids[added.findIndex((each) => each.id === id)]!);
  const anew = laid.map((each) => ({ ...each, id: idOf(each.id) }));
  const begins = [...kept, ...added].sort((a, b) => a.no - b.no)[0];
  const statements: Statement[] = [
    ...kept.map(({ id, name, centreId, minutes, cost: labour }) => ({
      sql: 'UPDATE planned_operation SET name = ?, work_centre_id = ?, minutes = ?, planned_cost = ? WHERE company_id = ? AND id = ?',
      values: [name, centreId, minutes, costs ? labour : '0', companyId, id],
    })),
    ...moved.map(({ componentId, operationNo }) => ({
      sql: 'UPDATE planned_component SET operation_no = ? WHERE company_id = ? AND id = ?',
      values: [operationNo, companyId, componentId],
    })),
    ...laidStatements(companyId, anew),
    laidOrderStatement(companyId, order.id, due, laid.find(({ id }) => id === begins?.id)?.firstDay ?? null),
    {
      sql: 'UPDATE planned_order SET planned_cost = IF(planned_cost IS NULL, NULL, ?), own_operations = TRUE WHERE company_id = ? AND id = ?',
      values: [cost, companyId, order.id],
    },
  ];
  await tx.batch(statements);
  await tx.insertBatch([into(centreHoldTable, holdsOf(companyId, anew))]);
}
