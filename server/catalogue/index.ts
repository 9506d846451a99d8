export { findItems, itemChoices, itemGroups, itemsNamed, openItem } from './reads';
