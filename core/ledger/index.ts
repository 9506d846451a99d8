export {
  ACCOUNT_ROLES,
  adjustmentJournal,
  customerInvoiceJournal,
  journal,
  paymentJournal,
  receiptJournal,
  shipmentJournal,
  vendorInvoiceJournal,
  type AccountRole,
  type JournalEntry,
} from './journal';
