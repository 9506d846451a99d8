// What other rooms use of this one.
export { MissingSteps } from './missing';
