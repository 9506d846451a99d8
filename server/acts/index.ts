export {
  defineAct,
  GroundMoved,
  saysOf,
  type Act,
  type Asked,
  type Doer,
  type LeftToWrite,
  type SeenVersion,
  type Touched,
  type Written,
} from './act';
export { NotThere, there } from './not-there';
export { numbersAtLast, takeNumbers } from './numbers';
export { previewAct, runAct, type ActAnswer, type PreviewAnswer } from './run-act';
