export {
  decideAccept,
  plannedOrders,
  type AcceptEffects,
  type Acceptance,
  type PlannedOrderPlan,
} from './asking/accept';
export { answer, answers, partPromises, type Answer, type Ask, type PartPromise } from './asking/ask';
export { Calendar, NEVER, type CalendarRow, type DayIndex } from './ground/calendar';
export { Centre, type Clock, type Run, type Slice } from './ground/capacity';
export { circleThrough } from './ground/circle';
export { Ground, type Item } from './ground/ground';
export { boughtBy, orderBy, type LeadTime } from './ground/lead-time';
export {
  Planner,
  startOf,
  Stuck,
  type Mode,
  type Need,
  type NewOrder,
  type NewPurchase,
  type Part,
} from './asking/plan';
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
} from './ground/rows';
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
} from './planning/planning';
export { pegging, type Peg, type Pegging } from './planning/pegging';
export { decideProposals, operationsFrom, type AskedProposal, type ProposalEffects } from './planning/proposal-effects';
export { Columns } from './ground/columns';
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
} from './again/repromise';
export { exactly, lotUp, ONE, scaled, timesUp, TooMuch, unscaled, type Lot, type Scaled } from './ground/scaled';
export { Timelines, type Events, type Step } from './ground/timelines';
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
} from './asking/answer-text';
export { troubleText } from './asking/trouble';
export { chainOf, shortenings, type Shortening, type Wait } from './asking/why';
export {
  decidePlanning,
  decideRepromise,
  type PlanningStart,
  type PlanningTyped,
  type RepromiseStart,
} from './again/begin';
export {
  decideMoved,
  decidePromise,
  decideTakeBack,
  isPlanned,
  type ApplyGround,
  type PromisedNow,
  type PromiseGround,
  type PromiseTyped,
} from './asking/promise-acts';
export { decideTakeProposals, type TakeGround, type TakeProposalsEffects } from './planning/take-proposals';
