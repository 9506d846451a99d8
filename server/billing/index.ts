export { enterVendorInvoice } from './acts';
export { openCreditNote, openInvoice } from './reads';
