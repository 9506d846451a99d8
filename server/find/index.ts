export { find } from './reads';
