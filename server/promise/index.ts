export { openPromiseGround } from './asking/reads';
export { cancelPlanned, headStatement, loadStatement, writePlanned } from './asking/acts';
export { groundRows, restGround } from './ground/ground';
export { runQueue } from './runs/run-queue';
