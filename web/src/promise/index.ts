// What other rooms use of this one.
export { AvailabilityPanel } from './availability';
export { PromiseComputer } from './computer';
export { PeggingPanel } from './pegging';
export { PromiseSheet } from './promise-sheet';
export { Promises } from './service';
export { WorkerComputer } from './worker-computer';
