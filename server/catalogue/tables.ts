import { table, type Row } from '../db';

export const bomLineTable = table('bom_line', {
  int: 'companyId id= itemId lineNo componentId operationNo?',
  day: 'firstDay? lastDay?',
  decimal: 'quantity scrapPercent=',
});
export type BomLine = Row<typeof bomLineTable>;

export const calendarTable = table('calendar', {
  int: 'companyId id=',
  text: 'name week',
});

export const centreDowntimeTable = table('centre_downtime', {
  int: 'companyId id= workCentreId machines',
  text: 'why',
  day: 'firstDay lastDay',
});

export const centreOvertimeTable = table('centre_overtime', {
  int: 'companyId id= workCentreId',
  text: 'hours why=',
  day: 'firstDay lastDay',
});

export const optionGroupTable = table('option_group', {
  int: 'companyId id= itemId replacesId? atLeast= atMost=',
  text: 'name',
});

export const itemOptionTable = table('item_option', {
  int: 'companyId id= groupId componentId operationNo?',
  decimal: 'quantity price=',
});

export const optionRuleTable = table('option_rule', {
  int: 'companyId id= optionId otherId',
  choice: 'kind:needs|excludes',
});

export const holidayTable = table('holiday', {
  int: 'companyId id= calendarId',
  text: 'name',
  day: 'day',
});

export const itemTable = table('item', {
  int: 'companyId id= taxCodeId itemGroupId? costSeriesId? permitTypeId? makeDays=',
  choice:
    'route:stock|drop|special|make|assemble reserving=:never|asked|always costBasis?:average|last|series obtained=:buy|make|assemble|none promiseMethod=:atp|ctp|lead|none',
  text: 'number name unit',
  decimal:
    'listPrice weight= volume= packSize= splitCharge= costSurcharge= costMargin= costFactor= costOffset= safetyStock= lotMinimum= lotMultiple=',
  boolean: 'stocked approvalNeeded= phantom= outOfUse=',
});
export type Item = Row<typeof itemTable>;

export const itemGroupTable = table('item_group', {
  int: 'companyId id= revenueAccountId? costAccountId?',
  text: 'code name',
  boolean: 'approvalNeeded=',
});

export const itemUnitTable = table('item_unit', {
  int: 'id= companyId itemId',
  text: 'unit',
  decimal: 'factor',
});

export const itemVendorTable = table('item_vendor', {
  int: 'id= companyId itemId vendorId leadDays',
  decimal: 'unitPrice minimum= multiple=',
  boolean: 'preferred=',
});
export type ItemVendor = Row<typeof itemVendorTable>;

export const locationTable = table('location', {
  int: 'companyId id=',
  text: 'code name',
});

export const routingOperationTable = table('routing_operation', {
  int: 'companyId id= itemId no workCentreId parallel=',
  text: 'name',
  day: 'firstDay? lastDay?',
  decimal: 'setupMinutes= runMinutes',
});
export type RoutingOperation = Row<typeof routingOperationTable>;

export const taxCodeTable = table('tax_code', {
  int: 'companyId id=',
  text: 'code name',
  decimal: 'rate',
});

/** The rate of a tax code from a day on; the code itself has the one of today. */
export const taxRateTable = table('tax_rate', {
  int: 'companyId id= taxCodeId',
  day: 'firstDay',
  decimal: 'rate',
  boolean: 'taken=',
});

export const vendorApprovalTable = table('vendor_approval', {
  int: 'companyId id= vendorId itemId? itemGroupId?',
  day: 'firstDay lastDay?',
});

export const workCentreTable = table('work_centre', {
  int: 'companyId id= machines calendarId',
  text: 'code name hours=',
  decimal: 'hourCost=',
});
export type WorkCentre = Row<typeof workCentreTable>;
