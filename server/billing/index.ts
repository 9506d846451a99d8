export { billingActs, enterVendorInvoice } from './acts';
export { listInvoices, openCreditNote, openInvoice, openPrepayment, openToInvoice } from './reads';
