// What other rooms use of this one.
export { TieWorkSheet, type TieWorkData } from './tie-sheet';
