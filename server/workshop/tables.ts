import { table, type Row } from '../db';

export const workReportTable = table('work_report', {
  int: 'companyId id= plannedOrderId operationId? personId reversesId? shipmentId?',
  text: 'number reason=',
  day: 'postedOn',
  time: 'createdAt=',
  decimal:
    'good scrapped materialCost labourCost outputCost scrapCost variance stockDifference= forParent= parentReleased=',
  boolean: 'finishes=',
});
export type WorkReport = Row<typeof workReportTable>;

export const workReportComponentTable = table('work_report_component', {
  int: 'companyId id= reportId componentId itemId',
  decimal: 'quantity cost',
});

export const workReportOperationTable = table('work_report_operation', {
  int: 'companyId id= reportId operationId minutes',
  decimal: 'done scrapped cost',
});

export const workReportTieTable = table('work_report_tie', {
  int: 'companyId id= reportId orderLineId',
  decimal: 'made released',
});
