export { allowancesFor, orderPricing, pricingOf } from './reads';
