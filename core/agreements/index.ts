export { agreedPrice, PRICE_KINDS, type PriceBreak, type PriceKind, type PriceTerm } from './price';
export { elapsedShare, leftOf, leftUnderLimit, pace } from './progress';
export {
  agreementRefusals,
  decideRelease,
  type ReleasableLine,
  type ReleaseAsked,
  type ReleaseEffects,
  type ReleaseGround,
} from './release';
export {
  aboveZero,
  AGREEMENT_STATES,
  decideInForce,
  decideTerms,
  LIMIT_POLICIES,
  type AgreementEffects,
  type AgreementGround,
  type AgreementState,
  type AgreementTerms,
  type LimitPolicy,
  type TypedTerm,
} from './terms';
export {
  forecastOf,
  RATE_DAYS,
  weightedValue,
  type Forecast,
  type ForecastGround,
  type ForecastPoint,
} from './forecast';
export {
  decidePlan,
  unconsumed,
  type PlanEffects,
  type PlanGround,
  type PlannedCall,
  type PlanTyped,
  type Released,
} from './plan';
export {
  decideCancelAgreement,
  decidePause,
  decideWrapUp,
  WRAP_UPS,
  type WrapUp,
  type WrapUpEffects,
  type WrapUpGround,
  type WrapUpLine,
  type WrapUpTyped,
} from './wrap-up';
