export { checkPromise, openPromiseGround } from './asking/reads';
export { sisterSellers, sisterShips, type SisterSeller } from './asking/possible-days';
export { openPegging } from './planning/pegging';
export { cancelPlanned, headStatement, loadStatement, writePlanned } from './asking/acts';
export { groundRows, restGround } from './ground/ground';
export { demandsOf, KIND_OF_PLANNED, suppliesOf } from './ground/moves';
export { runQueue } from './runs/run-queue';
