export {
  decidePlacement,
  proposeVendor,
  supplyDue,
  type BenchLine,
  type BuyingOffer,
  type Offer,
  type PlacementChoice,
  type Proposal,
  type ProposalReason,
  type PurchasePlan,
} from './bench';
export { differencesOf, type StepDifference, type TieEnds } from './step';
export {
  buildThread,
  STAGE_NAMES,
  STAGES,
  type Bead,
  type Part,
  type Stage,
  type Thread,
  type ThreadRows,
} from './thread';
