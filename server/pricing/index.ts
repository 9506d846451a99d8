export { orderPricing, pricingOf } from './reads';
