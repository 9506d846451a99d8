export { openSlip } from './reads';
