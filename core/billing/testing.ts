import type { CreditableLine, CustomerInvoiceTyped, ReceivedLine, ShippedLine } from './index';

/** For tests: all that is open, today. */
export const ALL: CustomerInvoiceTyped = { lines: null, invoiceDate: null };

/** For tests: a line of 12 membranes at 740, so much of it shipped and not invoiced. */
export const shippedLine = (change: Partial<ShippedLine> = {}): ShippedLine => ({
  shipmentLineId: 1,
  orderId: 1,
  orderLineId: 5,
  shippedOn: '2027-02-20',
  open: '12',
  invoicedBefore: '0',
  quantity: '12',
  amount: '8880',
  agreedAmount: null,
  unitPrice: '740',
  taxCode: 'S6',
  taxCodeId: 1,
  taxRate: '6',
  agreementLineId: 3,
  agreementId: 1,
  weight: '2.9',
  volume: '0.009',
  ...change,
});

/** For tests: 10 received at 10 each and not invoiced, what they cost at 4.48. */
export const receivedLine = (change: Partial<ReceivedLine> = {}): ReceivedLine => ({
  receiptLineId: 1,
  purchaseLineId: 9,
  lineNo: 1,
  open: '10',
  openCost: '448',
  openValue: '100',
  unitPrice: '10',
  drop: false,
  customerWaits: false,
  orderNumber: null,
  agreementLineId: null,
  mixed: null,
  taxCode: 'S6',
  taxCodeId: 1,
  taxRate: '6',
  ...change,
});

/** For tests: a line of 12 invoiced at 740, of which nothing is credited. */
export const creditableLine = (change: Partial<CreditableLine> = {}): CreditableLine => ({
  invoiceLineId: 1,
  orderLineId: 11,
  agreementLineId: 3,
  agreementId: 1,
  item: { id: 10, number: 'RO-4040' },
  locationId: 0,
  unitPrice: '740',
  quantity: '12',
  net: '8880',
  agreedNet: null,
  invoiced: { net: '8880', allowance: '0' },
  credited: false,
  shipped: { quantity: '12', value: '8880', agreedValue: null, cost: '6000' },
  taxCode: 'S6',
  taxCodeId: 1,
  taxRate: '6',
  ...change,
});
