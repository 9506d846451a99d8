export { findItems, itemChoices, itemGroups, itemsNamed, locationsOf, openItem } from './reads';
