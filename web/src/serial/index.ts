export { KeepSheet, type KeepData } from './keep-sheet';
export { Numbers } from './numbers';
export { numbersColumn } from './numbers-column';
export { NumbersField } from './numbers-field';
