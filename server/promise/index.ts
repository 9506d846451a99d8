import { acceptPromise, takeBackPromise } from './acts';
import { startPlanning, takeProposals } from './planning';
import { applyRepromise, startRepromise, stopRepromise } from './repromise';

export const promiseActs = [
  acceptPromise,
  takeBackPromise,
  startRepromise,
  stopRepromise,
  applyRepromise,
  startPlanning,
  takeProposals,
];
export { openPlanning } from './planning-reads';
export { openPegging } from './pegging';
export { openRepromise } from './repromise';
export { runsOn, type Runs } from './runs';
export { checkPromise, listPlanned, openAvailability, openLoad, openPlanned, openPromiseGround } from './reads';
