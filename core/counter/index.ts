export { awayDue, awayWords, findOnShelf, type AwayLine, type ShelfItem } from './away';
export { backRefusals, decideDepositBack, decidePayBack, type BackPayment, type PaidBy } from './back';
export { cashPieces, countedCash, inCash, type PieceCount } from './cash';
export { decideCloseDrawer, decideDrawerMove, decideOpenDrawer, drawerRefusals, type TillNow } from './drawer';
export { dueAtTill, toBeDrawn, type Due, type TillGround, type TillLine } from './due';
export {
  decideSale,
  dueOf,
  TENDERS,
  type SaleEffects,
  type SaleGround,
  type SalePayment,
  type SaleTyped,
  type Tender,
} from './sale';
export { understand, type CounterTyped } from './typed';
export { hereOf, keepRefusals, takenAlong, togetherRefusals } from './till';
