export { decideCancel, decideConfirm, type CancelEffects, type CancelGround, type ConfirmGround } from './confirm';
export {
  decideOrder,
  ORDER_STATES,
  type OrderEffects,
  type OrderGround,
  type OrderItem,
  type OrderLineNow,
  type OrderState,
  type OrderTyped,
} from './order';
export { decideClose, type CloseEffects, type CloseGround } from './close';
