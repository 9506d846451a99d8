export { openPromiseGround } from './reads';
export { runQueue } from './run-queue';
