export { promiseActs } from './acts';
export { checkPromise, listPlanned, openAvailability, openLoad, openPlanned, openPromiseGround } from './reads';
