export {
  decideCancel,
  decideConfirm,
  fatesOf,
  permitFor,
  SUPPLY_FATES,
  type CancelEffects,
  type TiedSupply,
  type Confirmer,
  type ConfirmGround,
  type CustomerStanding,
} from './confirm';
export { decideOrder } from './order';
export {
  NO_PROMOTIONS,
  ORDER_STATES,
  type HeldPromotion,
  type OrderEffects,
  type OrderGround,
  type OrderLineNow,
  type OrderPricing,
  type OrderState,
  type OrderTyped,
  type SoldAs,
} from './ground';
export { decideCommission, type CommissionTyped } from './commission';
export { decideClose, type CloseGround } from './close';
export { plainPricing, priceWithout, type ItemPricing } from './price-without';
export { extrasOf, repriceAt, type Repriced } from './reprice';
export { confirmable, decideSave, type ConfirmableItem, type SaveGround } from './save';
export { keepingPlanned, type PlannedFor } from './planned-lines';
export type { PartOfOne } from './missing-parts';
export { decideTold } from './told';
export { proposalOf, type BoughtBefore, type Proposal } from './rhythm';
export {
  decideChange,
  type ChangeEffects,
  type ChangeGround,
  type ChangeTyped,
  type ConfirmedLine,
  type FieldChange,
} from './change';
export { decideOpenAgain, type ClosedLine } from './open-again';
