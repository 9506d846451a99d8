import { table, type Row } from '../db';

export const centreHoldTable = table('centre_hold', {
  int: 'companyId workCentreId plannedOperationId fromMinute untilMinute machines minutes?',
  day: 'day',
});
export type CentreHold = Row<typeof centreHoldTable>;

export const plannedComponentTable = table('planned_component', {
  int: 'companyId id= plannedOrderId itemId operationNo?',
  day: 'neededOn',
  decimal: 'quantity covered= used= plannedCost=',
});
export type PlannedComponent = Row<typeof plannedComponentTable>;

export const plannedOperationTable = table('planned_operation', {
  int: 'companyId id= plannedOrderId no workCentreId minutes minutesDone=',
  text: 'name',
  day: 'firstDay lastDay lateSince?',
  decimal: 'done= scrapped= plannedCost=',
});
export type PlannedOperation = Row<typeof plannedOperationTable>;

/** What was chosen of the options of what an order makes. */
export const plannedOrderOptionTable = table('planned_order_option', { int: 'companyId plannedOrderId optionId' });

export const plannedOrderTable = table('planned_order', {
  int: 'companyId id= version= itemId vendorId? parentId? purchaseLineId? locationId=',
  choice: 'kind:make|assemble|buy state=:planned|firm|running|finished|cancelled|placed',
  text: 'number',
  day: 'startDate dueDate startedOn? finishedOn?',
  time: 'createdAt=',
  decimal: 'quantity finished= scrapped= held= plannedCost? inWork=',
  boolean: 'open? waits? ownParts= ownOperations=',
});
export type PlannedOrder = Row<typeof plannedOrderTable>;

export const plannedTieTable = table('planned_tie', {
  int: 'companyId id= plannedOrderId orderLineId',
  decimal: 'quantity made=',
});
export type PlannedTie = Row<typeof plannedTieTable>;

export const promiseRunTable = table('promise_run', {
  int: 'companyId id= personId done= total=',
  choice: 'kind=:again|plan state=:waiting|running|done|stopped|failed',
  text: 'itemIds= found= taken=',
  day: 'workDate untilDay?',
  time: 'beatAt=',
});
export type PromiseRun = Row<typeof promiseRunTable>;

export const promiseTurnTable = table('promise_turn', {
  int: 'companyId turn=',
});
