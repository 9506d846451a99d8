import { orderActs as ownActs } from './acts';
import { releaseAgreement } from './release';

export const orderActs = [...ownActs, releaseAgreement];
export { listOrders, openOrder } from './reads';
export { agreementOf, insertOrder, lockOrder, type OrderHead } from './store';
