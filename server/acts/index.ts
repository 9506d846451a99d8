export {
  actNamed,
  actsSaying,
  defineAct,
  GroundMoved,
  saysOf,
  type Act,
  type AlsoNeeded,
  type Asked,
  type Doer,
  type Effect,
  type LeftToWrite,
  type Loaded,
  type Touched,
  type Written,
} from './act';
export { NotFound, orNotFound } from './not-found';
export { numbersAtLast, takeNumbers } from './numbers';
export { previewAct, runAct } from './run-act';
export { closedThrough } from './closed';
export { secondKinds } from './second';
export { staleRefusal } from './stale';
export { doInSister, doWithin, recordIn } from './within';
export { Refused } from './refused';
