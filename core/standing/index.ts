export {
  CLOSED_RULES,
  closedBy,
  firstDates,
  nextDue,
  standingDates,
  waitsToBeMade,
  type ClosedRule,
  type Said,
  type StandingDate,
  type StandingPlan,
} from './dates';
export { decideMake, decideSkip, decideState } from './make';
export { decidePasted, type PastedGround, type PastedOrder, type PastedRow } from './paste';
export {
  decideStanding,
  STANDING_STATES,
  type StandingGround,
  type StandingSaved,
  type StandingState,
  type StandingTyped,
} from './save';
