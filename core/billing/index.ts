export { agedByParty, AGES } from './ages';
export {
  decideCustomerInvoice,
  type CustomerInvoiceEffects,
  type CustomerInvoiceGround,
  type CustomerInvoiceTyped,
  type InvoiceTax,
  type OpenDeposit,
  type ShippedLine,
} from './customer-invoice';
export { decidePayment, type PaymentGround } from './payment';
export { decideVendorInvoice, type ReceivedLine, type VendorInvoiceGround } from './vendor-invoice';
export { decideTakeBack, type SetOff, type TakeBackGround } from './take-back';
export {
  CREDIT_KINDS,
  decideCreditNote,
  decideRebateClaim,
  decideSettlement,
  setOffs,
  type CreditableLine,
  type CreditEffects,
  type CreditGround,
  type CreditKind,
  type OwedInvoice,
} from './credit-note';
export { decideOpenItems, type OpenItemsEffects, type OpenItemsGround, type OpenItemsTyped } from './open';
export { amountRefusals, decidePrepayment } from './prepayment';
export { decideDropShortfall, decideShortfall, type ShortfallGround } from './shortfall';
export { decideSetOff, type SetOffGround, type SetOffTyped } from './set-off';
