export { listOrders, openOrder } from './reads';
export { repriceStatements, shipDatePrices } from './reprice';
export { standingOf } from './standing';
export { agreementsOf, insertOrder, loadOrder, pricedItems, reopenStatement } from './store';
export { releasePlanned } from './release';
