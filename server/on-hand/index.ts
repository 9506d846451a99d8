export { heldStatement, loadFree, stockOf, stockRead, stockStatement, type StockNow } from './stock';
