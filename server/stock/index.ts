export { openShipment } from './reads';
