// What other rooms use of this one.
export { AvailabilityPanel } from './availability';
export { PeggingPanel } from './pegging';
export { PromiseSheet } from './promise-sheet';
export { Promises } from './service';
