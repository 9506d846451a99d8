import { groupedBy, pointOf } from '@core/kernel';
import type { StandingPlan, StandingPlans } from '@core/promise';
import type { Columns, Sql } from '../../db';
import type { CentreHold, PlannedComponent, PlannedOperation, PlannedOrder } from '../tables';

type Order = StandingPlan[number];

/**
 * What is planned for lines, by line, as `plannedFor` finds it: what a run leaves out of its ground, and lets stand where
 * it can. Four queries, each by the key of the orders. // T9
 */
export async function standingPlans(sql: Sql, companyId: number, planned: readonly number[]): Promise<StandingPlans> {
  const orders = await sql.rows<
    Columns<PlannedOrder, 'id itemId locationId quantity held startDate dueDate parentId'> & {
      orderLineId: number | null;
    }
  >(
    `SELECT p.id, p.item_id, p.location_id, p.quantity, p.held, p.start_date, p.due_date, t.order_line_id, p.parent_id
       FROM planned_order p LEFT JOIN planned_tie t ON t.company_id = p.company_id AND t.planned_order_id = p.id
      WHERE p.company_id = ? AND p.id IN (?) ORDER BY p.id`,
    [companyId, planned],
  );
  const components = await sql.rows<
    Columns<PlannedComponent, 'plannedOrderId itemId quantity covered neededOn operationNo'>
  >(
    `SELECT planned_order_id, item_id, quantity, covered, needed_on, operation_no FROM planned_component
      WHERE company_id = ? AND planned_order_id IN (?) ORDER BY id`,
    [companyId, planned],
  );
  const operations = await sql.rows<
    Columns<PlannedOperation, 'id plannedOrderId no name workCentreId minutes firstDay lastDay'>
  >(
    `SELECT id, planned_order_id, no, name, work_centre_id, minutes, first_day, last_day FROM planned_operation
      WHERE company_id = ? AND planned_order_id IN (?) ORDER BY planned_order_id, no`,
    [companyId, planned],
  );
  const holds = await sql.rows<Columns<CentreHold, 'plannedOperationId day fromMinute untilMinute machines'>>(
    `SELECT planned_operation_id, day, from_minute, until_minute, machines FROM centre_hold
      WHERE company_id = ? AND planned_operation_id IN (?) ORDER BY planned_operation_id, day, from_minute`,
    [companyId, operations.map(({ id }) => id)],
  );
  const componentsOf = groupedBy(components, ({ plannedOrderId }) => plannedOrderId);
  const operationsOf = groupedBy(operations, ({ plannedOrderId }) => plannedOrderId);
  const holdsOf = groupedBy(holds, ({ plannedOperationId }) => plannedOperationId);
  const plans = new Map<number, Order[]>();
  const placeOf = new Map<number, { lineId: number; place: number }>();
  // An order above has the lower id: it was written first.
  for (const row of orders) {
    const above = row.parentId === null ? null : (placeOf.get(row.parentId) ?? null);
    const lineId = row.orderLineId ?? above?.lineId;
    if (lineId === undefined) continue;
    const plan = plans.get(lineId) ?? [];
    plans.set(lineId, plan);
    placeOf.set(row.id, { lineId, place: plan.length });
    plan.push({
      parent: above?.place ?? null,
      itemId: pointOf(row.itemId, row.locationId),
      quantity: row.quantity,
      held: row.held,
      start: row.startDate,
      due: row.dueDate,
      components: (componentsOf.get(row.id) ?? []).map(({ plannedOrderId: _order, ...component }) => component),
      operations: (operationsOf.get(row.id) ?? []).map((operation) => ({
        no: operation.no,
        name: operation.name,
        centreId: operation.workCentreId,
        minutes: operation.minutes,
        firstDay: operation.firstDay,
        lastDay: operation.lastDay,
        load: (holdsOf.get(operation.id) ?? []).map(({ day, fromMinute, untilMinute, machines }) => ({
          day,
          from: fromMinute,
          until: untilMinute,
          machines,
        })),
      })),
    });
  }
  return plans;
}
