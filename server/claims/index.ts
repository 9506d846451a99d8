export { countSupport } from './accrue';
