// What other rooms use of this one.
export { PlaceSheet } from './place-sheet';
export { Bench } from './service';
export { TieSheet } from './tie-sheet';
