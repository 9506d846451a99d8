export { openPromiseGround } from './asking/reads';
export { runQueue } from './runs/run-queue';
