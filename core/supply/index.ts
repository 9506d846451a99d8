export {
  decidePlacement,
  proposeVendor,
  supplyDue,
  type BenchLine,
  type Offer,
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
