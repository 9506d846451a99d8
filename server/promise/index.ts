import { acceptPromise, takeBackPromise } from './acts';
import { applyRepromise, startRepromise, stopRepromise } from './repromise';

export const promiseActs = [acceptPromise, takeBackPromise, startRepromise, stopRepromise, applyRepromise];
export { openRepromise } from './repromise';
export { runsOn, type Runs } from './runs';
export { checkPromise, listPlanned, openAvailability, openLoad, openPlanned, openPromiseGround } from './reads';
