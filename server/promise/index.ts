export { openPromiseGround, possibleDaysOf } from './asking/reads';
export { cancelPlanned, headStatement, loadStatement, writePlanned } from './asking/acts';
export { groundRows, restGround } from './ground/ground';
export { demandsOf, KIND_OF_PLANNED, suppliesOf } from './ground/moves';
export { runQueue } from './runs/run-queue';
