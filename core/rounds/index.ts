export { runDays, runOf, type Run, type RunLine, type RunStop, type Vehicle } from './run';
export {
  decideLoad,
  decideRound,
  decideShipStop,
  type LoadableLine,
  type RoundGround,
  type RoundSaved,
  type RoundTyped,
} from './save';
