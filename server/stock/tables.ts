import { table, type Row } from '../db';

export const receiptTable = table('receipt', {
  int: 'companyId id= purchaseOrderId vendorId reversesId?',
  text: 'number reason=',
  day: 'postedOn',
  time: 'createdAt=',
  decimal: 'cost rate=',
});
export type Receipt = Row<typeof receiptTable>;

export const receiptLineTable = table('receipt_line', {
  int: 'companyId id= receiptId purchaseLineId tieId? itemId reversesLineId?',
  decimal: 'quantity unitCost cost value= agreedValue?',
});
export type ReceiptLine = Row<typeof receiptLineTable>;

export const shipmentTable = table('shipment', {
  int: 'companyId id= orderId? customerId shipToId reversesId?',
  text: 'number reason=',
  day: 'postedOn',
  time: 'createdAt=',
  decimal: 'cost',
});

export const shipmentLineTable = table('shipment_line', {
  int: 'companyId id= shipmentId orderLineId receiptLineId? itemId reversesLineId?',
  decimal: 'quantity unitCost cost value agreedValue?',
});

export const countSheetTable = table('count_sheet', {
  int: 'companyId id= version= locationId itemGroupId? madeBy reversesId?',
  choice: 'state=:open|posted|cancelled',
  text: 'number reason=',
  day: 'postedOn?',
  time: 'createdAt=',
  boolean: 'blind=',
});
export type CountSheet = Row<typeof countSheetTable>;

export const countLineTable = table('count_line', {
  int: 'companyId id= countSheetId lineNo itemId countedBy?',
  decimal: 'was? counted? unitCost? difference= cost=',
});
export type CountLine = Row<typeof countLineTable>;

/** The numbers a count was told. */
export const countNumberTable = table('count_number', {
  int: 'companyId id= countLineId',
  text: 'number',
  choice: 'says:here|missing|found',
});

export const carriageTable = table('carriage', {
  int: 'companyId id= journalId itemId fromId toId madeBy',
  decimal: 'quantity arrived=',
  day: 'dueDate',
  boolean: 'takenBack= open?',
});
export type Carriage = Row<typeof carriageTable>;

export const carriageArrivalTable = table('carriage_arrival', {
  int: 'companyId journalId carriageId',
  decimal: 'quantity',
});

export const stockTable = table('stock', {
  int: 'companyId itemId locationId=',
  decimal: 'onHand value reserved=',
});
export type Stock = Row<typeof stockTable>;

export const stockEntryTable = table('stock_entry', {
  int: 'companyId id= itemId documentId locationId=',
  choice: 'place:ours|vendor-to-customer',
  text: 'documentKind',
  day: 'postedOn',
  decimal: 'quantity cost',
  time: 'createdAt=',
});
export type StockEntry = Row<typeof stockEntryTable>;
