import { table, type Row } from '../db';

export const standingOrderTable = table('standing_order', {
  int: 'companyId id= version= customerId shipToId aheadDays=',
  choice: 'state=:active|paused|ended closed=:skip|before|after',
  text: 'number customerReference=',
  day: 'firstDay lastDay? dueOn?',
  time: 'createdAt=',
});
export type StandingOrder = Row<typeof standingOrderTable>;

export const standingTermTable = table('standing_term', {
  int: 'companyId id= standingOrderId',
  text: 'rule',
  day: 'fromDay',
});
export type StandingTerm = Row<typeof standingTermTable>;

export const standingLineTable = table('standing_line', {
  int: 'companyId termId lineNo itemId',
  text: 'unit=',
  decimal: 'quantity',
});
export type StandingLine = Row<typeof standingLineTable>;

export const standingDateTable = table('standing_date', {
  int: 'companyId standingOrderId orderId?',
  choice: 'state:skipped|made|refused',
  text: 'why=',
  day: 'day',
  boolean: 'needs?',
});
export type StandingDateRow = Row<typeof standingDateTable>;
