export { fittingOffers } from './fitting';
export { takeOffer } from './take';
