// What other rooms use of this one.
export { LaySheet, type LayData } from './lay-sheet';
export { TieWorkSheet, type TieWorkData } from './tie-sheet';
