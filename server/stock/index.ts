export { openCount } from './count-reads';
export { openShipment } from './reads';
