// What other rooms use of this one.
export { BetweenSheet, type BetweenData } from './between-sheet';
export { MoveSheet } from './move-sheet';
