export { APPROVED } from './approved';
export { CUSTOMER_CURRENCY, listPriceIn, rateOf } from './list-price';
export { locationsOf, NUMBER_AT } from './locations';
export { findItems, itemChoices, itemGroups, itemsNamed, openItem } from './reads';
