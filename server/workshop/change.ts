import { dec, pointOf, roundUpTo } from '@core/kernel';
import { decideChangedWork, type PlannedOrderPlan } from '@core/promise';
import { withOwnRouting } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, type Doer } from '../acts';
import { takeTurn, type Sql, type Statement, type Tx } from '../db';
import { cancelPlanned, groundRows, loadStatement, writePlanned } from '../promise';
import { plannedBelow } from './cancel';
import { laidNow, lateLines } from './laid';
import { touchedByWork } from './report';
import { loadWork, type LoadedWork } from './store';

/** An order nobody began is laid for another quantity or another day. // W2 L7 */
export const changeWork = defineAct(contract.changeWork, {
  right: 'plan',
  says: 'change production orders',
  done: 'order changed',
  expectedVersion: ({ workId, version }) => ({ kind: 'PR', id: workId, version }),
  load: (tx, { workId, quantity }, { companyId, workDate }) => loadChanged(tx, companyId, workDate, workId, quantity),
  decide: ({ work, rows, held, reported }, { quantity, due }) => {
    const { number, state, plannedCost, itemId, locationId } = work.order;
    return decideChangedWork(
      rows,
      { number, state, held, begun: reported || plannedCost !== null },
      { point: pointOf(itemId, locationId), quantity, due },
    );
  },
  preview: ({ orders, day }, { work }) => ({
    day,
    start: orders[0]!.start,
    late: lateLines(work, day),
  }),
  async write(tx, { orders }, changed, doer) {
    await relay(tx, doer, changed, orders);
    return { made: [], touched: touchedByWork(changed.work) };
  },
});

/** An order with the ground it is laid on anew: without itself and what is only planned below it. */
async function loadChanged(sql: Sql, companyId: number, workDate: string, workId: number, quantity: string) {
  const work = await loadWork(sql, companyId, workId);
  await takeTurn(sql, 'promise_turn', [companyId]);
  const below = await plannedBelow(sql, companyId, workId);
  const [own] = await sql.rows<{ held: string; ownParts: boolean; ownOperations: boolean; reports: number }>(
    `SELECT p.held, p.own_parts, p.own_operations, (SELECT COUNT(*) FROM work_report r WHERE r.company_id = p.company_id AND r.planned_order_id = p.id) AS reports
       FROM planned_order p WHERE p.company_id = ? AND p.id = ?`,
    [companyId, workId],
  );
  const point = pointOf(work.order.itemId, work.order.locationId);
  const anew = [workId, ...below.map(({ id }) => id)];
  const { reports, ...about } = own!;
  const operations = about.ownOperations ? await laidNow(sql, companyId, work) : [];
  const found = await groundRows(sql, companyId, workDate, [point], {
    without: [],
    anew,
    centreIds: operations.map(({ centreId }) => centreId),
  });
  const rows = about.ownOperations ? withOwnRouting(found, point, work.order, operations, quantity) : found;
  return { work, below, rows, reported: reports > 0, ...about };
}

/** Writes an order laid anew in its place: its number stays, and whom it is for; its own parts go with its quantity. */
async function relay(
  tx: Tx,
  doer: Doer,
  { work, below, ownParts }: Pick<Awaited<ReturnType<typeof loadChanged>>, 'work' | 'below' | 'ownParts'>,
  orders: readonly PlannedOrderPlan[],
): Promise<void> {
  const { companyId } = doer;
  const { id, number } = work.order;
  const [top] = orders;
  await cancelPlanned(
    tx,
    doer,
    below.map((each) => each.id),
  );
  await tx.batch([
    loadStatement(companyId, [id]),
    { sql: 'DELETE FROM planned_operation WHERE company_id = ? AND planned_order_id = ?', values: [companyId, id] },
    ...(ownParts
      ? scaledParts(companyId, work, top!)
      : [
          {
            sql: 'DELETE FROM planned_component WHERE company_id = ? AND planned_order_id = ?',
            values: [companyId, id],
          },
        ]),
    {
      sql: `UPDATE planned_order SET quantity = ?, start_date = ?, due_date = ?, version = version + 1
             WHERE company_id = ? AND id = ?`,
      values: [top!.quantity, top!.start, top!.due, companyId, id],
    },
  ]);
  await writePlanned(tx, doer, ownParts ? [top!] : orders, { id, number, ownParts });
}

/** Parts somebody changed go with the quantity, rounded up to what can be taken; nothing is planned for them. */
function scaledParts(companyId: number, { order, components }: LoadedWork, top: PlannedOrderPlan): Statement[] {
  return components.map(({ id, quantity, whole }) => {
    const exact = dec(quantity).times(top.quantity).div(order.quantity);
    const scaled = roundUpTo(exact, dec(whole ? '1' : '0.00001'));
    return {
      sql: 'UPDATE planned_component SET quantity = ?, covered = 0, needed_on = ? WHERE company_id = ? AND id = ?',
      values: [scaled.toFixed(), top.start, companyId, id],
    };
  });
}
