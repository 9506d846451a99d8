// What other rooms use of this one.
export { InvoiceCustomerSheet } from './invoice-customer-sheet';
export { VendorInvoiceSheet } from './vendor-invoice-sheet';
