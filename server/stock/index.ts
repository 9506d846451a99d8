export { receiveGoods } from './acts';
export { openShipment } from './reads';
