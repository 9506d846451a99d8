export { billingActs } from './acts';
export { listInvoices, openInvoice, openToInvoice } from './reads';
