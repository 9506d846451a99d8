export { agreedPrice, PRICE_KINDS, type PriceBreak, type PriceKind, type PriceTerm } from './terms/price';
export { elapsedShare, leftOf, pace } from './ending/progress';
export {
  leftOn,
  rankOffers,
  splitAtLimit,
  type PriceWithout,
  type Offer,
  type OfferedLine,
  type OfferingAgreement,
  type Portion,
} from './releasing/offered';
export { decideRelease, portionsUnder, releasePreview } from './releasing/release';
export {
  aboveZero,
  AGREEMENT_STATES,
  BASES,
  decideInForce,
  decideTerms,
  LIMIT_POLICIES,
  REST_PLANS,
  SIDES,
  type AgreementEffects,
  type AgreementGround,
  type AgreementState,
  type AgreementTerms,
  type Basis,
  type LimitPolicy,
  type RestPlan,
  type Side,
  type TypedTerm,
} from './terms/terms';
export { forecastOf, rateDays, weightedValue, type ForecastGround } from './ending/forecast';
export {
  decideTakenBefore,
  type TakenBeforeEffects,
  type TakenBeforeGround,
  type TakenBeforeTyped,
} from './releasing/taken-before';
export { decidePlan, unconsumed, type PlanGround, type PlannedCall, type PlanTyped } from './releasing/plan';
export {
  decideCancelAgreement,
  decidePause,
  decideWrapUp,
  shortfallOf,
  WRAP_UPS,
  type WrapUp,
  type WrapUpEffects,
  type WrapUpGround,
  type WrapUpTyped,
} from './ending/wrap-up';
export {
  accrualOf,
  NO_REBATE,
  REBATE_BASES,
  REBATE_KINDS,
  accruedBy,
  rebateBalance,
  rebateOwed,
  tierAt,
  type Rebate,
  type RebateAccrual,
  type RebateState,
  type RebateBasis,
  type RebateKind,
  type RebateTier,
} from './money/rebate';
export {
  decideHandled,
  isDue,
  REMINDER_KINDS,
  reminderDay,
  reminderWords,
  type Reminder,
  type ReminderKind,
} from './terms/reminder';
export {
  decideRevision,
  repricedValue,
  type OpenLine,
  type RevisedLine,
  type RevisionEffects,
  type RevisionGround,
  type RevisionTyped,
  REST_WORDS,
} from './terms/revision';
export {
  agreementsByLine,
  countedOn,
  leftOnWhole,
  overWholes,
  readWholeLimit,
  unitsOf,
  wholeLimitText,
  type WholeLimit,
} from './releasing/whole-limit';
export { leftInNoPlan, restOf, type RestGround } from './releasing/rest';
export { decideCopy } from './terms/copy';
export { decidePlannedCalls, plannedUpTo, type PlannedGround } from './releasing/planned-calls';
export { overLimitOf, splitWordOf } from './releasing/release-limit';
export {
  type ReleaseItem,
  type ReleaseAsked,
  type ReleaseEffects,
  type ReleaseGround,
} from './releasing/release-ground';
