export {
  defineAct,
  GroundMoved,
  saysOf,
  type Act,
  type AlsoNeeded,
  type Asked,
  type Doer,
  type LeftToWrite,
  type Touched,
  type Written,
} from './act';
export { NotFound, orNotFound } from './not-found';
export { numbersAtLast, takeNumbers } from './numbers';
export { previewAct, runAct } from './run-act';
