export {
  decideCustomerInvoice,
  type CustomerInvoiceEffects,
  type CustomerInvoiceGround,
  type InvoiceTax,
  type ShippedLine,
} from './customer-invoice';
export { decidePayment, type PaymentEffects, type PaymentGround } from './payment';
export {
  decideVendorInvoice,
  type ReceivedLine,
  type VendorInvoiceEffects,
  type VendorInvoiceGround,
  type VendorInvoiceTyped,
} from './vendor-invoice';
