export { TARGETS, THINGS, type Cells, type KeptList, type ListField, type Target, type Thing } from './fields';
export {
  columnsIn,
  decideBringIn,
  linesIn,
  listIn,
  type BringInEffects,
  type BroughtIn,
  type ColumnsIn,
} from './bring-in';
export {
  decideLookAgain,
  decideStopBroughtIn,
  decideTakeBroughtIn,
  type BroughtGround,
  type BroughtState,
} from './brought-in';
export {
  changesField,
  changesInWords,
  decideKeep,
  stampOf,
  type KeepGround,
  type KeepTyped,
  type KeptRow,
  type KeptValues,
} from './keep';
export { aboutField, keptList, KEPT_LISTS, LIST_ROOMS, listsAbout } from './lists';
export { decideDropView, decideKeepView, MOST_VIEWS, type KeptView } from './views';
export { fieldsOfKeep, type KeptField } from './kept-fields';
