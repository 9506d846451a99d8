export {
  ALLOWANCE_MEASURES,
  ALLOWANCE_UNITS,
  allowancesOf,
  type Allowance,
  type AllowanceGiven,
  type AllowanceLine,
  type AllowanceMeasure,
} from './allowance';
export {
  agreedSteps,
  buildUp,
  NO_EXTRAS,
  STEP_KINDS,
  stepsFor,
  type BasePrice,
  type BuildUpStep,
  type BuiltPrice,
  type PriceExtras,
  type StepKind,
} from './build-up';
export { COST_BASES, COST_NAMES, costPrice, type CostTerms } from './cost';
export { findPrice, PRICE_LEVELS, type PriceAsked, type PriceRule, type PriceSearch } from './search';
