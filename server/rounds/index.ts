export { runSheet } from './reads';
