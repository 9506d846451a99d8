export { standingDemands } from './demands';
export { dueDates, makeStanding } from './make';
