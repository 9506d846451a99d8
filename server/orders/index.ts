export { basketOf, customerDesk, shelf } from './desk';
import { orderActs as ownActs } from './acts';
import { orderFromPurchase } from './from-purchase';
import { shareCommission } from './commission';
import { releaseAgreement, releasePlanned } from './release';

export const orderActs = [...ownActs, releaseAgreement, releasePlanned, orderFromPurchase, shareCommission];
export { peopleOf } from './commission';
export { listOrders, openOrder } from './reads';
export { repriceStatements, shipDatePrices } from './reprice';
export { standingOf } from './standing';
export { agreementsOf, insertOrder, loadOrder, pricedItems, reopenStatement, type OrderHead } from './store';
export { heldStatement, loadFree, loadStock } from './held';
export { releasePlanned } from './release';
