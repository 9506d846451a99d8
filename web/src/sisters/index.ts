export { HoldSheet, type HoldAsked } from './hold-sheet';
