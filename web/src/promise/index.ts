// What other rooms use of this one.
export { AvailabilityPanel } from './availability';
export { PeggingPanel } from './pegging';
export { PromiseSheet, type Tried } from './promise-sheet';
export { Promises, type OrderGround, type PossibleDay } from './service';
