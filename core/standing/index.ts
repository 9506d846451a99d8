export {
  CLOSED_RULES,
  closedBy,
  dueOn,
  standingDates,
  waitsToBeMade,
  type ClosedRule,
  type Said,
  type StandingDate,
  type StandingPlan,
} from './dates';
export { decideMake, decideSkip } from './make';
export {
  decideStanding,
  STANDING_STATES,
  type StandingGround,
  type StandingSaved,
  type StandingState,
  type StandingTyped,
} from './save';
