import { table, type Row } from '../db';

export const orderCommissionTable = table('order_commission', {
  int: 'companyId orderId personId',
  decimal: 'perCent',
});

export const salesOrderTable = table('sales_order', {
  int: 'companyId id= version= revision= customerId agreementId? shipToId? contactId?',
  choice: 'state=:draft|confirmed|closed|cancelled',
  text: 'number customerReference= currency creditReason= batch=',
  day: 'orderDate firstShipDate? counterDay?',
  time: 'createdAt=',
  decimal: 'net=',
});
export type SalesOrder = Row<typeof salesOrderTable>;

export const salesOrderLineTable = table('sales_order_line', {
  int: 'companyId id= orderId lineNo itemId agreementLineId? taxCodeId permitId? locationId= promotionLineId?',
  choice: 'route:stock|drop|special|make|assemble promisedBy?:atp|have|nothing|lead',
  text: 'unit= priceReason= buildUp=',
  day: 'shipDate pricedOn? askedDate? promisedDate? movedFrom?',
  decimal:
    'quantity cancelled= unitPrice listPrice amount taxRate tied= shipped= invoiced= agreedAmount? reserved= unitFactor= typedPrice? discount= orderedAmount? promotionUnit=',
  boolean: 'onBench= goodsHere? owed?',
});
/** What was chosen for a line. */
export const salesLineOptionTable = table('sales_line_option', { int: 'companyId orderLineId optionId' });

export type SalesOrderLine = Row<typeof salesOrderLineTable>;

export const lineClosingTable = table('line_closing', {
  int: 'companyId id= orderLineId',
  decimal: 'quantity amount agreedAmount? leftAmount',
  text: 'reason',
  boolean: 'undone=',
});
export type LineClosing = Row<typeof lineClosingTable>;
