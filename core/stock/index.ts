export {
  decideDropMove,
  type DropTie,
  type MovedPart,
  type MoveEffects,
  type MoveEnd,
  type PurchaseState,
  type ReceivedPart,
  type ShippedPart,
} from './move';
export {
  costOfChange,
  decideAdjust,
  decideAdjustBack,
  writtenOff,
  type AdjustEffects,
  type AdjustedGround,
  type AdjustGround,
} from './adjust';
export {
  COUNT_STATES,
  countNeeds,
  decideBeginCount,
  decideEnterCount,
  decidePostCount,
  decideTakeBackCount,
  type CountGround,
  type CountState,
  type PostCountEffects,
} from './count';
export {
  averageCost,
  decideBetween,
  type BetweenEffects,
  type BetweenGround,
  type BetweenTyped,
  type CarriedEffects,
} from './between';
export {
  decideArrive,
  decideArrivesOn,
  decideCarriedBack,
  type ArriveGround,
  type CarriageNow,
  type CarriedBackGround,
} from './carriage';
export { decideStockShipment, mergeMoves, type StockLine } from './ship';
export { decideOwnReceipt, type OwnLine, type SpecialTie } from './receive';
export {
  decideSupply,
  holdingAtOnce,
  reserveAtOnce,
  type Reserving,
  type SuppliedLine,
  type SupplyTyped,
} from './reserve';
export {
  costOf,
  decideReverse,
  worthOf,
  type ReceiptNow,
  type ReverseEffects,
  type ReverseGround,
  type ShipmentNow,
} from './reverse';
export { decideReceipt, decideShipment } from './goods';
export { adjustmentNeeds, movementNeeds, reversalNeeds, staysHere, type TypedNumbers } from './numbers';
export { decideOpenStock, type OpenStockEffects, type OpenStockGround, type OpenStockTyped } from './open';
