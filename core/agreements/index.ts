export { agreedPrice, PRICE_KINDS, type PriceBreak, type PriceKind, type PriceTerm } from './terms/price';
export { elapsedShare, leftOf, leftUnderLimit, pace } from './ending/progress';
export {
  covers,
  fits,
  leftOn,
  rankOffers,
  splitAtLimit,
  type Offer,
  type OfferedLine,
  type OfferingAgreement,
  type Portion,
  type Wanted,
} from './releasing/offered';
export { agreementRefusals, decideRelease, portionsUnder, releasePreview } from './releasing/release';
export {
  aboveZero,
  AGREEMENT_STATES,
  BASES,
  committedLine,
  decideInForce,
  decideTerms,
  LIMIT_POLICIES,
  SIDES,
  type AgreementEffects,
  type AgreementGround,
  type AgreementState,
  type AgreementTerms,
  type Basis,
  type LimitPolicy,
  type Side,
  type TypedTerm,
} from './terms/terms';
export {
  forecastOf,
  RATE_DAYS,
  weightedValue,
  type Forecast,
  type ForecastGround,
  type ForecastPoint,
} from './ending/forecast';
export {
  decidePlan,
  unconsumed,
  type PlanEffects,
  type PlanGround,
  type PlannedCall,
  type PlanTyped,
  type Released,
} from './releasing/plan';
export {
  decideCancelAgreement,
  decidePause,
  decideWrapUp,
  shortfallOf,
  WRAP_UPS,
  type ShortfallLine,
  type WrapUp,
  type WrapUpEffects,
  type WrapUpGround,
  type WrapUpLine,
  type WrapUpTyped,
} from './ending/wrap-up';
export {
  accrualOf,
  NO_REBATE,
  REBATE_BASES,
  REBATE_KINDS,
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
  type LineChange,
  type OpenLine,
  type Repriced,
  type RevisedLine,
  type RevisionEffects,
  type RevisionGround,
  type RevisionTyped,
} from './terms/revision';
export { decideCopy, type CopyGround } from './terms/copy';
export { decidePlannedCalls, plannedUpTo, type PlannedEffects, type PlannedGround } from './releasing/planned-calls';
export { overLimitOf, splitWordOf } from './releasing/release-limit';
export {
  type ReleasableLine,
  type ReleaseItem,
  type ReleaseAsked,
  type ReleaseEffects,
  type ReleaseGround,
} from './releasing/release-ground';
