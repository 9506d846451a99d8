export { enterVendorInvoice } from './acts';
export { openInvoice } from './reads';
export { openCreditNote } from './credit-reads';
