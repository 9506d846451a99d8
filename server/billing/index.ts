export { enterVendorInvoice } from './acts';
export { listInvoices, openInvoice } from './reads';
export { openCreditNote } from './credit-reads';
