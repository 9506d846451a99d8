// What other rooms use of this one.
export { InvoiceCustomerSheet, type InvoiceCustomerData } from './invoice-customer-sheet';
export { VendorInvoiceSheet } from './vendor-invoice-sheet';
