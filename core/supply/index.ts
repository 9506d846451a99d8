export {
  proposeVendor,
  supplyDue,
  vendorQuantity,
  vendorRefusal,
  type Offer,
  type Proposal,
  type ProposalReason,
} from './bench';
export { decideAnswer, type AnswerEffects, type AnswerGround, type AnswerTyped } from './answer';
export { decidePlacement, type BenchLine, type PlacementChoice } from './placement';
export { type BoughtItem, type BuyingOffer, type PurchaseLinePlan, type PurchasePlan } from './buying';
export { decideFromPurchase, type FromPurchaseEffects, type FromPurchaseGround } from './from-purchase';
export { decidePurchase, type PurchaseEffects, type PurchaseGround, type PurchaseTyped } from './purchase';
export { differencesOf, type StepDifference, type TieEnds } from './step';
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
  type TieEffects,
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
  type Thread,
  type ThreadMove,
  type ThreadRows,
} from './thread';
export { type Pair, type PairChange, type PairEffects, type PairShown } from './pair-state';
