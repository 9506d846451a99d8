export { today } from './reads';
