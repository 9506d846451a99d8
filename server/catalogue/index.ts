export { findItems, itemGroups, openItem } from './reads';
