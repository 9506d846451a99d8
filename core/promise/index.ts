export { decideAccept, plannedOrders, type AcceptEffects, type Acceptance, type PlannedOrderPlan } from './accept';
export { answer, answers, partPromises, type Answer, type Ask, type PartPromise } from './ask';
export { Calendar, NEVER, type CalendarRow, type DayIndex } from './calendar';
export { Centre, type Clock, type Run, type Slice } from './capacity';
export { circleThrough } from './circle';
export { Ground, type Item } from './ground';
export { boughtBy, orderBy, type LeadTime } from './lead-time';
export { Planner, startOf, Stuck, type Mode, type Need, type NewOrder, type NewPurchase, type Part } from './plan';
export {
  METHOD_NAMES,
  METHODS,
  OBTAINED,
  OBTAINED_NAMES,
  WAYS,
  type CentreRow,
  type ComponentRow,
  type GroundRows,
  type ItemRow,
  type LoadRow,
  type Method,
  type MoveRow,
  type Obtained,
  type OperationRow,
  type SellerRow,
  type Trouble,
  type Way,
} from './rows';
export {
  EARLY_DAYS,
  planningRun,
  type CancelProposal,
  type MoveProposal,
  type PeggedDemand,
  type PlaceProposal,
  type PlanningRun,
  type Proposal,
  type Short,
} from './planning';
export { pegging, type Peg, type Pegging } from './pegging';
export { decideProposals, operationsFrom, type AskedProposal, type ProposalEffects } from './proposal-effects';
export { Columns } from './columns';
export {
  byLeadTime,
  byPlanning,
  comingOn,
  inRank,
  rankOrder,
  repromise,
  repromiseAvailable,
  whyOn,
  type Coming,
  type FoundDays,
  type MovedLine,
  type OpenLines,
  type Progress,
  type PromisedLine,
} from './repromise';
export { exactly, lotUp, ONE, scaled, timesUp, TooMuch, unscaled, type Lot, type Scaled } from './scaled';
export { Timelines, type Events, type Step } from './timelines';
export {
  check,
  shorten,
  answerText,
  wayOf,
  type CheckedAsk,
  type CheckedLine,
  type AnswerText,
  type BarText,
  type ShorteningText,
  type WaitText,
} from './answer-text';
export { troubleText } from './trouble';
export { chainOf, shortenings, type Shortening, type Wait } from './why';
export { decidePlanning, decideRepromise, type PlanningStart, type PlanningTyped, type RepromiseStart } from './begin';
export {
  decideMoved,
  decidePromise,
  decideTakeBack,
  isPlanned,
  type ApplyGround,
  type PromisedNow,
  type PromiseGround,
  type PromiseTyped,
} from './promise-acts';
export { decideTakeProposals, type TakeGround, type TakeProposalsEffects } from './take-proposals';
