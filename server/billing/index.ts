export { enterVendorInvoice } from './acts';
export { insertDeposit, insertPayment, returnDeposit, setOffVoucher, tillItemOf, type TillItem } from './at-till';
export { loadForCustomerInvoice } from './store';
export { listInvoices, openInvoice } from './reads';
export { openCreditNote } from './credit-reads';
