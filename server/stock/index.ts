export { receiveGoods, stockActs } from './acts';
export { alsoWaiting, openReceipt, openShipment } from './reads';
