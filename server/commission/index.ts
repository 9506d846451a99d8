export { countCommission } from './acts';
export { openStatement } from './reads';
