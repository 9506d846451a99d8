export { stockActs } from './acts';
export { openReceipt, openShipment } from './reads';
