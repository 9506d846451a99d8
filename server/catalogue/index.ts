export { findItems, openItem } from './reads';
