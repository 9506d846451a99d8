// What other rooms use of this one.
export { DepositBackSheet, type DepositBackData } from './deposit-back-sheet';
