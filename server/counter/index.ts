export { openSlip } from './slips';
