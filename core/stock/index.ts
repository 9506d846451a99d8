export {
  decideDropMove,
  type DropTie,
  type MovedPart,
  type MoveEffects,
  type MoveEnd,
  type PurchaseState,
  type ShipmentPlan,
  type ShippedPart,
} from './move';
export { decideStockShipment, mergeMoves, type StockLine } from './ship';
