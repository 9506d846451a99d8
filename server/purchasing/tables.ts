import { table, type Row } from '../db';

export const purchaseOrderTable = table('purchase_order', {
  int: 'companyId id= version= revision= vendorId shipToId? agreementId? locationId=',
  choice: 'state=:draft|placed|closed|cancelled',
  text: 'number currency openedAs?',
  day: 'orderDate firstDueDate? answeredOn?',
  time: 'createdAt=',
  decimal: 'net=',
});
export type PurchaseOrder = Row<typeof purchaseOrderTable>;

export const purchaseOrderLineTable = table('purchase_order_line', {
  int: 'companyId id= purchaseOrderId lineNo itemId taxCodeId agreementLineId?',
  text: 'reason=',
  day: 'dueDate',
  decimal: 'quantity unitPrice amount taxRate tied= received= invoiced= agreedAmount? stopped=',
  boolean: 'untied?',
});
export type PurchaseOrderLine = Row<typeof purchaseOrderLineTable>;
