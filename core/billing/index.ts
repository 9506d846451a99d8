export {
  accrualsOf,
  decideCustomerInvoice,
  type CustomerInvoiceEffects,
  type CustomerInvoiceGround,
  type InvoiceTax,
  type OpenPrepayment,
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
export { decideTakeBack, type TakeBackEffects, type TakeBackGround } from './take-back';
export {
  CREDIT_KINDS,
  decideCreditNote,
  decideSettlement,
  setOffs,
  type CreditableLine,
  type CreditEffects,
  type CreditGround,
  type CreditKind,
  type CreditTyped,
  type OwedInvoice,
  type RebateSettlementEffects,
  type RebateSettlementGround,
} from './credit-note';
export { decidePrepayment, type PrepaymentEffects, type PrepaymentGround } from './prepayment';
export { decideDropShortfall, decideShortfall, type ShortfallEffects, type ShortfallGround } from './shortfall';
