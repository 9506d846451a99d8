export {
  decideBegin,
  personRefusals,
  signInRefusals,
  type BeginEffects,
  type BeginGround,
  type BeginTyped,
  type FirstPerson,
} from './begin';
export { missingBefore, type Missing, type Standing } from './missing';
export { STARTER_ACCOUNTS, STARTER_TAXES, STARTER_TERMS, type StarterAccount } from './starter';
export { decideSeries, usualSeries, type Series, type SeriesTyped } from './numbers';
