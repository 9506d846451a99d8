export { APPROVED } from './approved';
export { calendarsOf } from './calendars';
export { exchangeOn, foreignOf, OWN_PRICE, ownCurrency, rateAt } from './rates';
export { CUSTOMER_CURRENCY, listPriceIn, rateOf } from './list-price';
export { locationsOf, NUMBER_AT } from './locations';
export { findItems, itemChoices, itemGroups, itemsNamed } from './reads';
export { pairOf, twinsOf } from './pairs';
export { chosenFor, chosenNames, optionsOf } from './options';
export { takeTaxRates, taxRatesDue } from './tax-rates';
