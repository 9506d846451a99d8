export {
  creditWith,
  decideCancel,
  decideConfirm,
  type CancelEffects,
  type CancelGround,
  type ConfirmEffects,
  type Confirmer,
  type ConfirmGround,
  type CustomerStanding,
} from './confirm';
export { decideOrder } from './order';
export {
  ORDER_STATES,
  type OrderEffects,
  type OrderGround,
  type OrderItem,
  type OrderLineNow,
  type OrderPricing,
  type OrderState,
  type OrderTyped,
  type SoldAs,
} from './ground';
export { decideCommission, type CommissionEffects, type CommissionGround, type CommissionTyped } from './commission';
export { decideClose, type CloseEffects, type CloseGround } from './close';
export { plainPricing, priceWithout, type ItemPricing } from './price-without';
export { repriceAt, type Repriced, type ShipDateLine } from './reprice';
export { confirmable, decideSave, type ConfirmableItem, type SaveGround } from './save';
export { keepingPlanned, type PlannedFor } from './planned-lines';
