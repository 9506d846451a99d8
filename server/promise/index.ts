export { openPromiseGround } from './reads';
export { runsOn } from './runs';
