import { table, type Row } from '../db';

export const creditNoteTable = table('credit_note', {
  int: 'companyId id= customerId customerInvoiceId? orderId? agreementId?',
  choice: 'kind:return|price|rebate|reversal',
  text: 'number currency reason=',
  day: 'creditDate',
  time: 'createdAt=',
  decimal: 'net tax total cost= rate= ownNet= ownTax=',
  boolean: 'opening=',
});
export type CreditNote = Row<typeof creditNoteTable>;

export const creditNoteLineTable = table('credit_note_line', {
  int: 'companyId id= creditNoteId invoiceLineId orderLineId taxCodeId',
  decimal: 'quantity unitPrice net agreedNet? value= agreedValue? cost= taxRate uninvoiced=',
});

export const customerInvoiceTable = table('customer_invoice', {
  int: 'companyId id= customerId orderId? agreementId?',
  text: 'number currency',
  day: 'invoiceDate dueDate',
  time: 'createdAt=',
  decimal: 'net tax total rate= ownNet= ownTax=',
  boolean: 'claimsRebate= opening=',
});

export const customerInvoiceLineTable = table('customer_invoice_line', {
  int: 'companyId id= invoiceId shipmentLineId? orderLineId? taxCodeId shortfallLineId?',
  decimal: 'quantity unitPrice net taxRate agreedNet? allowance=',
});
export type CustomerInvoiceLine = Row<typeof customerInvoiceLineTable>;

export const invoiceAllowanceTable = table('invoice_allowance', {
  int: 'companyId invoiceId',
  choice: 'measure:weight|volume|quantity|amount',
  decimal: 'reached fromMeasure perCent amount',
});
export type InvoiceAllowance = Row<typeof invoiceAllowanceTable>;

export const invoiceTaxTable = table('invoice_tax', {
  int: 'companyId documentId',
  text: 'documentKind taxCode',
  decimal: 'taxRate base tax',
});
export type InvoiceTax = Row<typeof invoiceTaxTable>;

export const openItemTable = table('open_item', {
  int: 'companyId id= customerId? vendorId? customerInvoiceId? vendorInvoiceId? creditNoteId?',
  text: 'currency',
  day: 'dueDate',
  decimal: 'amount settled= ownAmount= ownSettled=',
  boolean: 'owing?',
});
export type OpenItem = Row<typeof openItemTable>;

export const paymentTable = table('payment', {
  int: 'companyId id= openItemId slipId?',
  choice: 'means=:bank|cash|card',
  text: 'number currency',
  day: 'paidOn',
  time: 'createdAt=',
  decimal: 'amount rate= ownAmount= ownSettled= rounding=',
});
export type Payment = Row<typeof paymentTable>;

export const prepaymentTable = table('prepayment', {
  int: 'companyId id= customerId agreementId? agreementLineId? orderId? carriedFrom? slipId?',
  choice: 'means=:bank|cash|card',
  text: 'number currency',
  day: 'takenOn',
  time: 'createdAt=',
  decimal: 'amount drawn= returned= carried= rate= ownAmount= ownUsed= rounding=',
});
export type Prepayment = Row<typeof prepaymentTable>;

export const prepaymentMoveTable = table('prepayment_move', {
  int: 'companyId id= prepaymentId customerInvoiceId? invoiceLineId?',
  choice: 'kind:drawn|returned|carried means=:bank|cash|card',
  day: 'movedOn',
  decimal: 'amount ownAmount= ownWorth= rounding=',
});

export const prepaymentMarkTable = table('prepayment_mark', {
  int: 'companyId prepaymentId orderId',
  decimal: 'amount',
});

export const setOffTable = table('set_off', {
  int: 'companyId id= creditItemId invoiceItemId',
  day: 'setOn',
  decimal: 'amount ownCredit= ownInvoice=',
});

export const vendorInvoiceTable = table('vendor_invoice', {
  int: 'companyId id= vendorId purchaseOrderId? reversesId? take=',
  text: 'number vendorNumber currency reason=',
  day: 'invoiceDate dueDate',
  time: 'createdAt=',
  decimal: 'net tax total rate= ownNet= ownTax=',
  boolean: 'opening=',
});
export type VendorInvoice = Row<typeof vendorInvoiceTable>;

export const vendorInvoiceLineTable = table('vendor_invoice_line', {
  int: 'companyId id= invoiceId receiptLineId purchaseLineId taxCodeId',
  decimal: 'quantity unitPrice net receivedCost receivedValue= priceDifference= taxRate agreedNet?',
});
export type VendorInvoiceLine = Row<typeof vendorInvoiceLineTable>;
