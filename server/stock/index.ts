export { receiveGoods } from './acts';
export { openShipment } from './reads';
export { stockStatement } from './stock-statement';
