export { type PlannedOrderPlan } from './asking/accept';
export { decideChangedWork, decideNewWork, decideWorkForLines, type LineToMake } from './asking/new-work';
export { lateFrom, type WaitsFor } from './asking/lay-late';
export { decideLayRest, type LaidWork, type LayEffects } from './asking/lay-rest';
export { answers, type Answer } from './asking/ask';
export { possibleDays, type DayAsk, type PossibleDay, type Through } from './asking/possible-days';
export { Centre } from './ground/capacity';
export { circleThrough } from './ground/circle';
export { Ground } from './ground/ground';
export { Planner } from './asking/plan';
export {
  METHOD_NAMES,
  METHODS,
  OBTAINED,
  OBTAINED_NAMES,
  WAYS,
  type ComponentRow,
  type GroundRows,
  type ItemRow,
  type LoadRow,
  type Method,
  type MoveRow,
  type OperationRow,
  type Way,
} from './ground/rows';
export { planningRun, type PlaceProposal, type Late, type PlanningRun, type Proposal } from './planning/planning';
export { pegging } from './planning/pegging';
export { type ProposalEffects } from './planning/proposal-effects';
export { Columns } from './ground/columns';
export { stillHeld } from './ground/still-held';
export { byPlanning, type StandingPlan, type StandingPlans } from './again/by-planning';
export { type FoundDays, type MovedLine, type PromisedLine } from './again/lines';
export { byLeadTime, comingOn, leadDays, whyOn } from './again/reasons';
export { repromise, repromiseAvailable, type OpenLines } from './again/repromise';
export { ONE, scaled, unscaled } from './ground/scaled';
export { Timelines, type Events } from './ground/timelines';
export {
  check,
  shorten,
  wayOf,
  type CheckedAsk,
  type CheckedLine,
  type AnswerText,
  type BarText,
  type ShorteningText,
} from './asking/answer-text';
export { decidePlanning, decideRepromise } from './again/begin';
export { decideFirm, decideMoved, decidePromise, decideTakeBack, isPlanned } from './asking/promise-acts';
export { decideTakeProposals } from './planning/take-proposals';
