export { promiseActs } from './acts';
export { listPlanned, openAvailability, openLoad, openPlanned, openPromiseGround } from './reads';
