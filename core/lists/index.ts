export { TARGETS, type Cells, type KeptList, type ListField, type Target } from './fields';
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
export { keptList, KEPT_LISTS, LIST_ROOMS } from './lists';
export { decideDropView, decideKeepView, MOST_VIEWS, type KeptView } from './views';
