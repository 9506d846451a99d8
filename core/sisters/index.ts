export {
  decideTake,
  OFFER_KINDS,
  OFFER_STATES,
  type OfferKind,
  type OfferLine,
  type OfferNow,
  type OfferState,
  type TakeEffects,
  type TakeGround,
  type TakenLine,
  type TakeTyped,
} from './take';
export { decideArrival, lineKey, type ArrivalEffects, type ArrivalGround, type LineOfOurs } from './arrival';
export { decideSending } from './sending';
export { decideHold, decideLetGo, type HeldAtSister, type HoldLine } from './hold';
export { decideTaxes, isUnpaired, type LineTax, type PairedTax } from './taxes';
export { decideElsewhere } from './elsewhere';
export { decideAside, decideReturn } from './return';
export { decideSame, looksSame, type SameGround, type ThingLine } from './same';
export { TRANSFERS, transferPrice, type Transfer } from './transfer';
export {
  decideHalf,
  decidePairing,
  proposePairs,
  type HalfGround,
  type PairableItem,
  type PairedItem,
  type PairingGround,
} from './pairing';
export {
  eliminations,
  reconcile,
  type AccountPair,
  type OwedByUs,
  type OwedToThem,
  type ReconciledRow,
  type Unsettled,
} from './reconcile';
