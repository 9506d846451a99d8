export { SupplyDays, type SupplyCalendars } from './due';
export { proposeVendor, vendorQuantity, type Offer } from './bench';
export { decideAnswer, decideCancelPurchase, type AnswerEffects, type AnswerGround } from './answer';
export {
  decidePlacement,
  type BenchLine,
  type BenchPlanned,
  type PlacementChoice,
  type PlacementEffects,
  type Uncovered,
} from './placement';
export { type BoughtItem, type PurchaseLinePlan, type PurchasePlan } from './buying';
export { decideFromPurchase, type FromPurchaseGround } from './from-purchase';
export { decidePurchase, type PurchaseEffects, type PurchaseGround, type PurchaseTyped } from './purchase';
export { differencesOf, type TieEnds } from './step';
export { decideAlong, decideChangeAlong, type LineAlong } from './along';
export { decidePairs } from './pair';
export {
  decideTie,
  decideToStock,
  decideUntie,
  fittingQuantity,
  rankSales,
  rankSupplies,
  type LoosePurchase,
  type SalesEnd,
  type SupplyEnd,
  type TieNow,
} from './ties';
export {
  buildThread,
  pairMoves,
  STAGE_NAMES,
  STAGES,
  type Bead,
  type PairedMove,
  type Part,
  type Stage,
  type ThreadRows,
} from './thread';
export { type Pair, type PairChange, type PairEffects } from './pair-state';
export { pairFields } from './pair-fields';
export {
  decideChangePurchase,
  type ChangePurchaseEffects,
  type ChangePurchaseGround,
  type ChangePurchaseTyped,
  type PlacedLine,
} from './change-purchase';
export { decideOpenPurchases, type OpenPurchasesGround, type OpenPurchasesTyped } from './open-purchases';
